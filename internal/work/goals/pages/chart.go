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
	"ulpa/internal/work/goals"
)

// The drawing's measures.
const (
	left  = 176.0
	right = 720.0
	top   = 42.0
	laneH = 15.0
	rowH  = 32.0 // of a goal, at least: its name and what it wants
	roomH = 42.0
	charW = 5.7 // of a word on a bar
)

// chart is the season drawn by days.
type chart struct {
	W, H, Base, Left float64
	PerDay           float64 // how far a day is, for whoever draws a bar along
	Months           []mark
	Terms            []mark
	Closed           []box
	Frosty           []frosty // weeks in which frost is still to come, or has come already
	Rows             []row
	Bars             []bar
	Marks            []mark
	Today            float64 // 0: not in the window
	Rooms            []roomView
	first            calendar.Day
	days             int
}

// mark is a line in the chart with its name.
type mark struct {
	X, Y float64
	Text string
}

// box is a stretch of days.
type box struct{ X, W float64 }

// frosty is a stretch of weeks with frost: more often than the school accepts, or now and then.
type frosty struct {
	box
	Much bool
}

// row is a goal in the chart, with its batches below one another.
type row struct {
	Name, Says, Path, Mark string
	Y, H                   float64
}

// bar is a batch in the chart, stage by stage.
type bar struct {
	X, Y, W, H              float64
	Class, Word, Says, Path string
	Batch, Stage, Day       string // what is moved by drawing it along; "": it has begun
	On                      bool   // its batch is looked at
}

// roomView is how full a place is, week by week.
type roomView struct {
	Name, Says, Line string
	Y, H, Limit      float64
	Full             []box
}

// stageWords are the stages on bars, and moves in words.
var stageWords = map[string]say.Words{
	plan.StageTray: "tray##stage", plan.StagePot: "pot##stage", plan.StageHarden: "hardens##stage",
	plan.StageLast: "grows##stage",
}

// x is where a day is on the drawing.
func (c *chart) x(d calendar.Day) float64 { return c.Left + float64(d-c.first)*c.PerDay }

// clip is the part of a run of days that is drawn.
func (c *chart) clip(from, to calendar.Day) (x, w float64, ok bool) {
	from, to = max(from, c.first), min(to, c.first+calendar.Day(c.days))
	return c.x(from), float64(to-from) * c.PerDay, to > from
}

func (c *chart) shows(d calendar.Day) bool { return d >= c.first && d < c.first+calendar.Day(c.days) }

func draw(o goals.Outlook, r say.Reader, a asked) *chart {
	first, weeks := a.window(o)
	c := &chart{W: right, Left: left, PerDay: (right - left) / float64(7*weeks), first: first, days: 7 * weeks}
	if c.shows(o.Today) {
		c.Today = c.x(o.Today)
	}
	y := top
	for _, l := range o.Lines {
		if !a.wants(l) {
			continue
		}
		lanes := []calendar.Day{}
		from := y
		for _, b := range l.Batches {
			switch {
			case b.Wish.Skip || !a.shows(l, b) && b.Why == "":
				continue
			case b.Why != "":
				if c.shows(b.By) {
					c.Marks = append(c.Marks, mark{c.x(b.By), from + laneH - 3, "×"})
				}
				continue
			case len(b.Moves) == 0:
				continue
			}
			lane := slices.IndexFunc(lanes, func(end calendar.Day) bool { return end < b.Moves[0].Day })
			if lane < 0 {
				lane = len(lanes)
				lanes = append(lanes, 0)
			}
			lanes[lane] = b.Ready + 2
			c.bars(l.Goal, b, r, from+laneH*float64(lane))
		}
		g, of := goalOf(l, r), l.Goal
		says := r.T("%s, %s", of.Wants(), missingWords[of.Missing])
		h := math.Max(rowH, laneH*float64(len(lanes))) + 8
		c.Rows = append(c.Rows, row{of.Name, says, g.Path, g.Mark, from, h})
		y += h
	}
	c.Base = y
	c.axis(o, r)
	c.rooms(o, r, a, y+18)
	return c
}

// axis marks months, days, terms and closed days.
func (c *chart) axis(o goals.Outlook, r say.Reader) {
	free := 0.0 // from where on nothing is written yet
	for d := c.first; d < c.first+calendar.Day(c.days); d++ {
		t := d.UTC()
		says, wide := r.Say(say.Date(t, "2 Jan")), 44.0
		switch {
		case c.days <= 14:
			says, wide = r.Say(d.Short()), 70
		case d != d.Monday() || math.Abs(c.x(d)-c.Today) < 14:
			continue
		case t.Day() > 7 && d != c.first:
			says, wide = fmt.Sprint(t.Day()), 22
		}
		if c.x(d)+3 < free {
			continue
		}
		c.Months = append(c.Months, mark{c.x(d) + 3, top - 20, says})
		free = c.x(d) + 3 + wide
	}
	for _, cl := range o.School.Closures {
		if x, w, ok := c.clip(cl.From, cl.To+1); ok {
			c.Closed = append(c.Closed, box{x, w})
		}
	}
	c.frost(o)
	for _, t := range o.School.Terms {
		if x, w, ok := c.clip(t.From, t.To+1); ok && w > 60 {
			c.Terms = append(c.Terms, mark{x + 3, top - 6, r.Say(say.Name(t.Name))})
		}
	}
}

