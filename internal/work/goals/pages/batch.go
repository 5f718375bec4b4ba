package pages

import (
	"math"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/goals"
)

// batchView is one batch of the plan, with what may be said of it.
type batchView struct {
	ID, Title, Says string
	Why             string
	Times           []string // how long its stages take in these weeks, where that is not usual
	Wishes          []string
	Moves           []moveView
	Ways            []wayView
	Skipped, Sown   bool
	Frost           string // what may come, where it stands outside
	Heat            string // what long warm days do to it
	Link            string // to the batch that it became
	Wrong           []string
	May             bool // somebody may say something of it
}

// moveView is a move, and the form in which it is pinned.
type moveView struct {
	Stage, Name, Day, Shown, Place string
	Places                         []string
	Pinned                         bool
	F                              *face.Form
}

// wayView is a way out, with what it costs.
type wayView struct{ Kind, Says, Costs string }

func batchOf(o goals.Outlook, w who.Who, f *face.Form, asked string) *batchView {
	id, err := uuid.Parse(asked)
	if err != nil {
		return nil
	}
	l, b, ok := o.Find(id)
	if !ok {
		return nil
	}
	r := w.Prefs
	c := l.Crop
	v := &batchView{
		ID: asked, Title: r.T("%s, for %s", say.Name(l.Goal.Name), b.By.Short()), Wishes: r.All(goals.WishSays(b.Wish)), Skipped: b.Wish.Skip,
		Wrong: f.Rest("day", "place"), Sown: b.Sown, May: w.Must(who.Plan) == nil,
		Says: r.T("%s from %s.", say.Many(b.Plants, say.Lower(c.Name)), say.Plural(b.Cells, "cell")),
	}
	if b.Again > 0 {
		v.Says = r.T("%s To replace what was lost from the last sowing.", say.Name(v.Says))
	}
	if b.Sown {
		v.Says = sownSays(b, r)
		if b.Code != "" {
			v.Link = "/batches/" + b.Batch.String()
		}
		return v
	}
	v.Says = r.T("%s %s", say.Name(v.Says), raisedSays(l))
	if b.Late > 0 && b.Why == "" {
		v.Says = r.T("%s It is %s too late to be ready on the day: sow it now all the same, or skip it.", say.Name(v.Says), say.Plural(b.Late, "day"))
	}
	if b.Short > 0 {
		v.Says = r.T("%s It has %s fewer than you asked for, so it is less sure that all of them are large enough.", say.Name(v.Says), say.Plural(b.Short, "day"))
	}
	v.Times = timesOf(c, b, r)
	v.Frost, v.Heat = frostSays(o, l, b, r), heatSays(l.Crop, b.Heat, r)
	if b.Why != "" {
		v.Why = shortOf(l.Goal.Name, b, r)
		for _, way := range o.Ways(id) {
			v.Ways = append(v.Ways, wayOf(way, r))
		}
	}
	for _, s := range b.Stages {
		m := moveView{Stage: s.Name, Name: r.Say(goals.StageWords[s.Name]), Pinned: len(b.Wish.Of(s.Name)) > 0, F: f}
		if len(v.Moves) == 0 {
			m.Name = r.Say(goals.StageWords[plan.StageTray])
		}
		for _, p := range b.Moves {
			if p.Stage == s.Name {
				m.Place = p.Place
			}
		}
		for _, x := range s.Where {
			m.Places = append(m.Places, x.Place)
		}
		if m = m.on(b.DayOf(s.Name), r); m.Day != "" || m.Pinned {
			v.Moves = append(v.Moves, m)
		}
	}
	ready := moveView{Stage: plan.StageReady, Name: r.Say(goals.StageWords[plan.StageReady]), Pinned: len(b.Wish.Of(plan.StageReady)) > 0, F: f}
	if ready = ready.on(b.Ready, r); ready.Day != "" || ready.Pinned {
		v.Moves = append(v.Moves, ready)
	}
	return v
}

// raisedSays is what the number of cells rests on.
func raisedSays(l goals.Line) say.Text {
	if l.Raised == nil {
		return say.T("As many seeds as this crop usually needs: there is no record of it here yet.")
	}
	return say.T("Here %.0f\u00a0%% of its cells give a plant.", 100*l.Raised.Rate)
}

