package people

import (
	"bytes"
	"context"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// Device is one on which crews may sign in where the school asks for it.
type Device struct {
	ID         uuid.UUID
	Name       string
	EnrolledBy string
	EnrolledAt time.Time
	This       bool
}

// devices lists those that are enrolled; token is that of the device in hand.
func devices(ctx context.Context, tx *store.Tx, token string) (out []Device, err error) {
	rows, err := tx.ListCrewDevices(ctx)
	for _, r := range rows {
		out = append(out, Device{r.ID, r.Name, r.EnrolledBy, r.EnrolledAt, bytes.Equal(r.Token, store.DeviceHash(token))})
	}
	return out, err
}

// Enrol lets crews sign in on the device in hand.
func Enrol(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, token, called string) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	if token == "" {
		return field.Refuse("device", "keeps no cookies, so Ulpa cannot tell it from another tablet; allow cookies for this address")
	}
	called = name.Clean(called)
	if says := name.Wrong(called, 60); says != nil {
		return field.Refuse("device", "%s", says)
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.EnrolDevice(ctx, db.EnrolDeviceParams{
			SchoolID: w.School, ID: id, Token: store.DeviceHash(token), Name: called, EnrolledBy: w.Person,
			EnrolledAt: tx.Now,
		}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Enrolled the tablet %s for crews", called)
	})
}

// Dismiss takes a device off the list.
func Dismiss(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		called, err := tx.DropCrewDevice(ctx, id)
		if err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Took the tablet %s off the list for crews", called)
	})
}

// SetCrewsOnEnrolledOnly says whether crews sign in on enrolled devices only.
func SetCrewsOnEnrolledOnly(ctx context.Context, s *store.Store, w who.Who, only bool) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetCrewsOnEnrolledOnly(ctx, only); err != nil {
			return err
		}
		says := say.Words("Let crews sign in on any tablet")
		if only {
			says = "Let crews sign in on enrolled tablets only"
		}
		return trail.Write(ctx, tx, says)
	})
}
