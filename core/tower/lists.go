package tower

import (
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
)

// Step is one thing of a list, with why it is done.
type Step struct {
	ID    string
	Says  say.Words
	Why   say.Words
	Adult bool
}

// List is what is done in order.
type List struct {
	ID    string
	Name  say.Words
	Steps []Step
}

// Lists are those that a system with a pump has.
var Lists = []List{
	{"start", "Before the first plant", []Step{
		{
			"soak", "Soak the cubes for an hour in water of about pH 5.5",
			"New mineral wool is alkaline. Dampen it before you handle it, with a mask on.", false,
		},
		{"flush", "Flush it with plain water for an hour, and look at every joint", "Dust and glue are flushed out, and a leak shows while it is only " +
			"water.", false},
		{"drain", "Drain that water off", "The dust and glue leave with it.", false},
		{"fill", "Fill it to its line", "Never let the pump run dry. A full can is heavy: carry it half full.", false},
		{"mix", "Mix the feed in: A, stir, then B", "Never mix A and B undiluted.", false},
		{"read", "Let it run for a quarter of an hour, then read strength and pH", "Before that it has not mixed.", false},
		{"adjust", "Correct the pH, with half of the dose first", "Goggles and gloves; pour acid into water, never water into acid.", true},
		{"ports", "See that water runs past every port", "A dry port kills its plant by the evening.", false},
		{"plant", "Plant, with the cubes wet through and the leaves dry", "Roots through the cube reach the water at once.", false},
	}},
	{"clean", "Between two crops", []Step{
		{"off", "Pull the plug, with dry hands", "Nothing may run while hands are in it.", false},
		{"empty", "Take out plants, cubes and roots", "Roots left behind rot, and block the pump.", false},
		{"old", "Drain the old solution onto soil or lawn, where local rules allow", "Never pour it into a stream, pond or ditch.", false},
		{"brush", "Scrub tank, ports and lid with hot water", "Slime keeps what made the roots brown.", false},
		{
			"disinfect", "Disinfect it as the product’s label says, and leave it for as long as it says",
			"Gloves, goggles, open windows. Never mix two products, and never mix one with acid.", true,
		},
		{"rinse", "Rinse twice with plain water, pumping it through", "What disinfects harms roots too.", false},
		{"pump", "Open the pump’s inlet, and clear its strainer and the lines", "At half the flow the top tier runs dry first.", false},
		{"dry", "Let it dry with the lid off for a day", "Drying is the best disinfectant.", false},
	}},
}

// ListOf finds one.
func ListOf(id string) (List, bool) {
	for _, l := range Lists {
		if l.ID == id {
			return l, true
		}
	}
	return List{}, false
}

// Ticks are steps of a list that were done.
type Ticks struct {
	List  string   `json:"list"`
	Steps []string `json:"steps"`
}

// Check refuses what is no list, or no step of it; adult tells whether one of the steps is
// for an adult.
func (t Ticks) Check() (adult bool, err error) {
	l, known := ListOf(t.List)
	if !known || len(t.Steps) == 0 {
		return false, field.Refuse("steps", "tick what was done")
	}
	for _, id := range t.Steps {
		i := slices.IndexFunc(l.Steps, func(s Step) bool { return s.ID == id })
		if i < 0 {
			return false, field.Refuse("steps", "must be the steps of this list")
		}
		adult = adult || l.Steps[i].Adult
	}
	return adult, nil
}

// Says tells which steps were done.
func (t Ticks) Says() say.Text {
	l, known := ListOf(t.List)
	if !known {
		return say.T("Steps of a list done")
	}
	var done []say.Text
	for _, s := range l.Steps {
		if slices.Contains(t.Steps, s.ID) {
			done = append(done, s.Says)
		}
	}
	return say.T("%s: %s", l.Name, say.Join("; ", done...))
}

// Running is a list as it stands: what was ticked since it was last gone through.
type Running struct {
	List
	Done  map[string]calendar.Day // by step
	Ended calendar.Day            // when it was last done whole; 0: never
}

// Whole tells whether all of it is done: the next tick begins it again.
func (r Running) Whole() bool { return len(r.Done) == len(r.Steps) }

// Run is every list before anything was ticked.
func Run() (out []Running) {
	for _, l := range Lists {
		out = append(out, Running{List: l, Done: map[string]calendar.Day{}})
	}
	return out
}

// Tick takes what was done on a day.
func (r *Running) Tick(t Ticks, on calendar.Day) {
	if t.List != r.ID {
		return
	}
	if r.Whole() {
		r.Done = map[string]calendar.Day{}
	}
	for _, step := range t.Steps {
		r.Done[step] = on
	}
	if r.Whole() {
		r.Ended = on
	}
}
