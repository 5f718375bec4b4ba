package batch

import (
	"slices"
	"strings"

	"ulpa/core/say"
)

// Cause is the id of why plants or seedlings were lost.
type Cause string

// DeadOnArrival is the cause of what was dead when it was delivered.
const DeadOnArrival Cause = "dead-on-arrival"

// Reason is a cause and how people say it.
type Reason struct {
	ID   Cause
	Name say.Words
}

// Causes are what a loss can be put down to, in the order in which they are offered: first what is
// taken where nobody chooses, another last.
var Causes = []Reason{
	{"unknown", "an unknown cause"},
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
	{"other", "other"},
}

// reason is that of the list; what is none of it is another.
func (c Cause) reason() Reason {
	i := slices.IndexFunc(Causes, func(x Reason) bool { return x.ID == c })
	if i < 0 {
		i = len(Causes) - 1
	}
	return Causes[i]
}

// Known tells whether it is one of Causes.
func (c Cause) Known() bool { return c.reason().ID == c }

// Name is how people say it.
func (c Cause) Name() say.Words { return c.reason().Name }

// CauseOf reads an id, or the English words that stood for it up to shape 37: in entries, and in
// forms that were opened before.
func CauseOf(text string) Cause { return Cause(strings.ReplaceAll(text, " ", "-")) }

// UnmarshalText is CauseOf.
func (c *Cause) UnmarshalText(b []byte) error {
	*c = CauseOf(string(b))
	return nil
}
