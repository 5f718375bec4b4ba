// Package rotation puts crops into the sections of beds: families apart in time, feeders in turn,
// sun where it is wanted, good neighbours beside one another.
//
//	plan, err := rotation.Best(in, spent)
//	fmt.Println(plan.Crops, plan.Cost)
package rotation

import (
	"fmt"
	"math"
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Feeders are what a crop leaves behind in the ground.
var Feeders = []string{"heavy", "medium", "light", "fixer"}

// Suns are how much sun there is, the least first.
var Suns = []string{"shade", "part", "full"}

// Grew is what stood in a section before.
type Grew struct {
	YearsAgo int // 1 to 100
	Family   string
	Feeder   string
}

// Section is a part of a bed that holds one crop.
type Section struct {
	Name, Sun  string
	Neighbours []string
	History    []Grew
}

// Want is a crop that is to stand in so many sections.
type Want struct {
	Crop, Family, Feeder, Sun string
	Sections                  int
	Apart, Near               []string // crops
}

// Weights are what each trouble counts.
type Weights struct {
	Rotation, HeavyAfterHeavy, HeavyAfterMedium, MediumAfterHeavy, FixerAfterFixer float64
	TooShady, TooSunny, Apart, Near, Unplaced                                      float64
}

// UsualWeights are those where nothing else is said.
var UsualWeights = Weights{20, 8, 3, 3, 3, 6, 2, 5, 2, 50}

// Input is what Best needs.
type Input struct {
	Sections   []Section
	Wants      []Want
	YearsApart int  // 0 to 20
	Strict     bool // a family too soon is forbidden
	Weights    Weights
}

// Penalty is a trouble of a plan.
type Penalty struct {
	Code                 string
	Section, Crop, Other string
	Points               float64
}

// Plan is what stands in each section, in their order; "": nothing.
type Plan struct {
	Cost      float64
	Proven    bool // no plan costs less
	Crops     []string
	Penalties []Penalty
	Steps     []working.Step
}

// Bounds of beds.
const (
	MaxSections   = 200
	MaxYearsApart = 20
	UsualYears    = 3
	exactSections = 14
)

// Best puts crops into sections with least trouble. Up to 14 sections the plan is
// proved to be a best one (branch and bound over the assignment of each section for itself);
// above it is searched for until spent says that the time is over. It refuses with
// field.Errors.
func Best(in Input, spent func() float64) (Plan, error) {
	if err := in.check(); err != nil {
		return Plan{}, err
	}
	b := newBeds(in)
	b.search(spent)
	return b.plan(in), nil
}

func (in Input) check() error {
	var e field.Errors
	e.Require(len(in.Sections) >= 1 && len(in.Sections) <= MaxSections, "sections", "must be 1 to 200 sections")
	e.Require(len(in.Wants) >= 1 && len(in.Wants) <= MaxSections, "wants", "must be 1 to 200 crops")
	e.Require(in.YearsApart >= 0 && in.YearsApart <= MaxYearsApart, "years_apart", "must be a whole number from 0 to 20")
	known := map[string]bool{}
	for i, s := range in.Sections {
		e.Require(!known[s.Name], fmt.Sprintf("sections.%d.name", i), "is in the list twice")
		known[s.Name] = true
	}
	oneOf := func(at, v string, list []string, takes say.Words) { e.Require(slices.Contains(list, v), at, takes) }
	for i, s := range in.Sections {
		at := fmt.Sprintf("sections.%d.", i)
		oneOf(at+"sun", s.Sun, Suns, "must be full, part or shade")
		for k, n := range s.Neighbours {
			at := fmt.Sprintf("%sneighbours.%d", at, k)
			e.Require(known[n], at, "is not one of the sections")
			e.Require(n != s.Name, at, "is the section itself")
		}
		for k, g := range s.History {
			at := fmt.Sprintf("%shistory.%d.", at, k)
			e.Require(g.YearsAgo >= 1 && g.YearsAgo <= 100, at+"years_ago", "must be a whole number from 1 to 100")
			oneOf(at+"feeder", g.Feeder, Feeders, "must be heavy, medium, light or fixer")
		}
	}
	crops := map[string]bool{}
	for i, w := range in.Wants {
		at := fmt.Sprintf("wants.%d.", i)
		e.Require(!crops[w.Crop], at+"crop", "is in the list twice")
		crops[w.Crop] = true
		oneOf(at+"feeder", w.Feeder, Feeders, "must be heavy, medium, light or fixer")
		oneOf(at+"sun", w.Sun, Suns, "must be full, part or shade")
		e.Require(w.Sections >= 1 && w.Sections <= MaxSections, at+"sections", "must be a whole number from 1 to 200")
	}
	for _, x := range in.Weights.list() {
		e.Require(*x.at >= 0 && *x.at <= 1e9, "weights."+x.name, "must be 0 or more")
	}
	return e.Err()
}

type weight struct {
	name string
	at   *float64
}

func (w *Weights) list() []weight {
	return []weight{
		{"rotation", &w.Rotation},
		{"heavy_after_heavy", &w.HeavyAfterHeavy},
		{"heavy_after_medium", &w.HeavyAfterMedium},
		{"medium_after_heavy", &w.MediumAfterHeavy},
		{"fixer_after_fixer", &w.FixerAfterFixer},
		{"too_shady", &w.TooShady},
		{"too_sunny", &w.TooSunny},
		{"apart", &w.Apart},
		{"near", &w.Near},
		{"unplaced", &w.Unplaced},
	}
}

// WeightNames are what the weights are called.
func WeightNames() (names []string) {
	for _, x := range new(Weights).list() {
		names = append(names, x.name)
	}
	return names
}

// Set sets the weight of a name, and tells whether there is one.
func (w *Weights) Set(name string, v float64) bool {
	for _, x := range w.list() {
		if x.name == name {
			*x.at = v
			return true
		}
	}
	return false
}

// own are the troubles of a crop in a section, whatever stands beside it; forbidden: it may
// not stand there.
func (in Input) own(s Section, w Want) (rows []Penalty, forbidden bool) {
	add := func(code string, points float64) {
		if points > 0 {
			rows = append(rows, Penalty{Code: code, Section: s.Name, Crop: w.Crop, Points: points})
		}
	}
	latest := math.MaxInt
	feeder := 0.0
	for _, g := range s.History {
		if g.Family == w.Family && g.YearsAgo <= in.YearsApart {
			latest = min(latest, g.YearsAgo)
		}
		if g.YearsAgo == 1 {
			feeder = max(feeder, in.after(g.Feeder, w.Feeder))
		}
	}
	if latest <= in.YearsApart {
		if in.Strict {
			return nil, true
		}
		add("rotation", in.Weights.Rotation*float64(in.YearsApart+1-latest)/float64(in.YearsApart))
	}
	add("feeder", feeder)
	switch has, wants := slices.Index(Suns, s.Sun), slices.Index(Suns, w.Sun); {
	case has < wants:
		add("too_shady", in.Weights.TooShady*float64(wants-has))
	case has > wants:
		add("too_sunny", in.Weights.TooSunny*float64(has-wants))
	}
	return rows, false
}

func (in Input) after(was, now string) float64 {
	switch now + " after " + was {
	case "heavy after heavy":
		return in.Weights.HeavyAfterHeavy
	case "heavy after medium":
		return in.Weights.HeavyAfterMedium
	case "medium after heavy":
		return in.Weights.MediumAfterHeavy
	case "fixer after fixer":
		return in.Weights.FixerAfterFixer
	}
	return 0
}

// plan is what was found, with its troubles one by one.
func (b *beds) plan(in Input) Plan {
	out := Plan{Proven: b.proven, Crops: make([]string, len(in.Sections))}
	placed := make([]int, len(in.Wants))
	for s, c := range b.best {
		if c == none {
			continue
		}
		placed[c]++
		out.Crops[s] = in.Wants[c].Crop
		rows, _ := in.own(in.Sections[s], in.Wants[c])
		out.Penalties = append(out.Penalties, rows...)
		for _, n := range b.beside[s] {
			if n > s && b.best[n] != none && b.apart[c][b.best[n]] && in.Weights.Apart > 0 {
				out.Penalties = append(out.Penalties, Penalty{"apart", in.Sections[s].Name, in.Wants[c].Crop, in.Sections[n].Name, in.Weights.Apart})
			}
		}
		if in.Weights.Near > 0 && b.lonely(b.best, s) {
			out.Penalties = append(out.Penalties, Penalty{Code: "near", Section: in.Sections[s].Name, Crop: in.Wants[c].Crop, Points: in.Weights.Near})
		}
	}
	for c, w := range in.Wants {
		if missing := w.Sections - placed[c]; missing > 0 && in.Weights.Unplaced > 0 {
			out.Penalties = append(out.Penalties, Penalty{Code: "unplaced", Crop: w.Crop, Points: in.Weights.Unplaced * float64(missing)})
		}
	}
	sums := map[string]float64{}
	for _, p := range out.Penalties {
		out.Cost += p.Points
		sums[p.Code] += p.Points
	}
	for _, code := range []string{"rotation", "feeder", "too_shady", "too_sunny", "apart", "near", "unplaced"} {
		if sums[code] > 0 {
			out.Steps = append(out.Steps, working.Step{Name: troubles[code], Formula: say.T("the sum over the sections"), Value: sums[code]})
		}
	}
	out.Steps = append(out.Steps, working.Step{Name: say.T("In all"), Formula: say.T("the sum of these"), Value: out.Cost})
	return out
}

var troubles = map[string]say.Words{
	"rotation": "The same family again", "feeder": "Heavy feeders one after another", "too_shady": "Too shady", "too_sunny": "Too sunny",
	"apart": "Neighbours that are better apart", "near": "Without a neighbour they like", "unplaced": "Not placed",
}
