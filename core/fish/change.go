package fish

import (
	"math"

	"ulpa/core/chemistry"
)

// Source is the water that goes in when some is changed; nil: nobody has measured it, and it
// is taken for hard tap water, which is the worst that usually comes.
type Source struct {
	Name           string
	PH, Alkalinity *float64
	TANMgL         float64
}

// MostAtOnce is the greatest share of their water that fish are given anew in one go.
const MostAtOnce = 0.3

const (
	mostPH         = 0.5  // that the pH may move in one go
	leastShare     = 0.05 // less is not worth the cans
	aLittle        = 0.15 // where only the pH is too high
	quarter        = 0.25
	hardPH         = 8.2
	hardAlkalinity = 200.0
	softest        = 10.0   // mg/L, of a trough whose alkalinity nobody has read
	standingCO2    = 1000.0 // ppm, of water that stood or was bubbled to lose its chlorine
	fishEC         = 0.7    // mS/cm: what a trough usually has; it hardly matters here
)

// Change is a part of the water to change, and what the rest is then.
type Change struct {
	Litres, Share        float64
	TANMgL, PH           float64 // of the mixture
	UnionisedMgL, WasMgL float64 // after, and now
	// Refused: no part of this water can go in without harm; the figures are those of a quarter.
	Refused bool
	// Assumed: the new water was taken for hard tap water, because nobody has measured it.
	Assumed bool
}

// mixture works out their water with a share of the new: carbon and charge add up, and the air
// that goes through takes no more carbon dioxide out than what they breathe out brings in.
type mixture struct {
	m                         chemistry.Medium
	alkalinity, carbon, co2   float64 // of theirs: eq/L, mol/L, mol/L
	newAlkalinity, newCarbon  float64
	tan, newTAN, temp, phHere float64
}

func carbonOf(m chemistry.Medium, ph, eq float64) float64 {
	return max(0, eq-m.Sid(ph, chemistry.Makeup{})) / m.CarbonateCharge(ph)
}

func (t Trough) mixture(l Reading) mixture {
	x := mixture{m: chemistry.NewMedium(fishEC, *l.TempC), tan: *l.TAN, temp: *l.TempC, phHere: *l.PH, newTAN: t.Source.TANMgL}
	alkalinity, newAlkalinity := softest, hardAlkalinity
	if l.Alkalinity != nil {
		alkalinity = max(*l.Alkalinity, 0.1)
	}
	if t.Source.Alkalinity != nil {
		newAlkalinity = max(*t.Source.Alkalinity, 0.1)
	}
	x.alkalinity, x.newAlkalinity = alkalinity/chemistry.MgCaCO3PerEq, newAlkalinity/chemistry.MgCaCO3PerEq
	x.carbon = carbonOf(x.m, x.phHere, x.alkalinity)
	x.co2 = x.carbon / x.m.Dissolved(x.phHere)
	standing := x.m.OpenPH(x.newAlkalinity, chemistry.Makeup{}, standingCO2*1e-6*x.m.Henry, hardPH)
	if t.Source.PH != nil {
		standing = max(standing, *t.Source.PH)
	}
	x.newCarbon = carbonOf(x.m, standing, x.newAlkalinity)
	return x
}

// after is total ammonia, pH and un-ionised ammonia once a share was changed.
func (x *mixture) after(share float64) (tan, ph, unionised float64) {
	tan, ph = x.tan+share*(x.newTAN-x.tan), x.phHere
	if share > 0 {
		alkalinity := x.alkalinity + share*(x.newAlkalinity-x.alkalinity)
		closed := chemistry.Makeup{Carbon: x.carbon + share*(x.newCarbon-x.carbon)}
		ph = max(x.m.PhAt(alkalinity, closed, ph), x.m.OpenPH(alkalinity, chemistry.Makeup{}, x.co2, ph))
	}
	a, err := chemistry.UnionisedAmmonia(tan, ph, x.temp)
	if err != nil {
		return tan, ph, math.Inf(1)
	}
	return tan, ph, a.UnionisedMgL
}

// Change is how much of the water to change by what was last read; nil where nothing asks for
// it, where ammonia, pH or warmth were never read, or where water or alkali went in since: until
// it is read again, nobody knows.
func (t Trough) Change(s State) *Change {
	l, k := s.Last, KindOf(t.Kind)
	if s.Fish == 0 || l.TAN == nil || l.PH == nil || l.TempC == nil || s.ChangedAt != nil {
		return nil
	}
	x := t.mixture(l)
	_, _, now := x.after(0)
	most := max(now*(1+1e-9), k.UnionisedMost/2)
	wanted, best, calm, least := 0.0, 0.0, leastShare, now
	for share := 0.0; share <= MostAtOnce+1e-9; share += 0.01 { // as it is poured, it goes through all of these
		_, ph, a := x.after(share)
		if a > most {
			break
		}
		if best = share; math.Abs(ph-x.phHere) <= mostPH {
			calm = max(calm, share)
		}
		if now > k.UnionisedMost/2 && a < least {
			wanted, least = share, a
			if a <= k.UnionisedMost/2 {
				least = -1
			}
		}
	}
	for _, over := range []struct {
		v     *float64
		most  float64
		share float64
	}{{l.Nitrite, first(k.NitriteLimits(l.Chloride)), MostAtOnce}, {l.Nitrate, k.NitrateMost, quarter}, {l.PH, k.PHHigh, aLittle}} {
		if over.v != nil && *over.v > over.most {
			wanted = max(wanted, over.share)
		}
	}
	asked := wanted > 0 || now > k.UnionisedMost/2
	if *l.PH > k.PHHigh {
		if _, ph, _ := x.after(aLittle); ph > *l.PH-0.02 && wanted <= aLittle && now <= k.UnionisedMost/2 {
			return nil // this water would lower nothing
		}
	}
	if !asked {
		return nil
	}
	c := Change{Share: min(wanted, best, calm), WasMgL: now, Assumed: t.Source.Alkalinity == nil}
	if c.Share < leastShare-1e-9 {
		if wanted > 0 && wanted <= best { // a little is all it takes
			c.Share = leastShare
		} else {
			c.Share, c.Refused = quarter, true
		}
	}
	c.Litres = c.Share * t.WaterL
	c.TANMgL, c.PH, c.UnionisedMgL = x.after(c.Share)
	return &c
}

func first(a, _ float64) float64 { return a }

// bicarbonate is how many grams of potassium bicarbonate a day raise their pH by no more than
// 0.3: alkalinity may not quite double. Nobody has read it: as little as such a pH can have.
func (t Trough) bicarbonate(l Reading) float64 {
	const share, most = 0.9, 20.0 // mg/L of CaCO3 a day
	alkalinity := 0.0
	switch {
	case l.Alkalinity != nil:
		alkalinity = *l.Alkalinity
	case l.PH != nil && l.TempC != nil:
		alkalinity = chemistry.NewMedium(fishEC, *l.TempC).InAir(*l.PH, standingCO2)
	}
	return min(share*alkalinity, most) * t.WaterL / 1000 / 50.04 * bicarbonateMass
}
