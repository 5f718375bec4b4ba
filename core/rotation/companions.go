package rotation

import (
	"slices"

	"ulpa/core/crop"
	"ulpa/core/say"
)

// Grades of evidence, of what is said to help.
const (
	WellSupported say.Words = "there is good evidence"
	SomeTrials    say.Words = "some trials say so, not all"
)

// EvidenceOf is how well a trouble of a bed's plan is supported.
func EvidenceOf(code string) say.Words {
	switch code {
	case "rotation", "too_shady", "too_sunny":
		return WellSupported
	case "near":
		return WellSupported // flowers bring pollinators
	case "feeder", "apart":
		return SomeTrials
	}
	return ""
}

// FeederOf is what a crop leaves in the ground, as beds are planned.
func FeederOf(c crop.Crop) string {
	if c.Kind == "legume" {
		return "fixer"
	}
	if slices.Contains(Feeders, c.Feeder) {
		return c.Feeder
	}
	return "medium"
}

// SunOf is how much sun a crop wants: leaves and herbs tolerate half of a day's shade, whatever
// fruits, roots or flowers does not.
func SunOf(c crop.Crop) string {
	if c.Kind == "leaf" || c.Kind == "herb" {
		return "part"
	}
	return "full"
}

// Wants are crops as beds are planned: those of a family apart from each other, since they
// share pests and diseases; what is poisonous apart from food; and what is set by insects near
// flowers.
func Wants(crops []crop.Crop, sections []int) (out []Want) {
	for i, c := range crops {
		w := Want{Crop: c.ID, Family: string(c.Family), Feeder: FeederOf(c), Sun: SunOf(c), Sections: sections[i]}
		for _, o := range crops {
			switch {
			case o.ID != c.ID && (o.Family == c.Family || (o.Food == crop.Poison) != (c.Food == crop.Poison)):
				w.Apart = append(w.Apart, o.ID)
			case o.Kind == "flower" && o.Food != crop.Poison && (c.Kind == "fruiting" || c.Kind == "legume"):
				w.Near = append(w.Near, o.ID)
			}
		}
		out = append(out, w)
	}
	return out
}

// BedDays are the usual days that a crop stands in a bed before its first harvest: from
// sowing where it is sown in place, else from when it is set out.
func BedDays(c crop.Crop) int {
	if c.InPlace {
		return c.HarvestDays()
	}
	return c.HarvestDays() - c.NurseryDays
}

// FillsAfter are the days that a crop stands in a bed before it fills its rows, after about
// so much of its days there.
func FillsAfter(c crop.Crop) int {
	const filled = 0.7
	return int(filled * float64(BedDays(c)))
}

// Between are crops that can stand between the rows of another until it needs the room, set
// there on the same day: eaten before it fills its rows, of another family, the quickest
// first and three at most.
func Between(c crop.Crop, all []crop.Crop) (out []crop.Crop) {
	const wide, long = 35.0, 40 // cm between rows, days in the bed
	if c.RowCM < wide || BedDays(c) < long {
		return nil
	}
	for _, o := range all {
		quick := BedDays(o) <= FillsAfter(c)
		if quick && o.Eaten() && (o.Kind == "leaf" || o.Kind == "root") && o.Family != c.Family && o.Suits("bed") && o.Feeder != "heavy" && !o.Sprout() {
			out = append(out, o)
		}
	}
	slices.SortStableFunc(out, func(a, b crop.Crop) int { return BedDays(a) - BedDays(b) })
	return out[:min(3, len(out))]
}

// Rect is a section on the map, in cm.
type Rect struct{ X, Y, Length, Width float64 }

// reachCM is how near sections are neighbours: a path between them does not keep trouble apart.
const reachCM = 45

// Beside tells whether two sections of a bed are neighbours.
func (r Rect) Beside(o Rect) bool {
	gap := func(a, al, b, bl float64) float64 { return max(a-(b+bl), b-(a+al)) }
	return max(gap(r.X, r.Length, o.X, o.Length), gap(r.Y, r.Width, o.Y, o.Width)) <= reachCM
}
