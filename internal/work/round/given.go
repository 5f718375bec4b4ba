package round

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// Somebody is a crew or a person to whom something can be given.
type Somebody struct {
	ID   uuid.UUID
	Name string
}

// Gift gives a stop, until that is changed, or a task, for today.
type Gift struct {
	Key round.Key // of a task of today's walk, or of a stop: round.StopKey
	To  uuid.UUID // a crew or a person; zero: whoever comes
}

// Give says who does what of today's walk: all of it, or nothing when one is refused.
func Give(ctx context.Context, s *store.Store, w who.Who, gifts []Gift) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		walk, err := today(ctx, tx)
		if err != nil {
			return err
		}
		names := map[uuid.UUID]string{}
		for _, p := range walk.People {
			names[p.ID] = p.Name
		}
		what := map[round.Key]say.Text{}
		for _, stop := range walk.Stops {
			what[round.StopKey(stop.Place)] = say.Name(stop.Name)
			for _, t := range stop.Tasks {
				what[t.Key] = t.What()
			}
		}
		for _, g := range gifts {
			if what[g.Key] == nil {
				return field.Refuse("key", "is not one of today’s any more; load the round again")
			}
			if g.To != uuid.Nil && names[g.To] == "" {
				return field.Refuse("to", "choose a crew or a person")
			}
			if walk.Given[g.Key].ID == g.To {
				continue
			}
			if err := give(ctx, tx, walk, g); err != nil {
				return err
			}
			to := say.Text(say.Words("anybody"))
			if g.To != uuid.Nil {
				to = say.Name(names[g.To])
			}
			if err := trail.Write(ctx, tx, "Gave out work on the round: %s, to %s", what[g.Key], to); err != nil {
				return err
			}
		}
		return nil
	})
}

func give(ctx context.Context, tx *store.Tx, walk Walk, g Gift) error {
	day := walk.Today.UTC()
	if err := tx.TakeBack(ctx, db.TakeBackParams{Key: g.Key.String(), Today: &day}); err != nil || g.To == uuid.Nil {
		return err
	}
	row := db.GiveParams{SchoolID: tx.Who.School, Key: g.Key.String(), PersonID: g.To}
	if !g.Key.OfStop() {
		row.UntilDay = &day
	}
	return tx.Give(ctx, row)
}

// given reads to whom what is given, and to whom anything can be.
func (walk *Walk) given(ctx context.Context, tx *store.Tx) error {
	day := walk.Today.UTC()
	rows, err := tx.Given(ctx, &day)
	walk.Given = map[round.Key]Somebody{}
	for _, r := range rows {
		p := Somebody{r.ID, r.Name}
		if n := len(walk.People); n == 0 || walk.People[n-1] != p {
			walk.People = append(walk.People, p)
		}
		if key, ok := round.ReadKey(r.Key); ok {
			walk.Given[key] = p
		}
	}
	return err
}
