package api

import (
	"net/http"
	"time"

	"github.com/google/uuid"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/field"
	core "ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/work/goals"
	"ulpa/internal/work/round"
	"ulpa/internal/work/season"
)

type schoolOut struct {
	Name   string       `json:"name"`
	Zone   string       `json:"zone"`
	Now    time.Time    `json:"now"`
	Today  calendar.Day `json:"today"`
	Period int          `json:"period_minutes"`
	May    string       `json:"may" jsonschema_description:"what this key may do: read, measure or all"`
}

type walkOut struct {
	Today   calendar.Day `json:"today"`
	Minutes int          `json:"minutes"`
	Period  int          `json:"period_minutes"`
	Stops   []stopOut    `json:"stops"`
	Away    []fareOut    `json:"before_absence" jsonschema_description:"what will not last until somebody is back"`
	From    calendar.Day `json:"absent_after"`
	Back    calendar.Day `json:"back_on"`
}

type fareOut struct {
	Key     string         `json:"key"`
	What    string         `json:"what" jsonschema_description:"dry, band, cold, late, ripe, unrinsed, unfed or unknown"`
	Name    string         `json:"name"`
	Place   string         `json:"place"`
	Says    string         `json:"says"`
	Chance  float64        `json:"chance" jsonschema_description:"that this happens before somebody is back, if nothing is done"`
	In5     *time.Time     `json:"by_5_percent,omitempty" jsonschema_description:"when this has happened one time in twenty"`
	In50    *time.Time     `json:"by_50_percent,omitempty" jsonschema_description:"and one time in two"`
	Do      string         `json:"do,omitempty" jsonschema_description:"on the last day"`
	Litres  float64        `json:"litres,omitempty"`
	Minutes int            `json:"minutes,omitempty"`
	After   float64        `json:"chance_then" jsonschema_description:"once that is done"`
	Comes   []calendar.Day `json:"somebody_on,omitempty" jsonschema_description:"closed days on which somebody must come"`
	Batch   string         `json:"batch,omitempty"`
	Tray    string         `json:"tray,omitempty"`
	Tank    string         `json:"tank,omitempty"`
	Trough  string         `json:"fish,omitempty"`
}

type awayOut struct {
	From    calendar.Day `json:"absent_after"`
	Back    calendar.Day `json:"back_on"`
	Closed  int          `json:"days"`
	Litres  float64      `json:"litres" jsonschema_description:"to carry on the last day"`
	Minutes int          `json:"minutes"`
	Things  []fareOut    `json:"things"`
	Day     []string     `json:"in_order" jsonschema_description:"keys of what to do on the last day"`
	Past    []cameOut    `json:"past"`
}

type cameOut struct {
	From  calendar.Day `json:"absent_after"`
	Back  calendar.Day `json:"back_on"`
	Tanks []foundOut   `json:"tanks"`
}

type foundOut struct {
	Tank     string  `json:"tank"`
	Figure   string  `json:"figure" jsonschema:"enum=level_l,enum=ph,enum=ec_ms"`
	Was      float64 `json:"was"`
	Foretold float64 `json:"foretold"`
	Error    float64 `json:"error"`
	Found    float64 `json:"found"`
}

type stopOut struct {
	Place   uuid.UUID `json:"place"`
	Name    string    `json:"name"`
	Minutes int       `json:"minutes"`
	For     string    `json:"for,omitempty" jsonschema_description:"the crew or person who looks after it"`
	Tasks   []taskOut `json:"tasks"`
}

type taskOut struct {
	Key     string `json:"key,omitempty"`
	Kind    string `json:"kind"`
	What    string `json:"what"`
	Why     string `json:"why,omitempty"`
	When    string `json:"when" jsonschema:"enum=now,enum=today,enum=soon"`
	Minutes int    `json:"minutes"`
	Times   int    `json:"minutes_learned_from,omitempty" jsonschema_description:"how often it was done here; 0: usual minutes"`
	// What it is about; batch, tray, tank and planned say the same for those.
	Subject subjectOut `json:"subject"`
	Batch   string     `json:"batch,omitempty"`
	Tray    string     `json:"tray,omitempty" jsonschema_description:"in which it is done"`
	Tank    string     `json:"tank,omitempty"`
	Planned string     `json:"planned,omitempty"`
	For     string     `json:"for,omitempty" jsonschema_description:"the crew or person who has it"`
	// Amounts say in figures what the words say.
	Amounts   []amountOut `json:"amounts,omitempty" jsonschema_description:"how much each thing gets"`
	Hours     float64     `json:"hours,omitempty" jsonschema_description:"outside today, of plants that are hardened off"`
	StaysOpen bool        `json:"stays_open,omitempty" jsonschema_description:"the lid may stay off tonight"`
}

