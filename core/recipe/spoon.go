package recipe

import (
	"fmt"
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// Weighing is so many level spoons of a powder, weighed together.
type Weighing struct {
	Spoons int
	Grams  float64
}

// SpoonInput is what Spoon needs.
type SpoonInput struct {
	Weighings   []Weighing
	ScaleErrorG float64
	WantG       *float64 // nil: nothing is wanted yet
}

// ScaleErrorG is the usual error of a kitchen scale, and oneWeighing the usual spread of a
// spoon, as a share, where it was weighed once only.
const (
	ScaleErrorG = 0.1
	oneWeighing = 0.08
	farOff      = 10 // percent from which one weighs instead
)

// Spooned is what a level spoon of a powder weighs, and what a wanted amount is in spoons.
type Spooned struct {
	GramsPerSpoon, ErrorG, SpreadG float64
	Spoons                         *float64 // and what follows, where something is wanted
	LevelQuarters                  *int
	GivesG, GivesErrorG, OffPct    *float64
	WeighInstead                   *bool
	Steps                          []working.Step
}

// Spoon says what a level spoon weighs, by weighings of several, and how far off an amount in
// quarters of one may be. It refuses with field.Errors.
func Spoon(in SpoonInput) (Spooned, error) {
	var e field.Errors
	e.Require(len(in.Weighings) >= 1 && len(in.Weighings) <= 1000, "weighings", "must be 1 to 1,000")
	e.Require(in.ScaleErrorG >= 0 && in.ScaleErrorG <= 1e6, "scale_error_g", "must be 0 grams or more")
	e.Require(in.WantG == nil || *in.WantG > 0 && *in.WantG <= 1e9, "want_g", "must be above 0 grams")
	for i, w := range in.Weighings {
		e.Require(w.Spoons >= 1 && w.Spoons <= 1_000_000, fmt.Sprintf("weighings.%d.spoons", i), "must be 1 or more")
		e.Require(w.Grams > 0 && w.Grams <= 1e9, fmt.Sprintf("weighings.%d.grams", i), "must be above 0 grams")
	}
	if err := e.Err(); err != nil {
		return Spooned{}, err
	}
	grams, n, k := 0.0, 0.0, float64(len(in.Weighings))
	for _, w := range in.Weighings {
		grams, n = grams+w.Grams, n+float64(w.Spoons)
	}
	m := grams / n
	v := oneWeighing * m * oneWeighing * m
	if len(in.Weighings) > 1 {
		v = 0
		for _, w := range in.Weighings {
			d := w.Grams/float64(w.Spoons) - m
			v += float64(w.Spoons) * d * d / (k - 1)
		}
	}
	out := Spooned{GramsPerSpoon: m, SpreadG: math.Sqrt(v), ErrorG: math.Sqrt(v/n + k*in.ScaleErrorG*in.ScaleErrorG/(n*n))}
	out.Steps = []working.Step{
		{Name: say.T("A level spoon"), Formula: say.T("%.4g g ÷ %.0f", grams, n), Value: m, Unit: unit.Gram},
		{Name: say.T("One spoon differs from another by"), Formula: say.T("spread of the weighings"), Value: out.SpreadG, Unit: unit.Gram},
	}
	if in.WantG == nil {
		return out, nil
	}
	want := *in.WantG
	spoons := want / m
	q := int(math.Floor(4*spoons + 0.5 + 1e-9))
	gives := float64(q) / 4 * m
	giveError := math.Sqrt(float64(q*q)/16*out.ErrorG*out.ErrorG + float64(q)/4*v)
	off := 100 * (gives - want) / want
	weigh := q == 0 || math.Abs(off) > farOff || 100*giveError/want > farOff
	out.Spoons, out.LevelQuarters, out.GivesG, out.GivesErrorG, out.OffPct, out.WeighInstead = &spoons, &q, &gives, &giveError, &off, &weigh
	out.Steps = append(out.Steps, working.Step{
		Name: say.T("In quarters of a spoon"), Formula: say.T("4 × %.4g ÷ %.4g, to the nearest", want, m), Value: float64(q),
	})
	return out, nil
}
