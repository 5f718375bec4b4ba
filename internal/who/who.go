// Package who says in whose name something is done, and what that person may do.
//
//	if err := w.Must(who.Record); err != nil { return err }
package who

import (
	"errors"
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
)

// Words are the kind as people say it.
func (k Kind) Words() say.Words {
	switch k {
	case Coordinator:
		return "coordinator"
	case Staff:
		return "staff"
	}
	return "crew"
}

// Ability is something only some may do.
type Ability int

// What a crew may not: dose acid or alkali, undo what others wrote, see settings.
const (
	Record   Ability = iota // count, read, tick off, move, note
	Dose                    // acid and alkali
	Correct                 // entries of other people
	Plan                    // sow, close, import
	Settings                // people, units of the school
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
	Sessions   int // the number that sessions of this person carry; others are over
}

// ErrNotAllowed is the answer to somebody who may not.
var ErrNotAllowed = errors.New("your sign-in may not do this; ask a member of staff")

// May tells whether the person has the ability.
func (w Who) May(a Ability) bool {
	switch a {
	case Record:
		return w.Kind != ""
	case Dose, Correct, Plan:
		return w.Kind == Staff || w.Kind == Coordinator
	case Settings:
		return w.Kind == Coordinator
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

// Day is the school's day of an instant.
func (w Who) Day(t time.Time) calendar.Day { return calendar.Of(t.In(w.Zone)) }
