package solution

import (
	"context"
	"encoding/json"
	"sync"

	"github.com/google/uuid"

	"ulpa/core/solution"
	"ulpa/internal/ledger"
	"ulpa/internal/season"
	"ulpa/internal/site"
	"ulpa/internal/store"
)

// judged holds what the readings of each tank say of its pH: it is worked out once for
// what was written down, and takes milliseconds. When there are many it begins anew.
var judged struct {
	sync.Mutex
	of map[uuid.UUID]judgedTank
}

type judgedTank struct {
	from string // the spec and the state it rests on
	says solution.Judgement
}

const mostJudged = 2048

func judge(t ledger.Tank) (solution.Judgement, error) {
	b, err := json.Marshal([]any{t.Spec, t.State})
	if err != nil {
		return solution.Judgement{}, err
	}
	judged.Lock()
	x, ok := judged.of[t.ID]
	judged.Unlock()
	if ok && x.from == string(b) {
		return x.says, nil
	}
	x = judgedTank{string(b), solution.Judge(t.Spec, t.State)}
	judged.Lock()
	defer judged.Unlock()
	if judged.of == nil || len(judged.of) >= mostJudged {
		judged.of = map[uuid.UUID]judgedTank{}
	}
	judged.of[t.ID] = x
	return x.says, nil
}

// Stand is every tank as an advice takes it, with who drinks there, in the order given.
func Stand(ctx context.Context, tx *store.Tx, tanks []ledger.Tank) ([]solution.Tank, error) {
	drinkers, err := site.Drinkers(ctx, tx, tanks)
	if err != nil {
		return nil, err
	}
	out := make([]solution.Tank, len(tanks))
	for i, t := range tanks {
		out[i] = solution.Tank{Spec: t.Spec, State: t.State, Plants: drinkers[t.ID]}
		if out[i].Judged, err = judge(t); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// NextVisit is when somebody is next at the school.
func NextVisit(ctx context.Context, tx *store.Tx) (solution.Visit, error) {
	school, err := season.Calendar(ctx, tx)
	if err != nil {
		return solution.Visit{}, err
	}
	today := tx.Who.Day(tx.Now)
	back, closed := school.Next(today)
	return solution.Visit{At: back.At(tx.Who.DayBegins/60, tx.Who.DayBegins%60, tx.Who.Zone), On: back.Long(), Closed: closed}, nil
}
