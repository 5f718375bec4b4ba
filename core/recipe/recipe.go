// Package recipe says what to weigh out: grams of the salts on the shelf that come closest to
// a target with the water in the tap, and what brings a reservoir back to it. Strengths are
// mS/cm at 25 °C, volumes litres, targets mg/L.
//
//	a, err := recipe.ReservoirAdjust(recipe.AdjustInput{CapacityL: 60, FillToL: 58, LevelL: 40, ...})
package recipe

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"ulpa/core/chemistry"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// ProductIn is a product on the shelf: one of the library by its name, or one
// with a label.
type ProductIn struct {
	Name  string
	Label Label // nil: of the library
}

// RecipeInput is what Recipe needs. Water and targets are mg/L of elements;
// water may also have HCO3.
type RecipeInput struct {
	VolumeL    float64
	WaterMgL   map[string]float64
	TargetsMgL map[string]float64
	Products   []ProductIn
	Weights    map[string]float64
	MaxG       map[string]float64
	TankLitres float64 // 0: no stock tanks asked for
	TankRatio  float64
}

// RecipeOut is what to weigh and what comes of it.
type RecipeOut struct {
	Grams              map[string]float64
	AchievedMgL        map[string]float64 // the elements, and N
	DeviationPercent   map[string]float64
	ECMScm             float64
	NH4SharePercent    *float64
	TankA, TankB       []string
	StockGrams         map[string]float64
	Warnings, Cautions []say.Text
	Steps              []working.Step
}

// Recipe finds the grams that come closest to the targets: the least sum of
// weighted squared relative misses with no negative amounts and none above its
// limit. It refuses with field.Errors.
func Recipe(in RecipeInput) (RecipeOut, error) {
	if err := in.check(); err != nil {
		return RecipeOut{}, err
	}
	content := make([]map[string]float64, len(in.Products)) // grams in a gram
	for i, p := range in.Products {
		if p.Label != nil {
			content[i] = p.Label.fractions()
		} else {
			content[i] = library[p.Name].fractions()
		}
	}
	grams := in.solve(content)
	out := RecipeOut{Grams: map[string]float64{}, AchievedMgL: map[string]float64{}, DeviationPercent: map[string]float64{}}
	for _, el := range Elements {
		out.AchievedMgL[el] = in.WaterMgL[el]
		for i, g := range grams {
			out.AchievedMgL[el] += g * 1000 / in.VolumeL * content[i][el]
		}
	}
	out.AchievedMgL["N"] = out.AchievedMgL["NO3_N"] + out.AchievedMgL["NH4_N"]
	for i, p := range in.Products {
		out.Grams[p.Name] = grams[i]
		out.Steps = append(out.Steps, working.Step{Name: Salt(p.Name), Formula: say.T("for %.4g L", in.VolumeL), Value: grams[i], Unit: "g"})
	}
	for el, t := range in.TargetsMgL {
		out.DeviationPercent[el] = 100 * (out.AchievedMgL[el] - t) / t
	}
	if n := out.AchievedMgL["N"]; n > 0 {
		share := 100 * out.AchievedMgL["NH4_N"] / n
		out.NH4SharePercent = &share
	}
	c, err := chemistry.Conduct(mainIons(out.AchievedMgL, in.WaterMgL["HCO3"]), 6, 25)
	if err != nil {
		return RecipeOut{}, field.Refuse("targets_mg_l", "give a solution too strong for Ulpa to say anything about")
	}
	out.ECMScm = c.ECMScm
	out.Steps = append(
		out.Steps,
		working.Step{
			Name:    say.T("Strength"),
			Formula: say.T("of the main ions at 25 °C and pH 6"),
			Value:   c.ECMScm,
			Unit:    "mS/cm",
			Source:  c.Steps[0].Source,
		},
	)
	out.Cautions = []say.Text{
		say.T("An adult weighs dry salts: gloves, no dust, a mask for fine powders."), say.T("Keep nitrates from fuel and heat; some salts are regulated."),
		say.T("Label the bucket: what, how strong, when."),
	}
	if in.TankLitres > 0 {
		in.tanks(&out, content)
	}
	return out, nil
}

// mainIons turns mg/L of elements into mmol/L of ions.
func mainIons(mg map[string]float64, hco3 float64) chemistry.Ions {
	ions := chemistry.Ions{
		"NO3": mg["NO3_N"] / chemistry.WN, "NH4": mg["NH4_N"] / chemistry.WN, "H2PO4": mg["P"] / chemistry.WP, "SO4": mg["S"] / chemistry.WS,
		"HCO3": hco3 / (chemistry.WH + chemistry.WC + 3*chemistry.WO),
	}
	for _, el := range []string{"K", "Ca", "Mg", "Na", "Cl"} {
		ions[el] = mg[el] / atomicWeight[el]
	}
	return ions
}

