package sim

import (
	"ulpa/core/calendar"
)

// Setting is what a season is drawn from.
type Setting struct {
	Seed    uint64
	From    calendar.Day
	Days    int // 0: 300
	Climate Climate
	// PoorLots is the share of packets that are old, slow and poor; 0: one in six.
	PoorLots float64
}

// Loss is a plant that died.
type Loss struct {
	Day   calendar.Day
	Batch *Batch
	Cause string
}

// Batch is what was sown together.
type Batch struct {
	School  *School
	Name    string
	Species *Species
	Sown    calendar.Day
	Plants  []*Plant
	need50  float64
}

// School is a made-up school in a season.
type School struct {
	Seed     uint64
	From     calendar.Day
	Weather  *Weather
	PoorLots float64
	Rooms    []*Room
	Batches  []*Batch
	Losses   []Loss
	hour     int
	trays    []*Tray
	tanks    []*Tank
	jars     []*Jar
	spots    []*Spot // outside trays
	sowings  map[string]int
	drawnOf  map[*Room]float64 // mm in the day so far, of full cover
}

// NewSchool is one in which nothing stands yet.
func NewSchool(in Setting) *School {
	if in.PoorLots == 0 {
		in.PoorLots = 1.0 / 6
	}
	days := in.Days
	if days == 0 {
		days = 300
	}
	return &School{
		Seed: in.Seed, From: in.From, PoorLots: in.PoorLots, Weather: NewWeather(in.Seed, in.Climate, in.From, days),
		sowings: map[string]int{}, drawnOf: map[*Room]float64{},
	}
}

// AddRoom adds a room.
func (s *School) AddRoom(r Room) *Room {
	s.Rooms = append(s.Rooms, &r)
	return &r
}

// AddSpot adds a place for one plant outside trays.
func (s *School) AddSpot(x Spot) *Spot {
	x.soil = 10
	s.spots = append(s.spots, &x)
	return &x
}

// Day is today.
func (s *School) Day() calendar.Day { return s.From + calendar.Day(s.hour/24) }

// Pass lets hours go by.
func (s *School) Pass(hours int) {
	for range hours {
		w := s.Weather.At(s.hour)
		for _, r := range s.Rooms {
			r.pass(w, s.hour%24)
			s.drawnOf[r] += r.air.drawn(1)
		}
		for _, t := range s.trays {
			t.pass(s)
		}
		for _, t := range s.tanks {
			t.pass()
		}
		for _, j := range s.jars {
			j.pass()
		}
		s.hour++
		if s.hour%24 == 0 {
			s.midnight()
		}
	}
}

// midnight lets plants grow for the day that is over.
func (s *School) midnight() {
	rain := 0.0
	for h := s.hour - 24; h < s.hour; h++ {
		rain += s.Weather.At(h).RainMM
	}
	for _, t := range s.tanks {
		t.look()
	}
	for _, j := range s.jars {
		j.look()
	}
	for _, x := range s.spots {
		if x.Tank == nil && len(x.Plants) > 0 {
			x.field(s, x.Room.day, rain)
		}
	}
	for _, b := range s.Batches {
		for _, p := range b.Plants {
			if p.Dead || !p.Up() {
				continue
			}
			x := p.Where
			day := x.Room.day
			p.day(day, x.plot(), s.hour)
			hours, there := p.inOpen(day)
			outside := min(1, hours/8)
			if x.Room.HeatC == 0 {
				outside = max(0.25, outside)
			}
			p.harden(there, outside)
			p.night(day.low, s.hour)
			if x.Tank != nil && dice(s.Seed, p.number, s.hour, diceSalt) < x.Tank.harm {
				p.die(s.hour, LostSolution)
			}
			if x.Tank != nil && x.Tank.L <= x.Tank.DryL {
				if p.thirst += 1; p.thirst > 2 {
					p.die(s.hour, LostDry)
				}
			} else if x.Tank != nil {
				p.thirst = 0
			}
		}
	}
	for _, j := range s.jars {
		j.day(s)
	}
	for _, t := range s.trays {
		t.look()
	}
	clear(s.drawnOf)
}

// plot is what a place gives a plant: in a solution as well as it suits, in a cell while its
// compost feeds.
func (x *Spot) plot() plot {
	out := plot{perM2: x.PerM2, litres: x.Litres, fed: 1}
	if x.potL > 0 {
		out.litres = x.potL
	}
	switch {
	case x.Jar != nil:
		out.fed = x.Tank.suit / (1 + 0.5*x.Jar.drowned)
	case x.Tank != nil:
		out.fed = x.Tank.suit
	case x.Tray != nil:
		out.fed = min(1, 0.3+x.Tray.wet*1.6)
	case x.soil <= 0:
		out.fed = 0.3
	}
	return out
}

// drawnAhead is what full cover would give off in the hours to come, mm.
func (s *School) drawnAhead(r *Room, hours int) (mm float64) {
	for h := range hours {
		w := s.Weather.At(s.hour + h)
		mm += air{c: w.C, sunWM2: w.SunWM2 * r.Transmits, vpdKPa: w.VPDKPa, windMS: w.WindMS}.drawn(1)
	}
	return mm
}

func (s *School) lost(p *Plant) { s.Losses = append(s.Losses, Loss{s.Day(), p.Batch, p.Cause}) }
