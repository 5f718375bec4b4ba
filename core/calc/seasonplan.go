package calc

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/plan"
)

var closedField = Field{
	Name: "closed", Kind: "list", Needed: true, Takes: `{"from", "to"}, both included; may be empty`, OnScreen: "Closed",
	Parts: []Field{{Name: "from", Kind: "date", OnScreen: "From"}, {Name: "to", Kind: "date", OnScreen: "To"}},
}

var seasonPlan = Calculator{
	Need: Planning,
	Name: "season-plan", Title: "A whole season", Answers: "When and where each batch is sown and moved, if space and time are short",
	Fields: []Field{
		{Name: "from", Kind: "date", Needed: true, Takes: "a date", OnScreen: "From the day"},
		{Name: "to", Kind: "date", Needed: true, Takes: "not before from, at most 1,100 days", OnScreen: "to##day"},
		{
			Name: "workdays", Kind: "list", Needed: true, Takes: "1 (Monday) to 7", Choices: []string{"1", "2", "3", "4", "5", "6", "7"}, OnScreen: "Somebody works on",
		},
		closedField,
		{
			Name: "minutes", Kind: "number", Unit: "min", Null: true, Takes: "0 or more, for moves on an open day; no limit where left out or null",
			OnScreen: "Minutes for moves a day",
		},
		{
			Name: "minutes_on", Kind: "list", Takes: `{"date", "minutes"}, instead of minutes on that day`, OnScreen: "Other minutes on a day",
			Parts: []Field{{Name: "date", Kind: "date", OnScreen: "On"}, {Name: "minutes", Kind: "number", Unit: "min", Null: true, OnScreen: "minutes"}},
		},
		{Name: "seconds", Kind: "number", Unit: "s", Default: "5", Takes: "above 0, at most 600: time to search"},
		{
			Name: "places", Kind: "list", Needed: true, Takes: `{"name", "room", "closed": [ranges]}, 1 to 200`, AsJSON: true, OnScreen: "Places",
			Parts: []Field{{Name: "name", Kind: "text"}, {Name: "room", Kind: "number"}, {Name: "closed", Kind: "list", Parts: closedField.Parts}},
		},
		{
			Name: "batches", Kind: "list", Needed: true, Takes: `{"name", "plants", "ready_from", "ready_by", "value", "stages", ...}, 1 to 2,000`,
			AsJSON: true, OnScreen: "Batches", Parts: []Field{
				{Name: "name", Kind: "text"},
				{Name: "plants", Kind: "integer"},
				{Name: "ready_from", Kind: "date"},
				{Name: "ready_by", Kind: "date"},
				{Name: "value", Kind: "number", Takes: "what it costs not to grow it"},
				{Name: "early_cost", Kind: "number", Default: "0", Takes: "a plant and day"},
				{Name: "ready_minutes_fixed", Kind: "number", Unit: "min", Default: "0"},
				{Name: "ready_minutes_each", Kind: "number", Unit: "min", Default: "0"},
				{Name: "stages", Kind: "list", Takes: "1 to 50", Parts: []Field{
					{Name: "name", Kind: "text"},
					{Name: "days", Kind: "integer", Unit: "days"},
					{Name: "hold_days", Kind: "integer", Unit: "days"},
					{Name: "wait_cost", Kind: "number", Default: "1", Takes: "a plant and held day"},
					{Name: "minutes_fixed", Kind: "number", Unit: "min", Default: "0"},
					{Name: "minutes_each", Kind: "number", Unit: "min", Default: "0"},
					{Name: "where", Kind: "list", Parts: []Field{
						{Name: "place", Kind: "text"}, {Name: "room_each", Kind: "number"}, {Name: "cost", Kind: "number", Default: "0", Takes: "a plant and day"},
					}},
				}},
				{Name: "done", Kind: "list", Takes: "moves made before from", Parts: []Field{{Name: "date", Kind: "date"}, {Name: "place", Kind: "text"}}},
			},
		},
	},
	Example: `{"from": "2027-03-01", "to": "2027-06-11", "workdays": [1, 2, 3, 4, 5], "closed": [{"from": "2027-03-29", "to": "2027-04-09"}], "minutes": 40, ` +
		`"places": [{"name": "shelf", "room": 60}, {"name": "bench", "room": 3}], "batches": [{"name": "lettuce", "plants": 48, "ready_from": "2027-05-10", ` +
		`"ready_by": "2027-05-14", "value": 90, "stages": [{"name": "germinate", "days": 6, "hold_days": 3, "minutes_fixed": 10, "minutes_each": 0.1, ` +
		`"where": [{"place": "shelf", "room_each": 1}]}, {"name": "grow on", "days": 21, "hold_days": 7, "minutes_fixed": 10, "minutes_each": 0.2, ` +
		`"where": [{"place": "bench", "room_each": 0.04}]}]}]}`,
	run: func(o *object) (answer, error) {
		in := plan.SeasonInput{From: o.day("from"), To: o.day("to"), Closed: o.ranges("closed")}
		for i, v := range o.list("workdays") {
			in.Workdays = append(in.Workdays, o.asInteger(fmt.Sprintf("workdays.%d", i), v))
		}
		in.Minutes = o.limit("minutes")
		if o.has("minutes_on") {
			o.each("minutes_on", func(_ int, m *object) {
				x := plan.DayMinutes{Day: m.day("date")}
				if m.need("minutes", "a number, or null") {
					x.Minutes = m.limit("minutes")
				}
				in.MinutesOn = append(in.MinutesOn, x)
			})
		}
		seconds := o.seconds()
		o.each("places", func(_ int, p *object) {
			x := plan.SeasonPlace{Name: p.text("name"), Room: p.number("room")}
			if p.has("closed") {
				x.Closed = p.ranges("closed")
			}
			in.Places = append(in.Places, x)
		})
		o.each("batches", func(_ int, b *object) { in.Batches = append(in.Batches, readBatch(b)) })
		return with(o, func() (plan.Season, error) { return plan.PlanSeason(in, o.clock(seconds)) }, tellSeason)
	},
}

