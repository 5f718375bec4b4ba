// Package potting is plants that go from pot to pot: how much mix and room they take, which
// pot is next, and when its roots have filled the one they stand in.
//
//	need, err := potting.Fill(pot, 24, potting.Mix{BagL: 40, OnHandL: 55})
//	fits := potting.Room(pot, 120, 60)
//	v := potting.Judge(pot, potted, today, potting.Seen{})
package potting

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/vessel"
	"ulpa/core/working"
)

// Pot is a size of pot, in cm. Square ones have their width for a diameter.
type Pot struct {
	TopCM, BottomCM, HeightCM float64
	Square                    bool
	Days                      int // for which it usually holds a plant, by the school's way
}

// rim is how far below its edge a pot is filled, so that water stays on it.
const rim = 1.0

// Vessel is the pot as what holds something.
func (p Pot) Vessel() vessel.Vessel {
	if p.Square {
		return vessel.Vessel{
			Shape: vessel.SquareTaper, HeightCM: p.HeightCM,
			TopLengthCM: p.TopCM, TopWidthCM: p.TopCM, BottomLengthCM: p.BottomCM, BottomWidthCM: p.BottomCM,
		}
	}
	return vessel.Vessel{Shape: vessel.RoundTaper, HeightCM: p.HeightCM, TopDiameterCM: p.TopCM, BottomDiameterCM: p.BottomCM}
}

// Mix is what pots are filled with: how much there is, and how much a bag holds; 0: not told.
type Mix struct{ OnHandL, BagL float64 }

// Need is the mix that pots take.
type Need struct {
	PotL, MixL float64
	Bags       *int // to open, of whole ones; nil: a bag is not told
	ShortL     float64
	Steps      []working.Step
}

// Fill answers how much loose mix so many pots take, filled to a finger below the rim, and
// what is lacking of it. It refuses with field.Errors, as vessel.FillPots.
func Fill(p Pot, n int, m Mix) (Need, error) {
	fill := p.HeightCM - rim
	in := vessel.PotsInput{Pot: p.Vessel(), Count: n, Settling: vessel.Settling}
	if fill > 0 {
		in.FillCM = &fill
	}
	if m.BagL > 0 {
		in.BagL = &m.BagL
	}
	got, err := vessel.FillPots(in)
	if err != nil {
		return Need{}, err
	}
	return Need{PotL: got.FilledL, MixL: got.MixL, Bags: got.Bags, ShortL: math.Max(0, got.MixL-m.OnHandL), Steps: got.Steps}, nil
}

// Room is how many pots stand on a bench rim to rim, in rows; 0 where its size is not told.
func Room(p Pot, lengthCM, widthCM float64) int {
	if p.TopCM <= 0 || lengthCM <= 0 || widthCM <= 0 {
		return 0
	}
	across := func(cm float64) int { return int(cm/p.TopCM + 1e-9) }
	return across(lengthCM) * across(widthCM)
}

// Next is the pot that comes after one that holds so many litres: of those there are the
// smallest with room for roots on every side; −1 when there is none.
func Next(pots []Pot, nowL float64) int {
	best, least := -1, math.Inf(1)
	for i, p := range pots {
		got, err := Fill(p, 1, Mix{})
		if err == nil && got.PotL >= roomier*nowL && got.PotL < least {
			best, least = i, got.PotL
		}
	}
	return best
}

// roomier is how many times more the next pot holds at least: a finger more on every side of
// a small one.
const roomier = 1.6

// Seen is what was looked at of the roots since they were potted; the zero value: nothing.
type Seen struct {
	Roots string // one of batch.Roots
	On    calendar.Day
}

// Judge says how far plants are in their pot: by their roots where somebody looked, else by
// the days for which such a pot usually holds one, which only say when to look.
func Judge(p Pot, since, today calendar.Day, seen Seen) ready.Verdict {
	about := since + calendar.Day(p.Days)
	if seen.On >= since && seen.On != 0 {
		switch seen.Roots {
		case "round":
			return ready.Verdict{Word: ready.Late, Since: seen.On, Until: seen.On - 1, Why: say.T("roots circle the pot")}
		case "hold":
			v := ready.Verdict{Word: ready.Ready, Since: seen.On, Until: max(about, seen.On+holds), Why: say.T("roots hold the ball")}
			if today > v.Until {
				v.Word = ready.Late
			}
			return v
		case "few":
			about = max(about, seen.On+again)
		}
	}
	if p.Days == 0 || today < about {
		return ready.Verdict{Word: ready.Early, About: about, Until: about + holds, Why: say.T("day %d in its pot, usual at %d", today-since, p.Days)}
	}
	return ready.Verdict{
		Word: ready.Look, Since: about, Until: about + holds, About: today,
		Why: say.T("day %d in its pot, usual at %d: knock one out and look at its roots", today-since, p.Days),
	}
}

// How many days plants stand well once their roots hold, and after how many one looks again.
const (
	holds = 10
	again = 7
)

// Late is what waiting in a pot costs, and what then helps.
const Late say.Words = "Circling roots stop feeding: leaves turn pale from below, and small plants flower early. Loosen the root ball with your " +
	"fingers, pot on today, water well; or feed at half strength until you have pots."
