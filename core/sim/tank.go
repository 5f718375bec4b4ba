package sim

import "math"

// Water is what comes out of a tap, or of a tank.
type Water struct {
	Alkalinity float64 // meq/L: what acid it takes to bring it to pure water with its carbon gone
	Salts      float64 // meq/L of cations, feed apart
	Carbon     float64 // mmol/L, dissolved
}

// Tank is a tank whose solution a pump keeps moving. Its pH follows from the balance of charges:
// strong ions, carbonate, phosphate and water.
type Tank struct {
	Name              string
	HoldsL, DryL      float64
	Water             Water // that it is topped up with
	L                 float64
	alkalinity        float64 // meq in all
	salts, feed       float64 // meq of cations in all: those of the water, and those that feed
	phosphate, carbon float64 // mmol in all
	Plants            []*Plant
	ph                float64 // as last worked out
	stands            []canopy
	suit, harm        float64 // what it made of today
}

// Stock is what a litre of it brings: meq of cations, mmol of phosphate and meq of acid.
type Stock struct{ FeedMeq, PhosphateMmol, AcidMeq float64 }

// UsualStock makes about 1.2 mS/cm at 5 mL of each part in a litre.
var UsualStock = Stock{FeedMeq: 2300, PhosphateMmol: 190, AcidMeq: 60}

// AddTank adds a tank, filled with water and stock to a strength (mS/cm).
func (s *School) AddTank(t Tank, ecMS float64) *Tank {
	x := &t
	s.tanks = append(s.tanks, x)
	x.Pour(t.HoldsL * 0.9)
	x.Feed(max(0, (ecMS*10-t.Water.Salts)*x.L/UsualStock.FeedMeq*1000))
	return x
}

// Pour adds water, as much as there is room for, and gives how much that was.
func (t *Tank) Pour(l float64) float64 {
	l = max(0, min(l, t.HoldsL-t.L))
	t.L += l
	t.alkalinity += l * t.Water.Alkalinity
	t.salts += l * t.Water.Salts
	t.carbon += l * t.Water.Carbon
	return l
}

// Drain lets solution out.
func (t *Tank) Drain(l float64) {
	left := max(0, 1-l/max(t.L, 1e-9))
	t.L, t.alkalinity, t.salts, t.feed, t.phosphate, t.carbon = t.L*left, t.alkalinity*left, t.salts*left, t.feed*left, t.phosphate*left, t.carbon*left
}

// Feed adds so many mL of each part of the stock.
func (t *Tank) Feed(ml float64) {
	t.feed += ml / 1000 * UsualStock.FeedMeq
	t.phosphate += ml / 1000 * UsualStock.PhosphateMmol
	t.alkalinity -= ml / 1000 * UsualStock.AcidMeq
}

// Acid adds meq of an acid; below 0 it is an alkali. Phosphoric acid brings phosphate too, and
// bicarbonate carbon.
func (t *Tank) Acid(meq, phosphateMmol, carbonMmol float64) {
	t.alkalinity -= meq
	t.carbon += carbonMmol
	t.phosphate += phosphateMmol
}

// The constants of carbonic and phosphoric acid and of water at 25 °C (Stumm and Morgan 1996).
const (
	ka1, ka2 = 4.45e-7, 4.69e-11
	kp1, kp2 = 7.5e-3, 6.2e-8
	kw       = 1.0e-14
	henry    = 0.034 // mol/L of carbon dioxide at an atmosphere
)

// charge is by how many eq/L a solution of this acidity has more base than its alkalinity says;
// phosphate is counted from its first ion, as salts bring it.
func charge(h, alkalinity, carbon, phosphate float64) float64 {
	d := h*h + ka1*h + ka1*ka2
	bicarbonate := carbon * (ka1*h + 2*ka1*ka2) / d
	p := h*h + kp1*h + kp1*kp2
	second := phosphate * (kp1*kp2 - h*h) / p // HPO4 less H3PO4
	return bicarbonate + second + kw/h - h - alkalinity
}

