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
					word = goals.MoveWords[plan.StageTray]
					what := say.T("%s in %s", what, say.Plural(b.Cells, "cell"))
					if !b.Sown {
						all = append(all, deed{m.Day, r.T(word, what, say.Name(m.Place)), path})
					}
					continue
				}
				all = append(all, deed{m.Day, r.T(word, what, say.Name(m.Place)), path})
			}
			all = append(all, deed{b.Ready, r.T("Ready: %s", what), path})
		}
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
