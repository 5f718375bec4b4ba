package people

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base32"
	"encoding/base64"
	"errors"
	"image/png"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/pquerna/otp"
	"github.com/pquerna/otp/totp"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// proofStep is how long the figures of two-step sign-in hold (RFC 6238, section 4).
const proofStep = 30 * time.Second

// NewProof is what an app for one-time figures is given: as text, and as a picture to scan.
type NewProof struct{ Secret, PNG string }

// BeginProof makes the secret of two-step sign-in. It is asked for once it has been proved.
func BeginProof(ctx context.Context, s *store.Store, w who.Who) (out NewProof, err error) {
	if w.Kind == who.Crew {
		return out, who.ErrNotAllowed
	}
	raw := make([]byte, 20)
	if _, err := rand.Read(raw); err != nil {
		return out, err
	}
	if out, err = proofOf(w, raw); err != nil {
		return out, err
	}
	return out, s.InSchool(ctx, w, func(tx *store.Tx) error {
		if m, err := member(ctx, tx, w.Person); err != nil {
			return err
		} else if m.ProvesTwice {
			return field.Refuse("proof", "is set up already; turn it off first to set it up again")
		}
		if err := tx.DropSecondProof(ctx, w.Person); err != nil {
			return err
		}
		return tx.PutSecondProof(ctx, db.PutSecondProofParams{SchoolID: w.School, PersonID: w.Person, Secret: raw})
	})
}

// proofOf is a secret as an app takes it.
func proofOf(w who.Who, raw []byte) (out NewProof, err error) {
	key, err := totp.Generate(totp.GenerateOpts{Issuer: "Ulpa", AccountName: w.SchoolName + ", " + w.Name, Secret: raw})
	if err != nil {
		return out, err
	}
	img, err := key.Image(220, 220)
	if err != nil {
		return out, err
	}
	var b bytes.Buffer
	if err := png.Encode(&b, img); err != nil {
		return out, err
	}
	return NewProof{key.Secret(), base64.StdEncoding.EncodeToString(b.Bytes())}, nil
}

// ProofBegun is the secret that is being set up; nothing when none is.
func ProofBegun(ctx context.Context, s *store.Store, w who.Who) (out NewProof, err error) {
	secret, since, _, err := s.SecondProof(ctx, w)
	if errors.Is(err, store.ErrNotFound) || err == nil && since != nil {
		return out, nil
	} else if err != nil {
		return out, err
	}
	return proofOf(w, secret)
}

// Proves tells whether a person has two-step sign-in.
func Proves(ctx context.Context, s *store.Store, w who.Who) (bool, error) {
	_, since, _, err := s.SecondProof(ctx, w)
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	return since != nil, err
}

// Prove takes the six figures that a person's app shows. Each opens once; those of half a
// minute ago and of the next hold too, since clocks differ. Wrong ones are counted like
// wrong passwords.
func Prove(ctx context.Context, s *store.Store, w who.Who, from From, figures string) error {
	asker := store.Asker{Login: "second proof of " + w.Person.String(), Address: from.Address}
	asked, err := s.SignInTry(ctx, asker)
	if err != nil {
		return err
	}
	if asked.Wait > 0 {
		return TooSoon{asked.Wait}
	}
	secret, since, last, err := s.SecondProof(ctx, w)
	if err != nil {
		return err
	}
	figures = strings.ReplaceAll(strings.TrimSpace(figures), " ", "")
	now := time.Now() // the world's: an app knows no other
	text := base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString(secret)
	for _, off := range []int64{0, -1, 1} {
		at := now.Unix()/int64(proofStep.Seconds()) + off
		ok, err := totp.ValidateCustom(figures, text, time.Unix(at*30, 0), totp.ValidateOpts{Period: 30, Digits: otp.DigitsSix, Algorithm: otp.AlgorithmSHA1})
		if err != nil || !ok || at <= last {
			continue
		}
		fresh, err := s.UseSecondProof(ctx, w, at)
		if err != nil {
			return err
		}
		if fresh && since == nil {
			return trail.Note(ctx, s, w, "Set up two-step sign-in")
		} else if fresh {
			return nil
		}
	}
	if err := s.SignInFailed(ctx, asker); err != nil {
		return err
	}
	return errors.Join(trail.Note(ctx, s, w, "Wrong two-step code"), ErrWrong)
}

// EndProof ends somebody's two-step sign-in: one's own, or as a coordinator of who lost the
// telephone.
func EndProof(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) error {
	if id != w.Person {
		if err := w.Must(who.People); err != nil {
			return err
		}
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		m, err := member(ctx, tx, id)
		if err != nil {
			return err
		}
		if err := tx.DropSecondProof(ctx, id); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Turned off two-step sign-in for %s", say.Name(m.Name))
	})
}
