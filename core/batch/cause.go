package batch

import (
	"slices"
	"strings"

	"ulpa/core/say"
)

// Cause is the id of why plants or seedlings were lost.
type Cause string

// Causes that rules know.
const (
	DeadOnArrival Cause = "dead-on-arrival" // what was dead when it was delivered
	OtherCause    Cause = "other"
)

// Reason is a cause and how people say it.
type Reason struct {
	ID   Cause
	Name say.Words
}

// Causes are what a loss can be put down to, in the order in which they are offered.
var Causes = []Reason{
	{"damping-off", "damping off"},
	{"dried-out", "dried out"},
	{"drowned", "drowned"},
	{"too-cold", "too cold"},
	{"too-hot", "too hot"},
	{"eaten", "eaten"},
	{"leggy", "leggy"},
	{"broken", "broken"},
	{"given-away", "given away"},
	{"composted", "composted"},
	{"outgrown", "outgrown"},
	{"starved", "starved"},
	{"burnt-by-salt", "burnt by salt"},
	{"root-rot", "root rot"},
	{"pests", "pests"},
	{DeadOnArrival, "dead on arrival"},
	{OtherCause, "other"},
}

// Known tells whether it is one of Causes.
func (c Cause) Known() bool {
	return slices.ContainsFunc(Causes, func(x Reason) bool { return x.ID == c })
}

// Name is how people say it; a cause that is none of the list is another.
func (c Cause) Name() say.Words {
	for _, x := range Causes {
		if x.ID == c {
			return x.Name
		}
	}
	return "other"
}

// UnmarshalText reads an id. Releases before 2027 kept English words.
func (c *Cause) UnmarshalText(b []byte) error {
	*c = Cause(strings.ReplaceAll(string(b), " ", "-"))
	return nil
}

// orOther is the cause under which a loss is counted.
func (c Cause) orOther() Cause {
	if c.Known() {
		return c
	}
	return OtherCause
}
