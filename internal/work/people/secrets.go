package people

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"strings"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// checkSecret refuses a password or a crew's PIN that is short or tried first.
func checkSecret(e *field.Errors, kind who.Kind, login, secret string, near ...string) {
	if kind == who.Crew {
		e.Require(pinOK(secret), "secret", "must be a PIN of 4 to 8 digits")
		e.Require(!commonPIN(secret), "secret", "is one of the first anybody would try (a year, a row, the same digit again); roll dice for it")
		return
	}
	e.Require(utf8.RuneCountInString(secret) >= 10 && len(secret) <= 200, "secret", "must be a password of at least 10 characters")
	e.Require(
		!tooCommon(secret, login, near...),
		"secret",
		"is one of the first anybody would try; use three or four words that have nothing to do with each other",
	)
}

// hashOf hashes a secret: that takes a while, needs no database, and waits its turn.
func hashOf(ctx context.Context, secret string) (string, error) {
	_, done, err := bound.Secrets.Enter(ctx, bound.Asker{})
	if err != nil {
		return "", err
	}
	defer done()
	return argon2id.CreateHash(secret, hashing)
}

// fresh checks a new secret of somebody and hashes it.
func fresh(ctx context.Context, s *store.Store, w who.Who, m Member, secret string) (string, error) {
	near, err := namesOf(ctx, s, w)
	if err != nil {
		return "", err
	}
	var e field.Errors
	checkSecret(&e, m.Kind, m.Login, secret, append(near, m.Name)...)
	err = e.Err()
	if err == nil && m.Kind == who.Crew {
		err = alone(ctx, s, w, m.ID, secret)
	}
	if err != nil {
		return "", err
	}
	return hashOf(ctx, secret)
}

// alone refuses a PIN that another crew has: each would sign in for the other. It does not say whose
// it is.
func alone(ctx context.Context, s *store.Store, w who.Who, crew uuid.UUID, pin string) error {
	others, err := s.OtherPINs(ctx, w, crew)
	if err != nil || len(others) == 0 {
		return err
	}
	_, done, err := bound.Secrets.Enter(ctx, bound.Asker{})
	if err != nil {
		return err
	}
	defer done()
	for _, hash := range others {
		same, err := argon2id.ComparePasswordAndHash(pin, hash)
		if err != nil {
			return err
		}
		if same {
			return field.Refuse("secret", "is taken; roll dice for another")
		}
	}
	return nil
}

// namesOf are what a school is called.
func namesOf(ctx context.Context, s *store.Store, w who.Who) (names []string, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		school, err := tx.GetSchool(ctx)
		names = []string{school.Name, school.Slug}
		return err
	})
	return names, err
}

// SetOwnSecret changes one's own password or PIN, for somebody who knows the old one. Every
// other session of theirs is over; the person comes back with the number of those that hold.
func SetOwnSecret(ctx context.Context, s *store.Store, w who.Who, from From, old, secret string) (who.Who, error) {
	var me Member
	var slug string
	err := s.Read(ctx, w, func(tx *store.Tx) (err error) {
		if me, err = member(ctx, tx, w.Person); err != nil {
			return err
		}
		school, err := tx.GetSchool(ctx)
		slug = school.Slug
		return err
	})
	if err != nil {
		return w, err
	}
	asker := store.Asker{Login: me.Login, Address: from.Address, Device: from.Device}
	if me.Kind == who.Crew {
		asker = store.Asker{School: slug, Crew: me.ID, Address: from.Address, Device: from.Device}
	}
	if _, err := compare(ctx, s, asker, old); err != nil {
		if says := say.Why(err); errors.Is(err, ErrWrong) || says != nil {
			return w, field.Errors{{Field: "old", Message: says}}
		}
		return w, err
	}
	hash, err := fresh(ctx, s, w, me, secret)
	if err != nil {
		return w, err
	}
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		if _, err := tx.SetSecret(ctx, db.SetSecretParams{ID: w.Person, SecretHash: hash}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Changed their own password or PIN")
	})
	if err != nil {
		return w, err
	}
	return Load(ctx, s, who.Who{School: w.School, Person: w.Person})
}

