// Package water is what is known of the water that goes in: its analyses over time, in the
// units people are given, what they come to, and what to do about chlorine.
//
//	known := water.Known(analyses)
//	mgL := known.MgL() // as recipes take it
package water

import (
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Kind is where water comes from.
type Kind struct {
	ID      string
	Name    say.Words
	Refused say.Words // why it is not used; "": it may be
}

// Kinds are the usual ones.
var Kinds = []Kind{
	{"tap", "tap at school", ""},
	{"home", "tap at home", ""},
	{"rain", "rain butt", ""},
	{"pure", "distilled or by reverse osmosis", ""},
	{"well", "well or stream", ""},
	{"softened", "softened with salt", "Softened water has sodium in place of calcium: it builds up, and plants suffer. Take tap water before the " +
		"softener."},
}

// KindOf finds a kind; ok is false for one that is not known.
func KindOf(id string) (k Kind, ok bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.ID == id })
	if i < 0 {
		return k, false
	}
	return Kinds[i], true
}

// How an analysis was made.
const (
	Report = "report" // of the waterworks or a laboratory
	Drops  = "drops"
	Strip  = "strip"
	Jar    = "jar" // measured acid in a litre, fitted
	Meter  = "meter"
)

// Ways are how an analysis is made, and how far off its alkalinity and hardness may be, as a
// share (starting values).
var Ways = []struct {
	ID    string
	Name  say.Words
	Error float64
}{
	{Report, "a water company’s report", 0.1},
	{Drops, "a drop kit", 0.1},
	{Strip, "a strip", 0.3},
	{Jar, "measured acid in a litre", 0.15},
	{Meter, "a meter", 0.05},
}

// WayName is what a way is called; "" where it is none.
func WayName(id string) say.Words {
	for _, w := range Ways {
		if w.ID == id {
			return w.Name
		}
	}
	return ""
}

// HardnessUnits are those in which people are given hardness and alkalinity, by how many mg/L
// of calcium carbonate one is. mmol/L is of calcium and magnesium in a hardness, of charge in
// an alkalinity.
var HardnessUnits = []struct {
	ID                   string
	Name                 say.Words
	Hardness, Alkalinity float64
}{
	{"caco3", "mg/L CaCO₃ (ppm)", 1, 1},
	{"mmol", "mmol/L (hardness), meq/L (alkalinity)", 100.09, 50.04},
	{"dh", "German degrees, °dH", 17.848, 17.848},
	{"f", "French degrees, °f", 10, 10},
	{"e", "English degrees, °e", 14.254, 14.254},
	{"gpg", "grains per US gallon", 17.118, 17.118},
	{"hco3", "mg/L HCO₃⁻ (alkalinity only)", 0, 0.8202},
}

// CaCO3 is a hardness or an alkalinity in one of HardnessUnits, as mg/L of calcium carbonate;
// ok is false where the unit does not go with it.
func CaCO3(v float64, in string, alkalinity bool) (mgL float64, ok bool) {
	for _, u := range HardnessUnits {
		if u.ID == in {
			per := u.Hardness
			if alkalinity {
				per = u.Alkalinity
			}
			return v * per, per > 0
		}
	}
	return 0, false
}

// Quantity is something that is measured of a water.
type Quantity struct {
	ID   string
	Name say.Words
	Unit string
	Most float64
}

// Quantities are those that an analysis can hold. Alkalinity and hardness are mg/L of calcium
// carbonate, nitrate mg/L of nitrogen, chlorine mg/L of Cl2.
var Quantities = []Quantity{
	{"alkalinity", "Alkalinity", "mg/L CaCO₃", 1000},
	{"hardness", "Hardness, total", "mg/L CaCO₃", 2000},
	{"ec", "Strength", unit.MS, 20},
	{"ph", "pH", "", 14},
	{"ca", "Calcium", "mg/L", 1000},
	{"mg", "Magnesium", "mg/L", 1000},
	{"na", "Sodium", "mg/L", 5000},
	{"cl", "Chloride", "mg/L", 5000},
	{"k", "Potassium", "mg/L", 1000},
	{"so4", "Sulfate", "mg/L", 5000},
	{"no3_n", "Nitrate, as nitrogen", "mg/L", 200},
	{"p", "Phosphorus", "mg/L", 100},
	{"chlorine", "Chlorine: free or combined", "mg/L", 20},
}

// Analysis is what was measured of a water on a day.
type Analysis struct {
	By     string             `json:"by"`
	Values map[string]float64 `json:"values"` // by Quantity
}