// seconds are how long a search may take.
func (o *object) seconds() float64 {
	s := o.numberOr("seconds", 5)
	if s <= 0 || s > 600 {
		o.refuse("seconds", "must be above 0 seconds, at most 600")
	}
	return s
}

// limit is a number, or nil for none.
func (o *object) limit(name string) *float64 {
	if !o.has(name) || o.fields[name] == nil {
		return nil
	}
	v := o.number(name)
	return &v
}

func (o *object) ranges(name string) (out []calendar.Closure) {
	o.each(name, func(_ int, c *object) { out = append(out, calendar.Closure{From: c.day("from"), To: c.day("to")}) })
	return out
}

func readBatch(b *object) plan.SeasonBatch {
	x := plan.SeasonBatch{
		Name: b.text("name"), Plants: b.integer("plants"), ReadyFrom: b.day("ready_from"), ReadyBy: b.day("ready_by"), Value: b.number("value"),
		EarlyCost: b.numberOr("early_cost", 0), ReadyMinutesFixed: b.numberOr("ready_minutes_fixed", 0), ReadyMinutesEach: b.numberOr("ready_minutes_each", 0),
	}
	b.each("stages", func(_ int, s *object) {
		stage := plan.SeasonStage{
			Name: s.text("name"), Days: s.integer("days"), HoldDays: s.integer("hold_days"), WaitCost: s.numberOr("wait_cost", 1),
			MinutesFixed: s.numberOr("minutes_fixed", 0), MinutesEach: s.numberOr("minutes_each", 0),
		}
		s.each("where", func(_ int, w *object) {
			stage.Where = append(stage.Where, plan.Stand{Place: w.text("place"), RoomEach: w.number("room_each"), Cost: w.numberOr("cost", 0)})
		})
		x.Stages = append(x.Stages, stage)
	})
	if b.has("done") {
		b.each("done", func(_ int, d *object) {
			x.Done = append(x.Done, plan.Placed{Day: d.day("date"), Place: d.text("place")})
		})
	}
	return x
}

func tellSeason(s plan.Season) answer {
	batches := []answer{}
	for _, b := range s.Batches {
		out := answer{"name": b.Name, "grown": b.Grown, "moves": []answer{}, "ready": nil, "held_days": nil, "why": nil}
		if b.Grown {
			moves := []answer{}
			for _, m := range b.Moves {
				moves = append(moves, answer{"stage": m.Stage, "date": m.Day.String(), "place": m.Place})
			}
			out["moves"], out["ready"], out["held_days"] = moves, b.Ready.String(), b.HeldDays
		} else {
			out["why"] = b.Why
		}
		batches = append(batches, out)
	}
	return answer{"cost": s.Cost, "bound": s.Bound, "gap": s.Gap, "batches": batches, "steps": s.Steps}
}