// SetSecret gives somebody another password or PIN, in the name of a coordinator or of the
// command line; who forgot it is signed out everywhere.
func SetSecret(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, secret string) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	var m Member
	if err := s.Read(ctx, w, func(tx *store.Tx) (err error) {
		m, err = member(ctx, tx, id)
		return err
	}); err != nil {
		return err
	}
	hash, err := fresh(ctx, s, w, m, secret)
	if err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		return changed(ctx, tx, id, m.Name, hash)
	})
}

// changed keeps a new secret: the old one opens nothing any more, on no device.
func changed(ctx context.Context, tx *store.Tx, id uuid.UUID, called, hash string) error {
	n, err := tx.SetSecret(ctx, db.SetSecretParams{ID: id, SecretHash: hash})
	if err == nil && n == 0 {
		return field.Refuse("id", "has left; add them back first")
	}
	if err = errors.Join(err, tx.ForgetDevices(ctx, id), tx.DropWayBack(ctx, id)); err != nil {
		return err
	}
	return trail.Write(ctx, tx, "Gave %s a new password or PIN", say.Name(called))
}

// codeLetters are those that nobody takes for another.
const codeLetters = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"

// newCode is a code of twelve letters and figures, in groups of four: 59 bits.
func newCode() (string, error) {
	raw := make([]byte, 12)
	var b strings.Builder
	for i := range raw {
		for {
			if _, err := rand.Read(raw[i : i+1]); err != nil {
				return "", err
			}
			if int(raw[i]) < 256/len(codeLetters)*len(codeLetters) {
				break
			}
		}
		if i > 0 && i%4 == 0 {
			b.WriteByte('-')
		}
		b.WriteByte(codeLetters[int(raw[i])%len(codeLetters)])
	}
	return b.String(), nil
}

// codeHash is what a code is known by, however it was typed.
func codeHash(code string) []byte {
	code = strings.Map(func(r rune) rune {
		if r == '-' || r == ' ' {
			return -1
		}
		return r
	}, strings.ToUpper(code))
	h := sha256.Sum256([]byte("way back " + code))
	return h[:]
}

// WayBack makes a code by which somebody who forgot their password comes in again, once,
// within a day; an earlier one is worth nothing any more.
func WayBack(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (code string, err error) {
	if err := w.Must(who.People); err != nil {
		return "", err
	}
	if code, err = newCode(); err != nil {
		return "", err
	}
	return code, s.InSchool(ctx, w, func(tx *store.Tx) error {
		m, err := member(ctx, tx, id)
		switch {
		case err != nil:
			return err
		case !m.Active:
			return field.Refuse("id", "has left; add them back first")
		case m.Kind == who.Crew:
			return field.Refuse("id", "is a crew: give it another PIN")
		}
		if err := tx.DropWayBack(ctx, id); err != nil {
			return err
		}
		if err := tx.PutWayBack(ctx, db.PutWayBackParams{SchoolID: w.School, PersonID: id, Code: codeHash(code)}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Made a code for %s to sign in again", say.Name(m.Name))
	})
}

// ErrNoWay is the answer to a code that lets nobody in.
var ErrNoWay = say.Wrong("this code does not work (any more); ask for another")

// ReturnBy lets somebody in by a code, with a new password; two-step sign-in is asked for all
// the same.
func ReturnBy(ctx context.Context, s *store.Store, code, secret string) (w who.Who, err error) {
	school, person, err := s.WayBackOf(ctx, codeHash(code))
	if errors.Is(err, store.ErrNotFound) {
		return w, ErrNoWay
	} else if err != nil {
		return w, err
	}
	if w, err = Load(ctx, s, who.Who{School: school, Person: person}); err != nil {
		return w, err
	}
	var m Member
	if err := s.Read(ctx, w, func(tx *store.Tx) (err error) {
		m, err = member(ctx, tx, person)
		return err
	}); err != nil {
		return w, err
	}
	hash, err := fresh(ctx, s, w, m, secret)
	if err != nil {
		return w, err
	}
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		// Two who come with one code at the same moment: the second finds it used up.
		if n, err := tx.UseWayBack(ctx, person); err != nil {
			return err
		} else if n == 0 {
			return ErrNoWay
		}
		if _, err := tx.SetSecret(ctx, db.SetSecretParams{ID: person, SecretHash: hash}); err != nil {
			return err
		}
		if err := tx.ForgetDevices(ctx, person); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Signed in with a code and chose a new password")
	})
	if err != nil {
		return w, err
	}
	return Load(ctx, s, who.Who{School: school, Person: person})
}
