package solution

import (
	"context"
	"encoding/json"

	"ulpa/core/calendar"
	"ulpa/core/tank"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/memo"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/work/season"
	"ulpa/internal/work/site"
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
	fish, err := tx.AllTroughs(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]tank.Tank, len(tanks))
	for i, t := range tanks {
		out[i] = tank.Tank{Spec: t.Spec, State: t.State, Plants: drinkers[t.ID], Fish: fishIn(t, fish)}
		if out[i].State.Weather = weather[t.Place]; t.Spec.Passive {
			out[i].Planted = planted[site.Jar{Place: t.Place, Number: t.Position}]
		}
		if out[i].Judged, err = judge(t); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// fishIn is whether fish swim in a tank's water: those of a vessel that shares it do, and of
// one at the same place that shares no tank's nobody knows.
func fishIn(t ledger.Tank, all []db.Trough) (out tank.Fish) {
	for _, f := range all {
		switch {
		case f.Retired:
		case f.TankID != nil && *f.TankID == t.ID:
			return tank.FishShare
		case f.TankID == nil && f.PlaceID == t.Place && !t.Spec.Passive:
			out = tank.FishNear
		}
	}
	return out
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
