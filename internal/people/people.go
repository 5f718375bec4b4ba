// Package people signs people in and keeps the list of them: adults with a
// password, crews of students with a PIN on a shared tablet. No pupil has an
// account or a name here.
package people

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/unit"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/trail"
	"ulpa/internal/who"
)

// hashing follows OWASP's second choice for argon2id: 19 MiB, two passes.
var hashing = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// decoy takes as long to compare with as a real hash, so that nobody learns
// from the time it takes whether a login exists.
const decoy = "$argon2id$v=19$m=19456,t=2,p=1$MDEyMzQ1Njc4OTAxMjM0NQ$RVUrmVSsmI4P8RvDzRBE9zT2vFfMkdAe8nYhvXhE5IM"

// TooSoon says how long to wait after failed sign-ins.
type TooSoon struct{ Wait time.Duration }

// Error says it in seconds.
func (t TooSoon) Error() string {
	return fmt.Sprintf("too many wrong tries; wait %d seconds, then try again", int(t.Wait.Seconds())+1)
}

// ErrWrong is the one answer to a wrong login, password or PIN.
var ErrWrong = errors.New("that does not match; check it and try again")

// SignIn lets an adult in.
func SignIn(ctx context.Context, s *store.Store, login, password string) (who.Who, error) {
	login = strings.ToLower(strings.TrimSpace(login))
	return check(ctx, s, "login:"+login, password, func() (store.SignIn, error) { return s.SignInByLogin(ctx, login) })
}

// SignInCrew lets a crew in by its PIN, on the tablet at an address.
func SignInCrew(ctx context.Context, s *store.Store, school string, crew uuid.UUID, pin string) (who.Who, error) {
	return check(ctx, s, "crew:"+school+":"+crew.String(), pin, func() (store.SignIn, error) {
		crews, err := s.SignInCrews(ctx, school)
		for _, c := range crews {
			if c.Person == crew {
				return c, err
			}
		}
		return store.SignIn{}, errors.Join(err, store.ErrNotFound)
	})
}

func check(ctx context.Context, s *store.Store, key, secret string, find func() (store.SignIn, error)) (who.Who, error) {
	before, wait, err := s.SignInTry(ctx, key)
	if err != nil {
		return who.Who{}, err
	}
	if wait > 0 {
		return who.Who{}, TooSoon{wait}
	}
	found, err := find()
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return who.Who{}, err
	}
	if err != nil {
		found.SecretHash = decoy
	}
	ok, cmpErr := argon2id.ComparePasswordAndHash(secret, found.SecretHash)
	if !ok || err != nil || cmpErr != nil {
		return who.Who{}, ErrWrong
	}
	if err := s.SignInDone(ctx, key); err != nil {
		return who.Who{}, err
	}
	w, err := Load(ctx, s, found.School, found.Person)
	if err != nil {
		return w, err
	}
	says := "Signed in"
	if before > 0 {
		says = fmt.Sprintf("Signed in; wrong tries before: %d", before)
	}
	return w, trail.Note(ctx, s, w, says)
}

// SignOutEverywhere ends all sessions of a person, this one too.
func SignOutEverywhere(ctx context.Context, s *store.Store, w who.Who) error {
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.EndSessions(ctx, w.Person); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Signed out everywhere")
	})
}

// Load reads who a signed-in person is now; ErrNotFound when no longer active.
func Load(ctx context.Context, s *store.Store, school, person uuid.UUID) (who.Who, error) {
	w := who.Who{School: school, Person: person}
	err := s.Read(ctx, w, func(tx *store.Tx) error {
		p, err := tx.GetWho(ctx, person)
		if err != nil {
			return err
		}
		if w.Zone, err = time.LoadLocation(p.Zone); err != nil {
			return err
		}
		w.SchoolName, w.Name, w.Kind, w.Prefs, w.Period, w.Sessions = p.School, p.Name, who.Kind(p.Kind), unit.Parse(p.UnitSystem, p.EcScale), p.PeriodMinutes, p.Sessions
		w.DayBegins, w.DayEnds = p.DayBegins, p.DayEnds
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
		return field.Refuse("ends", "is at least two hours after the day begins")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetSchoolDay(ctx, db.SetSchoolDayParams{DayBegins: begins, DayEnds: ends}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, fmt.Sprintf("Set the school’s day to %d:%02d to %d:%02d", begins/60, begins%60, ends/60, ends%60))
	})
}