// frostNoted is from which share of years on frost is drawn behind the weeks.
const frostNoted = 0.02

// frost draws behind the rows in which weeks it freezes, for what is tender.
func (c *chart) frost(o goals.Outlook) {
	for d := c.first.Monday(); d < c.first+calendar.Day(c.days); d += 7 {
		share, known := o.Frosts.Still(crop.TenderCrop, d)
		if !known {
			share, known = o.Frosts.Come(crop.TenderCrop, d+6)
		}
		if !known || share < frostNoted {
			continue
		}
		x, w, ok := c.clip(d, d+7)
		if last := len(c.Frosty) - 1; last >= 0 && c.Frosty[last].Much == (share > o.Frosts.Risk) && c.Frosty[last].X+c.Frosty[last].W > x-0.01 {
			c.Frosty[last].W += w
		} else if ok {
			c.Frosty = append(c.Frosty, frosty{box{x, w}, share > o.Frosts.Risk})
		}
	}
}

// bars are those of a batch: a stage at a place, lighter where it only waits.
func (c *chart) bars(goal goals.Setup, b goals.Batch, r say.Reader, y float64) {
	for i, m := range b.Moves {
		end := b.Ready
		if i+1 < len(b.Moves) {
			end = b.Moves[i+1].Day
		}
		grown := end
		for _, s := range b.Stages {
			if s.Name == m.Stage {
				grown = min(end, m.Day+calendar.Day(s.Days))
			}
		}
		x, w, ok := c.clip(m.Day, grown)
		one := bar{X: x, Y: y, W: w, H: laneH - 2, Class: m.Stage, Path: "/season?batch=" + b.ID.String() + "#batch"}
		one.Says = r.T("%s: %s at %s, %s to %s", say.Name(goal.Name), stageWords[m.Stage], say.Name(m.Place), m.Day.Short(), end.Short())
		if !b.Sown {
			one.Batch, one.Stage, one.Day = b.ID.String(), m.Stage, m.Day.String()
		}
		word := r.Say(stageWords[m.Stage])
		if i == 0 && b.Code != "" {
			word = b.Code
		}
		if w > charW*float64(len(word))+6 {
			one.Word = word
		}
		if ok {
			c.Bars = append(c.Bars, one)
		}
		if x, w, ok := c.clip(max(grown, m.Day), end); ok && end > grown {
			says := r.T("%s: waits until %s", say.Name(goal.Name), end.Short())
			c.Bars = append(c.Bars, bar{X: x, Y: y + 3, W: w, H: laneH - 8, Class: "waits", Path: one.Path, Says: says})
		}
	}
	if c.shows(b.Ready) {
		c.Marks = append(c.Marks, mark{c.x(b.Ready), y + laneH - 4, "◆"})
	}
}

func (c *chart) rooms(o goals.Outlook, r say.Reader, a asked, y float64) {
	skip, n := int(c.first-o.First)/7, c.days/7
	strip := func(name, says string, size float64, weeks, limits []float64) {
		weeks = weeks[skip : skip+n]
		most := size
		for i, v := range weeks {
			most = math.Max(most, v)
			if limits != nil {
				most = math.Max(most, limits[skip+i])
			}
		}
		if most <= 0 {
			return
		}
		if says == "" {
			says = r.T("%.0f of %.0f", slices.Max(weeks), size)
		}
		v := roomView{Name: name, Says: says, Y: y, H: roomH - 12, Limit: y + (roomH-12)*(1-size/most)}
		var path strings.Builder
		fmt.Fprintf(&path, "M%.1f %.1f", c.Left, y+v.H)
		for i, n := range weeks {
			h := y + v.H*(1-n/most)
			from, to := c.x(c.first+calendar.Day(7*i)), c.x(c.first+calendar.Day(7*i+7))
			fmt.Fprintf(&path, "L%.1f %.1fL%.1f %.1f", from, h, to, h)
			limit := size
			if limits != nil {
				limit = limits[skip+i]
			}
			if n > 0.97*limit && n > 0 {
				v.Full = append(v.Full, box{from, to - from})
			}
		}
		fmt.Fprintf(&path, "L%.1f %.1fZ", right, y+v.H)
		v.Line = path.String()
		c.Rooms = append(c.Rooms, v)
		y += roomH
	}
	if a.place == "" && len(o.Frosts.By) > 0 {
		risk := make([]float64, o.Weeks)
		for i := range risk {
			share, _ := o.Frosts.Still(crop.TenderCrop, o.First+calendar.Day(7*i))
			risk[i] = 100 * share
		}
		strip(r.T("Frost still to come"), r.T("%.0f\u00a0%% is accepted", 100*o.Frosts.Risk), 100*o.Frosts.Risk, risk, nil)
	}
	for _, room := range o.Rooms {
		if a.place == "" || a.place == room.Name {
			strip(room.Name, "", room.Size, room.Weeks, nil)
		}
	}
	if a.place == "" && slices.Max(o.There) > 0 {
		strip(r.T("Minutes for moves"), "", slices.Max(o.There), o.Minutes, o.There)
	}
	c.H = y + 6
}