// Check refuses what hardly can be.
func (a Analysis) Check() error {
	var e field.Errors
	e.Require(WayName(a.By) != "", "by", "must be one of these")
	e.Require(len(a.Values) > 0, "alkalinity", "enter at least one figure")
	for _, q := range Quantities {
		if v, told := a.Values[q.ID]; told {
			e.Require(v >= 0 && v <= q.Most, q.ID, "must be 0 to %g", q.Most)
		}
	}
	for id := range a.Values {
		e.Require(slices.ContainsFunc(Quantities, func(q Quantity) bool { return q.ID == id }), id, "is not measured here")
	}
	return e.Err()
}

// Dated is an analysis with its day.
type Dated struct {
	On calendar.Day
	Analysis
}

// Figure is the latest of a quantity.
type Figure struct {
	Value float64
	On    calendar.Day
	By    string
}

// Facts are what is known of a water, by quantity.
type Facts map[string]Figure

// Known takes the latest figure of each quantity; analyses are in the order of time.
func Known(list []Dated) Facts {
	out := Facts{}
	for _, a := range list {
		for id, v := range a.Values {
			out[id] = Figure{v, a.On, a.By}
		}
	}
	return out
}

// Of is the figure of a quantity; nil: nobody has measured it.
func (f Facts) Of(quantity string) *float64 {
	if x, told := f[quantity]; told {
		return &x.Value
	}
	return nil
}

// Shares by which hardness is usually calcium and magnesium where nobody told them apart, by
// charge; and what a mole of charge weighs, g.
const (
	calciumShare   = 0.75
	calciumPerEq   = 20.04
	magnesiumPerEq = 12.15
	perEq          = 50.04 // mg of CaCO3 in 1 meq
)

// MgL is the water as recipes take it, mg/L of elements and HCO3; guessed says that calcium
// and magnesium were taken from the hardness.
func (f Facts) MgL() (mgL map[string]float64, guessed bool) {
	mgL = map[string]float64{}
	for id, el := range map[string]string{"ca": "Ca", "mg": "Mg", "na": "Na", "cl": "Cl", "k": "K", "no3_n": "NO3_N", "p": "P"} {
		if x, told := f[id]; told {
			mgL[el] = x.Value
		}
	}
	if x, told := f["so4"]; told {
		mgL["S"] = x.Value * 32.06 / 96.06
	}
	if x, told := f["alkalinity"]; told {
		mgL["HCO3"] = x.Value / perEq * 61.02
	}
	if x, told := f["hardness"]; told {
		eq := x.Value / perEq
		_, ca := f["ca"]
		_, mg := f["mg"]
		switch {
		case !ca && !mg:
			guessed = true
			mgL["Ca"], mgL["Mg"] = calciumShare*eq*calciumPerEq, (1-calciumShare)*eq*magnesiumPerEq
		case !mg:
			mgL["Mg"] = max(0, eq-mgL["Ca"]/calciumPerEq) * magnesiumPerEq
		case !ca:
			mgL["Ca"] = max(0, eq-mgL["Mg"]/magnesiumPerEq) * calciumPerEq
		}
	}
	return mgL, guessed
}

// High is what of a water is too much for solutions that are used again, and why.
func (f Facts) High() (out []say.Text) {
	for _, x := range []struct {
		id    string
		limit float64
		unit  string
		says  say.Words
	}{
		{"na", 50, "mg/L", "Sodium of %s builds up when you top up: change all the water more often."},
		{"cl", 70, "mg/L", "Chloride of %s builds up when you top up: change all the water more often."},
		{"alkalinity", 150, "mg/L", "Alkalinity of %s raises the pH with every top-up: use acid each time, or half rain water."},
		{"ec", 0.8, unit.MS, "With %s before anything is in it there is little room left for nutrients."},
	} {
		if v, told := f[x.id]; told && v.Value > x.limit {
			out = append(out, say.T(x.says, say.Of(v.Value, x.unit)))
		}
	}
	return out
}

// Changed are the quantities in which two waters differ by more than a tenth, in their order.
func Changed(from, to Facts) (out []Quantity) {
	for _, q := range Quantities {
		a, b := from[q.ID], to[q.ID]
		if gap := a.Value - b.Value; gap*gap > 0.01*max(a.Value*a.Value, b.Value*b.Value) {
			out = append(out, q)
		}
	}
	return out
}

// Told lists what is known, in the order of Quantities.
func (f Facts) Told() (out []Quantity) {
	for _, q := range Quantities {
		if _, told := f[q.ID]; told {
			out = append(out, q)
		}
	}
	return out
}
