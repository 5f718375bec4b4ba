package fish

import "ulpa/core/say"

// Kind is a sort of fish by what its water must be. Nitrogen is mg/L as N; oxygen mg/L;
// alkalinity mg/L as CaCO3. Starting values of aquaculture: local advice goes first.
type Kind struct {
	ID   string
	Name say.Words
	// Eats is the share of their usual feed that they take, by the water's °C, as points of
	// straight lines; nothing beyond the first and the last.
	Eats          []Point
	UnionisedMost float64
	// NitriteMost is watched from there on, NitriteNow is an emergency. Both are for water
	// with little chloride and rise with it (NitriteLimits).
	NitriteMost, NitriteNow  float64
	NitrateMost, OxygenLeast float64
	AlkalinityLeast          float64
	PHLow, PHHigh            float64
	ColdestC, WarmestC       float64
}

// Point is a share at a temperature.
type Point struct{ C, Share float64 }

// Kinds are those that are told apart. The appetite of warm-water fish is the contract's;
// carp grow best from 23 to 30 °C, trout from 12 to 16 °C.
var Kinds = []Kind{
	{
		"warm", "warm-water fish, such as tilapia",
		[]Point{{15, 0}, {20, 0.5}, {25, 1}, {30, 1}, {34, 0}},
		0.02, 1, 5, 150, 5, 40, 6.4, 8, 16, 33,
	},
	{
		"carp", "carp, goldfish and their relatives",
		[]Point{{6, 0}, {12, 0.25}, {18, 0.6}, {23, 1}, {30, 1}, {34, 0}},
		0.02, 0.5, 2, 150, 4, 40, 6.5, 8.2, 4, 32,
	},
	{
		"cold", "trout and other cold-water fish",
		[]Point{{2, 0}, {7, 0.5}, {12, 1}, {16, 1}, {20, 0}},
		0.0125, 0.1, 0.3, 100, 7, 40, 6.5, 8, 3, 18,
	},
}

// KindOf finds one; the first where there is none.
func KindOf(id string) Kind {
	for _, k := range Kinds {
		if k.ID == id {
			return k
		}
	}
	return Kinds[0]
}

// appetite is the share of the usual feed that they take in water of c °C.
func (k Kind) appetite(c float64) float64 {
	at := k.Eats
	if c <= at[0].C || c >= at[len(at)-1].C {
		return 0
	}
	for i := 1; ; i++ {
		if a, b := at[i-1], at[i]; c <= b.C {
			return a.Share + (b.Share-a.Share)*(c-a.C)/(b.C-a.C)
		}
	}
}

// chlorideBase is the chloride, mg/L, for which a kind's limits of nitrite are given.
const chlorideBase = 10

// NitriteLimits are from where nitrite is watched, and from where it is an emergency, mg/L
// as N. Chloride keeps nitrite out of the gills, so what fish tolerate rises with it (Lewis
// and Morris 1986, Trans. Am. Fish. Soc. 115:183); nil: nobody has read it, and there may be
// little. However much there is, more than three times the limits is never taken for safe.
func (k Kind) NitriteLimits(chloride *float64) (watch, now float64) {
	by := 1.0
	if chloride != nil {
		by = min(max(*chloride/chlorideBase, 0.5), 3)
	}
	return by * k.NitriteMost, by * k.NitriteNow
}
