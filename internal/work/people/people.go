// Package people signs people in and keeps the list of them: adults with a
// password, crews of students with a PIN on a shared tablet. No pupil has an
// account or a name here.
//
//	w, err := people.SignIn(ctx, store, people.From{}, login, password)
package people

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
)

// SignOutEverywhere ends all sessions of a person, this one too; no device is known any more.
func SignOutEverywhere(ctx context.Context, s *store.Store, w who.Who) error {
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := errors.Join(tx.EndSessions(ctx, w.Person), tx.ForgetDevices(ctx, w.Person)); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Signed out everywhere")
	})
}

// Load reads who a person of a school is now; ErrNotFound when no longer active.
func Load(ctx context.Context, s *store.Store, person who.Who) (who.Who, error) {
	w := who.Who{School: person.School, Person: person.Person}
	err := s.Read(ctx, w, func(tx *store.Tx) error {
		p, err := tx.GetWho(ctx, w.Person)
		if err != nil {
			return err
		}
		if w.Zone, err = time.LoadLocation(p.Zone); err != nil {
			return err
		}
		w.SchoolName, w.Name, w.Kind, w.Period, w.Sessions = p.School, p.Name, who.Kind(p.Kind), p.PeriodMinutes, p.Sessions
		w.Prefs = say.Reader{Prefs: unit.Parse(p.UnitSystem, p.EcScale), Tongue: words.Find(p.Language), Year: tx.Now.In(w.Zone).Year()}
		w.DayBegins, w.DayEnds = p.DayBegins, p.DayEnds
		w.Latitude, w.CrewMay, w.MustProve = p.Latitude, p.CrewMay, p.MustProve
		return nil
	})
	return w, err
}

// SetUnits chooses how one person reads figures.
func SetUnits(ctx context.Context, s *store.Store, w who.Who, p unit.Prefs) error {
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		system, scale := p.System(), p.Scale()
		return tx.SetPersonUnits(ctx, db.SetPersonUnitsParams{ID: w.Person, UnitSystem: &system, EcScale: &scale})
	})
}

// SetSchoolDay says when the school's day begins and ends, in minutes after midnight.
func SetSchoolDay(ctx context.Context, s *store.Store, w who.Who, begins, ends int) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	if ends < begins+120 {
		return field.Refuse("ends", "must be at least two hours after the day begins")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetSchoolDay(ctx, db.SetSchoolDayParams{DayBegins: begins, DayEnds: ends}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Set the school’s day to %s to %s", clock(begins), clock(ends))
	})
}

// clock is a time of the day from minutes after midnight.
func clock(minutes int) string { return fmt.Sprintf("%d:%02d", minutes/60, minutes%60) }

// SetSchoolUnits chooses what everybody reads who has not chosen.
func SetSchoolUnits(ctx context.Context, s *store.Store, w who.Who, p unit.Prefs) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetSchoolUnits(ctx, db.SetSchoolUnitsParams{UnitSystem: p.System(), EcScale: p.Scale()}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Set the school’s units to %s, %s", p.System(), p.Scale())
	})
}

// SetLanguage chooses in which language one person reads.
func SetLanguage(ctx context.Context, s *store.Store, w who.Who, tag string) error {
	if !words.Known(tag) {
		return field.Refuse("language", "is not one of those there are")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.SetPersonLanguage(ctx, db.SetPersonLanguageParams{ID: w.Person, Language: &tag})
	})
}

// SetSchoolLanguage chooses in which language everybody reads who has not chosen.
func SetSchoolLanguage(ctx context.Context, s *store.Store, w who.Who, tag string) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	if !words.Known(tag) {
		return field.Refuse("language", "is not one of those there are")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetSchoolLanguage(ctx, tag); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Set the school’s language to %s", tag)
	})
}

// NewPerson is somebody to be added. A crew has no login, and a PIN for a secret.
type NewPerson struct {
	ID     uuid.UUID // made by whoever writes; zero: one is made
	Kind   who.Kind
	Name   string
	Login  string
	Secret string
	Near   []string // names that the secret must not be made of, beside the person's: the school's
}

// Prepared is somebody to be added whose secret has been hashed: that takes a
// while and needs no database.
type Prepared struct{ row db.AddPersonParams }

// Prepare checks somebody to be added and hashes the secret.
func Prepare(ctx context.Context, n NewPerson) (Prepared, error) {
	var e field.Errors
	n.Name = name.Take(&e, "name", n.Name, 60)
	switch n.Kind {
	case who.Crew:
		n.Login = ""
		checkSecret(&e, n.Kind, "", n.Secret)
	case who.Staff, who.Coordinator:
		n.Login = checkLogin(&e, n.Login)
		checkSecret(&e, n.Kind, n.Login, n.Secret, append(n.Near, n.Name)...)
	default:
		e.Add("kind", "must be coordinator, staff or crew")
	}
	if err := e.Err(); err != nil {
		return Prepared{}, err
	}
	hash, err := hashOf(ctx, n.Secret)
	row := db.AddPersonParams{ID: n.ID, Kind: string(n.Kind), Name: n.Name, SecretHash: hash}
	if n.Login != "" {
		row.Login = &n.Login
	}
	return Prepared{row}, err
}

// Add adds a person, in the name of a coordinator or of the command line.
func Add(ctx context.Context, s *store.Store, w who.Who, n NewPerson) (uuid.UUID, error) {
	if err := w.Must(who.People); err != nil {
		return uuid.Nil, err
	}
	near, err := namesOf(ctx, s, w)
	if err != nil {
		return uuid.Nil, err
	}
	n.Near = append(n.Near, near...)
	p, err := Prepare(ctx, n)
	if err == nil && n.Kind == who.Crew {
		err = alone(ctx, s, w, n.ID, n.Secret)
	}
	if err != nil {
		return uuid.Nil, err
	}
	return p.Add(ctx, s, w)
}

// Add adds the prepared person, as the function Add does.
func (p Prepared) Add(ctx context.Context, s *store.Store, w who.Who) (uuid.UUID, error) {
	if err := w.Must(who.People); err != nil {
		return uuid.Nil, err
	}
	row := p.row
	row.SchoolID = w.School
	if row.ID == uuid.Nil {
		var err error
		if row.ID, err = uuid.NewV7(); err != nil {
			return row.ID, err
		}
	}
	return row.ID, s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.AddPerson(ctx, row); err != nil {
			return err // the command line is nobody in the school
		}
		return trail.Write(ctx, tx, "Added %s as %s", row.Name, who.Kind(row.Kind).Words())
	})
}

func pinOK(s string) bool {
	if len(s) < 4 || len(s) > 8 {
		return false
	}
	return strings.Trim(s, "0123456789") == ""
}
