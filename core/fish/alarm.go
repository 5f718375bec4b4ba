package fish

import (
	"time"

	"ulpa/core/chemistry"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// What is wrong.
const (
	WrongOxygen     = "oxygen"
	WrongAmmonia    = "unionised"
	WrongNitrite    = "nitrite"
	WrongHot        = "hot"
	WrongCold       = "cold"
	WrongAcid       = "acid"     // the pH is too low
	WrongAlkaline   = "alkaline" // the pH is too high
	WrongAlkalinity = "alkalinity"
	WrongNitrate    = "nitrate"
	WrongDeaths     = "deaths"
	WrongUnfed      = "unfed"
	WrongUnread     = "unread" // whether their ammonia harms, nobody can tell
)

// Alarm is something that harms fish, and whether it must be seen to now. What to do about all
// of them together says Acts.
type Alarm struct {
	What string
	Says say.Text
	Now  bool
	Feed string     // the most they get meanwhile: Nothing, Half, or Normal
	At   *time.Time // when its figure was read, of several the oldest; nil: it is none that is read
}

// Alarms are what is wrong with the water for these fish, by the latest of each figure however
// old, the worst first: what was bad stays bad until it is read again.
func (t Trough) Alarms(s State, now time.Time) (out []Alarm) {
	k, l, w := KindOf(t.Kind), s.Last, s.When
	add := func(what string, urgent bool, feed string, at *time.Time, says say.Text) {
		a := Alarm{what, says, urgent, feed, at}
		if urgent && what != WrongUnfed {
			a.Feed = Nothing
		}
		if at != nil && now.Sub(*at).Hours() > oldHours {
			a.Says = say.T("%s (Read %s.)##an old figure", says, say.Date(*at, "Mon 2 January"))
		}
		if urgent {
			out = append([]Alarm{a}, out...)
		} else {
			out = append(out, a)
		}
	}
	if l.Oxygen != nil && *l.Oxygen < k.OxygenLeast {
		add(WrongOxygen, *l.Oxygen < 0.6*k.OxygenLeast, Half, w.Oxygen, say.T("Oxygen %.1f mg/L: these fish need at least %.0f.", *l.Oxygen, k.OxygenLeast))
	}
	if l.TAN != nil {
		if l.PH != nil && l.TempC != nil {
			if a, err := chemistry.UnionisedAmmonia(*l.TAN, *l.PH, *l.TempC); err == nil && a.UnionisedMgL > k.UnionisedMost/2 {
				add(WrongAmmonia, a.UnionisedMgL > k.UnionisedMost, Half, earliest(w.TAN, w.PH, w.TempC),
					say.T("Un-ionised ammonia %.3f mg/L; the limit is %.3g mg/L. Measured: %.2g mg/L in total, at pH %.1f and %s.",
						a.UnionisedMgL, k.UnionisedMost, *l.TAN, *l.PH, say.Of(*l.TempC, unit.Celsius)))
			}
		} else if s.Fish > 0 && *l.TAN > muchTAN {
			add(WrongUnread, false, Half, w.TAN, say.T("Ammonia %.2g mg/L: whether it harms them depends on pH and temperature. Read those too.", *l.TAN))
		}
	}
	if watch, urgent := k.NitriteLimits(l.Chloride); l.Nitrite != nil && *l.Nitrite > watch {
		says := say.T("Nitrite %.2g mg/L: above %.2g mg/L fish suffocate.", *l.Nitrite, watch)
		if l.Chloride == nil {
			says = say.T("%s Chloride was never read; the less there is, the more nitrite harms.", says)
		}
		add(WrongNitrite, *l.Nitrite >= urgent, Half, w.Nitrite, says)
	}
	if l.TempC != nil {
		tolerate := say.T("%s: these fish tolerate %s to %s.", say.Of(*l.TempC, unit.Celsius), say.Figure(k.ColdestC, unit.Celsius), say.Of(k.WarmestC,
			unit.Celsius))
		if *l.TempC < k.ColdestC {
			add(WrongCold, true, Nothing, w.TempC, tolerate)
		} else if *l.TempC > k.WarmestC {
			add(WrongHot, true, Nothing, w.TempC, tolerate)
		}
	}
	if l.PH != nil {
		says := say.T("pH %.1f: fish, bacteria and plants all do well at %.1f to %.1f.", *l.PH, k.PHLow, k.PHHigh)
		if *l.PH < k.PHLow {
			add(WrongAcid, *l.PH < k.PHLow-farPH, Normal, w.PH, says)
		} else if *l.PH > k.PHHigh {
			add(WrongAlkaline, *l.PH > k.PHHigh+farPH, Normal, w.PH, says)
		}
	}
	if l.Alkalinity != nil && *l.Alkalinity < k.AlkalinityLeast {
		add(WrongAlkalinity, false, Normal, w.Alkalinity,
			say.T("Alkalinity %.0f mg/L: the filter uses it up; below %.0f the pH falls suddenly.", *l.Alkalinity, k.AlkalinityLeast))
	}
	if l.Nitrate != nil && *l.Nitrate > k.NitrateMost {
		add(WrongNitrate, false, Normal, w.Nitrate, say.T("Nitrate %.0f mg/L: the plants are not keeping up.", *l.Nitrate))
	}
	if n := s.DiedSince(now.AddDate(0, 0, -3)); n > 0 {
		add(WrongDeaths, n >= 3 || 10*n > s.Fish, Normal, nil, say.T("Died within three days: %d.", n))
	}
	if days, bear := s.Unfed(now), t.Bears(s); days > bear+1 {
		add(WrongUnfed, true, Normal, nil, say.T("No food is written down for %.0f days: fish of this size go without for about %.0f.", days, bear))
	}
	return out
}

const (
	oldHours = 30.0 // a figure older than that says its day
	muchTAN  = 1.0  // mg/L that can harm at a pH that is not known
	littlePH = 0.05
	farPH    = 0.6 // beyond the range of its kind: now
)

// Acts are what to do about all that is wrong, one order for the whole trough: air and feed,
// which never harm; then reading what is old or was changed; then water, warmth, and alkali only
// where no ammonia waits for it.
func (t Trough) Acts(s State, now time.Time) (out []say.Text) {
	alarms := t.Alarms(s, now)
	if len(alarms) == 0 {
		return nil
	}
	is, old, feed := map[string]bool{}, s.ChangedAt != nil, Normal
	for _, a := range alarms {
		is[a.What] = true
		old = old || a.At != nil && now.Sub(*a.At).Hours() > oldHours
		if portion[a.Feed] < portion[feed] {
			feed = a.Feed
		}
	}
	add := func(w say.Words, args ...any) { out = append(out, say.T(w, args...)) }
	if is[WrongOxygen] || is[WrongAmmonia] || is[WrongNitrite] || is[WrongHot] || is[WrongDeaths] {
		add("Air first: all air stones on, let water fall in, look at the pump. Wires and plugs only with dry hands.")
	}
	if s.Fish > 0 {
		t.feeding(feed, is, add)
	}
	switch {
	case s.ChangedL > 0:
		add("%s were changed and the water has not been read since: read ammonia, pH and temperature before anything else goes in.", say.Of(s.ChangedL, unit.Litre))
	case s.ChangedAt != nil:
		add("Alkali went in and the water has not been read since: read ammonia, pH and temperature before anything else goes in.")
	case old:
		add("These figures are old: read the water again before anything goes in.")
	case is[WrongUnread]:
		add("Read pH and temperature, and ammonia with them, before anything goes in.")
	default:
		t.changing(s, add)
	}
	if is[WrongHot] {
		add("Shade the water and leave the air on; cool it by %s a day at most, and put in no ice.", say.Of(2, unit.Kelvin))
	}
	if is[WrongCold] {
		add(
			"Cover it, and warm it by %s a day at most: a heater made for fish tanks, behind a residual-current device (RCD), set up by an adult.",
			say.Of(2, unit.Kelvin),
		)
	}
	if is[WrongAlkaline] {
		add("The pH is too high: no alkali, and no acid either. Find what raises it: new concrete, lime, shells or limestone in it, hard tap water, algae in " +
			"full sun.")
	}
	if is[WrongAcid] || is[WrongAlkalinity] {
		t.alkali(s, old, is, add)
	}
	if is[WrongNitrate] {
		add("More plants or less feed; part of the water onto beds.")
	}
	if is[WrongDeaths] {
		add("Take the dead out with a net, gloves on. Read everything. Ask somebody who keeps fish before any remedy goes in: it would reach the plants.")
	}
	return out
}

func (t Trough) feeding(feed string, is map[string]bool, add func(say.Words, ...any)) {
	switch {
	case feed == Nothing && is[WrongUnfed]:
		add("Feed nothing yet, although they are hungry: food makes this water worse. Feed little as soon as it is better.")
	case feed == Nothing:
		add("Feed nothing until it is better.")
	case is[WrongUnfed]:
		add("Feed them now, half of what is usual, and take out what is left after ten minutes. If they were fed, write it down.")
	case feed == Half:
		add("Feed half of what is usual.")
	}
}

func (t Trough) changing(s State, add func(say.Words, ...any)) {
	if l := s.Last; s.Fish > 0 && (l.TAN == nil || l.PH == nil || l.TempC == nil) {
		add("Read ammonia, pH and temperature: how much water may be changed depends on them.")
		return
	}
	c := t.Change(s)
	if c == nil {
		return
	}
	water := say.T("hard tap water, because nobody has measured the new water")
	if !c.Assumed {
		water = say.T("%s", say.Name(t.Source.Name))
	}
	if c.Refused {
		add("Do not change water now. Worked out with %s: a quarter of it would bring the pH to %.1f and un-ionised ammonia from %.3f to %.3f mg/L. "+
			"Only water of low alkalinity can go in, such as rain water. Aerate, do not feed, and read again tomorrow.", water, c.PH, c.WasMgL, c.UnionisedMgL)
		return
	}
	add(
		"Change %s, no more at once: dechlorinated, within %s of theirs, poured in over half an hour.",
		say.Of(c.Litres, unit.Litre), say.Of(2, unit.Kelvin),
	)
	add("Then read ammonia, pH and temperature again before you change any more. Expected, worked out with %s: pH %.1f, un-ionised ammonia %.3f mg/L.",
		water, c.PH, c.UnionisedMgL)
}

func (t Trough) alkali(s State, old bool, is map[string]bool, add func(say.Words, ...any)) {
	l := s.Last
	if is[WrongAlkaline] {
		return // it says so already
	}
	if l.TAN == nil || l.PH == nil || l.TempC == nil || old {
		add("Alkali only after ammonia, pH and temperature have been read: a higher pH makes ammonia deadly.")
		return
	}
	if c := t.Change(s); c != nil && !c.Refused && c.PH > *l.PH+littlePH {
		add("No alkali today: the new water raises the pH by itself. Read again tomorrow.")
		return
	}
	k := KindOf(t.Kind)
	if a, err := chemistry.UnionisedAmmonia(*l.TAN, *l.PH+0.3, *l.TempC); err != nil || is[WrongAmmonia] || a.UnionisedMgL > k.UnionisedMost/2 {
		add("No alkali yet: a higher pH would make the ammonia in this water deadly. Bring the ammonia down first.")
		return
	}
	g := t.bicarbonate(l)
	add("Potassium bicarbonate, by an adult: %s a day at most, dissolved in a bucket of their water and poured in over an hour. Read the pH before and "+
		"after: it may rise by 0.3 a day, no more.",
		say.Of(g, unit.Gram))
}
