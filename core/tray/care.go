package tray

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// What is done to a tray from day to day.
const (
	Covered   = "covered"   // a clear cover keeps it damp
	Uncovered = "uncovered" // it is off
	Heated    = "heated"    // warmth from below is on
	Unheated  = "unheated"  // it is off
	Turned    = "turned"    // by half a turn at a window
	Watered   = "watered"
	Fed       = "fed"
)

// Doing is something that can be done to a tray, and what it is called.
type Doing struct {
	ID   string
	Name say.Words
}

// Doings are all of them, as people tick them.
var Doings = []Doing{
	{Covered, "cover put on"},
	{Uncovered, "cover taken off"},
	{Heated, "bottom heat on"},
	{Unheated, "bottom heat off"},
	{Turned, "turned"},
	{Watered, "watered"},
	{Fed, "fed"},
}

// Done is what somebody did to a tray, or saw of it. Nil is: not told.
type Done struct {
	Did       []string `json:"did,omitempty" jsonschema:"enum=covered,enum=uncovered,enum=heated,enum=unheated,enum=turned,enum=watered,enum=fed"`
	LampCM    *float64 `json:"lamp_cm,omitempty"`    // the lamp above the leaves
	LampHours *float64 `json:"lamp_hours,omitempty"` // a day
	DryG      *float64 `json:"dry_g,omitempty"`      // with its medium dry enough to water
	WetG      *float64 `json:"wet_g,omitempty"`      // watered, and drained
	NowG      *float64 `json:"now_g,omitempty"`
}

// Check refuses what hardly can be.
func (d Done) Check() error {
	var e field.Errors
	for _, x := range d.Did {
		ok := false
		for _, k := range Doings {
			ok = ok || k.ID == x
		}
		e.Require(ok, "did", "must be one of these")
	}
	for name, x := range map[string]struct {
		v    *float64
		most float64
	}{"lamp_cm": {d.LampCM, 300}, "lamp_hours": {d.LampHours, 24}, "dry_g": {d.DryG, 50_000}, "wet_g": {d.WetG, 50_000}, "now_g": {d.NowG, 50_000}} {
		e.Require(x.v == nil || *x.v >= 0 && *x.v <= x.most, name, "must be 0 to %g", x.most)
	}
	if d.DryG != nil && d.WetG != nil {
		e.Require(*d.WetG > *d.DryG, "wet_g", "weighs more than dry")
	}
	told := len(d.Did) > 0
	for _, x := range []*float64{d.LampCM, d.LampHours, d.DryG, d.WetG, d.NowG} {
		told = told || x != nil
	}
	e.Require(told, "did", "enter what was done, or what it weighs")
	return e.Err()
}

// Care is how a tray is kept, from what was done to it in the order of time.
type Care struct {
	Cover, Heat       bool
	Turned            calendar.Day // 0: nobody ever wrote that it was
	LampCM, LampHours *float64
	DryG, WetG, NowG  *float64
	Weighed           calendar.Day // NowG
	Watered           calendar.Day
}

// See takes into account what was done on a day.
func (c *Care) See(d Done, on calendar.Day) {
	for _, x := range d.Did {
		switch x {
		case Covered, Uncovered:
			c.Cover = x == Covered
		case Heated, Unheated:
			c.Heat = x == Heated
		case Turned:
			c.Turned = on
		case Watered:
			c.Watered = on
		}
	}
	for _, x := range []struct{ to, from **float64 }{
		{&c.LampCM, &d.LampCM}, {&c.LampHours, &d.LampHours}, {&c.DryG, &d.DryG}, {&c.WetG, &d.WetG},
	} {
		if *x.from != nil {
			*x.to = *x.from
		}
	}
	if d.NowG != nil {
		c.NowG, c.Weighed = d.NowG, on
	}
}

// Water is what a tray that weighs so much lacks: 1 g is 1 mL. Without holes it is filled to
// four fifths, so that nothing stands in it. Known is false until it was weighed dry, wet and
// now; left is the share of its water that is still there.
func (c Care) Water(drains bool) (ml, left float64, known bool) {
	if c.DryG == nil || c.WetG == nil || c.NowG == nil || *c.WetG <= *c.DryG {
		return 0, 0, false
	}
	holds := *c.WetG - *c.DryG
	full := *c.WetG
	if !drains {
		full = *c.DryG + brimless*holds
	}
	left = math.Max(0, (*c.NowG-*c.DryG)/holds)
	return math.Max(0, full-*c.NowG), left, true
}

const (
	brimless = 0.8 // of what it holds, without holes
	thirsty  = 0.5 // of its water left, it is watered
)

// Stage is what stands in a tray, and where.
type Stage struct {
	Cells, Up int  // sown, and come up; of crops that germinate in the dark or light alike
	Window    bool // light comes from one side only
	Drains    bool
	Today     calendar.Day
	LightMol  float64 // a day; 0: not known
	WantsMol  float64 // a day, of what stands there and wants most; 0: nothing does
}

// Advice is something to do to a tray, and why.
type Advice struct {
	ID        string // of Doings
	Says, Why say.Text
	Today     bool // else it can wait
}

// When covers and heat go, as shares of the cells that have come up; and how long a tray at a
// window stands one way.
const (
	uncoverAt = 0.25
	unheatAt  = 0.5
	turnDays  = 3
)

// Advise says what is to be done to a tray. It speaks of covers, heat and turning only where
// somebody wrote that they are used.
func (c Care) Advise(s Stage) (out []Advice) {
	share := float64(s.Up) / float64(max(1, s.Cells))
	add := func(id string, today bool, says, why say.Text) { out = append(out, Advice{id, says, why, today}) }
	if c.Cover && share >= uncoverAt {
		add(Uncovered, true, say.T("Take the cover off"), say.T("%d of %d are up. Under a cover seedlings stretch and fall over at soil level.", s.Up, s.Cells))
	}
	if c.Heat && share >= unheatAt {
		add(Unheated, true, say.T("Turn the bottom heat off"), say.T("%d of %d are up. Warmth without light makes them long and thin.", s.Up, s.Cells))
	}
	if c.Turned != 0 && s.Window && s.Up > 0 && s.Today-c.Turned >= turnDays {
		add(Turned, false, say.T("Turn it half-way round"), say.T("Last turned %s; they lean to the window.", c.Turned.Short()))
	}
	if ml, left, known := c.Water(s.Drains); known && c.Weighed == s.Today && c.Watered < s.Today && left < thirsty {
		add(Watered, true, say.T("Water it: %s", say.Of(ml, unit.Millilitre)), say.T("%.0f\u00a0%% of its water is left.", 100*left))
	}
	return out
}

// LeastLight is the share of the light that seedlings want below which they stretch.
const LeastLight = 0.5

// Lamp is what is usual of a lamp over seedlings, by how far it hangs above the leaves.
func (c Care) Lamp() say.Text {
	switch {
	case c.LampCM == nil:
		return nil
	case *c.LampCM < 5:
		return say.T("The lamp hangs %s above the leaves: hold your hand at the leaves for a minute; if it gets warm, raise the lamp.",
			say.Of(*c.LampCM, unit.Centimetre))
	case *c.LampCM > 40:
		return say.T("The lamp hangs %s above the leaves: that is far for seedlings, unless it is a strong lamp.", say.Of(*c.LampCM, unit.Centimetre))
	}
	return say.T("The lamp hangs %s above the leaves; raise it as they grow.", say.Of(*c.LampCM, unit.Centimetre))
}
