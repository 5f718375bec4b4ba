package people

import (
	"context"
	"slices"
	"strings"
	"time"
	"unicode"

	"github.com/google/uuid"
	"golang.org/x/text/unicode/norm"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// Member is somebody who may sign in, or could before they left.
type Member struct {
	ID            uuid.UUID  `json:"id"`
	Kind          who.Kind   `json:"kind"`
	Name          string     `json:"name"`
	Login         string     `json:"login,omitempty"` // a crew has none
	Active        bool       `json:"active"`          // false: has left
	ProvesTwice   bool       `json:"proves_twice"`
	WayBackBefore *time.Time `json:"way_back_until,omitempty"` // until when a code lets them in again
}

// Members lists everybody, those who have left last.
func Members(ctx context.Context, s *store.Store, w who.Who) (out []Member, err error) {
	if err := w.Must(who.People); err != nil {
		return nil, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = members(ctx, tx)
		return err
	})
	return out, err
}

func members(ctx context.Context, tx *store.Tx) (out []Member, err error) {
	rows, err := tx.AllPeople(ctx)
	for _, r := range rows {
		m := Member{ID: r.ID, Kind: who.Kind(r.Kind), Name: r.Name, Active: r.Active, ProvesTwice: r.ProvesSince != nil, WayBackBefore: r.WayBackUntil}
		if r.Login != nil {
			m.Login = *r.Login
		}
		out = append(out, m)
	}
	return out, err
}

func member(ctx context.Context, tx *store.Tx, id uuid.UUID) (m Member, err error) {
	all, err := members(ctx, tx)
	if err != nil {
		return m, err
	}
	if i := slices.IndexFunc(all, func(m Member) bool { return m.ID == id }); i >= 0 {
		return all[i], nil
	}
	return m, store.ErrNotFound
}

// checkLogin cleans what an adult signs in with, and refuses what nobody can type.
func checkLogin(e *field.Errors, login string) string {
	login = strings.ToLower(norm.NFKC.String(strings.TrimSpace(login)))
	e.Require(
		login != "" && len(login) <= 100 && !strings.ContainsFunc(login, unicode.IsSpace),
		"login",
		"enter the name or address to sign in with, without spaces",
	)
	if says := name.Unseen(login); says != nil {
		e.Tell("login", says)
	}
	return login
}

// Change gives somebody another name, login or part: an adult is staff or a coordinator. A
// crew stays one. The last coordinator stays one, too.
func Change(ctx context.Context, s *store.Store, w who.Who, m Member) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	var e field.Errors
	m.Name = name.Take(&e, "name", m.Name, 60)
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		last, err := onlyOne(ctx, tx, m.ID)
		if err != nil {
			return err
		}
		old, err := member(ctx, tx, m.ID)
		if err != nil {
			return err
		}
		var login *string
		switch {
		case old.Kind == who.Crew:
			e.Require(m.Kind == who.Crew, "kind", "stays a crew")
			m.Login = ""
		case m.Kind != who.Staff && m.Kind != who.Coordinator:
			e.Add("kind", "must be coordinator or staff")
		default:
			m.Login = checkLogin(&e, m.Login)
			login = &m.Login
			e.Require(!last || m.Kind == who.Coordinator, "kind", "stays coordinator: there is no other; make somebody else one first")
		}
		if err := e.Err(); err != nil {
			return err
		}
		if old.Kind == m.Kind && old.Name == m.Name && old.Login == m.Login {
			return nil
		}
		if _, err := tx.PutPerson(ctx, db.PutPersonParams{ID: m.ID, Kind: string(m.Kind), Name: m.Name, Login: login}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Changed %s (%s, %s) to %s (%s, %s)",
			say.Name(old.Name), old.Kind.Words(), say.Name(old.Login), say.Name(m.Name), m.Kind.Words(), say.Name(m.Login))
	})
}

// onlyOne tells whether a person is the only coordinator, and holds those until the
// transaction ends.
func onlyOne(ctx context.Context, tx *store.Tx, id uuid.UUID) (bool, error) {
	list, err := tx.LockPeople(ctx)
	return len(list) == 1 && list[0] == id, err
}

// Leave signs somebody out everywhere for good; the name stays in the books.
func Leave(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) error {
	return setActive(ctx, s, w, id, false)
}

// ComeBack lets somebody who left sign in again; what they signed in with holds again.
func ComeBack(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) error {
	return setActive(ctx, s, w, id, true)
}

func setActive(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, active bool) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		last, err := onlyOne(ctx, tx, id)
		if err != nil {
			return err
		}
		m, err := member(ctx, tx, id)
		if err != nil || m.Active == active {
			return err
		}
		if last && !active {
			return field.Refuse("id", "is the only coordinator; make somebody else a coordinator first")
		}
		if _, err := tx.SetActive(ctx, db.SetActiveParams{ID: id, Active: active}); err != nil {
			return err
		}
		if active {
			return trail.Write(ctx, tx, "Let %s sign in again", say.Name(m.Name))
		}
		if err := tx.ForgetDevices(ctx, id); err != nil {
			return err
		}
		if err := tx.DropWayBack(ctx, id); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "%s left and is signed out everywhere", say.Name(m.Name))
	})
}
