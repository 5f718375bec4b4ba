package pages

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/internal/face"
	"ulpa/internal/goals"
	"ulpa/internal/who"
)

// The drawing's measures.
const (
	left  = 150.0
	right = 720.0
	top   = 34.0
	laneH = 13.0
	roomH = 40.0
	wordW = 26.0 // a bar that is narrower has no word
)

type seasonView struct {
	Lead    string
	Goals   []goalView
	Chart   *chart
	Changes []string
	Tag     string
	Weeks   []weekView
	Wrong   []string
	ShortOf []string // what cannot be met, and why
	Any     bool
	Proof   string
}

func (seasonView) Title() say.Text { return say.T("Season") }

type goalView struct{ Name, Says, State, Mark, Path string }

type weekView struct {
	Name    string
	Now     bool
	Minutes string
	Does    []doView
}

type doView struct{ Day, Says string }

type chart struct {
	W, H, Base float64
	Months     []mark
	Closed     []box
	Rows       []row
	Bars       []bar
	Marks      []mark
	Today      float64
	Rooms      []roomView
}

type mark struct {
	X, Y float64
	Text string
}

type box struct{ X, W float64 }

type row struct {
	Name, Path, Mark string
	Y, H             float64
}

type bar struct {
	X, Y, W, H        float64
	Class, Word, Says string
}

type roomView struct {
	Name, Says, Line string
	Y, H, Limit      float64
	Full             []box
}

// stageWords are the stages on bars, and moves in words.
var stageWords = map[string]say.Words{plan.StageTray: "tray##stage", plan.StagePot: "pot##stage", plan.StageLast: "grows##stage"}

var whyWords = map[string]say.Words{
	plan.Impossible: "no day and place would do, even alone: too soon, closed, or nowhere to stand",
	plan.NotWorth:   "it would cost more waiting than it is worth", plan.CrowdedOut: "there is not room or hands for it beside the others",
}

func viewOf(o goals.Outlook, w who.Who, f face.Form) seasonView {
	r := w.Prefs
	v := seasonView{Changes: r.All(o.Changes), Tag: o.Tag, Any: len(o.Lines) > 0, Wrong: f.Rest()}
	met, all := 0, 0
	for _, l := range o.Lines {
		c, _ := crop.Of(l.Goal.Crop)
		g := goalView{Name: l.Goal.Name, Path: "/settings/goals?edit=" + l.Goal.ID.String() + "#form", Mark: "done", State: r.T("can be met")}
		g.Says = r.T("%d %s, by %s", l.Goal.Wanted, say.Lower(c.Name), l.Goal.By.Short())
		if l.Goal.Kind == "weekly" {
			g.Says = r.T("%d %s a week, until %s", l.Goal.Wanted, say.Lower(c.Name), l.Goal.By.Short())
		}
		all++
		if n := l.Missed(); n > 0 {
			g.Mark, g.State = "now", r.T("%d of %d cannot", n, len(l.Batches))
			for _, b := range l.Batches {
				if b.Why != "" {
					v.ShortOf = append(v.ShortOf, shortOf(l.Goal.Name, b, r))
				}
			}
		} else {
			met++
		}
		v.Goals = append(v.Goals, g)
	}
	switch {
	case !v.Any:
		v.Lead = r.T("No goal yet. Say what the season is for, and Ulpa reckons back to the days to sow.")
	case met == all:
		v.Lead = r.T("All %d goals can be met.", all)
	default:
		v.Lead = r.T("%d of %d goals can be met in full.", met, all)
	}
	if v.Any {
		v.Proof = r.T("No plan could lose less than %s points; this one loses %s, within %.1f %%.", points(r, o.Bound), points(r, o.Cost), 100*o.Gap)
		v.Chart = draw(o, r)
		v.Weeks = weeks(o, r)
	}
	return v
}

