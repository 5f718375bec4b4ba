package pages

import (
	"strconv"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/core/rotation"
	"ulpa/core/say"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/beds"
	"ulpa/internal/work/crops"
)

// pastYears are drawn before the one that is looked at.
const pastYears = 3

// bedsView is the beds over the years, and what could come into them.
type bedsView struct {
	Lead    string
	Year    int
	Years   []yearView
	Maps    []mapView
	Any     bool // there are sections
	History []historyView
	Past    []int
	Puts    []putView // what the plan puts where
	Unput   []string
	Proof   string
	Wants   []wantView
	Crops   []option
	Planted []plantedView
	Rule    beds.Rule
	F       *face.Form
	May     bool
}

func (bedsView) Title() say.Text { return say.T("Beds over the years") }

// yearView is a year of all sections.
type yearView struct {
	Year int
	On   bool
}

// mapView is a bed to scale: a unit of the drawing is a centimetre.
type mapView struct {
	Name, Box string
	L, W      float64
	Boxes     []sectionView
}

// sectionView is a section, with what grew and may grow in it.
type sectionView struct {
	X, Y, L, W, TextX, TextY float64
	Name, Crop, Says         string
	Class                    string
}

// historyView is what a section had in one year.
type historyView struct {
	ID, Name string
	Years    []cellView
}

// cellView is a crop in a section and a year.
type cellView struct {
	Year  int
	Crops []grownView
}

// grownView is something that grew, and can be taken out again.
type grownView struct{ ID, Name string }

// putView is a crop that is put into a section, and why there.
type putView struct {
	Section, SectionName, Crop, CropName string
	Troubles                             []string
	Between                              string // what may stand between its rows at first
}

// wantView is a crop that is wanted in the beds.
type wantView struct {
	ID       string
	Sections int
}

// option is one of those to choose.
type option struct{ ID, Name string }

// plantedView is what is in a section now.
type plantedView struct {
	Code, Crop, CropName string
	Sections             []option
}

func viewOf(o beds.Outlook, book crops.Book, w who.Who, f *face.Form) bedsView {
	r := w.Prefs
	v := bedsView{Year: o.Year, Rule: o.Rule, F: f, May: w.Must(who.Plan) == nil}
	now := o.Year
	for y := now - pastYears; y <= now+1; y++ {
		v.Years = append(v.Years, yearView{y, y == now})
	}
	for y := now - 1; y >= now-pastYears; y-- {
		v.Past = append(v.Past, y)
	}
	for _, c := range book.Listed(r) {
		if c.Suits("bed") {
			v.Crops = append(v.Crops, option{c.ID, r.Say(c.Name)})
		}
	}
	for _, x := range o.Wants {
		v.Wants = append(v.Wants, wantView{x.Crop.ID, x.Sections})
	}
	if v.May {
		v.Wants = append(v.Wants, wantView{}, wantView{}, wantView{})
	}
	troubled := 0
	for _, b := range o.Beds {
		if len(b.Sections) == 0 {
			continue
		}
		v.Any = true
		v.Maps = append(v.Maps, mapOf(o, b, r))
		for _, s := range b.Sections {
			h := historyView{ID: s.ID.String(), Name: s.Name}
			for y := now; y >= now-pastYears; y-- {
				cell := cellView{Year: y}
				for _, g := range o.In(s.ID, y) {
					one := grownView{Name: r.Say(grownSays(g))}
					if g.ID != uuid.Nil { // what stands there now is not undone here
						one.ID = g.ID.String()
					}
					cell.Crops = append(cell.Crops, one)
				}
				h.Years = append(h.Years, cell)
			}
			v.History = append(v.History, h)
			if c, troubles, ok := o.Planned(s.ID); ok {
				p := putView{Section: s.ID.String(), SectionName: s.Name, Crop: c.ID, CropName: r.Say(c.Name), Between: betweenSays(c, book, r)}
				for _, t := range troubles {
					p.Troubles = append(p.Troubles, r.Say(troubleSays(o, book, t)))
				}
				if p.Troubles != nil {
					troubled++
				}
				v.Puts = append(v.Puts, p)
			}
		}
	}
	v.fillPlan(o, book, troubled, r)
	for _, p := range o.Planted {
		x := plantedView{Code: p.Code, Crop: p.Crop.ID, CropName: r.Say(p.Crop.Name)}
		for _, b := range o.Beds {
			for _, s := range b.Sections {
				if b.ID == p.Place {
					x.Sections = append(x.Sections, option{s.ID.String(), s.Name})
				}
			}
		}
		if x.Sections != nil {
			v.Planted = append(v.Planted, x)
		}
	}
	return v
}