type amountOut struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Litres float64 `json:"litres"`
}

type subjectOut struct {
	Kind string `json:"kind" jsonschema:"enum=batch,enum=tray,enum=place,enum=tank,enum=lot,enum=meter,enum=fish,enum=planned,enum=gap,enum=job"`
	ID   string `json:"id"`
}

type tickIn struct {
	ID   uuid.UUID `json:"id"`
	Task string    `json:"task" jsonschema_description:"the key of one of today’s tasks"`
	Skip bool      `json:"skip,omitempty" jsonschema_description:"put off for today, instead of done"`
	// Ticking is not doing.
	Unwritten bool `json:"unwritten,omitempty" jsonschema_description:"done, without an entry of what was done"`
}

type giveIn struct {
	Place *uuid.UUID `json:"place,omitempty" jsonschema_description:"of a place, which stays given until this is changed"`
	Task  string     `json:"task,omitempty" jsonschema_description:"or the key of one of today’s tasks, which is given for today"`
	To    *uuid.UUID `json:"to,omitempty" jsonschema_description:"a crew or a person; if left out: whoever comes"`
}

type plannedOut struct {
	ID      uuid.UUID    `json:"id"`
	Crop    string       `json:"crop"`
	Wanted  int          `json:"wanted"`
	SowOn   calendar.Day `json:"sow_on"`
	ReadyBy calendar.Day `json:"ready_by"`
}

type trailOut struct {
	First  time.Time `json:"first"`
	Last   time.Time `json:"last"`
	Times  int       `json:"times"`
	Person string    `json:"person"`
	Says   string    `json:"says"`
}

type trailList struct {
	Items []trailOut    `json:"items"`
	Next  *calendar.Day `json:"next,omitempty" jsonschema_description:"entries before this one, for earlier days"`
}

type clockOut struct {
	Now time.Time `json:"now"`
}

type clockIn struct {
	Now  time.Time     `json:"now,omitzero" jsonschema_description:"a time to move on to"`
	Day  *calendar.Day `json:"day,omitempty" jsonschema_description:"or a day, at the same time of day"`
	Days int           `json:"days,omitempty" jsonschema_description:"or by this many days"`
}

func dayOperations() []operation {
	get, post, put := http.MethodGet, http.MethodPost, http.MethodPut
	return []operation{
		{Method: get, Path: "/school", Summary: "Read the school, its time and what this key may do", Out: schoolOut{}, Do: func(c *call) (any, error) {
			now := c.Store.Now()
			return schoolOut{c.w.SchoolName, c.w.Zone.String(), now.UTC(), c.w.Day(now), c.w.Period, c.w.Scope}, nil
		}},
		{Method: get, Path: "/round", Summary: "Read today’s round: what is due, where and why", Out: walkOut{}, Do: walk},
		{
			Method: get, Path: "/away", Summary: "Read what will last while nobody is there, and what to do on the last day",
			Query: []param{{"from", "the last day"}}, Out: awayOut{}, Do: fares,
		},
		{Method: post, Path: "/round/ticks", Summary: "Tick a task, or put it off for today", In: tickIn{}, Do: func(c *call) (any, error) {
			var in tickIn
			if err := c.read(&in); err != nil {
				return nil, err
			}
			_, err := round.Tick(c.ctx, c.Store, c.w, round.TickRequest{ID: in.ID, Task: in.Task, Skip: in.Skip, Unwritten: in.Unwritten})
			return nil, err
		}},
		{Method: put, Path: "/round/given", Summary: "Give a place of the round, or one of today’s tasks, to a crew or a person", In: giveIn{}, Do: give},
		{
			Method: get, Path: "/season", Line: bound.Plans, Summary: "Read the season’s plan: what each goal comes to, and what it would change",
			Out: seasonOut{}, Do: readSeason,
		},
		{Method: post, Path: "/season/keep", Line: bound.Plans, Summary: "Save the season’s plan as it was read", In: keepIn{}, Do: func(c *call) (any, error) {
			var in keepIn
			if err := c.read(&in); err != nil {
				return nil, err
			}
			return nil, goals.Keep(c.ctx, c.Store, c.w, in.Plan)
		}},
		{
			Method: post, Path: "/season/wish", Line: bound.Plans, Summary: "Say what a planned batch must or must not be, or choose a way out",
			In: wishIn{}, Do: wish,
		},
		{
			Method: get, Path: "/trail", Summary: "Read the log of changes, newest first",
			Query: []param{{"before", "a day: the lines of earlier days"}}, Out: trailList{},
			Do: readTrail,
		},
		{Method: get, Path: "/clock", Summary: "Read the demo’s clock", Out: clockOut{}, Open: true, Demo: true, Do: func(c *call) (any, error) {
			return clockOut{c.Clock.Now().UTC()}, nil
		}},
		{Method: put, Path: "/clock", Summary: "Move the demo’s clock on", In: clockIn{}, Out: clockOut{}, Open: true, Demo: true, Do: moveClock},
	}
}