// shortOf says why a batch cannot be, and on which days it could.
func shortOf(goal string, b goals.Batch, r say.Reader) string {
	says := say.T("%s, for %s: %s.", say.Name(goal), b.By.Short(), whyWords[b.Why])
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

// x is where a day is on the drawing.
func x(o goals.Outlook, d calendar.Day) float64 {
	return left + (right-left)*float64(d-o.First)/float64(7*o.Weeks)
}

func draw(o goals.Outlook, r say.Reader) *chart {
	c := &chart{W: right, Today: x(o, o.Today)}
	y := top
	for _, l := range o.Lines {
		lanes := []calendar.Day{}
		from := y
		for _, b := range l.Batches {
			if b.Why != "" {
				c.Marks = append(c.Marks, mark{x(o, b.By), from + laneH - 3, "×"})
				continue
			}
			if len(b.Moves) == 0 {
				continue
			}
			lane := slices.IndexFunc(lanes, func(end calendar.Day) bool { return end < b.Moves[0].Day })
			if lane < 0 {
				lane = len(lanes)
				lanes = append(lanes, 0)
			}
			lanes[lane] = b.Ready + 1
			c.bars(o, b, r, from+laneH*float64(lane), l.Goal.Name)
		}
		h := laneH*math.Max(1, float64(len(lanes))) + 9
		state := "done"
		if l.Missed() > 0 {
			state = "now"
		}
		c.Rows = append(c.Rows, row{l.Goal.Name, "/settings/goals?edit=" + l.Goal.ID.String() + "#form", state, from, h})
		y += h
	}
	c.Base = y
	for d := o.First; d < o.First+calendar.Day(7*o.Weeks); d += 7 {
		t := d.UTC()
		switch {
		case d == o.First: // today stands there
		case t.Day() <= 7:
			c.Months = append(c.Months, mark{x(o, d), top - 18, r.Say(say.Date(t, "Jan"))})
		case o.Weeks <= 26 && int(d-o.First)/7%2 == 0:
			c.Months = append(c.Months, mark{x(o, d), top - 18, fmt.Sprint(t.Day())})
		}
	}
	for _, cl := range o.Closures {
		from, to := max(cl.From, o.First), min(cl.To+1, o.First+calendar.Day(7*o.Weeks))
		if to > from {
			c.Closed = append(c.Closed, box{x(o, from), x(o, to) - x(o, from)})
		}
	}
	c.rooms(o, r, y+22)
	return c
}

func (c *chart) bars(o goals.Outlook, b goals.Batch, r say.Reader, y float64, goal string) {
	for i, m := range b.Moves {
		end := b.Ready
		if i+1 < len(b.Moves) {
			end = b.Moves[i+1].Day
		}
		from := max(m.Day, o.First)
		if end <= from {
			continue
		}
		one := bar{X: x(o, from), Y: y, W: x(o, end) - x(o, from), H: laneH - 2, Class: m.Stage}
		one.Says = r.T("%s: %s at %s, %s to %s", say.Name(goal), stageWords[m.Stage], say.Name(m.Place), m.Day.Short(), end.Short())
		if one.W > wordW {
			one.Word = r.Say(stageWords[m.Stage])
		}
		c.Bars = append(c.Bars, one)
	}
	c.Marks = append(c.Marks, mark{x(o, b.Ready), y + laneH - 3, "◆"})
}

func (c *chart) rooms(o goals.Outlook, r say.Reader, y float64) {
	strip := func(name, says string, size float64, weeks []float64) {
		most := size
		for _, v := range weeks {
			most = math.Max(most, v)
		}
		if most <= 0 {
			return
		}
		v := roomView{Name: name, Says: says, Y: y, H: roomH - 12, Limit: y + (roomH-12)*(1-size/most)}
		var path strings.Builder
		fmt.Fprintf(&path, "M%.1f %.1f", left, y+v.H)
		for i, n := range weeks {
			h := y + v.H*(1-n/most)
			a, z := x(o, o.First+calendar.Day(7*i)), x(o, o.First+calendar.Day(7*i+7))
			fmt.Fprintf(&path, "L%.1f %.1fL%.1f %.1f", a, h, z, h)
			if n > size+1e-6 {
				v.Full = append(v.Full, box{a, z - a})
			}
		}
		fmt.Fprintf(&path, "L%.1f %.1fZ", right, y+v.H)
		v.Line = path.String()
		c.Rooms = append(c.Rooms, v)
		y += roomH
	}
	for _, room := range o.Rooms {
		most := slices.Max(room.Weeks)
		strip(room.Name, r.T("%.0f of %.0f", most, room.Size), room.Size, room.Weeks)
	}
	if o.PerWeek > 0 {
		strip(r.T("Minutes for moves"), r.T("%.0f of %.0f", slices.Max(o.Minutes), o.PerWeek), o.PerWeek, o.Minutes)
	}
	c.H = y + 6
}

// weeks is the plain list: what to do in each week.
func weeks(o goals.Outlook, r say.Reader) (out []weekView) {
	type deed struct {
		on   calendar.Day
		says string
	}
	var all []deed
	for _, l := range o.Lines {
		c, _ := crop.Of(l.Goal.Crop)
		for _, b := range l.Batches {
			if b.Why != "" {
				continue
			}
			what := say.T("%d %s (%s)", b.Plants, say.Lower(c.Name), say.Name(l.Goal.Name))
			for i, m := range b.Moves {
				word := goals.MoveWords[m.Stage]
				if i == 0 {
					word = goals.MoveWords[plan.StageTray]
					what := say.T("%s in %s", what, say.Plural(b.Cells, "cell"))
					if !b.Sown {
						all = append(all, deed{m.Day, r.T(word, what, say.Name(m.Place))})
					}
					continue
				}
				all = append(all, deed{m.Day, r.T(word, what, say.Name(m.Place))})
			}
			all = append(all, deed{b.Ready, r.T("Ready: %s", what)})
		}
	}
	slices.SortStableFunc(all, func(a, b deed) int { return int(a.on - b.on) })
	for i := range o.Weeks {
		from := o.First + calendar.Day(7*i)
		v := weekView{Name: r.T("Week of %s", from.Short()), Now: i == 0}
		if o.PerWeek > 0 && o.Minutes[i] > 0 {
			v.Minutes = r.T("%.0f of %.0f min", o.Minutes[i], o.PerWeek)
		}
		for _, d := range all {
			if d.on >= max(from, o.Today) && d.on < from+7 {
				v.Does = append(v.Does, doView{r.Say(say.Date(d.on.UTC(), "Mon 2 Jan")), d.says})
			}
		}
		if v.Does != nil {
			out = append(out, v)
		}
	}
	return out
}
