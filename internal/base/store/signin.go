package store

import (
	"context"
	"crypto/sha256"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"ulpa/internal/base/who"
)

// Asker is whoever asks to be let in, before anything is known of them: an adult by a
// login, or a crew of the school with a short name; from an address, on a device.
type Asker struct {
	Login   string
	School  string
	Crew    uuid.UUID // zero: an adult
	Address string
	Device  string // the device's token; "" when it has none
}

// Asked is what the database says to a try to sign in. No hash comes without a person,
// while one must wait, or on a device on which crews may not sign in.
type Asked struct {
	School, Person uuid.UUID // zero: nobody of that name
	Hash           string
	Known          bool // this person has signed in on this device before
	Shut           bool // the school lets crews in on enrolled devices only
	Wait           time.Duration
}

// SignInTry asks to be let in: for the hash to compare with, or how long to wait.
func (s *Store) SignInTry(ctx context.Context, a Asker) (Asked, error) { return s.ask(ctx, a, false) }

// SignInFailed counts a try that failed.
func (s *Store) SignInFailed(ctx context.Context, a Asker) error {
	_, err := s.ask(ctx, a, true)
	return err
}

func (s *Store) ask(ctx context.Context, a Asker, failed bool) (out Asked, err error) {
	var school, person, crew *uuid.UUID
	var slug, hash *string
	if a.Crew != uuid.Nil {
		crew, slug = &a.Crew, &a.School
	}
	var wait float64
	err = s.pool.QueryRow(ctx, "SELECT school_id, person_id, secret_hash, known, shut, wait FROM sign_in_try($1, $2, $3, $4, $5, $6)",
		a.Login, slug, crew, a.Address, DeviceHash(a.Device), failed).Scan(&school, &person, &hash, &out.Known, &out.Shut, &wait)
	if school != nil && person != nil {
		out.School, out.Person = *school, *person
	}
	if hash != nil {
		out.Hash = *hash
	}
	out.Wait = time.Duration(wait * float64(time.Second))
	return out, err
}

// SignInDone forgets the wrong tries of a person on a device.
func (s *Store) SignInDone(ctx context.Context, person uuid.UUID, device string) error {
	_, err := s.pool.Exec(ctx, "SELECT sign_in_done($1, $2)", person, DeviceHash(device))
	return err
}

// DeviceHash is what a device's token is known by.
func DeviceHash(token string) []byte {
	if token == "" {
		return []byte{}
	}
	h := sha256.Sum256([]byte(token))
	return h[:]
}

// Crews are what a tablet shows before anybody is signed in.
type Crews struct {
	School   string // its name; "" when there is no such school
	Language string
	Shut     bool // crews sign in on enrolled devices only, and this is none
	List     []struct {
		ID   uuid.UUID
		Name string
	}
}

// SignInCrews lists the crews of the school with that short name.
func (s *Store) SignInCrews(ctx context.Context, slug, device string) (out Crews, err error) {
	rows, err := s.pool.Query(ctx, "SELECT school_name, language, shut, id, name FROM sign_in_crews($1, $2)", slug, DeviceHash(device))
	if err != nil {
		return out, err
	}
	var id *uuid.UUID
	var name *string
	_, err = pgx.ForEachRow(rows, []any{&out.School, &out.Language, &out.Shut, &id, &name}, func() error {
		if id != nil && name != nil {
			out.List = append(out.List, struct {
				ID   uuid.UUID
				Name string
			}{*id, *name})
		}
		return nil
	})
	return out, err
}

// PersonByLogin says who has a login, in whatever school; ErrNotFound when nobody has.
func (s *Store) PersonByLogin(ctx context.Context, login string) (school, person uuid.UUID, err error) {
	err = s.pool.QueryRow(ctx, "SELECT school_id, id FROM person_by_login($1)", login).Scan(&school, &person)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return school, person, err
}

// WayBackOf says whose way back a code is, by its hash; ErrNotFound when it is nobody's.
func (s *Store) WayBackOf(ctx context.Context, hash []byte) (school, person uuid.UUID, err error) {
	err = s.pool.QueryRow(ctx, "SELECT school_id, id FROM way_back_of($1)", hash).Scan(&school, &person)
	return school, person, translate(err)
}

// SecondProof is the secret of somebody's two-step sign-in, since when it is asked for (nil: it
// is being set up), and the last step that opened; ErrNotFound when there is none.
func (s *Store) SecondProof(ctx context.Context, w who.Who) (secret []byte, since *time.Time, last int64, err error) {
	err = s.in(ctx, w, "BEGIN READ ONLY", func(tx *Tx) error {
		return tx.conn.QueryRow(ctx, "SELECT secret, since, last_step FROM second_proof_of($1)", w.Person).Scan(&secret, &since, &last)
	})
	return secret, since, last, err
}

// OtherPINs are the hashed PINs of the school's crews, but for one.
func (s *Store) OtherPINs(ctx context.Context, w who.Who, crew uuid.UUID) (hashes []string, err error) {
	err = s.in(ctx, w, "BEGIN READ ONLY", func(tx *Tx) error {
		rows, err := tx.conn.Query(ctx, "SELECT * FROM other_pins($1)", crew)
		if err != nil {
			return err
		}
		hashes, err = pgx.CollectRows(rows, pgx.RowTo[string])
		return err
	})
	return hashes, err
}

// UseSecondProof uses a step up; false when it has been before.
func (s *Store) UseSecondProof(ctx context.Context, w who.Who, step int64) (fresh bool, err error) {
	err = s.in(ctx, w, "BEGIN", func(tx *Tx) error {
		return tx.conn.QueryRow(ctx, "SELECT second_proof_used($1, $2)", w.Person, step).Scan(&fresh)
	})
	return fresh, err
}

// KeyHolder is whose key has a hash, what it may, and when it was used last.
type KeyHolder struct {
	School, Program uuid.UUID
	Scope           string
	UsedAt          *time.Time
}

// KeyOf finds whose key has that hash; ErrNotFound when nobody's has.
func (s *Store) KeyOf(ctx context.Context, hash []byte) (k KeyHolder, err error) {
	err = s.pool.QueryRow(ctx, "SELECT school_id, id, scope, used_at FROM key_holder($1)", hash).Scan(&k.School, &k.Program, &k.Scope, &k.UsedAt)
	return k, translate(err)
}

// AnySchool tells whether there is a school at all.
func (s *Store) AnySchool(ctx context.Context) (any bool, err error) {
	err = s.pool.QueryRow(ctx, "SELECT any_school()").Scan(&any)
	return any, err
}

// FirstSchool makes the first school; false when there is one already.
func (s *Store) FirstSchool(ctx context.Context, id uuid.UUID, n NewSchool) (made bool, err error) {
	err = s.pool.QueryRow(ctx, "SELECT first_school($1, $2, $3, $4, $5, $6, $7, $8)",
		id, n.Slug, n.Name, n.Zone, n.UnitSystem, n.Language, n.Latitude, n.Longitude).Scan(&made)
	return made, err
}