// aheadOperations are about nights and the sowings that are planned.
func aheadOperations() []operation {
	get, post, put := http.MethodGet, http.MethodPost, http.MethodPut
	return []operation{
		{Method: get, Path: "/nights", Summary: "Read the nights of the last two weeks and those to come", Out: listOut[nightOut]{}, Do: func(c *call) (any, error) {
			list, err := season.Nights(c.ctx, c.Store, c.w)
			out := listOut[nightOut]{Items: []nightOut{}}
			for _, n := range list {
				out.Items = append(out.Items, nightOut{n.Day, n.MinC, n.SiteC})
			}
			return out, err
		}},
		{Method: put, Path: "/nights/:day", Summary: "Write down a night: its forecast, or its lowest temperature", In: nightIn{}, Do: putNight},
		{Method: put, Path: "/nights", Summary: "Write down several nights: their forecasts, or their lowest temperatures", In: nightsIn{}, Do: putNights},
		{
			Method: get, Path: "/planned", Summary: "List the sowings that are planned", Query: paging, Out: listOut[plannedOut]{},
			Do: func(c *call) (any, error) {
				all, err := season.Plans(c.ctx, c.Store, c.w)
				if err != nil {
					return nil, err
				}
				var list []plannedOut
				for _, p := range all {
					list = append(list, plannedOut{p.ID, p.Crop, p.Wanted, p.SowOn, p.ReadyBy})
				}
				return page(c, list, func(p plannedOut) string { return p.ID.String() })
			},
		},
		{
			Method: post, Path: "/planned", Summary: "Plan a sowing", In: plannedOut{}, Out: plannedOut{}, Status: http.StatusCreated,
			Do: func(c *call) (any, error) {
				var in plannedOut
				if err := c.read(&in); err != nil {
					return nil, err
				}
				return in, season.Plan(c.ctx, c.Store, c.w, season.Planned{ID: in.ID, Crop: in.Crop, Wanted: in.Wanted, SowOn: in.SowOn, ReadyBy: in.ReadyBy})
			},
		},
		{Method: http.MethodDelete, Path: "/planned/:id", Summary: "Remove a planned sowing that will not happen", Do: func(c *call) (any, error) {
			id, err := c.id("id")
			if err != nil {
				return nil, err
			}
			return nil, season.Drop(c.ctx, c.Store, c.w, id)
		}},
	}
}

func taskOf(t core.Task) taskOut {
	out := taskOut{
		Key: t.Key.String(), Kind: t.Kind.Name, What: t.What().String(), When: t.Urgency.Word(), Minutes: t.Minutes, Times: t.Times,
		Subject: subjectOut{string(t.Kind.Of), t.Of},
		Batch:   t.About(core.Batches), Tray: t.Tray, Tank: t.About(core.Tanks), Planned: t.About(core.Plans), For: t.For,
		Hours: t.Hours, StaysOpen: t.StaysOpen,
	}
	if t.Why != nil {
		out.Why = t.Why.String()
	}
	for _, a := range t.Amounts {
		out.Amounts = append(out.Amounts, amountOut{a.ID, a.Name, a.Litres})
	}
	return out
}

