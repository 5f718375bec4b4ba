package goals

import (
	"context"

	ics "github.com/arran4/golang-ical"

	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// ICalendar is the plan that was kept as an iCalendar file (RFC 5545): an event for each
// sowing and move and for each day that something is ready, with a link to it at address.
func ICalendar(ctx context.Context, s *store.Store, w who.Who, address string) (string, error) {
	o, err := Look(ctx, s, w)
	if err != nil {
		return "", err
	}
	r := w.Prefs
	cal := ics.NewCalendarFor("Ulpa")
	cal.SetMethod(ics.MethodPublish)
	cal.SetXWRCalName(r.T("%s: the season", say.Name(w.SchoolName)))
	event := func(id string, on calendar.Day, what, where say.Text, notes say.Text, link string) {
		e := cal.AddEvent(id + "@ulpa")
		e.SetDtStampTime(s.Now().UTC())
		e.SetAllDayStartAt(on.UTC())
		e.SetAllDayEndAt((on + 1).UTC())
		e.SetSummary(r.Say(what))
		if where != nil {
			e.SetLocation(r.Say(where))
		}
		e.SetDescription(r.Say(notes))
		e.SetURL(address + link)
	}
	for _, l := range o.Lines {
		c := l.Crop
		for _, b := range l.Batches {
			k, ok := o.keptAs(b.ID)
			if !ok {
				continue
			}
			what := say.T("%s (%s)", say.Many(k.Wanted, say.Lower(c.Name)), say.Name(l.Goal.Name))
			if b.Code != "" {
				what = say.T("%s, %s", say.Name(b.Code), what)
			}
			link := "/sow?planned=" + b.ID.String()
			if k.Sown {
				link = "/nursery"
				if b.Code != "" {
					link = "/batches/" + b.Batch.String()
				}
			}
			for i, m := range k.Moves {
				word := MoveWords[m.Stage]
				if i == 0 {
					word = MoveWords[plan.StageTray]
				}
				if i > 0 || !k.Sown {
					event(b.ID.String()+"-"+m.Stage, m.Day, say.T(word, what, say.Name(m.Place)), say.Name(m.Place),
						say.T("About %s.", say.Plural(plan.MoveMinutes(k.Wanted), "minute")), link)
				}
			}
			event(b.ID.String()+"-ready", k.Ready, say.T("Ready: %s", what), nil, say.Text(say.Name(l.Goal.Whom)), "/season")
		}
	}
	return cal.Serialize(), nil
}

// MoveWords say what is done to a batch at the beginning of a stage, and where.
var MoveWords = map[string]say.Words{
	plan.StageTray: "Sow %s at %s", plan.StagePot: "Pot %s on, at %s", plan.StageHarden: "Harden %s off, in %s",
	plan.StageLast: "Move %s to %s",
}
