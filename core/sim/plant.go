package sim

import "math"

// Plant is one plant, or what is to become one: a seed that lies in its cell.
type Plant struct {
	Batch          *Batch
	Where          *Spot
	up             int     // hour in which it came up; −1: it has not
	need           float64 // degree-days to come up
	viable         bool
	vigour, hurry  float64 // of growth and of leaves, 1 usual
	dry            float64 // g, the whole plant
	leaves, hardy  float64
	thirst         float64 // days without water
	bound          float64 // days in which its roots circled
	weak           float64 // days of growth that a shock has taken
	out, outC      float64 // hours of today that it was in the open elsewhere, and how warm that was
	openAt         float64 // the open hours of today that its room had when it came there
	TookG          float64 // what was last harvested of it
	Dead           bool
	Cause          string
	DiedAt, number int
}

// The causes of which plants are lost.
const (
	LostDamping  = "damping off"
	LostDry      = "dried out"
	LostCold     = "frost and cold"
	LostShock    = "shock at setting out"
	LostBound    = "waited in too small a pot"
	LostDrowned  = "roots drowned"
	LostSolution = "pH or strength"
)

// Up tells whether it has come up.
func (p *Plant) Up() bool { return p.up >= 0 }

// FreshG is what its shoot weighs.
func (p *Plant) FreshG() float64 {
	if !p.Up() || p.Dead {
		return 0
	}
	return 0.86 * p.dry / p.Batch.Species.DryShare
}

// Leaves are its true leaves.
func (p *Plant) Leaves() float64 { return p.leaves }

// leafM2 is the leaf of it.
func (p *Plant) leafM2() float64 { return 0.86 * p.dry * p.Batch.Species.LeafM2G }

// Fit tells whether it can be set out: enough leaves, not outgrown, not circled for long.
func (p *Plant) Fit() bool {
	k := p.Batch.Species
	return p.Up() && !p.Dead && p.leaves >= k.PlugLeaves && p.FreshG() <= 2.5*k.PlugMostG && p.bound < 24
}

func (p *Plant) die(hour int, cause string) {
	if !p.Dead {
		p.Dead, p.Cause, p.DiedAt = true, cause, hour
		p.Batch.School.lost(p)
	}
}

// day lets a plant grow for a day. A closed canopy takes up most of the light (Monsi and Saeki
// 1953) and makes dry matter of it in proportion (Monteith 1977). The room for roots holds growth
// back: twice the volume gives about 43 % more plant (Poorter and others 2012).
func (p *Plant) day(x sums, room plot, hour int) {
	k := p.Batch.Species
	if p.weak > 0 {
		p.weak--
		p.dry *= 0.997
		return
	}
	density := room.perM2
	area := p.leafM2() * density
	got := x.mol * -math.Expm1(-0.66*area) / density
	full := p.FreshG() / k.FullG
	hold := max(0, 1-full*full)
	if room.litres > 0 {
		perL := p.dry / room.litres
		hold *= 1 / (1 + perL/2.2)
		if perL > 5.5 {
			p.bound++
		}
	}
	p.dry += k.UseG * p.vigour * got * k.growing(x.c) * hold * room.fed * (1 - min(0.6, p.bound*0.02))
	p.leaves += max(0, x.c-k.BaseC) / k.LeafCDays * p.hurry * min(1, 0.3+hold)
	if p.bound > 21 && dice(p.Batch.School.Seed, p.number, hour, diceBound) < 0.03 {
		p.die(hour, LostBound)
	}
}

// harden is what a day does to how hard a plant is: outside, cool days make it so within a week
// or two, and warm ones undo it (first order, as Kalberer, Wisniewski and Arora 2006 describe it).
func (p *Plant) harden(x sums, outside float64) {
	goal := 0.0
	if outside > 0 {
		goal = outside * max(0.15, min(1, (16-x.c)/10+0.35))
	}
	slow := 5.5
	if goal < p.hardy {
		slow = 4
	}
	p.hardy += (goal - p.hardy) / slow
}

// goes takes a plant from one room to another in the course of a day.
func (p *Plant) goes(from, to *Room) {
	if from == to {
		return
	}
	if from != nil {
		if open := from.day.open - p.openAt; open > 0 {
			p.out, p.outC = p.out+open, from.air.c
		}
	}
	p.openAt = to.day.open
}

// inOpen gives for how many hours of a day it was in the open, and the day as it was there.
func (p *Plant) inOpen(day sums) (hours float64, there sums) {
	hours = p.out + day.open - p.openAt
	if p.out > 0 {
		day.c = min(day.c, p.outC)
	}
	p.out, p.openAt = 0, 0
	return hours, day
}

// night is what cold does: half die at a temperature that falls with how hard they are, and what
// is tender is set back above it.
func (p *Plant) night(lowC float64, hour int) {
	k := p.Batch.Species
	half := k.FreshLT50 + (k.HardLT50-k.FreshLT50)*p.hardy
	if lowC < half+3 {
		dies := 1 / (1 + math.Exp((lowC-half)/0.55))
		if dice(p.Batch.School.Seed, p.number, hour, diceNight) < dies {
			p.die(hour, LostCold)
			return
		}
	}
	if lowC < k.ChillC {
		p.weak += min(3, (k.ChillC-lowC)*0.6)
	}
}

// Cell is the cell of its sowing that it came up in, from 0.
func (p *Plant) Cell() int { return p.number % 100_000 / 32 }

// Circles tells whether its roots go round and round.
func (p *Plant) Circles() bool { return p.bound > 6 }
