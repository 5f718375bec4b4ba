package round

import (
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
)

// Tank is a tank at a place.
type Tank struct {
	ID, Name, Place string
	tank.Tank
}

// What is asked of tanks and jars.
var (
	Rescue  = declare(Kind{Name: "rescue", Of: Tanks, Loses: 3})
	Fill    = declare(Kind{Name: "fill", Of: Tanks, Loses: 1, Writes: true, EndedBy: []string{"treat", "reading"}})
	Treat   = declare(Kind{Name: "treat", Of: Tanks, Writes: true, EndedBy: []string{"treat"}})
	Reading = declare(Kind{Name: "reading", Of: Tanks, Writes: true, EndedBy: []string{"reading"}})
	Visit   = declare(Kind{Name: "visit", Of: Tanks, Loses: 1})
	Dip     = declare(Kind{Name: "dip", Of: Places, EndedBy: []string{"reading"}, Together: dipOfAll})
)

// OfTank is what a tank needs, from one advice.
func (s Day) OfTank(t Tank) (out []Task) {
	a := tank.Advise(t.Tank, s.visit(), s.Now)
	add := func(kind *Kind, before say.Text, u Urgency, minutes int) *Task {
		if a.Now {
			u = Now
		}
		x := s.task(kind, t.ID, t.Place)
		x.Before, x.Why, x.Urgency, x.Minutes = before, whyOf(a), u, minutes
		out = append(out, x)
		return &out[len(out)-1]
	}
	acted := true
	switch {
	case a.Alarm:
		add(Rescue, say.T("Rescue the plants at %s", t.Name), Now, 20)
	case a.Fills:
		add(Fill, say.T("Fill %s: %s", t.Name, say.Of(a.Plan.WaterL, unit.Litre)), Today, 3)
	case a.Plan.Amount > 0:
		add(Treat, say.T("Correct %s: pH %s", t.Name, say.Figure(*t.State.PH, "pH")), Today, 10)
	case a.Plan.DrainL > 0 || a.Plan.FedML() > 0:
		add(Treat, say.T("Correct %s: strength %s", t.Name, say.Of(*t.State.ECMS, unit.MS)), Today, 8)
	case a.Plan.WaterL > 0:
		add(Fill, say.T("Top up %s: %s", t.Name, say.Of(a.Plan.WaterL, unit.Litre)), Soon, 3)
	default:
		acted = false
	}
	if a.Visit != nil && s.lastDay() {
		x := s.task(Visit, t.ID, t.Place)
		x.Before, x.Why, x.Urgency, x.Minutes = say.T("Send somebody to %s while it is closed", t.Name), a.Visit, Now, 1
		out = append(out, x)
	}
	switch {
	case acted:
	case s.dips(t):
		x := s.task(Dip, t.ID, t.Place)
		x.Code, x.Urgency = t.Name, Today
		out = append(out, x)
	case !t.Spec.Passive:
		s.readingTask(t, a, add)
	}
	return out
}

// dipOfAll asks once for all jars of a place whose level nobody has looked at for days.
func dipOfAll(_ Day, list []Task) Task {
	var names []string
	for _, t := range list {
		names = append(names, t.Code)
	}
	n, t := len(names), list[0]
	t.Code, t.Minutes = "", 1+n/2
	t.Before = say.T("Measure the depth of %s and write the levels down", say.Plural(n, "jar"))
	if n <= 3 {
		t.Before = say.T("Measure the depth of %s and write the level down", say.List(say.Names(names...)...))
	}
	t.Why = say.T("Look at a jar every few days: a bigger plant drinks more.")
	return t
}

func (s Day) lastDay() bool { return !s.Calendar.Open(s.Today + 1) }

// whyOf is the advice's reason in a line or two, with what waiting costs.
func whyOf(a tank.Advice) say.Text {
	var why say.Text
	if len(a.Why) > 0 {
		why = a.Why[0]
	}
	if !a.Now || a.Costs == nil {
		return why
	}
	costs := say.T("If it waits, %s.", a.Costs)
	if why == nil {
		return costs
	}
	if strings.Contains(why.String(), a.Costs.String()) {
		return why
	}
	return say.T("%s %s", why, costs)
}

// dips tells whether a jar's level is due to be looked at.
func (s Day) dips(t Tank) bool {
	if !t.Spec.Passive || t.Plants == 0 { // nothing stands in it
		return false
	}
	return t.State.LevelAt == nil || s.ago(t) >= max(1, t.Spec.ReadEveryDays)
}

// ago is how many days since it was read, of a jar since its level was.
func (s Day) ago(t Tank) int {
	at := t.State.ReadAt
	if t.Spec.Passive {
		at = t.State.LevelAt
	}
	if at == nil {
		return 0
	}
	return int(s.Today - calendar.Of(at.In(s.Zone)))
}

func (s Day) readingTask(t Tank, a tank.Advice, add func(kind *Kind, before say.Text, u Urgency, minutes int) *Task) {
	switch read := t.State.ReadAt; {
	case read == nil:
		add(Reading, say.T("Read %s", t.Name), Today, 3).Why = say.T("Nothing is known of it yet.")
	case t.State.DosedAt != nil:
		x := add(Reading, say.T("Read %s again", t.Name), Now, 3)
		x.Why = say.T("It was dosed and has not been read since: if it waits, nobody knows what is at the roots.")
	case t.State.TreatedAt != nil:
		add(Reading, say.T("Read %s again", t.Name), Today, 3).Why = say.T("Something was added and has not been read since.")
	case s.ago(t) >= 1 && t.Judged.Settled != nil && t.Leaves(0) > tank.MayLeave:
		add(Reading, say.T("Read %s again", t.Name), Today, 3).Why = say.T("As gas left its water, its pH has probably risen to about %.1f since it was read.",
			t.Judged.Settled.Mean)
	case s.ago(t) >= t.Spec.ReadEveryDays && !t.MayWait(s.Now, s.visit().At):
		add(Reading, say.T("Read %s", t.Name), Today, 3).Why = say.T("Last read %s.", calendar.Of(read.In(s.Zone)).Long())
	case a.Needs && len(a.Acts) > 0 && a.Acts[len(a.Acts)-1].Do == tank.DoRead:
		add(Reading, say.T("Read %s again", t.Name), Today, 3)
	}
}
