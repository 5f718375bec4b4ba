package round

import (
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
)

// tankTasks are what the tanks of a place need, from one advice each.
func (s School) tankTasks(p Place) []Task {
	var out []Task
	var dip []string // jars whose level nobody has looked at for days
	for _, t := range s.Tanks {
		if t.Place != p.ID {
			continue
		}
		a := tank.Advise(t.Tank, s.visit(), s.Now)
		add := func(kind string, before say.Text, u Urgency, minutes int) *Task {
			if a.Now {
				u = Now
			}
			out = append(out, Task{Key: s.key(kind, t.ID), Kind: kind, Before: before, Why: whyOf(a), Urgency: u, Minutes: minutes, Tank: t.ID})
			return &out[len(out)-1]
		}
		acted := true
		switch {
		case a.Alarm:
			add("rescue", say.T("Rescue the plants at %s", t.Name), Now, 20)
		case a.Fills:
			add("fill", say.T("Fill %s: %s", t.Name, say.Of(a.Plan.WaterL, unit.Litre)), Today, 3)
		case a.Plan.Amount > 0:
			add("treat", say.T("Bring %s right: pH %s", t.Name, say.Figure(*t.State.PH, "pH")), Today, 10)
		case a.Plan.DrainL > 0 || a.Plan.FedML() > 0:
			add("treat", say.T("Bring %s right: strength %s", t.Name, say.Of(*t.State.ECMS, unit.MS)), Today, 8)
		case a.Plan.WaterL > 0:
			add("fill", say.T("Top up %s: %s", t.Name, say.Of(a.Plan.WaterL, unit.Litre)), Soon, 3)
		default:
			acted = false
		}
		if a.Visit != nil && s.lastDay() {
			out = append(
				out,
				Task{
					Key:     s.key("visit", t.ID),
					Kind:    "visit",
					Before:  say.T("Send somebody to %s while it is closed", t.Name),
					Why:     a.Visit,
					Urgency: Now,
					Minutes: 1,
					Tank:    t.ID,
				},
			)
		}
		if acted {
			continue
		}
		if s.dips(t) {
			dip = append(dip, t.Name)
		} else if !t.Spec.Passive {
			s.readingTask(t, a, add)
		}
	}
	if n := len(dip); n > 0 {
		t := Task{
			Key: s.key("dip", p.ID), Kind: "dip", Before: say.T("Dip %s and write the levels down", say.Plural(n, "jar")), Urgency: Today, Minutes: 1 + n/2,
			Why: say.T("A jar is looked at every few days: what it drinks grows with the plant."),
		}
		if n <= 3 {
			t.Before = say.T("Dip %s and write the level down", say.List(say.Names(dip...)...))
		}
		out = append(out, t)
	}
	return out
}

func (s School) lastDay() bool { return !s.Calendar.Open(s.Today + 1) }

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
func (s School) dips(t Tank) bool {
	if !t.Spec.Passive || t.Plants == 0 { // nothing stands in it
		return false
	}
	return t.State.LevelAt == nil || s.ago(t) >= max(1, t.Spec.ReadEveryDays)
}

// ago is how many days since it was read, of a jar since its level was.
func (s School) ago(t Tank) int {
	at := t.State.ReadAt
	if t.Spec.Passive {
		at = t.State.LevelAt
	}
	if at == nil {
		return 0
	}
	return int(s.Today - calendar.Of(at.In(s.Zone)))
}

func (s School) readingTask(t Tank, a tank.Advice, add func(kind string, before say.Text, u Urgency, minutes int) *Task) {
	switch read := t.State.ReadAt; {
	case read == nil:
		add("reading", say.T("Read %s", t.Name), Today, 3).Why = say.T("Nothing is known of it yet.")
	case t.State.DosedAt != nil:
		x := add("reading", say.T("Read %s again", t.Name), Now, 3)
		x.Why = say.T("It was dosed and has not been read since: if it waits, nobody knows what the roots stand in.")
	case t.State.TreatedAt != nil:
		add("reading", say.T("Read %s again", t.Name), Today, 3).Why = say.T("Something was added and has not been read since.")
	case s.ago(t) >= t.Spec.ReadEveryDays:
		add("reading", say.T("Read %s", t.Name), Today, 3).Why = say.T("Last read %s.", calendar.Of(read.In(s.Zone)).Long())
	case a.Needs && len(a.Acts) > 0 && a.Acts[len(a.Acts)-1].Do == tank.DoRead:
		add("reading", say.T("Read %s again", t.Name), Today, 3)
	}
}
