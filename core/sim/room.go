package sim

import "math"

// Room is a place in which plants are: under glass, in a frame, or in the open.
type Room struct {
	Name      string
	HeatC     float64 // it is heated to this; 0: not at all
	Transmits float64 // of the sun's light; 1: the open
	LampMol   float64 // from lamps, mol/m² a day, in the hours from 6 to 22
	Cover     float64 // °C that it is warmer at night than outside, unheated
	VentC     float64 // it is aired above this; 0: 24
	Open      bool    // its lid is off, or it is a bed
	c         float64
	begun     bool
	air       air // of the hour
	day       sums
}

// air is that of an hour in a room.
type air struct{ c, sunWM2, vpdKPa, mol, windMS float64 }

// sums are those of the day so far, and what plants get of it.
type sums struct{ mol, c, low, vpd, open float64 }

// parMol turns a W/m² of sun for an hour into mol/m²: 45 % of it is light that plants use, at
// 4.57 µmol a joule (McCree 1972).
const parMol = 0.45 * 4.57e-6 * 3600

// outside tells whether wind and rain come there.
func (r *Room) outside() bool { return r.Open || r.Transmits >= 1 }

// pass lets an hour go by. Under glass the air follows the sun and the outside with a lag of some
// hours, is heated to what is set and aired above it.
func (r *Room) pass(w Hour, hourOfDay int) {
	r.air = air{c: w.C, sunWM2: w.SunWM2 * r.Transmits, vpdKPa: w.VPDKPa, windMS: w.WindMS}
	if !r.outside() {
		vent := r.VentC
		if vent == 0 {
			vent = 24
		}
		goal := w.C + r.Cover + 0.032*w.SunWM2*r.Transmits
		if goal > vent {
			goal = max(w.C+1.5, vent+0.3*(goal-vent))
		}
		if r.HeatC > 0 {
			goal = max(goal, r.HeatC)
		}
		if !r.begun {
			r.c, r.begun = goal, true
		}
		r.c += (goal - r.c) * 0.35
		r.air.c, r.air.windMS = r.c, 0.3
		r.air.vpdKPa = max(0.05, w.VPDKPa+0.65*(saturation(r.c)-saturation(w.C)))
	}
	r.air.mol = r.air.sunWM2 * parMol
	if hourOfDay >= 6 && hourOfDay < 22 {
		r.air.mol += r.LampMol / 16
	}
	if hourOfDay == 0 {
		r.day = sums{low: math.Inf(1)}
	}
	r.day.mol += r.air.mol
	if r.outside() {
		r.day.open++
	}
	r.day.c += r.air.c / 24
	r.day.vpd += r.air.vpdKPa / 24
	r.day.low = min(r.day.low, r.air.c)
}

// drawn is the water that a square metre of leaves gives off in the hour, kg: Penman's equation
// with Monteith's resistances (1965), for so many m² of leaf over it, of which the air reaches all
// and the sun what a canopy takes up.
func (a air) drawn(leaf float64) float64 {
	if leaf <= 0 {
		return 0
	}
	es := saturation(a.c)
	slope := es * 17.625 * 243.04 / ((a.c + 243.04) * (a.c + 243.04)) // kPa/°C
	const gamma, heat = 0.066, 2.45e6                                 // kPa/°C, J/kg
	ra := 208 / max(0.3, a.windMS)                                    // s/m
	rs := 100 / min(leaf, 4) * (1 + 3*math.Exp(-a.sunWM2/60))         // closed by night
	rn := 0.6 * a.sunWM2 * (1 - math.Exp(-0.7*leaf))
	const rhoCp = 1.2 * 1013
	flux := (slope*rn + rhoCp*a.vpdKPa/ra) / (slope + gamma*(1+rs/ra))
	return max(0, flux) * 3600 / heat
}
