package pages

import (
	"net/url"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/goals"
)

// seasonView is the plan beside what was kept, with what it would change.
type seasonView struct {
	Called  string // the season: its term
	Lead    string
	Goals   []goalView
	Chart   *chart
	Zooms   []zoomView
	Shown   string // which weeks, where not all are
	Ask     asked
	Places  []string
	Crops   []goalView // as choices
	Changes []string
	Tag     string
	Batch   *batchView
	Weeks   []weekView
	Wrong   []string
	ShortOf []shortView // what cannot be met, and why
	Any     bool
	Proof   string
}

func (seasonView) Title() say.Text { return say.T("Season") }

// goalView is a goal in the list.
type goalView struct{ ID, Name, Says, State, Mark, Path string }

// shortView is a batch that cannot be grown, with where its ways out stand.
type shortView struct{ Says, Path string }

// asked is which part of the season is looked at.
type asked struct {
	zoom, goal, place, crop string
	from                    calendar.Day
}

// Goal and Place are what the season is narrowed down to.
func (a asked) Goal() string  { return a.goal }
func (a asked) Place() string { return a.place }

// Crop is the crop that it is narrowed down to.
func (a asked) Crop() string { return a.crop }

// wants tells whether a goal is looked at.
func (a asked) wants(l goals.Line) bool {
	return (a.goal == "" || l.Goal.ID.String() == a.goal) && (a.crop == "" || l.Goal.Crop == a.crop)
}

// Zoomed is how much of the season is looked at.
func (v seasonView) Zoomed() string { return v.Ask.zoom }

// shows tells whether a goal's batch is looked at.
func (a asked) shows(l goals.Line, b goals.Batch) bool {
	if !a.wants(l) {
		return false
	}
	return a.place == "" || slices.ContainsFunc(b.Moves, func(m plan.Placed) bool { return m.Place == a.place })
}

// zoomView is how much of the season is shown.
type zoomView struct {
	Name, Path string
	On         bool
}

// window are the days that are drawn: all weeks, or those of a month or week.
func (a asked) window(o goals.Outlook) (first calendar.Day, weeks int) {
	first = o.First
	all := o.First + calendar.Day(7*o.Weeks)
	if a.from > first && a.from < all {
		first = a.from.Monday()
	}
	switch a.zoom {
	case "month":
		weeks = 5
	case "week":
		weeks = 1
	default:
		return o.First, o.Weeks
	}
	return first, min(weeks, int(all-first)/7)
}

func (a asked) path(zoom string, from calendar.Day) string {
	q := url.Values{}
	for _, p := range [][2]string{{"zoom", zoom}, {"goal", a.goal}, {"place", a.place}, {"crop", a.crop}} {
		if p[1] != "" {
			q.Set(p[0], p[1])
		}
	}
	if from > 0 && zoom != "" {
		q.Set("from", from.String())
	}
	return "/season?" + q.Encode()
}

func (a asked) zooms(o goals.Outlook, r say.Reader) (out []zoomView) {
	first, weeks := a.window(o)
	for _, z := range []struct {
		key  string
		name say.Words
	}{{"", "All"}, {"month", "Month"}, {"week", "Week##zoom"}} {
		out = append(out, zoomView{r.Say(z.name), a.path(z.key, first), z.key == a.zoom})
	}
	if weeks < o.Weeks {
		if first > o.First {
			out = append(out, zoomView{Name: r.T("Before"), Path: a.path(a.zoom, max(o.First, first-calendar.Day(7*weeks)))})
		}
		if first+calendar.Day(7*weeks) < o.First+calendar.Day(7*o.Weeks) {
			out = append(out, zoomView{Name: r.T("After"), Path: a.path(a.zoom, first+calendar.Day(7*weeks))})
		}
	}
	return out
}

// missingWords are what missing a goal means, beside it.
var missingWords = map[string]say.Words{plan.Must: "must##missing", plan.Should: "should##missing", plan.Nice: "nice##missing"}

