// Package calc is the one contract of the calculators for screen, command line
// and API: it reads a JSON object strictly, asks the core, and returns the
// answer as a JSON object. It adds nothing to the arithmetic.
//
//	c, ok := calc.Find("seed-rate")
//	answer, err := c.Run([]byte(c.Example))
package calc

import (
	"encoding/json"
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
)

// Field describes one field of a calculator's input.
type Field struct {
	Name     string
	Kind     string // number, integer, text, date, yes, list, object
	Unit     string // "share" for a part of 1, which screens ask for in percent
	Needed   bool
	Default  string    // as it would be typed; "" for none
	Hint     say.Words // the part of Takes that the screen shows
	Takes    string    // what it takes, in words
	Choices  []string
	Called   map[string]say.Words // what choices are called on the screen, where their names do not say it
	FromBook func() []string      // choices that are too many to make at every start
	Parts    []Field              // of an object, or of the objects of a list
	Long     bool                 // a list that comes from a file rather than from a hand
	AsJSON   bool                 // a list within lists: the screen takes it as the other faces do
	Names    bool                 // of a list: it holds texts, which the screen takes apart by commas
	Single   bool                 // of a list: a number stands for all of it
	Null     bool                 // null is taken too
	OnScreen say.Words            // how the screen asks for it: its label; "" where only the other faces do
}

// Offers lists what a field takes one of; nil when it takes anything.
func (f Field) Offers() []string {
	if f.FromBook != nil {
		return f.FromBook()
	}
	return f.Choices
}

// numbers makes the parts of an object of numbers by name.
func numbers(names ...string) (parts []Field) {
	for _, n := range names {
		parts = append(parts, Field{Name: n, Kind: "number", OnScreen: say.Words(n)})
	}
	return parts
}

// When one needs a calculator.
const (
	Planning say.Words = "Planning"
	Sowing   say.Words = "Sowing and counting"
	Mixing   say.Words = "Mixing a solution"
	Keeping  say.Words = "Keeping it in range"
	Judging  say.Words = "Temperature, humidity and light: what they mean"
)

// Needs are in the order of the work.
var Needs = []say.Words{Planning, Sowing, Mixing, Keeping, Judging}

// testOrLabel are the parts of a germination: how many sprouted of a test, or the label's rate.
var testOrLabel = []Field{
	{Name: "tested", Kind: "integer", OnScreen: "Seeds tested"},
	{Name: "sprouted", Kind: "integer", OnScreen: "of them germinated"},
	{Name: "rate", Kind: "number", Unit: "share", OnScreen: "or the rate on the label"},
}

// Calculator is one entry of the contract.
type Calculator struct {
	Need    say.Words // when: one of Needs
	Name    string
	Title   say.Words // on the screen
	Answers say.Words // one line: what it answers
	Fields  []Field
	Example string // runs as printed
	run     func(o *object) (answer, error)
	clock   Clock
}

// Clock tells a search how much of its seconds is over: what it gives is 0 at first, and 1
// or more when they are, or nobody waits for the answer any more.
type Clock func(seconds float64) (spent func() float64)

// Searches tells whether it looks for the best answer for some seconds, instead of working it out.
func (c Calculator) Searches() bool {
	return slices.ContainsFunc(c.Fields, func(f Field) bool { return f.Name == "seconds" })
}

// Timed is the calculator with a clock, for those that search. Without one a search ends
// after so many looks at it.
func (c Calculator) Timed(clock Clock) Calculator {
	c.clock = clock
	return c
}

// counted is a clock that every look moves on.
func counted(float64) func() float64 {
	looks := 0
	return func() float64 {
		looks++
		return float64(looks) / 1000
	}
}

// answer is the object that is returned.
type answer map[string]any

// All lists the calculators by when one needs them.
var All = slices.SortedStableFunc(
	slices.Values(slices.Concat(growingSums, sproutsSums, waterSums, dosesSums, lastingSums, seasonSums, nurserySums, waterCultureSums, outdoorSums)),
	func(a, b Calculator) int { return slices.Index(Needs, a.Need) - slices.Index(Needs, b.Need) })

// Find is the calculator with that name, and whether there is one.
func Find(name string) (Calculator, bool) {
	for _, c := range All {
		if c.Name == name {
			return c, true
		}
	}
	return Calculator{}, false
}

// Run reads a JSON object and computes. Input that cannot be used is refused
// with field.Errors.
func (c Calculator) Run(body []byte) (map[string]any, error) {
	o, err := open(body)
	if err != nil {
		return nil, err
	}
	if o.clock = c.clock; o.clock == nil {
		o.clock = counted
	}
	return c.run(o)
}

// RunJSON is Run with the answer as JSON.
func (c Calculator) RunJSON(body []byte) ([]byte, error) {
	out, err := c.Run(body)
	if err != nil {
		return nil, err
	}
	return json.Marshal(out)
}

// with runs a core function once the whole body has been read without a refusal.
func with[T any](o *object, ask func() (T, error), tell func(T) answer) (answer, error) {
	if err := o.err(); err != nil {
		return nil, err
	}
	v, err := ask()
	if err != nil {
		return nil, err
	}
	return tell(v), nil
}

// refusedFirst is the first refusal of an error, in one line.
func refusedFirst(err error) (field.Error, bool) {
	if e, ok := err.(field.Errors); ok && len(e) > 0 {
		return e[0], true
	}
	return field.Error{}, false
}

// OneLine is an error as the command line says it.
func OneLine(err error) string {
	if e, ok := refusedFirst(err); ok {
		return e.Field + ": " + e.Message.String()
	}
	return err.Error()
}
