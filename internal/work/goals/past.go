package goals

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Past is a goal that is over, and what came of it.
type Past struct {
	Goal    Setup
	Batches []PastBatch
}

// PastBatch is what was sown for it.
type PastBatch struct {
	ID     uuid.UUID
	Code   string
	Sown   calendar.Day
	Closed bool
	State  batch.State // its counts
}

// Plants is how many plants of a batch came to something: they went to another place, were harvested or
// handed over.
func (b PastBatch) Plants() int { return max(b.State.Moved, b.State.Taken+b.State.Given()) }

// Came is how many plants all of them came to, and how much was harvested, g.
func (p Past) Came() (plants int, grams float64) {
	for _, b := range p.Batches {
		plants, grams = plants+b.Plants(), grams+b.State.Grams
	}
	return plants, grams
}

// Met tells whether as much came of it as was wanted: in each of its weeks, or of each variety.
func (p Past) Met() bool {
	plants, grams := p.Came()
	wanted := p.Goal.Wanted
	switch p.Goal.Kind {
	case "weekly":
		wanted *= max(1, int(p.Goal.By-p.Goal.From+6)/7)
	case "trial":
		wanted *= len(p.Goal.Arms())
	}
	return plants >= max(1, wanted) && (p.Goal.Grams == nil || grams >= *p.Goal.Grams)
}

// Lost is how many plants of it were lost, by the cause.
func (p Past) Lost() map[batch.Cause]int {
	out := map[batch.Cause]int{}
	for _, b := range p.Batches {
		for c, n := range b.State.Lost {
			out[c] += n
		}
	}
	return out
}

// PastGoals are the goals that are over, the latest first.
func PastGoals(ctx context.Context, s *store.Store, w who.Who) (out []Past, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		rows, err := tx.PastGoals(ctx, w.Day(tx.Now).UTC())
		if err != nil {
			return err
		}
		for _, r := range rows {
			if len(out) == 0 || out[len(out)-1].Goal.ID != r.ID {
				out = append(out, Past{Goal: Setup{
					ID: r.ID, Name: r.Name, Kind: r.Kind, Crop: r.Crop, Variety: r.Variety, Wanted: r.Wanted, Grams: r.Grams, Whom: r.Whom,
					From: calendar.Of(r.FromDay), By: calendar.Of(r.ByDay),
				}})
			}
			if r.Batch == nil || r.SownAt == nil {
				continue
			}
			b := PastBatch{ID: *r.Batch, Code: r.Code, Sown: w.Day(*r.SownAt), Closed: r.Closed}
			if err := json.Unmarshal(r.State, &b.State); err != nil {
				return err
			}
			last := &out[len(out)-1]
			last.Batches = append(last.Batches, b)
		}
		return nil
	})
	return out, err
}
