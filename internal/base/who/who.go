// Package who says in whose name something is done, and what that person may do.
//
//	if err := w.Must(who.Record); err != nil { return err }
package who

import (
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/say"
)

// Kind of person.
type Kind string

// A crew is a group of students that shares a PIN.
const (
	Coordinator Kind = "coordinator"
	Staff       Kind = "staff"
	Crew        Kind = "crew"
	Program     Kind = "program" // comes with a key
)

// Words are the kind as people say it.
func (k Kind) Words() say.Words {
	switch k {
	case Coordinator:
		return "coordinator"
	case Staff:
		return "staff"
	case Program:
		return "program"
	}
	return "crew"
}

// Ability is something only some may do.
type Ability int

// What a crew may not, but for what its coordinator switches on (Sow, Close, Plan): dose
// acid or alkali, correct what others wrote, see settings.
const (
	_        Ability = iota
	Measure          // read meters, count, look
	Record           // tick off, move, cut, lose, note
	Dose             // acid and alkali
	Correct          // entries of other people
	Sow              // make a batch
	Close            // end one
	Plan             // sowings to come, trays and packets, files brought in
	Settings         // of the school
	People           // who may sign in
)

// Scopes of a program's key: what it may.
const (
	ScopeRead    = "read"
	ScopeMeasure = "measure"
	ScopeAll     = "all"  // all but people, and acid and alkali, which are an adult's
	ScopeDose    = "dose" // all but people
	// ScopeCalendar opens the season's calendar at its own address, and nothing else.
	ScopeCalendar = "calendar"
)

// Who is the person that asks, and how that person reads figures and dates.
type Who struct {
	School     uuid.UUID
	SchoolName string
	Person     uuid.UUID
	Name       string
	Kind       Kind
	Prefs      say.Reader
	Zone       *time.Location
	Period     int // minutes in a working period
	DayBegins  int // of the school's day, minutes after midnight
	DayEnds    int
	Latitude   *float64 // of the school, degrees; nil: nobody said
	Scope      string   // of a program's key
	MustProve  bool     // two-step sign-in is asked for, and there is none yet
	CrewMay    []string // what crews may beside what every crew may
	Sessions   int      // the number that sessions of this person carry; others are over
}

// ErrNotAllowed is the answer to somebody who may not.
var ErrNotAllowed = errors.New("your sign-in may not do this; ask a member of staff")

// May tells whether the person has the ability.
func (w Who) May(a Ability) bool {
	switch w.Kind {
	case Coordinator:
		return true
	case Staff:
		return a < Settings
	case Crew:
		switch a {
		case Measure, Record:
			return true
		case Sow:
			return slices.Contains(w.CrewMay, "sow")
		case Close:
			return slices.Contains(w.CrewMay, "close")
		case Plan:
			return slices.Contains(w.CrewMay, "plan")
		}
	case Program:
		switch w.Scope {
		case ScopeDose:
			return a < People
		case ScopeAll:
			return a < People && a != Dose
		case ScopeMeasure:
			return a == Measure
		}
	}
	return false
}

// Must is May as an error.
func (w Who) Must(a Ability) error {
	if !w.May(a) {
		return ErrNotAllowed
	}
	return nil
}

// South tells whether the school lies south of the equator.
func (w Who) South() bool { return w.Latitude != nil && *w.Latitude < 0 }

// Season is the season of an instant: 0 winter, 1 spring, 2 summer, 3 autumn. They begin
// with March, June, September and December, south of the equator half a year later.
func (w Who) Season(t time.Time) int {
	if w.Zone != nil {
		t = t.In(w.Zone)
	}
	s := int(t.Month()) % 12 / 3
	if w.South() {
		s = (s + 2) % 4
	}
	return s
}

// Day is the school's day of an instant.
func (w Who) Day(t time.Time) calendar.Day { return calendar.Of(t.In(w.Zone)) }