// fillPlan says how good the plan is, and what finds no section.
func (v *bedsView) fillPlan(o beds.Outlook, book crops.Book, troubled int, r say.Reader) {
	switch {
	case !v.Any:
		v.Lead = r.T("No section of a bed has been entered yet. Once there are some, this page draws what grew where and what may follow.")
	case len(v.Puts) == 0 && o.Wants == nil:
		v.Lead = r.T("What grew in %d, as far as it was written down.", o.Year)
	case len(v.Puts) == 0:
		v.Lead = r.T("Say what is to grow in %d, and Ulpa finds the sections with the fewest problems.", o.Year)
	case troubled == 0:
		v.Lead = r.T("Everything fits in %d without trouble.", o.Year)
	default:
		v.Lead = r.T("In %d of %d sections there is something to look at.", troubled, len(v.Puts))
	}
	if o.Plan == nil {
		return
	}
	for _, p := range o.Plan.Penalties {
		if p.Code == "unplaced" {
			v.Unput = append(v.Unput, r.T("No section left for %s.", book.Find(p.Crop).Name))
		}
	}
	v.Proof = r.T("No arrangement with fewer problems was found.")
	if o.Plan.Proven {
		v.Proof = r.T("No other arrangement has fewer problems; that is proven.")
	}
}

// grownSays is a crop in a section, with how it has it.
func grownSays(g beds.Grown) say.Text {
	switch {
	case g.How == "between" && g.Until > 0:
		return say.T("%s in between, out by %s", g.Crop.Name, g.Until.Short())
	case g.How == "between" && g.Of.ID != "":
		return say.T("%s in between, out when %s has grown for %s", g.Crop.Name, say.Lower(g.Of.Name), say.Plural(rotation.FillsAfter(g.Of), "day"))
	case g.How == "between":
		return say.T("%s in between", g.Crop.Name)
	case g.How == "later" && g.From > 0:
		return say.T("%s from %s", g.Crop.Name, g.From.Short())
	case g.How == "later":
		return say.T("%s later", g.Crop.Name)
	}
	return g.Crop.Name
}

// betweenSays is what may stand between a crop's rows until it needs the room.
func betweenSays(c crop.Crop, book crops.Book, r say.Reader) string {
	var names []string
	for _, o := range rotation.Between(c, book.Listed(r)) {
		names = append(names, r.Say(say.Lower(o.Name)))
	}
	if names == nil {
		return ""
	}
	return r.T("Between its rows for its first %d days: %s.", rotation.FillsAfter(c), say.Name(strings.Join(names, ", ")))
}

// troubleSays says a trouble, and how well it is supported that it is one.
func troubleSays(o beds.Outlook, book crops.Book, p rotation.Penalty) say.Text {
	says := say.T("something else")
	switch p.Code {
	case "rotation":
		says = say.T("its family grew here within %s: pests and diseases in the soil will find it again", say.Plural(o.Rule.YearsApart, "year"))
	case "feeder":
		says = say.T("what grew here took a lot from the soil: feed it, or give it compost")
	case "too_shady":
		says = say.T("it would like more sun")
	case "too_sunny":
		says = say.T("it would like more shade")
	case "apart":
		says = say.T("beside a relative in %s: they share pests and diseases", say.Name(o.NameOf(p.Other)))
	case "near":
		says = say.T("no flowers beside it, which bring the insects that set its fruit")
	}
	if grade := rotation.EvidenceOf(p.Code); grade != "" {
		return say.T("%s (%s)", says, grade)
	}
	return says
}

// mapOf draws a bed with what is to stand in it, or stands.
func mapOf(o beds.Outlook, b beds.Bed, r say.Reader) mapView {
	m := mapView{Name: b.Name, L: b.LengthCM, W: b.WidthCM}
	for _, s := range b.Sections {
		m.L, m.W = max(m.L, s.XCM+s.LengthCM), max(m.W, s.YCM+s.WidthCM)
	}
	m.Box = "-2 -2 " + strconv.Itoa(int(m.L)+4) + " " + strconv.Itoa(int(m.W)+4)
	for _, s := range b.Sections {
		x := sectionView{X: s.XCM, Y: m.W - s.YCM - s.WidthCM, L: s.LengthCM, W: s.WidthCM, Name: s.Name, Class: "free"}
		x.TextX, x.TextY = x.X+4, x.Y+10
		var names []string
		for _, g := range o.In(s.ID, o.Year) {
			names = append(names, r.Say(grownSays(g)))
			x.Class = "grows"
		}
		if c, troubles, ok := o.Planned(s.ID); ok && names == nil {
			names = []string{r.Say(c.Name)}
			x.Class = "meant"
			if len(troubles) > 0 {
				x.Class = "meant doubted"
			}
		}
		x.Crop = strings.Join(names, ", ")
		x.Says = r.T("%s: nothing", say.Name(s.Name))
		if x.Crop != "" {
			x.Says = r.T("%s: %s", say.Name(s.Name), say.Name(x.Crop))
		}
		m.Boxes = append(m.Boxes, x)
	}
	return m
}
