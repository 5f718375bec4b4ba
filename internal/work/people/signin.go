package people

import (
	"context"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	"golang.org/x/text/unicode/norm"

	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// hashing follows OWASP's second choice for argon2id: 19 MiB, two passes.
var hashing = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// decoy takes as long to compare with as a real hash, so that nobody learns
// from the time it takes whether a login exists.
const decoy = "$argon2id$v=19$m=19456,t=2,p=1$MDEyMzQ1Njc4OTAxMjM0NQ$RVUrmVSsmI4P8RvDzRBE9zT2vFfMkdAe8nYhvXhE5IM"

// TooSoon says how long to wait after failed sign-ins.
type TooSoon struct{ Wait time.Duration }

// Error says it in seconds.
func (t TooSoon) Error() string { return t.Why().String() }

// Why is the same for whoever reads it.
func (t TooSoon) Why() say.Text {
	return say.T("too many wrong tries; wait %d seconds, then try again", int(t.Wait.Seconds())+1)
}

// ErrWrong is the one answer to a wrong login, password or PIN.
var ErrWrong = say.Wrong("that does not match; check it and try again")

// ErrShut is the answer to a crew on a device that nobody has enrolled, where the school
// asks for it.
var ErrShut = say.Wrong("crews of this school sign in on enrolled tablets only")

// From is where somebody asks from: an address, and the device's token.
type From struct{ Address, Device string }

// SignIn lets an adult in.
func SignIn(ctx context.Context, s *store.Store, from From, login, password string) (who.Who, error) {
	return check(
		ctx,
		s,
		store.Asker{Login: strings.ToLower(norm.NFKC.String(strings.TrimSpace(login))), Address: from.Address, Device: from.Device},
		password,
	)
}

// SignInCrew lets a crew of the school with a short name in by its PIN.
func SignInCrew(ctx context.Context, s *store.Store, from From, school string, crew uuid.UUID, pin string) (who.Who, error) {
	if crew == uuid.Nil {
		return who.Who{}, ErrWrong
	}
	return check(ctx, s, store.Asker{School: school, Crew: crew, Address: from.Address, Device: from.Device}, pin)
}

// check asks, compares and counts in one place of a line: no more than those at once are ever
// compared before their failures count.
func check(ctx context.Context, s *store.Store, a store.Asker, secret string) (w who.Who, err error) {
	asked, err := compare(ctx, s, a, secret)
	if err != nil {
		return w, err
	}
	if asked.Known {
		if err := s.SignInDone(ctx, asked.Person, a.Device); err != nil {
			return w, err
		}
	}
	if w, err = Load(ctx, s, who.Who{School: asked.School, Person: asked.Person}); err != nil {
		return w, err
	}
	return w, s.Aside(ctx, w, func(tx *store.Tx) error {
		says := say.Words("Signed in")
		if a.Device != "" {
			if !asked.Known {
				says = "Signed in on a device that was not known"
			}
			if err := tx.KnowDevice(ctx, db.KnowDeviceParams{SchoolID: w.School, PersonID: w.Person, Token: store.DeviceHash(a.Device)}); err != nil {
				return err
			}
		}
		return trail.Write(ctx, tx, says)
	})
}

// compare lets a right secret pass; a wrong one is counted.
func compare(ctx context.Context, s *store.Store, a store.Asker, secret string) (asked store.Asked, err error) {
	ctx, done, err := bound.Secrets.Enter(ctx, bound.Asker{})
	if err != nil {
		return asked, err
	}
	defer done()
	if asked, err = s.SignInTry(ctx, a); err != nil {
		return asked, err
	}
	if asked.Wait > 0 {
		return asked, TooSoon{asked.Wait}
	}
	if asked.Shut {
		return asked, ErrShut
	}
	hash := asked.Hash
	if hash == "" {
		hash = decoy
	}
	ok, err := argon2id.ComparePasswordAndHash(secret, hash)
	if !ok || err != nil || asked.Hash == "" {
		return asked, failed(ctx, s, a, asked)
	}
	return asked, nil
}

// failed counts a wrong try and notes it at once where somebody has that name.
func failed(ctx context.Context, s *store.Store, a store.Asker, asked store.Asked) error {
	if err := s.SignInFailed(ctx, a); err != nil {
		return err
	}
	if asked.Person == uuid.Nil {
		return ErrWrong
	}
	says := say.Words("Wrong password or PIN, on a device that was not known")
	if asked.Known {
		says = "Wrong password or PIN, on a known device"
	}
	w := who.Who{School: asked.School, Person: asked.Person}
	if err := trail.Note(ctx, s, w, says); err != nil {
		return err
	}
	return ErrWrong
}
