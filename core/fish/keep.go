package fish

import (
	"math"
	"time"

	"ulpa/core/chemistry"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Kind is a sort of fish by what its water must be. Nitrogen is mg/L as N; oxygen mg/L;
// alkalinity mg/L as CaCO3. Starting values of aquaculture: local advice goes first.
type Kind struct {
	ID   string
	Name say.Words
	// Cooler is by how many °C its appetite is that of warm-water fish in warmer water.
	Cooler                     float64
	UnionisedMost, NitriteMost float64
	NitrateMost, OxygenLeast   float64
	AlkalinityLeast            float64
	PHLow, PHHigh              float64
	ColdestC, WarmestC         float64
}

// Kinds are those that are told apart.
var Kinds = []Kind{
	{"warm", "warm-water fish, such as tilapia", 0, 0.02, 1, 150, 5, 40, 6.4, 8, 16, 33},
	{"carp", "carp, goldfish and their kin", 6, 0.02, 1, 150, 4, 40, 6.5, 8.2, 4, 30},
	{"cold", "trout and other cold-water fish", 11, 0.0125, 0.3, 100, 7, 40, 6.5, 8, 3, 18},
}

// KindOf finds one; the first where there is none.
func KindOf(id string) Kind {
	for _, k := range Kinds {
		if k.ID == id {
			return k
		}
	}
	return Kinds[0]
}

// Trough is a vessel with fish, its filter, and the plants its water feeds.
type Trough struct {
	Kind           string
	WaterL         float64
	FilterM2       float64 // of surface for bacteria; 0: nobody knows
	PlantM2        float64
	FeedPercent    float64 // of body mass, a day, where fish are hungriest
	ProteinPercent float64 // of the feed
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
	} {
		any = any || x.v != nil
		e.Require(x.v == nil || *x.v >= x.low && *x.v <= x.high, x.name, "takes %g to %g", x.low, x.high)
	}
	e.Require(r.TempC == nil || *r.TempC >= 0 && *r.TempC <= 45, "fish_temp", "takes %s to %s", say.Figure(0, unit.Celsius), say.Of(45, unit.Celsius))
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

// Event is one of these, with its time.
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
	Last        Reading // the latest of each
	ReadAt      *time.Time
	FedG        float64 // on the day of the last event that fed
	FedAt       *time.Time
	Left        bool // of it
	Deaths      []time.Time
	PutIn, Died int        // all that ever were
	ChangedAt   *time.Time // when their water was, if it has not been read since
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
			if s.Fish > 0 {
				s.MassG += e.Fed.Grams / feedPerGrowth / float64(s.Fish)
			}
			if s.FedAt != nil && s.FedAt.YearDay() == at.YearDay() && s.FedAt.Year() == at.Year() {
				s.FedG += e.Fed.Grams
			} else {
				s.FedG = e.Fed.Grams
			}
			s.FedAt, s.Left = &at, e.Fed.Left
		case e.Reading != nil:
			s.read(*e.Reading, at)
		case e.Added != nil:
			s.ChangedAt = &at
		}
	}
	return s
}

