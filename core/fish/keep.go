package fish

import (
	"time"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Trough is a vessel with fish, its filter, and the plants its water feeds.
type Trough struct {
	Kind           string
	WaterL         float64
	FilterM2       float64 // of surface for bacteria; 0: nobody knows
	PlantM2        float64
	FeedPercent    float64 // of body mass, a day, where fish are hungriest
	ProteinPercent float64 // of the feed
	Source         Source  // of the water for changes
}

// Reading is what was read of the water; nil: it was not.
type Reading struct {
	TAN        *float64 `json:"tan,omitempty"` // total ammonia, mg/L as N
	Nitrite    *float64 `json:"nitrite,omitempty"`
	Nitrate    *float64 `json:"nitrate,omitempty"`
	PH         *float64 `json:"ph,omitempty"`
	Oxygen     *float64 `json:"oxygen,omitempty"`
	TempC      *float64 `json:"temp_c,omitempty"`
	Alkalinity *float64 `json:"alkalinity,omitempty"`
	Chloride   *float64 `json:"chloride,omitempty"`
}

// Times are when each figure of a Reading was read; nil: it never was.
type Times struct {
	TAN        *time.Time `json:"tan,omitempty"`
	Nitrite    *time.Time `json:"nitrite,omitempty"`
	Nitrate    *time.Time `json:"nitrate,omitempty"`
	PH         *time.Time `json:"ph,omitempty"`
	Oxygen     *time.Time `json:"oxygen,omitempty"`
	TempC      *time.Time `json:"temp_c,omitempty"`
	Alkalinity *time.Time `json:"alkalinity,omitempty"`
	Chloride   *time.Time `json:"chloride,omitempty"`
}

// Check refuses what hardly can be.
func (r Reading) Check() error {
	var e field.Errors
	any := false
	for _, x := range []struct {
		name      string
		v         *float64
		low, high float64
	}{
		{"tan", r.TAN, 0, 50},
		{"nitrite", r.Nitrite, 0, 50},
		{"nitrate", r.Nitrate, 0, 1000},
		{"fish_ph", r.PH, 4, 10},
		{"oxygen", r.Oxygen, 0, 25},
		{"alkalinity", r.Alkalinity, 0, 600},
		{"chloride", r.Chloride, 0, 5000},
	} {
		any = any || x.v != nil
		e.Require(x.v == nil || *x.v >= x.low && *x.v <= x.high, x.name, "must be %g to %g", x.low, x.high)
	}
	e.Require(r.TempC == nil || *r.TempC >= 0 && *r.TempC <= 45, "fish_temp", "must be %s to %s", say.Figure(0, unit.Celsius), say.Of(45, unit.Celsius))
	e.Require(any || r.TempC != nil, "tan", "type at least one figure")
	return e.Err()
}

// Why fish come or go.
const (
	PutIn = "in"
	Died  = "died"
	Taken = "taken"
)

// Stock is fish that came or went.
type Stock struct {
	Why   string  `json:"why"`
	Fish  int     `json:"fish"`
	MassG float64 `json:"mass_g,omitempty"` // of one, of those that were put in
	Note  string  `json:"note,omitempty"`
}

// Sample is some of them that were weighed together.
type Sample struct {
	Fish  int     `json:"fish"`
	Grams float64 `json:"grams"`
}

// Fed is what they were given.
type Fed struct {
	Grams float64 `json:"grams"`
	Left  bool    `json:"left,omitempty"` // some of it lay there afterwards
}

// Added is what was done to their water.
type Added struct {
	ChangeL float64 `json:"change_l,omitempty"`
	BaseG   float64 `json:"base_g,omitempty"` // potassium bicarbonate
}

// Event is a reading, a feed or whatever else was written down of fish, with its time.
type Event struct {
	At      time.Time
	Reading *Reading
	Stock   *Stock
	Sample  *Sample
	Fed     *Fed
	Added   *Added
}

// State is what is known of a trough.
type State struct {
	Fish        int
	MassG       float64 // of one, as weighed, and grown since by what they ate
	Weighed     *time.Time
	Last        Reading    // the latest of each figure, each read at its own time
	When        Times      // of Last
	ReadAt      *time.Time // when the last was read of what feeding hangs on: ammonia, pH, warmth
	FedG        float64    // on the day of the last event that fed
	FedAt       *time.Time // when they last got something to eat
	InAt        *time.Time // when the first of those that swim there were put in
	Left        bool       // of what they were fed last
	Deaths      []time.Time
	PutIn, Died int        // all that ever were
	ChangedAt   *time.Time // when their water was, if ammonia and pH have not been read since
	ChangedL    float64    // how much, since then
	Readings    []Dated
}

// Dated is a reading with its time.
type Dated struct {
	At time.Time
	Reading
}

// feedPerGrowth is the grams of feed for one of fish.
const feedPerGrowth = 1.5

// Fold takes what happened, in the order of time.
func Fold(events []Event) (s State) {
	for _, e := range events {
		at := e.At
		switch {
		case e.Stock != nil:
			s.stock(*e.Stock, at)
		case e.Sample != nil && e.Sample.Fish > 0:
			s.MassG, s.Weighed = e.Sample.Grams/float64(e.Sample.Fish), &at
		case e.Fed != nil:
			s.fed(*e.Fed, at)
		case e.Reading != nil:
			s.read(*e.Reading, at)
		case e.Added != nil:
			s.ChangedAt, s.ChangedL = &at, s.ChangedL+e.Added.ChangeL
		}
	}
	return s
}

func (s *State) fed(x Fed, at time.Time) {
	if s.Left = x.Left; x.Grams <= 0 {
		return // nobody eats nothing
	}
	if s.Fish > 0 {
		s.MassG += x.Grams / feedPerGrowth / float64(s.Fish)
	}
	if s.FedAt != nil && s.FedAt.YearDay() == at.YearDay() && s.FedAt.Year() == at.Year() {
		s.FedG += x.Grams
	} else {
		s.FedG = x.Grams
	}
	s.FedAt = &at
}

func (s *State) stock(x Stock, at time.Time) {
	switch x.Why {
	case PutIn:
		if s.Fish == 0 {
			s.InAt = &at
		}
		if n := s.Fish + x.Fish; n > 0 && x.MassG > 0 {
			s.MassG = (s.MassG*float64(s.Fish) + x.MassG*float64(x.Fish)) / float64(n)
		}
		s.Fish, s.PutIn = s.Fish+x.Fish, s.PutIn+x.Fish
	case Died:
		n := min(s.Fish, x.Fish)
		s.Fish, s.Died = s.Fish-n, s.Died+n
		for range n {
			s.Deaths = append(s.Deaths, at)
		}
	default:
		s.Fish -= min(s.Fish, x.Fish)
	}
}

func (s *State) read(r Reading, at time.Time) {
	for _, x := range []struct {
		to, from **float64
		when     **time.Time
	}{
		{&s.Last.TAN, &r.TAN, &s.When.TAN},
		{&s.Last.Nitrite, &r.Nitrite, &s.When.Nitrite},
		{&s.Last.Nitrate, &r.Nitrate, &s.When.Nitrate},
		{&s.Last.PH, &r.PH, &s.When.PH},
		{&s.Last.Oxygen, &r.Oxygen, &s.When.Oxygen},
		{&s.Last.TempC, &r.TempC, &s.When.TempC},
		{&s.Last.Alkalinity, &r.Alkalinity, &s.When.Alkalinity},
		{&s.Last.Chloride, &r.Chloride, &s.When.Chloride},
	} {
		if *x.from != nil {
			*x.to, *x.when = *x.from, &at
		}
	}
	s.ReadAt = earliest(s.When.TAN, s.When.PH, s.When.TempC)
	if c := s.ChangedAt; c != nil && !before(s.When.TAN, *c) && !before(s.When.PH, *c) {
		s.ChangedAt, s.ChangedL = nil, 0
	}
	s.Readings = append(s.Readings, Dated{at, r})
}

// before tells whether something was never done, or before a time.
func before(x *time.Time, at time.Time) bool { return x == nil || x.Before(at) }

// earliest is the earliest of some times; nil where one of them is.
func earliest(list ...*time.Time) (first *time.Time) {
	for _, x := range list {
		if x == nil {
			return nil
		}
		if first == nil || x.Before(*first) {
			first = x
		}
	}
	return first
}

// DiedSince is how many died since a time.
func (s State) DiedSince(at time.Time) (n int) {
	for _, x := range s.Deaths {
		if x.After(at) {
			n++
		}
	}
	return n
}

// FreshDays is for how long a figure may be fed by: older ones say nothing of the water.
const FreshDays = 7

// Missing are the figures that a day's feed hangs on and that were never read, or not of late.
func (s State) Missing(now time.Time) (out []say.Text) {
	old := now.AddDate(0, 0, -FreshDays)
	for _, x := range []struct {
		at   *time.Time
		name say.Words
	}{{s.When.TAN, "total ammonia"}, {s.When.PH, "pH"}, {s.When.TempC, "temperature"}} {
		switch {
		case x.at == nil:
			out = append(out, say.T("%s (never read)", x.name))
		case x.at.Before(old):
			out = append(out, say.T("%s (last read %s)", x.name, say.Date(*x.at, "Mon 2 January")))
		}
	}
	return out
}

// Day is a day's feed and what follows from it; false while warmth, pH or ammonia are not
// known or were not read for a week, or nothing swims there. Where the water rings an alarm
// of its kind of fish, they get no more than that allows; where some was left lying, a fifth
// less.
func (t Trough) Day(s State, now time.Time) (Answer, bool) {
	l := s.Last
	if s.Fish == 0 || s.MassG <= 0 || len(s.Missing(now)) > 0 {
		return Answer{}, false
	}
	k := KindOf(t.Kind)
	in := Input{
		Fish: s.Fish, MassG: s.MassG, FeedPercentDay: t.FeedPercent, ProteinPercent: t.ProteinPercent, TemperatureC: *l.TempC, PH: *l.PH,
		WaterL: t.WaterL, TANMgL: *l.TAN, UnionisedLimit: k.UnionisedMost, NitriteMgL: l.Nitrite, OxygenMgL: l.Oxygen,
	}
	if t.FilterM2 > 0 {
		in.FilterM2 = &t.FilterM2
	}
	x, err := day(in, k)
	if err != nil {
		return x, false
	}
	for _, a := range t.Alarms(s, now) {
		x.feeds(a.Feed)
	}
	if x.Advice == Normal && s.Left {
		x.FeedTodayG *= lessLeft
	}
	return x, true
}

// lessLeft is the share of a day's feed where some was left of the last.
const lessLeft = 0.8

// Bears is for how many days fish of such a mass can go unfed, in water of that warmth: those
// that are too cold to eat, for weeks.
func (t Trough) Bears(s State) float64 {
	days := 4.0
	switch {
	case s.MassG < 10:
		days = 1
	case s.MassG < 50:
		days = 2
	}
	if c := s.Last.TempC; c != nil {
		k := KindOf(t.Kind)
		switch eats := k.appetite(*c); {
		case eats == 0 && *c <= k.Eats[0].C:
			days *= tooColdToEat
		case eats < 0.4:
			days *= 2
		}
	}
	return days
}

// tooColdToEat is how many times as long fish that are too cold to eat go without.
const tooColdToEat = 8

// Unfed is for how many days they have had nothing to eat.
func (s State) Unfed(now time.Time) float64 {
	since := s.InAt
	if s.FedAt != nil && (since == nil || s.FedAt.After(*since)) {
		since = s.FedAt
	}
	if s.Fish == 0 || since == nil {
		return 0
	}
	return now.Sub(*since).Hours() / 24
}

// Never are what must not get into water with fish.
var Never = []say.Words{
	"Copper in any form: pipes, tools and plant treatments.",
	"Chlorine and chloramine: treat tap water before it goes in.",
	"Acid poured straight in. Anything that raises the pH quickly is just as dangerous: it makes ammonia deadly.",
	"Salt, and medicines for fish: they harm the plants and the filter. Treat fish in a vessel of their own.",
	"Plant feed from bottles or bags: its ammonium and metals harm fish.",
	"Sprays against pests or mould, soap, sun cream: rinse your hands with plain water before you put them in.",
	"Galvanised or painted metal, treated wood.",
	"Never let fish go into streams or ponds.",
}