func walk(c *call) (any, error) {
	w, err := round.Today(c.ctx, c.Store, c.w)
	if err != nil {
		return nil, err
	}
	out := walkOut{Today: w.Today, Minutes: w.Minutes(), Period: w.Period, Stops: []stopOut{}, Away: []fareOut{}, From: w.Away().From, Back: w.Away().Back}
	for _, s := range w.Stops {
		place, err := uuid.Parse(s.Place)
		if err != nil {
			return nil, err
		}
		stop := stopOut{Place: place, Name: s.Name, Minutes: s.Minutes, For: s.For, Tasks: []taskOut{}}
		for _, t := range s.Tasks {
			stop.Tasks = append(stop.Tasks, taskOf(t))
		}
		out.Stops = append(out.Stops, stop)
	}
	for _, t := range w.Away().Fails() {
		out.Away = append(out.Away, fareOf(t))
	}
	return out, nil
}

func fareOf(t away.Thing) fareOut {
	out := fareOut{
		Key: t.Key, What: t.What, Name: t.Name, Place: t.Place, Says: t.Says.String(), Chance: t.Chance, In5: t.In5, In50: t.In50,
		Litres: t.Litres, Minutes: t.Minutes, After: t.After, Comes: t.Comes, Batch: t.Batch, Tray: t.Tray, Tank: t.Tank, Trough: t.Trough,
	}
	if t.Do != nil {
		out.Do = t.Do.String()
	}
	return out
}

func fares(c *call) (any, error) {
	var from calendar.Day
	if text := c.gin.Query("from"); text != "" {
		var err error
		if from, err = calendar.ParseDay(text); err != nil {
			return nil, field.Errors{{Field: "from", Message: say.Why(err)}}
		}
	}
	a, err := round.Away(c.ctx, c.Store, c.w, from)
	if err != nil {
		return nil, err
	}
	out := awayOut{From: a.From, Back: a.Back, Closed: a.Closed, Things: []fareOut{}, Day: []string{}, Past: []cameOut{}}
	out.Litres, out.Minutes = a.Litres()
	for _, t := range a.Things {
		out.Things = append(out.Things, fareOf(t))
	}
	for _, t := range a.Day() {
		out.Day = append(out.Day, t.Key)
	}
	for _, x := range a.Past {
		came := cameOut{From: x.From, Back: x.Back}
		for _, t := range x.Tanks {
			for _, f := range []struct {
				name string
				*tank.Found
			}{{"level_l", t.Level}, {"ph", t.PH}, {"ec_ms", t.EC}} {
				if f.Found != nil {
					came.Tanks = append(came.Tanks, foundOut{t.Tank, f.name, f.Was, f.Foretold, f.Error, f.Read})
				}
			}
		}
		out.Past = append(out.Past, came)
	}
	return out, nil
}

func give(c *call) (any, error) {
	var in giveIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	var g round.Gift
	if in.Task != "" {
		key, ok := core.ReadKey(in.Task)
		if !ok {
			return nil, field.Refuse("task", "is not one of today’s any more; load the round again")
		}
		g.Key = key
	}
	if in.Place != nil {
		g.Key = core.StopKey(in.Place.String())
	}
	if in.To != nil {
		g.To = *in.To
	}
	return nil, round.Give(c.ctx, c.Store, c.w, []round.Gift{g})
}

func readTrail(c *call) (any, error) {
	if err := c.w.Must(who.Settings); err != nil {
		return nil, err
	}
	var before *calendar.Day
	if s := c.gin.Query("before"); s != "" {
		day, err := calendar.ParseDay(s)
		if err != nil {
			return nil, field.Errors{{Field: "before", Message: say.Why(err)}}
		}
		before = &day
	}
	lines, err := trail.Read(c.ctx, c.Store, c.w, before)
	if err != nil {
		return nil, err
	}
	out := trailList{Items: []trailOut{}, Next: lines.More}
	for _, l := range lines.Lines {
		out.Items = append(out.Items, trailOut{l.First.UTC(), l.Last.UTC(), l.Times, l.Person, l.Says.String()})
	}
	return out, nil
}

func moveClock(c *call) (any, error) {
	var in clockIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	now := c.Clock.Now()
	to := in.Now
	switch {
	case in.Day != nil:
		to = now.AddDate(0, 0, int(*in.Day-calendar.Of(now)))
	case in.Days != 0:
		to = now.AddDate(0, 0, in.Days)
	case to.IsZero():
		return nil, field.Refuse("now", "enter a moment, a day, or how many days ahead")
	}
	if err := c.Clock.Advance(to); err != nil {
		return nil, err
	}
	return clockOut{c.Clock.Now().UTC()}, nil
}