func (s *State) stock(x Stock, at time.Time) {
	switch x.Why {
	case PutIn:
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
	for _, x := range []struct{ to, from **float64 }{
		{&s.Last.TAN, &r.TAN},
		{&s.Last.Nitrite, &r.Nitrite},
		{&s.Last.Nitrate, &r.Nitrate},
		{&s.Last.PH, &r.PH},
		{&s.Last.Oxygen, &r.Oxygen},
		{&s.Last.TempC, &r.TempC},
		{&s.Last.Alkalinity, &r.Alkalinity},
	} {
		if *x.from != nil {
			*x.to = *x.from
		}
	}
	s.ReadAt, s.ChangedAt = &at, nil
	s.Readings = append(s.Readings, Dated{at, r})
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

// Day is a day's feed and what follows from it; false while warmth, pH or ammonia are not
// known, or nothing swims there. Where the water rings an alarm of its kind of fish, they
// get no more than that allows; where some was left lying, a fifth less.
func (t Trough) Day(s State, now time.Time) (Answer, bool) {
	l := s.Last
	if s.Fish == 0 || s.MassG <= 0 || l.TempC == nil || l.PH == nil || l.TAN == nil {
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
	x, err := day(in, k.Cooler)
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

// Alarm is something that harms fish, what to do, and whether it must be now.
type Alarm struct {
	Says, Do say.Text
	Now      bool
	Feed     string // the most they get meanwhile: Nothing, Half, or Normal
}

// Alarms are what is wrong with the water for these fish, the worst first.
func (t Trough) Alarms(s State, now time.Time) (out []Alarm) {
	k, l := KindOf(t.Kind), s.Last
	add := func(now bool, feed string, says, do say.Text) {
		if now {
			feed = Nothing
			out = append([]Alarm{{says, do, now, feed}}, out...)
		} else {
			out = append(out, Alarm{says, do, now, feed})
		}
	}
	if l.Oxygen != nil && *l.Oxygen < k.OxygenLeast {
		add(*l.Oxygen < 0.6*k.OxygenLeast, Half, say.T("Oxygen %.1f mg/L: these fish want %.0f at least.", *l.Oxygen, k.OxygenLeast),
			say.T("Air stones on, water let fall in; look at the pump."))
	}
	if l.TAN != nil && l.PH != nil && l.TempC != nil {
		if a, err := chemistry.UnionisedAmmonia(*l.TAN, *l.PH, *l.TempC); err == nil && a.UnionisedMgL > k.UnionisedMost/2 {
			add(a.UnionisedMgL > k.UnionisedMost, Half, say.T("Un-ionised ammonia %.3f mg/L, of which %.3g is the limit: %.2g mg/L at pH %.1f and %s.",
				a.UnionisedMgL, k.UnionisedMost, *l.TAN, *l.PH, say.Of(*l.TempC, unit.Celsius)),
				say.T("Change water as the sum says, dechlorinated and as warm; never raise the pH."))
		}
	}
	if l.Nitrite != nil && *l.Nitrite > k.NitriteMost {
		add(*l.Nitrite > 5*k.NitriteMost, Half, say.T("Nitrite %.2g mg/L: above %.2g it takes their breath.", *l.Nitrite, k.NitriteMost),
			say.T("Change a quarter of the water; the filter’s second half is young or hurt."))
	}
	if l.TempC != nil && (*l.TempC < k.ColdestC || *l.TempC > k.WarmestC) {
		bear := say.T("%s: these fish bear %s to %s.", say.Of(*l.TempC, unit.Celsius), say.Figure(k.ColdestC, unit.Celsius), say.Of(k.WarmestC, unit.Celsius))
		add(true, Nothing, bear, say.T("Shade and air, or a heater on a safe socket; two degrees a day, no faster."))
	}
	if l.PH != nil && (*l.PH < k.PHLow || *l.PH > k.PHHigh) {
		add(*l.PH < k.PHLow-0.6, Normal, say.T("pH %.1f: fish, bacteria and plants agree on %.1f to %.1f.", *l.PH, k.PHLow, k.PHHigh),
			say.T("A little potassium bicarbonate in a bucket of its water, over a day; never more than 0.3 of pH a day, and no acid into it."))
	}
	if l.Alkalinity != nil && *l.Alkalinity < k.AlkalinityLeast {
		add(false, Normal, say.T("Alkalinity %.0f mg/L: the filter eats it; below %.0f the pH falls suddenly.", *l.Alkalinity, k.AlkalinityLeast),
			say.T("Potassium bicarbonate as the sum says, dissolved first, over some days."))
	}
	if l.Nitrate != nil && *l.Nitrate > k.NitrateMost {
		add(false, Normal, say.T("Nitrate %.0f mg/L: plants do not keep up.", *l.Nitrate), say.T("More plants, less feed, or a part of the water onto beds."))
	}
	if n := s.DiedSince(now.AddDate(0, 0, -3)); n > 0 {
		add(n >= 3 || 10*n > s.Fish, Normal, say.T("Died within three days: %d.", n),
			say.T("Read everything now; take the dead out with a net, gloves on; ask somebody who keeps fish before any remedy goes in: it would reach the plants."))
	}
	return out
}

// Steps of a new system's filter, from nothing to ready.
const (
	CycleBegin   = "begin"
	CycleAmmonia = "rising"
	CycleNitrite = "nitrite"
	CycleReady   = "ready"
)

// Cycling is how far a new filter has come.
type Cycling struct {
	Step string
	Day  int // since ammonia was first read
	Says say.Text
}

const (
	cycleSeen = 0.5 // mg/L as N that counts as there
	cycleOver = 0.3
)

// Cycle tells how far a filter has come by its readings: ammonia rises and falls, then
// nitrite does, and then it is ready for fish. It usually takes three to six weeks.
func (s State) Cycle(now time.Time) Cycling {
	c := Cycling{Step: CycleBegin}
	var first time.Time
	ammonia, nitrite, calm := false, false, 0
	for _, r := range s.Readings {
		if r.TAN != nil && *r.TAN >= cycleSeen && !ammonia {
			ammonia, first = true, r.At
		}
		if r.Nitrite != nil && *r.Nitrite >= cycleSeen {
			nitrite = true
		}
		if ammonia && nitrite && r.TAN != nil && r.Nitrite != nil {
			if *r.TAN < cycleOver && *r.Nitrite < cycleOver {
				calm++
			} else {
				calm = 0
			}
		}
	}
	if ammonia {
		c.Day = int(math.Max(0, now.Sub(first).Hours()/24))
	}
	switch {
	case calm >= 2:
		c.Step, c.Says = CycleReady, say.T("Ready: ammonia and nitrite have gone twice running. Few fish first, feed little, and read every day.")
	case nitrite:
		c.Step, c.Says = CycleNitrite, say.T("Day %d: nitrite is there. Wait for it to fall to nothing; keep it warm, dark and full of air.", c.Day)
	case ammonia:
		c.Step, c.Says = CycleAmmonia, say.T("Day %d: ammonia is there, and no nitrite yet. Bacteria settle; that takes a week or two.", c.Day)
	default:
		c.Says = say.T("Not begun: a pinch of feed or a little ammonia solution, without fish, until 2 to 3 mg/L can be read. An adult handles ammonia.")
	}
	return c
}

// Bears is for how many days fish of such a mass bear it unfed, in water of that warmth.
func (t Trough) Bears(s State) float64 {
	days := 4.0
	switch {
	case s.MassG < 10:
		days = 1
	case s.MassG < 50:
		days = 2
	}
	if s.Last.TempC != nil && appetite(*s.Last.TempC+KindOf(t.Kind).Cooler) < 0.4 {
		days *= 2
	}
	return days
}

// Never are what must not get into water with fish.
var Never = []say.Words{
	"Copper, in any form: pipes, tools and remedies for plants.",
	"Chlorine and chloramine: tap water is treated first.",
	"Acid straight in, and anything that raises the pH fast.",
	"Sprays against pests or mould, soap, sun cream: hands are rinsed with plain water.",
	"Galvanised or painted metal, treated wood.",
	"Fish into streams or ponds: they are never let go.",
}
