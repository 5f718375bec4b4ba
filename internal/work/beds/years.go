package beds

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/plan"
	"ulpa/core/rotation"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/timer"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/goals"
	"ulpa/internal/work/site"
)

// Rule is how a school rotates its beds.
type Rule struct {
	YearsApart int
	Way        string // strict, advise or off
}

// UsualRule is it where nothing was said.
var UsualRule = Rule{rotation.UsualYears, "advise"}

// Grown is a crop that stood in a section in a year.
type Grown struct {
	ID, Section uuid.UUID
	Year        int
	Crop        crop.Crop
	How         string       // whole, between the rows of another, or later in a gap kept for it
	From        calendar.Day // when it is set there; 0: not said
	// Until is when what stands between the rows of another has to be out, and Of that other;
	// 0: nobody said when the other was set there.
	Until calendar.Day
	Of    crop.Crop
}

// Put is a crop that is put into a section: all of it, between the rows of another until
// that needs the room, or later, into a gap that is kept for it.
type Put struct {
	Section uuid.UUID
	Crop    string
	How     string // "": whole
	From    calendar.Day
}

// hows are the ways in which a crop has a section.
var hows = []string{"whole", "between", "later"}

// Planted is a batch that stands in a bed, of which it is not told in which section.
type Planted struct {
	Place uuid.UUID
	Code  string
	Crop  crop.Crop
}

// Want is a crop that is to stand in so many sections.
type Want struct {
	Crop     crop.Crop
	Sections int
}

// Bed is a bed with its sections.
type Bed struct {
	site.Place
	Sections []Section
}

// Outlook is the beds in a year, and before.
type Outlook struct {
	Year    int
	Beds    []Bed
	Grown   []Grown
	Planted []Planted
	Rule    Rule
	Wants   []Want
	Book    crops.Book
	Plan    *rotation.Plan // nil: nothing is wanted, or there is nowhere
	order   []Section      // as in the plan
}

// Asked is which year is looked at, and what is wanted in it; no wants: by the goals.
type Asked struct {
	Year  int
	Wants []Want
}

// Look reads the beds and works out where crops are best put.
func Look(ctx context.Context, s *store.Store, w who.Who, a Asked) (o Outlook, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		o, err = look(ctx, tx, a)
		return err
	})
	return o, err
}

func look(ctx context.Context, tx *store.Tx, a Asked) (Outlook, error) {
	o := Outlook{Year: a.Year, Rule: UsualRule, Wants: a.Wants}
	year := tx.Who.Day(tx.Now).UTC().Year()
	if o.Year == 0 {
		o.Year = year
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return o, err
	}
	o.Book = book
	places, err := site.Places(ctx, tx)
	if err != nil {
		return o, err
	}
	all, err := sections(ctx, tx)
	if err != nil {
		return o, err
	}
	for _, p := range places {
		if p.Kind != "bed" || p.Retired {
			continue
		}
		b := Bed{Place: p}
		for _, s := range all {
			if s.Place == p.ID && !s.Retired {
				b.Sections = append(b.Sections, s)
				o.order = append(o.order, s)
			}
		}
		o.Beds = append(o.Beds, b)
	}
	rows, err := tx.BedCrops(ctx)
	if err != nil {
		return o, err
	}
	for _, r := range rows {
		g := Grown{ID: r.ID, Section: r.SectionID, Year: r.Year, Crop: book.Find(r.Crop), How: r.How}
		if r.FromDay != nil {
			g.From = calendar.Of(*r.FromDay)
		}
		o.Grown = append(o.Grown, g)
	}
	rule, err := tx.BedRule(ctx)
	if err != nil {
		return o, err
	}
	for _, r := range rule {
		o.Rule = Rule{r.YearsApart, r.Way}
	}
	if o.Year == year {
		if err := o.planted(ctx, tx, book); err != nil {
			return o, err
		}
	}
	o.relay()
	if o.Wants == nil && o.Year >= year {
		if err := o.wanted(ctx, tx); err != nil {
			return o, err
		}
	}
	return o, o.work(ctx)
}

