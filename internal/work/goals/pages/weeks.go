package pages

import (
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/internal/work/goals"
)

// weekView is what is to be done in a week.
type weekView struct {
	Name    string
	Now     bool
	Minutes string
	Does    []doView
}

// doView is one thing to do, on its day.
type doView struct{ Day, Says, Whom, Path string }

// weeks is the plain list: what to do in each week, and who has the day.
func weeks(o goals.Outlook, r say.Reader, a asked) (out []weekView) {
	type deed struct {
		on   calendar.Day
		says string
		path string
	}
	var all []deed
	var sown sowings
	for _, l := range o.Lines {
		c := l.Crop
		for _, b := range l.Batches {
			if b.Why != "" || b.Wish.Skip || !a.shows(l, b) {
				continue
			}
			path := "/season?batch=" + b.ID.String() + "#batch"
			what := say.T("%s (%s)", say.Many(b.Plants, say.Lower(c.Name)), say.Name(l.Goal.Name))
			for i, m := range b.Moves {
				word := goals.MoveWords[m.Stage]
				if i == 0 {
					if !b.Sown {
						sown.add(m, l, b, path)
					}
					continue
				}
				all = append(all, deed{m.Day, r.T(word, what, say.Name(m.Place)), path})
			}
			all = append(all, deed{b.Ready, r.T("Ready: %s", what), path})
		}
	}
	for _, x := range sown {
		all = append(all, deed{x.on, r.Say(x.says(o.School)), x.path})
	}
	slices.SortStableFunc(all, func(a, b deed) int { return int(a.on - b.on) })
	first, n := a.window(o)
	for i := range n {
		from := first + calendar.Day(7*i)
		week := int(from-o.First) / 7
		v := weekView{Name: r.T("Week of %s", from.Short()), Now: week == 0}
		if o.There[week] > 0 && o.Minutes[week] > 0 {
			v.Minutes = r.T("%.0f of %.0f min", o.Minutes[week], o.There[week])
		}
		for _, d := range all {
			if d.on >= max(from, o.Today) && d.on < from+7 {
				v.Does = append(v.Does, doView{r.Say(say.Date(d.on.UTC(), "Mon 2 Jan")), d.says, o.School.Whom(d.on), d.path})
			}
		}
		if v.Does != nil {
			out = append(out, v)
		}
	}
	return out
}

// sowing is what is sown of a crop for a goal in one place on one day: one line, though it is for
// several weeks.
type sowing struct {
	on            calendar.Day
	line          goals.Line
	place, path   string
	plants, cells int
	times         int
	until         calendar.Day // for which the last of them is
}

// sowings are those of the weeks that are looked at.
type sowings []*sowing

func (s *sowings) add(m plan.Placed, l goals.Line, b goals.Batch, path string) {
	i := slices.IndexFunc(*s, func(x *sowing) bool { return x.on == m.Day && x.place == m.Place && x.line.Goal.ID == l.Goal.ID })
	if i < 0 {
		i = len(*s)
		*s = append(*s, &sowing{on: m.Day, line: l, place: m.Place, path: path})
	}
	x := (*s)[i]
	x.plants, x.cells, x.times, x.until = x.plants+b.Plants, x.cells+b.Cells, x.times+1, max(x.until, b.Ready)
}

// before is for how many days ahead a closure of a school week or more is why several are sown on one day.
const (
	before = 21
	week   = 5
)

// says is the sowing in a line, and why it is for several weeks at once.
func (x sowing) says(school calendar.School) say.Text {
	what := say.T("%s (%s)", say.Many(x.plants, say.Lower(x.line.Crop.Name)), say.Name(x.line.Goal.Name))
	says := say.T(goals.MoveWords[plan.StageTray], say.T("%s in %s", what, say.Plural(x.cells, "cell")), say.Name(x.place))
	if x.times == 1 {
		return says
	}
	for _, c := range school.Closures {
		if c.From > x.on && c.From <= x.on+before && c.To-c.From >= week-1 {
			return say.T("%s: %d sowings at once, before nobody is here from %s", says, x.times, c.From.Short())
		}
	}
	return say.T("%s: %d sowings at once, the last for %s", says, x.times, x.until.Short())
}
