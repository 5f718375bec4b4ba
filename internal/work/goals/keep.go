package goals

import (
	"context"
	"encoding/json"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
)

// compare says what the plan would change of what was kept.
func (o *Outlook) compare(book crops.Book) (out []say.Text) {
	for _, l := range o.Lines {
		called := say.T("%s, %s", say.Name(l.Goal.Name), say.Lower(book.Find(l.Goal.Crop).Name))
		for _, b := range l.Batches {
			if !b.planned() {
				continue
			}
			sow := b.Moves[0].Day
			switch k, ok := o.keptAs(b.ID); {
			case !ok:
				out = append(out, say.T("%s: sow on %s, ready on %s.", called, sow.Short(), b.Ready.Short()))
			case k.Wanted != b.Plants:
				out = append(out, say.T("%s: %d plants instead of %d.", called, b.Plants, k.Wanted))
			case k.Sow != sow:
				out = append(out, say.T("%s: sow on %s instead of %s.", called, sow.Short(), k.Sow.Short()))
			case !slices.Equal(k.Moves, b.Moves) || k.Ready != b.Ready:
				out = append(out, say.T("%s: the sowing of %s is now on other days or in other places.", called, sow.Short()))
			}
		}
	}
	for _, k := range o.dropped() {
		out = append(out, say.T("%s: no longer sown on %s.", book.Find(k.Crop).Name, k.Sow.Short()))
	}
	return out
}

// dropped are the sowings that were kept, are still to come, and that the plan has no more.
func (o *Outlook) dropped() []kept {
	now := map[uuid.UUID]bool{}
	for _, l := range o.Lines {
		for _, b := range l.Batches {
			now[b.ID] = now[b.ID] || b.planned()
		}
	}
	return slices.DeleteFunc(slices.Clone(o.kept), func(k kept) bool { return k.Sown || now[k.ID] })
}

// Keep writes the plan down as it was shown: its sowings come up on the round. What was
// planned meanwhile refuses it.
func Keep(ctx context.Context, s *store.Store, w who.Who, tag string) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		o, err := look(ctx, tx)
		if err != nil {
			return err
		}
		if o.Tag != tag {
			return field.Refuse("plan", "has changed meanwhile; look at it again")
		}
		n := 0
		for _, l := range o.Lines {
			for _, b := range l.Batches {
				if !b.planned() {
					continue
				}
				n++
				moves, err := json.Marshal(b.Moves)
				if err != nil {
					return err
				}
				err = tx.PutPlanned(ctx, db.PutPlannedParams{
					SchoolID: w.School, ID: b.ID, Crop: l.Goal.Crop, Wanted: b.Plants, SowOn: b.Moves[0].Day.UTC(), ReadyBy: b.Ready.UTC(),
					GoalID: &l.Goal.ID, Moves: moves,
				})
				if err != nil {
					return err
				}
			}
		}
		for _, k := range o.dropped() {
			if err := tx.DropPlanned(ctx, k.ID); err != nil {
				return err
			}
		}
		return trail.Write(ctx, tx, "Saved the season’s plan: %s", say.Plural(n, "sowing"))
	})
}
