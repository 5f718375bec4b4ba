package sim

import (
	"errors"
	"fmt"
	"slices"

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

// Loss is a plant that died, or that never came up.
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
	Lot     *Lot
	Sown    calendar.Day
	Plants  []*Plant
	Cells   int
	need50  float64
	plugML  float64
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

// Day is today, Hour the hour of it.
func (s *School) Day() calendar.Day { return s.From + calendar.Day(s.hour/24) }

// Hour is that of the day.
func (s *School) Hour() int { return s.hour % 24 }

// AirC is how warm it is in a room now.
func (s *School) AirC(r *Room) float64 { return r.air.c }

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
			outside := min(1, day.open/8)
			if x.Room.HeatC == 0 {
				outside = max(0.25, outside)
			}
			p.harden(day, outside)
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

// Free are the cells of a tray with nothing alive in them.
func (s *School) Free(t *Tray) (out []*Spot) {
	for _, x := range t.Spots {
		if !slices.ContainsFunc(x.Plants, func(p *Plant) bool { return !p.Dead }) {
			out = append(out, x)
		}
	}
	return out
}

// Sow puts so many seeds in each of some cells.
func (s *School) Sow(species string, lot *Lot, t *Tray, cells []*Spot, seeds int) (*Batch, error) {
	k := Kinds[species]
	if k == nil || lot == nil || lot.Species != k {
		return nil, errors.New("there is no such seed")
	}
	s.sowings[species]++
	n := s.sowings[species]
	b := &Batch{
		School: s, Name: fmt.Sprint(species, " ", n), Species: k, Lot: lot, Sown: s.Day(), Cells: len(cells), plugML: t.CellML, need50: k.EmergeCDays * lot.slow,
	}
	luck := ChanceOf(s.Seed, "seed", species, n)
	for i, x := range cells {
		if x.Tray != t {
			return nil, errors.New("that cell is in another tray")
		}
		x.Plants = nil
		for j := range seeds {
			p := &Plant{
				Batch: b, Where: x, up: -1, need: b.need50 * luck.Spread(k.EmergeSpread), viable: luck.Happens(lot.germinates),
				vigour: luck.Spread(0.16), hurry: luck.Spread(0.06), number: n*100_000 + i*32 + j,
			}
			x.Plants = append(x.Plants, p)
			b.Plants = append(b.Plants, p)
		}
	}
	t.wet, t.filled = max(t.wet, 0.85), true
	s.Batches = append(s.Batches, b)
	t.look()
	return b, nil
}

// Alive are its plants that are up and live.
func (s *School) Alive(b *Batch) (out []*Plant) {
	for _, p := range b.Plants {
		if p.Up() && !p.Dead {
			out = append(out, p)
		}
	}
	return out
}

// Shows tells what somebody sees in a cell: "up", "dead" or "".
func (x *Spot) Shows() string {
	out := ""
	for _, p := range x.Plants {
		if p.Up() && !p.Dead {
			return "up"
		}
		if p.Up() {
			out = "dead"
		}
	}
	return out
}

// Thin leaves the strongest of a cell; the others were never wanted, and are no losses.
func (s *School) Thin(x *Spot) *Plant {
	var best *Plant
	for _, p := range x.Plants {
		if p.Up() && !p.Dead && (best == nil || p.dry > best.dry) {
			best = p
		}
	}
	if best != nil {
		for _, p := range x.Plants {
			if p != best {
				p.Dead, p.Cause = true, ""
			}
		}
		x.Plants = []*Plant{best}
	}
	return best
}

// Move takes a plant to another place: into a port, a jar, a pot in a frame, or a bed.
func (s *School) Move(p *Plant, to *Spot, watered bool) error {
	switch {
	case p.Dead || !p.Up():
		return errors.New("nothing lives there")
	case to.alive() != nil:
		return errors.New("something stands there already")
	}
	if from := p.Where; from != nil {
		from.Plants = slices.DeleteFunc(from.Plants, func(o *Plant) bool { return o == p })
		if from.Jar != nil {
			from.Jar.PlantIt = nil
		}
		if from.Tank != nil {
			from.Tank.Plants = slices.DeleteFunc(from.Tank.Plants, func(o *Plant) bool { return o == p })
		}
	}
	ballL := 0.0
	if from := p.Where; from != nil {
		ballL = max(from.Litres, from.potL)
	}
	p.Where, to.Plants = to, []*Plant{p}
	p.bound = max(0, p.bound-10)
	switch {
	case to.Jar != nil:
		to.Jar.PlantIt, to.Jar.roots, to.Jar.drowned = p, 0, 0
		to.Tank.Plants = append(to.Tank.Plants, p)
		to.Tank.look()
		p.weak += 1
	case to.Tank != nil:
		to.Tank.Plants = append(to.Tank.Plants, p)
		to.Tank.look()
		p.weak += 1
	case to.potL > 0 || to.Tray != nil:
		p.weak++
	case to.Room.outside():
		p.shock(s, to, ballL, watered)
	}
	if watered || to.soil < 6 {
		to.soil = 12
	}
	return nil
}

// PotOn puts a plant into a pot of so many litres, in another room.
func (s *School) PotOn(p *Plant, r *Room, litres, perM2 float64) error {
	x := s.AddSpot(Spot{Name: r.Name, Room: r, PerM2: perM2})
	x.potL, x.soil = litres, 1
	return s.Move(p, x, true)
}

// Wet waters a place outside trays.
func (s *School) Wet(x *Spot) {
	if x.potL > 0 {
		x.soil = 1
		return
	}
	x.soil += 10
}

// Cut takes what can be cut of a plant, g; Take takes all of it.
func (s *School) Cut(p *Plant) float64 {
	p.TookG = p.FreshG() * 0.6
	p.dry *= 0.45
	p.weak++
	return p.TookG
}

// Take takes a whole plant, g.
func (s *School) Take(p *Plant) float64 {
	p.TookG = p.FreshG()
	p.Dead, p.Cause = true, ""
	if x := p.Where; x != nil {
		x.Plants = nil
		if x.Tank != nil {
			x.Tank.Plants = slices.DeleteFunc(x.Tank.Plants, func(o *Plant) bool { return o == p })
		}
	}
	return p.TookG
}

// Carry takes a plant to another room as it stands: in its pot, or in its cell with those beside it.
func (s *School) Carry(p *Plant, to *Room) {
	if p.Dead || p.Where == nil {
		return
	}
	if p.Where.Tray != nil { // its cell goes along
		x := s.AddSpot(Spot{Name: to.Name, Room: to, PerM2: p.Where.PerM2})
		x.potL, x.soil = p.Where.Litres, p.Where.Tray.wet
		p.Where.Plants = slices.DeleteFunc(p.Where.Plants, func(o *Plant) bool { return o == p })
		p.Where, x.Plants = x, []*Plant{p}
		return
	}
	p.Where.Room = to
}

// Discard throws a plant away that nobody has a use for; it is no loss.
func (s *School) Discard(p *Plant) {
	if !p.Dead {
		p.Dead, p.Cause = true, ""
	}
}