// heatSays is what long warm days do to a batch; "": nothing.
func heatSays(c crop.Crop, h plan.Heat, r say.Reader) string {
	var says []say.Text
	if h.Bolts {
		says = append(says, say.T("It grows in long warm days, in which %s bolts: sow it for cooler weeks, shade it, or take it young.", say.Lower(c.Name)))
	}
	if h.Poor > 0 {
		says = append(says, say.T("Sown at about %s only %.0f %% of the good seed comes: sow it in a cooler place.",
			say.Of(math.Round(h.WarmC), unit.Celsius), 100*h.Poor))
	}
	return r.Say(say.Join(" ", says...))
}

// frostSays is the risk of frost once a batch is outside: at its last place there, or when it
// is planted out.
func frostSays(o goals.Outlook, l goals.Line, b goals.Batch, r say.Reader) string {
	out := b.Ready
	for _, m := range b.Moves {
		if m.Stage == plan.StageLast {
			out = m.Day
		}
	}
	if l.Crop.Suits("bed") && o.Frosts.NeverOut(l.Crop) {
		return r.T("The nights here are never warm enough for it in the open (%s): under cover only.", say.Of(l.Crop.SafeC, unit.Celsius))
	}
	share, known := o.Frosts.Still(l.Crop.Tender, out)
	if !known || out == 0 || !l.Crop.Suits("bed") {
		return ""
	}
	return r.T("Frost that harms it came after %s in %.0f of 100 springs; from %s on, no more often than you accept.", out.Short(), 100*share, l.OutFrom.Short())
}

// timesOf are the stages that take other than their usual days in the light and warmth of
// these weeks.
func timesOf(c crop.Crop, b goals.Batch, r say.Reader) (out []string) {
	usual := map[string]int{plan.StageTray: c.NurseryDays, plan.StageLast: c.Cropping.Days}
	for _, s := range b.Stages {
		if days, n := s.Days-s.InHand, usual[s.Name]; n > 0 && n != days && !c.Stays() {
			out = append(out, r.T("%s %s, usually %d", say.Plural(days, "day"), placeWords[s.Name], n))
		}
	}
	return out
}

func (m moveView) on(d calendar.Day, r say.Reader) moveView {
	if d > 0 {
		m.Day, m.Shown = d.String(), r.Say(d.Short())
	}
	if m.F.Get("stage") == m.Stage && m.F.Get("day") != "" { // what was typed stays
		m.Day = m.F.Get("day")
	}
	return m
}

// Open tells whether something is wrong with what was typed here.
func (m moveView) Open() bool { return m.F.Any() && m.F.Get("stage") == m.Stage }

// Error is what is wrong with a field of this move's.
func (m moveView) Error(name string) string {
	if !m.Open() {
		return ""
	}
	return m.F.Error(name)
}

// sownSays tells what has become of a sowing.
func sownSays(b goals.Batch, r say.Reader) string {
	switch {
	case b.Late > 0:
		return r.T("Sown: %d of %d plants. Ready about %s, %s too late.", b.Have, b.Plants, b.Ready.Short(), say.Plural(b.Late, "day"))
	case b.Ready > 0:
		return r.T("Sown: %d of %d plants. Ready about %s.", b.Have, b.Plants, b.Ready.Short())
	}
	return r.T("Sown.")
}

func wayOf(w goals.Way, r say.Reader) (v wayView) {
	v.Kind = w.Kind
	days, plants, fewer := say.Plural(w.Days, "day"), say.Plural(w.Plants, "plant"), say.Plural(w.Fewer, "plant")
	switch w.Kind {
	case plan.WayLater:
		v.Says, v.Costs = r.T("Up to %s later", days), r.T("Everything else stays as it is.")
	case plan.WayEarlier:
		v.Says, v.Costs = r.T("%s earlier", days), r.T("It waits, or is used earlier.")
	case plan.WayFewer:
		v.Says, v.Costs = r.T("%s instead", plants), r.T("%s will be missing then.", fewer)
	case plan.WayWait:
		v.Says, v.Costs = r.T("Let them wait %s longer %s", days, placeWords[w.Stage]), r.T("They may grow too long for their place.")
	case plan.WayOpen:
		v.Says = r.T("Somebody comes in on %s", w.Open.Short())
		v.Costs = r.T("For %s, while it is closed.", say.Plural(int(w.Minutes), "minute"))
	case plan.WayOther:
		v.Says = r.T("%s fewer of %s, for %s", fewer, say.Name(w.Line.Goal.Name), w.Batch.By.Short())
		v.Costs = r.T("%s are left of it.", plants)
	}
	return v
}