func viewOf(o goals.Outlook, w who.Who, f *face.Form, a asked) seasonView {
	r := w.Prefs
	v := seasonView{Called: r.T("Season"), Changes: r.All(o.Changes), Tag: o.Tag, Any: len(o.Lines) > 0, Wrong: f.Rest(), Ask: a}
	if term := o.School.Term(o.Today); term != "" {
		v.Called = r.Say(say.Name(term))
	}
	met, all := 0, 0
	for _, l := range o.Lines {
		g := goalOf(l, r)
		all++
		if g.Mark != "now" {
			met++
		}
		for _, b := range l.Batches {
			if b.Why != "" {
				v.ShortOf = append(v.ShortOf, shortView{shortOf(l.Goal.Name, b, r), "/season?batch=" + b.ID.String() + "#batch"})
			}
		}
		v.Goals = append(v.Goals, g)
		if !slices.ContainsFunc(v.Crops, func(c goalView) bool { return c.ID == l.Goal.Crop }) {
			v.Crops = append(v.Crops, goalView{ID: l.Goal.Crop, Name: r.Say(l.Crop.Name)})
		}
	}
	switch {
	case !v.Any:
		v.Lead = r.T("No goal yet. Say what the season is for, and Ulpa works back to the days to sow.")
	case met == all && all == 1:
		v.Lead = r.T("The goal can be met.")
	case met == all:
		v.Lead = r.T("All %d goals can be met.", all)
	default:
		v.Lead = r.T("%d of %d goals can be met in full.", met, all)
	}
	if v.Any {
		v.Proof = r.T("No plan could lose fewer than %s points; this one loses %s, within %.1f\u00a0%% of that.", points(r, o.Bound), points(r, o.Cost), 100*o.Gap)
		v.Chart = draw(o, r, a)
		v.Zooms = a.zooms(o, r)
		v.Weeks = weeks(o, r, a)
		for _, p := range o.Rooms {
			v.Places = append(v.Places, p.Name)
		}
	}
	return v
}

// goalOf is a goal with how it stands.
func goalOf(l goals.Line, r say.Reader) goalView {
	g := goalView{
		ID: l.Goal.ID.String(), Name: l.Goal.Name, Path: "/settings/goals?edit=" + l.Goal.ID.String() + "#form", Mark: "done", State: r.T("can be met"),
	}
	g.Says = r.T("%s, by %s", l.Goal.Wants(), l.Goal.By.Short())
	if l.Goal.Kind == "weekly" {
		g.Says = r.T("%s, until %s", l.Goal.Wants(), l.Goal.By.Short())
	}
	missed, late := l.Missed(), l.Late()
	again := slices.ContainsFunc(l.Batches, func(b goals.Batch) bool { return b.Again > 0 && !b.Sown && b.Why == "" })
	switch {
	case missed > 0:
		g.Mark, g.State = "now", r.T("%d of %d cannot", missed, len(l.Batches))
	case late > 0:
		g.Mark, g.State = "soon", r.T("%s behind", say.Plural(late, "day"))
	case again:
		g.Mark, g.State = "soon", r.T("sow again")
	}
	return g
}

// placeWords say where a stage stands.
var placeWords = map[string]say.Words{
	plan.StageTray: "in its tray", plan.StagePot: "in its pots", plan.StageHarden: "hardening off",
	plan.StageLast: "at its last place",
}

// becauseSays says why a batch cannot be, by name.
func becauseSays(b goals.Batch) say.Text {
	c := b.Cause
	switch {
	case c.Kind == "":
		return say.T("there is no day and place for it")
	case c.Kind == plan.CauseNowhere:
		return say.T("no place has room for all of it %s", placeWords[c.Stage])
	case c.Kind == plan.CauseSoon:
		return say.T("it is too early: it needs at least %s", say.Plural(c.Days, "day"))
	case c.Kind == plan.CauseFrost && c.From == 0:
		return say.T("it must not be outside so late, because of autumn frost")
	case c.Kind == plan.CauseFrost:
		return say.T("it must not be outside before %s, because of frost", c.From.Short())
	case c.Kind == plan.CauseClosed && c.From > 0:
		return say.T("nobody is here from %s to %s, and it cannot wait so long", c.From.Short(), c.To.Short())
	case c.Kind == plan.CauseClosed:
		return say.T("nobody works on the days on which it would have to be sown, moved or ready")
	case c.Kind == plan.CausePinned:
		return say.T("your setting cannot be followed")
	case c.Kind == plan.CauseRoom && c.From == c.To:
		return say.T("%s has no room for it on %s", say.Name(c.Place), c.From.Short())
	case c.Kind == plan.CauseRoom:
		return say.T("%s has no room for it from %s to %s", say.Name(c.Place), c.From.Short(), c.To.Short())
	case c.Kind == plan.CauseMinutes && c.From > 0:
		return say.T("there are no minutes left for it on %s", c.From.Short())
	case c.Kind == plan.CauseMinutes:
		return say.T("there are too few minutes for it")
	}
	return say.T("waiting would cost more than it is worth")
}

// shortOf says why a batch cannot be, and on which days it could.
func shortOf(goal string, b goals.Batch, r say.Reader) string {
	says := say.T("%s, for %s: %s.", say.Name(goal), b.By.Short(), becauseSays(b))
	switch {
	case b.Earlier > 0 && b.Later > 0:
		says = say.T("%s It could be ready on %s, or on %s.", says, b.Earlier.Short(), b.Later.Short())
	case b.Earlier > 0:
		says = say.T("%s It could be ready on %s.", says, b.Earlier.Short())
	case b.Later > 0:
		says = say.T("%s It could be ready on %s.", says, b.Later.Short())
	}
	return r.Say(says)
}

func points(r say.Reader, v float64) string { return r.Decimal("%.0f", v) }