// relay works out until when crops may stand between the rows of others.
func (o *Outlook) relay() {
	for i := range o.Grown {
		g := &o.Grown[i]
		at := slices.IndexFunc(o.Grown, func(w Grown) bool { return w.Section == g.Section && w.Year == g.Year && w.How == "whole" })
		if g.How != "between" || at < 0 {
			continue
		}
		if g.Of = o.Grown[at].Crop; o.Grown[at].From > 0 {
			g.Until = o.Grown[at].From + calendar.Day(rotation.FillsAfter(g.Of))
		}
	}
}

// planted are the batches in beds of whose crop no section of the bed knows this year; where
// the bed has one section alone, it is known to stand there.
func (o *Outlook) planted(ctx context.Context, tx *store.Tx, book crops.Book) error {
	rows, err := tx.PlantedInBeds(ctx)
	for _, r := range rows {
		known := slices.ContainsFunc(o.Grown, func(g Grown) bool {
			at := slices.IndexFunc(o.order, func(s Section) bool { return s.ID == g.Section })
			return at >= 0 && o.order[at].Place == r.PlaceID && g.Crop.ID == r.Crop && g.Year == o.Year
		})
		if known {
			continue
		}
		// A bed of one section leaves no question where it stands.
		if i := slices.IndexFunc(o.Beds, func(b Bed) bool { return b.ID == r.PlaceID && len(b.Sections) == 1 }); i >= 0 {
			o.Grown = append(o.Grown, Grown{Section: o.Beds[i].Sections[0].ID, Year: o.Year, Crop: book.Find(r.Crop), How: "whole"})
			continue
		}
		o.Planted = append(o.Planted, Planted{r.PlaceID, r.Code, book.Find(r.Crop)})
	}
	return err
}

// wanted are the crops that the season's goals put into beds, a section for each goal.
func (o *Outlook) wanted(ctx context.Context, tx *store.Tx) error {
	season, err := goals.Ahead(ctx, tx)
	if err != nil {
		return err
	}
	bed := map[string]bool{}
	for _, b := range o.Beds {
		bed[b.Name] = true
	}
	for _, l := range season.Lines {
		in := l.Goal.Kind == "bed"
		for _, b := range l.Batches {
			for _, m := range b.Moves {
				in = in || m.Stage == plan.StageLast && bed[m.Place]
			}
		}
		at := slices.IndexFunc(o.Wants, func(w Want) bool { return w.Crop.ID == l.Goal.Crop })
		switch {
		case !in:
		case at >= 0:
			o.Wants[at].Sections++
		default:
			o.Wants = append(o.Wants, Want{l.Crop, 1})
		}
	}
	return nil
}

// effort is how long a plan of the beds is searched for: so many looks at the clock.
const effort = 400

var searched = timer.Holding[rotation.Plan]()

// work puts the crops into sections with least trouble.
func (o *Outlook) work(ctx context.Context) error {
	if len(o.order) == 0 || len(o.Wants) == 0 {
		return nil
	}
	in := rotation.Input{YearsApart: o.Rule.YearsApart, Strict: o.Rule.Way == "strict", Weights: rotation.UsualWeights}
	if o.Rule.Way == "off" {
		in.Weights.Rotation, in.YearsApart = 0, 0
	}
	for _, s := range o.order {
		x := rotation.Section{Name: s.ID.String(), Sun: s.Sun}
		for _, n := range o.order {
			if n.ID != s.ID && n.Place == s.Place && n.Rect().Beside(s.Rect()) {
				x.Neighbours = append(x.Neighbours, n.ID.String())
			}
		}
		for _, g := range o.Grown {
			if ago := o.Year - g.Year; g.Section == s.ID && ago >= 1 && ago <= 100 {
				x.History = append(x.History, rotation.Grew{YearsAgo: ago, Family: string(g.Crop.Family), Feeder: rotation.FeederOf(g.Crop)})
			}
		}
		in.Sections = append(in.Sections, x)
	}
	var list []crop.Crop
	var many []int
	for _, w := range o.Wants {
		list, many = append(list, w.Crop), append(many, w.Sections)
	}
	in.Wants = rotation.Wants(list, many)
	p, err := searched.Search(ctx, in, effort, func(spent func() float64) (rotation.Plan, error) { return rotation.Best(in, spent) })
	o.Plan = &p
	return err
}

