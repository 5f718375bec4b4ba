package round

import (
	"context"
	"slices"

	"ulpa/core/round"
	"ulpa/internal/base/store"
)

// learnDays is how far back it is looked how long things took.
const learnDays = 60

// took is how long each kind of task takes at this school.
func took(ctx context.Context, tx *store.Tx) (map[string]round.Took, error) {
	rows, err := tx.LatestActs(ctx, tx.Now.AddDate(0, 0, -learnDays))
	if err != nil {
		return nil, err
	}
	acts := make([]round.Act, 0, len(rows))
	for _, r := range slices.Backward(rows) {
		a := round.Act{Who: r.PersonID.String(), What: r.Kind, At: r.HappenedAt}
		if r.Kind == TickedOff.Name {
			key, ok := round.ReadKey(r.Task)
			kind := round.Kinds()[key.Kind]
			if !ok || kind == nil {
				continue
			}
			a.What = kind.Timing(key.Of)
		}
		acts = append(acts, a)
	}
	return round.Learn(acts), nil
}