// SetSchoolUnits chooses what everybody reads who has not chosen.
func SetSchoolUnits(ctx context.Context, s *store.Store, w who.Who, p unit.Prefs) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetSchoolUnits(ctx, db.SetSchoolUnitsParams{UnitSystem: p.System(), EcScale: p.Scale()}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Set the school's units to "+p.System()+", "+p.Scale())
	})
}

// NewPerson is somebody to be added. A crew has no login, and a PIN for a secret.
type NewPerson struct {
	Kind   who.Kind
	Name   string
	Login  string
	Secret string
}

// Prepared is somebody to be added whose secret has been hashed: that takes a
// while and needs no database.
type Prepared struct{ row db.AddPersonParams }

// Prepare checks somebody to be added and hashes the secret.
func Prepare(n NewPerson) (Prepared, error) {
	n.Name, n.Login = strings.TrimSpace(n.Name), strings.ToLower(strings.TrimSpace(n.Login))
	var e field.Errors
	e.Require(n.Name != "" && utf8.RuneCountInString(n.Name) <= 60, "name", "takes 1 to 60 letters; for a crew a made-up name, never pupils' own")
	switch n.Kind {
	case who.Crew:
		e.Require(pinOK(n.Secret), "secret", "takes a PIN of 4 to 8 digits")
		n.Login = ""
	case who.Staff, who.Coordinator:
		e.Require(n.Login != "" && len(n.Login) <= 100, "login", "takes the name or address to sign in with")
		e.Require(utf8.RuneCountInString(n.Secret) >= 10 && len(n.Secret) <= 200, "secret", "takes a password of at least 10 characters")
		e.Require(!tooCommon(n.Secret, n.Login), "secret", "is among the first that anybody would try; take three or four words that have nothing to do with each other")
	default:
		e.Add("kind", "takes coordinator, staff or crew")
	}
	if err := e.Err(); err != nil {
		return Prepared{}, err
	}
	hash, err := argon2id.CreateHash(n.Secret, hashing)
	row := db.AddPersonParams{Kind: string(n.Kind), Name: n.Name, SecretHash: hash}
	if n.Login != "" {
		row.Login = &n.Login
	}
	return Prepared{row}, err
}

// Add adds a person, in the name of a coordinator or of the command line.
func Add(ctx context.Context, s *store.Store, w who.Who, n NewPerson) (uuid.UUID, error) {
	if err := w.Must(who.Settings); err != nil {
		return uuid.Nil, err
	}
	p, err := Prepare(n)
	if err != nil {
		return uuid.Nil, err
	}
	return p.Add(ctx, s, w)
}

// Add adds the prepared person, as the function Add does.
func (p Prepared) Add(ctx context.Context, s *store.Store, w who.Who) (uuid.UUID, error) {
	if err := w.Must(who.Settings); err != nil {
		return uuid.Nil, err
	}
	id, err := uuid.NewV7()
	if err != nil {
		return uuid.Nil, err
	}
	row := p.row
	row.SchoolID, row.ID = w.School, id
	return id, s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.AddPerson(ctx, row); err != nil || w.Person == uuid.Nil {
			return err // the command line is nobody in the school
		}
		return trail.Write(ctx, tx, fmt.Sprintf("Added %s as %s", row.Name, row.Kind))
	})
}

func pinOK(s string) bool {
	if len(s) < 4 || len(s) > 8 {
		return false
	}
	return strings.Trim(s, "0123456789") == ""
}
