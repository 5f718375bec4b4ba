package solution

import (
	"context"
	"encoding/json"

	"ulpa/core/calendar"
	"ulpa/core/tank"
	"ulpa/internal/ledger"
	"ulpa/internal/memo"
	"ulpa/internal/season"
	"ulpa/internal/site"
	"ulpa/internal/store"
)

// judged holds what the readings of tanks say of their pH: it hangs on what was written
// down alone, and takes milliseconds.
var judged = memo.Memo[string, tank.Judgement]{Most: 2048}

func judge(t ledger.Tank) (tank.Judgement, error) {
	from, err := json.Marshal([]any{t.Spec, t.State})
	if err != nil {
		return tank.Judgement{}, err
	}
	return judged.Get(string(from), func() tank.Judgement { return tank.Judge(t.Spec, t.State) }), nil
}

// Stand is every tank as an advice takes it, with who drinks there, in the order given.
func Stand(ctx context.Context, tx *store.Tx, tanks []ledger.Tank) ([]tank.Tank, error) {
	drinkers, err := site.Drinkers(ctx, tx, tanks)
	if err != nil {
		return nil, err
	}
	weather, err := site.Weathers(ctx, tx, tanks)
	if err != nil {
		return nil, err
	}
	planted, err := site.JarPlanted(ctx, tx)
	if err != nil {
		return nil, err
	}
	out := make([]tank.Tank, len(tanks))
	for i, t := range tanks {
		out[i] = tank.Tank{Spec: t.Spec, State: t.State, Plants: drinkers[t.ID]}
		if out[i].State.Weather = weather[t.Place]; t.Spec.Passive {
			out[i].Planted = planted[site.Jar{Place: t.Place, Number: t.Position}]
		}
		if out[i].Judged, err = judge(t); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// NextVisit is when somebody is next at the school.
func NextVisit(ctx context.Context, tx *store.Tx) (tank.Visit, error) {
	school, err := season.Calendar(ctx, tx)
	return visit(school, tx), err
}

func visit(school calendar.School, tx *store.Tx) tank.Visit {
	back, closed := school.Next(tx.Who.Day(tx.Now))
	return tank.Visit{At: back.At(tx.Who.DayBegins/60, tx.Who.DayBegins%60, tx.Who.Zone), On: back.Long(), Closed: closed}
}
