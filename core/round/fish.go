package round

import (
	"ulpa/core/calendar"
	"ulpa/core/fish"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Trough is a vessel with fish at a place.
type Trough struct {
	ID, Name, Place string
	fish.Trough
	State fish.State
}

// How often water with fish is read: every other day, and daily while something is wrong.
const (
	readFishDays = 2
	nitriteDays  = 7
	weighDays    = 30
)

// firstActs are the first two of an order of acts: the rest stand on the page.
func firstActs(list []say.Text) say.Text { return say.Join(" ", list[:min(2, len(list))]...) }

// What is asked of fish.
var (
	FishAlarm = declare(Kind{Name: "fish_alarm", Of: Fish, Loses: 3})
	FishRead  = declare(Kind{Name: "fish_read", Of: Fish, Writes: true, EndedBy: []string{"fish_read"}})
	FishFeed  = declare(Kind{Name: "fish_feed", Of: Fish, Writes: true, EndedBy: []string{"fish_fed"}})
	FishWeigh = declare(Kind{Name: "fish_weigh", Of: Fish, Writes: true, EndedBy: []string{"fish_weigh"}})
)

// OfTrough is what the fish in a vessel need.
func (s Day) OfTrough(t Trough) (out []Task) {
	add := func(kind *Kind, before, why say.Text, u Urgency, minutes int) {
		x := s.task(kind, t.ID, t.Place)
		x.Before, x.Why, x.Urgency, x.Minutes = before, why, u, minutes
		out = append(out, x)
	}
	on := func(since calendar.Day, days int) bool { return int(s.Today-since) >= days }
	alarms := t.Alarms(t.State, s.Now)
	if len(alarms) > 0 {
		u := Today
		if alarms[0].Now {
			u = Now
		}
		add(FishAlarm, say.T("Look after the fish in %s", say.Name(t.Name)), say.T("%s %s", alarms[0].Says, firstActs(t.Acts(t.State, s.Now))), u, 15)
	}
	days := readFishDays // an alarm's acts say what is to be read again and when
	if t.State.Fish == 0 && len(t.State.Readings) > 0 {
		days = 1
	}
	switch {
	case t.State.ChangedAt != nil:
		add(FishRead, say.T("Read the water of %s", say.Name(t.Name)), say.T("It was changed and has not been read since."), Today, 8)
	case t.State.Fish > 0 && len(t.State.Missing(s.Now)) > 0:
		add(FishRead, say.T("Read the water of %s", say.Name(t.Name)), say.T("Feed depends on it: %s.", say.Join(", ", t.State.Missing(s.Now)...)), Today, 8)
	case t.State.ReadAt != nil && on(calendar.Of(t.State.ReadAt.In(s.Zone)), days):
		add(FishRead, say.T("Read the water of %s", say.Name(t.Name)), say.T("Last read %s.", calendar.Of(t.State.ReadAt.In(s.Zone)).Long()), Today, 8)
	case t.State.Fish > 0 && (t.State.When.Nitrite == nil || on(calendar.Of(t.State.When.Nitrite.In(s.Zone)), nitriteDays)):
		add(FishRead, say.T("Read nitrite in %s", say.Name(t.Name)), say.T("It was not read for a week: it harms fish before anybody sees it."), Today, 8)
	}
	if t.State.Fish == 0 {
		return out
	}
	if t.State.FedAt == nil || on(calendar.Of(t.State.FedAt.In(s.Zone)), 1) {
		before, why := say.T("Feed the fish in %s", say.Name(t.Name)), say.T("Read the water first: how much they get depends on it.")
		if x, known := t.Day(t.State, s.Now); known {
			before = say.T("Feed the fish in %s: %s", say.Name(t.Name), say.Of(x.FeedTodayG, unit.Gram))
			if x.Advice == fish.Nothing {
				before = say.T("Do not feed the fish in %s today", say.Name(t.Name))
			}
			why = say.T("%d of about %s each, by their warmth and the water.", t.State.Fish, say.Of(t.State.MassG, unit.Gram))
		}
		add(FishFeed, before, why, Today, 3)
	}
	if t.State.Weighed != nil && on(calendar.Of(t.State.Weighed.In(s.Zone)), weighDays) {
		add(FishWeigh, say.T("Weigh some fish of %s", say.Name(t.Name)), say.T("How much to feed depends on their weight, and they grow."), Soon, 10)
	}
	return out
}