// Planned is what the plan puts into a section, and the troubles there.
func (o Outlook) Planned(section uuid.UUID) (c crop.Crop, troubles []rotation.Penalty, ok bool) {
	at := slices.IndexFunc(o.order, func(s Section) bool { return s.ID == section })
	if o.Plan == nil || at < 0 || o.Plan.Crops[at] == "" {
		return c, nil, false
	}
	for _, w := range o.Wants {
		if w.Crop.ID == o.Plan.Crops[at] {
			c, ok = w.Crop, true
		}
	}
	for _, p := range o.Plan.Penalties {
		if p.Section == section.String() {
			troubles = append(troubles, p)
		}
	}
	return c, troubles, ok
}

// NameOf is what a section is called.
func (o Outlook) NameOf(section string) string {
	for _, s := range o.order {
		if s.ID.String() == section {
			return s.Name
		}
	}
	return ""
}

// In is what stands or stood in a section in a year.
func (o Outlook) In(section uuid.UUID, year int) (out []Grown) {
	for _, g := range o.Grown {
		if g.Section == section && g.Year == year {
			out = append(out, g)
		}
	}
	return out
}

// Grew writes down what grew, or is to grow, in sections in a year; written twice it is
// there once. Added are those that were not there before.
func Grew(ctx context.Context, s *store.Store, w who.Who, year int, put []Put) (added []uuid.UUID, err error) {
	if err := w.Must(who.Plan); err != nil {
		return nil, err
	}
	var e field.Errors
	e.Require(year >= 1990 && year <= 2200, "year", "must be a year from 1990")
	e.Require(len(put) > 0, "section", "choose a section")
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		added = nil
		book, err := crops.Load(ctx, tx)
		if err != nil {
			return err
		}
		all, err := sections(ctx, tx)
		if err != nil {
			return err
		}
		for i := range put {
			p := &put[i]
			if p.How == "" {
				p.How = "whole"
			}
			e.Require(book.Has(p.Crop), "crop", "choose a crop")
			e.Require(slices.Contains(hows, p.How), "how", "must be one of these")
			e.Require(slices.ContainsFunc(all, func(s Section) bool { return s.ID == p.Section }), "section", "choose a section")
		}
		if err := e.Err(); err != nil {
			return err
		}
		for _, p := range put {
			row := db.PutBedCropParams{
				SchoolID: w.School, ID: uuid.NewSHA1(p.Section, fmt.Appendf(nil, "%d %s", year, p.Crop)), SectionID: p.Section, Year: year, Crop: p.Crop, How: p.How,
			}
			if p.From > 0 {
				d := p.From.UTC()
				row.FromDay = &d
			}
			fresh, err := tx.PutBedCrop(ctx, row)
			if err != nil {
				return err
			}
			if fresh {
				added = append(added, row.ID)
			}
		}
		return trail.Write(ctx, tx, "Wrote down what grows in the beds in %d: %s", year, say.Plural(len(put), "section"))
	})
	return added, err
}

// Forget undoes that crops grew in sections.
func Forget(ctx context.Context, s *store.Store, w who.Who, ids ...uuid.UUID) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		for _, id := range ids {
			if err := tx.DropBedCrop(ctx, id); err != nil {
				return err
			}
		}
		return trail.Write(ctx, tx, "Removed what grew in a bed")
	})
}

// SetRule sets how the school rotates.
func SetRule(ctx context.Context, s *store.Store, w who.Who, r Rule) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	var e field.Errors
	e.Require(r.YearsApart >= 0 && r.YearsApart <= 10, "years", "must be 0 to 10 years")
	e.Require(slices.Contains([]string{"strict", "advise", "off"}, r.Way), "way", "must be one of these")
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.PutBedRule(ctx, db.PutBedRuleParams{SchoolID: w.School, YearsApart: r.YearsApart, Way: r.Way}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Set the beds’ rule: %d years apart, %s", r.YearsApart, say.Name(r.Way))
	})
}
