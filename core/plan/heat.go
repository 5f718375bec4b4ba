package plan

import "ulpa/core/calendar"

// Heat is what long warm days do to a batch: what bolts in them, and seed that comes poorly
// where it is sown so warm.
type Heat struct {
	Bolts bool
	Poor  float64 // share of the good seed that comes at the warmth of its sowing; 0: nothing speaks against it
	WarmC float64 // then
}

// From where on days are long and warm to a plant that bolts: light and the day's mean warmth,
// over the last weeks before it is ready (starting values).
const (
	boltMol   = 25.0
	boltC     = 18.0
	boltWeeks = 21 // days
	poorShare = 0.6
	heatWorth = 0.6 // of its value that a batch keeps for each of the two
)

// heat looks at a batch that is ready on a day after so many days in its tray, pot and last place.
func (g Goal) heat(ready calendar.Day, days int) (h Heat) {
	if at := g.Growing; at != nil && g.Crop.Bolts {
		warm, light, n := 0.0, 0.0, 0.0
		for d := ready - boltWeeks; d <= ready; d += 3 {
			warm, light, n = warm+at.WarmC(d), light+at.LightMol(d), n+1
		}
		h.Bolts = warm/n >= boltC && light/n >= boltMol
	}
	if at := g.Raising; at != nil {
		h.WarmC = at.WarmC(ready - calendar.Day(days))
		if share := g.Crop.Shares.At(h.WarmC); h.WarmC > g.Crop.OptimumC && share < poorShare {
			h.Poor = max(share, 0.01)
		}
	}
	return h
}

// worth is what of its value a batch keeps.
func (h Heat) worth() float64 {
	w := 1.0
	if h.Bolts {
		w *= heatWorth
	}
	if h.Poor > 0 {
		w *= heatWorth
	}
	return w
}