// phOf is the pH at which charges balance, mol/L and eq/L, looked for around a guess first.
func phOf(alkalinity, carbon, phosphate, guess float64) float64 {
	at := func(ph float64) float64 { return charge(math.Exp(-math.Ln10*ph), alkalinity, carbon, phosphate) }
	low, high := guess-0.15, guess+0.15
	below, above := at(low), at(high)
	if guess == 0 || below > 0 || above < 0 {
		low, high = 1, 13
		below, above = at(low), at(high)
	}
	for range 60 { // by the Illinois method
		mid := (low*above - high*below) / (above - below)
		if high-low > 0.5 {
			mid = (low + high) / 2
		}
		x := at(mid)
		switch {
		case math.Abs(x) < 1e-9 || high-low < 1e-5:
			return mid
		case x < 0:
			low, below, above = mid, x, above/2
		default:
			high, above, below = mid, x, below/2
		}
	}
	return (low + high) / 2
}

// PH is that of the solution.
func (t *Tank) PH() float64 {
	l := max(t.L, 0.05) * 1000
	t.ph = phOf(t.alkalinity/l, t.carbon/l, t.phosphate/l, t.ph)
	return t.ph
}

// ECMS is its conductivity: a tenth of the meq of cations in a litre (Sonneveld and Voogt 2009).
func (t *Tank) ECMS() float64 { return (t.salts + t.feed) / max(t.L, 0.05) / 10 }

// canopy is the plants of a tank that are spaced alike in one room.
type canopy struct {
	room   *Room
	perM2  float64
	leafM2 float64
	plants int
}

// look finds out what stands in a tank and what it makes of it, once a day.
func (t *Tank) look() {
	t.suit, t.harm = t.suits(), t.harms()
	t.stands = t.stands[:0]
plants:
	for _, p := range t.Plants {
		if p.Dead {
			continue
		}
		for i := range t.stands {
			if c := &t.stands[i]; c.room == p.Where.Room && c.perM2 == p.Where.PerM2 {
				c.leafM2 += p.leafM2()
				c.plants++
				continue plants
			}
		}
		t.stands = append(t.stands, canopy{p.Where.Room, p.Where.PerM2, p.leafM2(), 1})
	}
}

// inAir is the carbon dioxide that water holds in balance with air of 600 ppm, mmol/L, and leaves
// is the share by which an hour's stirring brings it there.
const inAir, leaves = henry * 6e-4 * 1000, 0.5

// pass lets an hour go by: plants drink and eat, and carbon dioxide comes and goes.
func (t *Tank) pass() {
	drawn := 0.0
	for _, c := range t.stands {
		n := float64(c.plants)
		drawn += c.room.air.drawn(c.leafM2/n*c.perM2) / c.perM2 * n
	}
	drawn = min(drawn, max(0, t.L-0.3*t.DryL))
	t.L -= drawn
	t.eat(drawn)
	t.breathe(inAir)
}

// breathe brings an hour of air of so much carbon dioxide to it, mmol/L in balance.
func (t *Tank) breathe(air float64) {
	h := math.Exp(-math.Ln10 * t.PH())
	free := t.carbon / max(t.L, 0.05) * h * h / (h*h + ka1*h + ka1*ka2)
	t.carbon += leaves * (air - free) * t.L
}

// What a meq of feed leaves behind in base, as plants take nitrate, and in acid, as they take
// ammonium.
const nitrateBase, ammoniumAcid = 0.16, 0.08

// eat takes what plants eat with so many litres: about as strong as they are fed, more of a weak
// solution. What they take as nitrate leaves base behind, what they take as ammonium acid.
func (t *Tank) eat(drawn float64) {
	if drawn <= 0 {
		return
	}
	strength := t.feed / max(t.L, 0.05)
	meq := min(t.feed*0.5, drawn*13*strength/(strength+4))
	t.feed -= meq
	t.phosphate = max(0, t.phosphate-meq*0.075)
	t.alkalinity += meq * (nitrateBase - ammoniumAcid)
}

// suits is what a solution makes of growth: all of it from pH 5.2 to 6.8 and at its strength, less
// beyond.
func (t *Tank) suits() float64 {
	if t.L <= t.DryL {
		return 0
	}
	ph, ec := t.PH(), t.ECMS()
	out := 1.0
	out *= max(0, min(1, 1-(5.2-ph)/1.4, 1-(ph-6.8)/2.2))
	out *= max(0.1, min(1, 0.35+ec/0.8*0.65, 1-(ec-3)/4))
	return out
}

// harms is the daily chance that a solution kills a plant in it.
func (t *Tank) harms() float64 {
	ph, ec := t.PH(), t.ECMS()
	return max(0, (4.2-ph)*0.12) + max(0, (ph-8.6)*0.05) + max(0, (ec-6)*0.06)
}