func (in RecipeInput) check() error {
	var e field.Errors
	e.Require(in.VolumeL > 0 && in.VolumeL <= 1e7, "volume_l", "must be above 0, up to 10,000,000 litres")
	for _, el := range slices.Sorted(maps.Keys(in.WaterMgL)) {
		v := in.WaterMgL[el]
		e.Require(el == "HCO3" || slices.Contains(Elements, el), "water_mg_l."+el, "is not an element or ion the recipe counts")
		e.Require(v >= 0 && v <= 1e5, "water_mg_l."+el, "must be 0 to 100,000 mg/L")
	}
	e.Require(len(in.TargetsMgL) > 0, "targets_mg_l", "needs at least one target")
	for _, el := range slices.Sorted(maps.Keys(in.TargetsMgL)) {
		v := in.TargetsMgL[el]
		e.Require(slices.Contains(Targets, el), "targets_mg_l."+el, "must be one of %s, never oxides", strings.Join(Targets, " "))
		e.Require(v > 0 && v <= 1e5, "targets_mg_l."+el, "must be above 0 mg/L")
	}
	for _, el := range slices.Sorted(maps.Keys(in.Weights)) {
		w := in.Weights[el]
		e.Require(slices.Contains(Targets, el), "weights."+el, "must be one of %s", strings.Join(Targets, " "))
		e.Require(w >= 0 && w <= 1e6, "weights."+el, "must be 0 or more")
	}
	e.Require(len(in.Products) > 0 && len(in.Products) <= 1000, "products", "must be 1 to 1,000 products")
	names := map[string]bool{}
	for i, p := range in.Products {
		at := fmt.Sprintf("products.%d", i)
		_, known := library[p.Name]
		if p.Label == nil {
			e.Require(known, at, "is not in the library; give its name and the percentages on its label")
		} else {
			p.Label.check(&e, at+".percent")
			at += ".name"
		}
		e.Require(!names[p.Name], at, "is in the list twice")
		e.Require(p.Name != "", at, "must be a name")
		names[p.Name] = true
	}
	for _, name := range slices.Sorted(maps.Keys(in.MaxG)) {
		g := in.MaxG[name]
		e.Require(names[name], "max_g."+name, "is not among the products")
		e.Require(g >= 0 && g <= 1e12, "max_g."+name, "must be 0 grams or more")
	}
	e.Require(in.TankLitres >= 0 && in.TankLitres <= 1e7, "tanks.litres", "must be above 0 litres")
	e.Require(in.TankLitres == 0 || (in.TankRatio >= 1 && in.TankRatio <= 10000), "tanks.ratio", "must be 1 to 10,000")
	return e.Err()
}

func (l Label) check(e *field.Errors, at string) {
	sum := 0.0
	for _, key := range slices.Sorted(maps.Keys(l)) {
		p := l[key]
		e.Require(slices.Contains(LabelKeys, key), at+"."+key, "cannot be on a label here")
		e.Require(p >= 0 && p <= 100, at+"."+key, "must be 0 to 100 %")
		if key != "NO3_N" && key != "NH4_N" {
			sum += p
		}
		if ox, isOxide := oxides[key]; isOxide {
			_, both := l[ox.element]
			e.Require(!both, at+"."+key, "enter %s or %s, not both", key, ox.element)
		}
	}
	forms := l["NO3_N"] + l["NH4_N"]
	if total, ok := l["N"]; ok {
		e.Require(forms <= total+1e-9, at+".N", "must be the total: at least NO3_N and NH4_N together")
	} else {
		sum += forms
	}
	e.Require(len(l) > 0, at, "needs at least one nutrient")
	e.Require(sum <= 100+1e-9, at, "adds up to more than 100 %")
}

// tanks divides the products in use over two stocks: calcium in A, sulfate and
// phosphate in B, and names what will not dissolve or not agree.
func (in RecipeInput) tanks(out *RecipeOut, content []map[string]float64) {
	out.TankA, out.TankB, out.StockGrams = []string{}, []string{}, map[string]float64{}
	for i, p := range in.Products {
		g := out.Grams[p.Name]
		if g <= 0 {
			continue
		}
		calcium, other := content[i]["Ca"] > 0, content[i]["S"] > 0 || content[i]["P"] > 0
		switch {
		case calcium && other:
			out.Warnings = append(
				out.Warnings,
				say.T("%s holds calcium together with sulfate or phosphate, so it goes in neither stock: dissolve it in the full amount of water", Salt(p.Name)),
			)
			continue
		case other, strings.HasPrefix(p.Name, "boric"), strings.HasPrefix(p.Name, "sodium_molybdate"):
			out.TankB = append(out.TankB, p.Name)
		default:
			out.TankA = append(out.TankA, p.Name)
		}
		perLitre := g / in.VolumeL * in.TankRatio
		out.StockGrams[p.Name] = perLitre * in.TankLitres
		if s, known := library[p.Name]; known && p.Label == nil && perLitre > s.solubleGL {
			out.Warnings = append(
				out.Warnings,
				say.T("%s does not dissolve at %.0f g in a litre of stock at 20 °C, but %.0f g does: use a weaker stock", Salt(p.Name), perLitre, s.solubleGL),
			)
		}
	}
}

// solve is least squares with bounds. Column i is what a gram of product i does
// to each target, relative to it.
func (in RecipeInput) solve(content []map[string]float64) []float64 {
	var columns [][]float64
	var upper, want []float64
	for _, el := range Targets {
		if t, ok := in.TargetsMgL[el]; ok {
			have := in.WaterMgL[el]
			if el == "N" {
				have = in.WaterMgL["NO3_N"] + in.WaterMgL["NH4_N"]
			}
			want = append(want, in.root(el)*(t-have)/t)
		}
	}
	for i, c := range content {
		var col []float64
		for _, el := range Targets {
			t, ok := in.TargetsMgL[el]
			if !ok {
				continue
			}
			x := c[el]
			if el == "N" {
				x = c["NO3_N"] + c["NH4_N"]
			}
			col = append(col, in.root(el)*x*1000/in.VolumeL/t)
		}
		limit := math.Inf(1)
		if g, ok := in.MaxG[in.Products[i].Name]; ok {
			limit = g
		}
		columns, upper = append(columns, col), append(upper, limit)
	}
	return boundedLeastSquares(columns, want, upper)
}

func (in RecipeInput) root(el string) float64 {
	if w, ok := in.Weights[el]; ok {
		return math.Sqrt(w)
	}
	return 1
}
