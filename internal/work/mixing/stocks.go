package mixing

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// Stock is a pair of stock bottles, A and B.
type Stock struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name"`
	HoldsL  float64   `json:"holds_l"` // each
	Retired bool      `json:"retired,omitempty"`
}

// StockKind is how pairs of bottles are set up.
var StockKind = &things.Kind[Stock]{
	Name: "stocks", One: "pair of bottles", Add: "Add a pair of bottles", Title: "Stock bottles",
	About: "Stock A and stock B, under one name. Mixing fills the bottles, and tanks fed from them use them up. The mixing page shows how long they " +
		"will last.",
	May: who.Settings,
	Fields: []ledger.Field[Stock]{
		ledger.Short("name", "Name", func(s *Stock) *string { return &s.Name }),
		ledger.Amount("holds_l", "Each holds", unit.Litre, func(s *Stock) *float64 { return &s.HoldsL }),
	},
	ID:      func(s *Stock) *uuid.UUID { return &s.ID },
	Retired: func(s *Stock) *bool { return &s.Retired },
	Blank:   func() Stock { return Stock{HoldsL: 2} },
	All:     allStocks,
	Label:   func(s Stock) string { return s.Name },
	Says:    func(s Stock) say.Text { return say.T("two of %s", say.Of(s.HoldsL, unit.Litre)) },
	Check: func(_ context.Context, _ *store.Tx, _, s *Stock) error {
		var e field.Errors
		s.Name = name.Take(&e, "name", s.Name, 60)
		e.Require(s.HoldsL >= 0.05 && s.HoldsL <= 1000, "holds_l", "must be %s to %s", say.Figure(0.05, unit.Litre), say.Of(1000, unit.Litre))
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *Stock, s Stock) error {
		return tx.PutStock(ctx, db.PutStockParams{SchoolID: tx.Who.School, ID: s.ID, Name: s.Name, HoldsL: s.HoldsL, Retired: s.Retired})
	},
	Drop: func(ctx context.Context, tx *store.Tx, s Stock) error {
		if err := tx.DropStock(ctx, s.ID); err != nil {
			return err
		}
		return tx.DropThing(ctx, s.ID)
	},
	Alters: func(ctx context.Context, tx *store.Tx, s Stock) (out []say.Text, err error) {
		all, err := levels(ctx, tx)
		for _, l := range all {
			if l.ID == s.ID && len(l.Tanks) > 0 {
				out = append(out, say.T("Fed from them: %s.", say.List(say.Names(l.Tanks...)...)))
			}
		}
		return out, err
	},
}

func allStocks(ctx context.Context, tx *store.Tx) (out []Stock, err error) {
	rows, err := tx.AllStocks(ctx)
	for _, r := range rows {
		out = append(out, Stock{r.ID, r.Name, r.HoldsL, r.Retired})
	}
	return out, err
}

// Level is a pair of bottles with what is left in each.
type Level struct {
	Stock
	recipe.Bottle
	Tanks []string // that are fed from it, by name
}

// stockDays is how far back it is looked what went in and out.
const stockDays = 400

// Levels are the pairs of bottles in use, with what is left.
func Levels(ctx context.Context, s *store.Store, w who.Who) (out []Level, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = levels(ctx, tx)
		return err
	})
	return out, err
}

func levels(ctx context.Context, tx *store.Tx) (out []Level, err error) {
	all, err := allStocks(ctx, tx)
	if err != nil || len(all) == 0 {
		return nil, err
	}
	tanks, err := ledger.Tanks(ctx, tx)
	if err != nil {
		return nil, err
	}
	var stocks, fed []uuid.UUID
	of := map[uuid.UUID]uuid.UUID{} // the bottles of a tank
	names := map[uuid.UUID][]string{}
	for _, s := range all {
		stocks = append(stocks, s.ID)
	}
	for _, t := range tanks {
		if id, err := uuid.Parse(t.Spec.Stocks); err == nil {
			of[t.ID], fed = id, append(fed, t.ID)
			names[id] = append(names[id], t.Name)
		}
	}
	since := tx.Now.AddDate(0, 0, -stockDays)
	flows := map[uuid.UUID][]recipe.Flow{}
	mixes, err := tx.StockMixes(ctx, db.StockMixesParams{Stocks: stocks, Since: since})
	if err != nil {
		return nil, err
	}
	for _, r := range mixes {
		var b Batch
		if err := json.Unmarshal(r.Data, &b); err != nil {
			return nil, err
		}
		flows[r.ThingID] = append(flows[r.ThingID], recipe.Flow{At: r.HappenedAt, In: b.Litres})
	}
	uses, err := tx.StockUses(ctx, db.StockUsesParams{Tanks: fed, Since: since})
	if err != nil {
		return nil, err
	}
	for _, r := range uses {
		var t tank.Treatment
		if err := json.Unmarshal(r.Data, &t); err != nil {
			return nil, err
		}
		flows[of[r.ThingID]] = append(flows[of[r.ThingID]], recipe.Flow{At: r.HappenedAt, Out: t.StockML / 1000})
	}
	for _, s := range all {
		if !s.Retired {
			out = append(out, Level{s, recipe.BottleOf(s.HoldsL, flows[s.ID], tx.Now), names[s.ID]})
		}
	}
	return out, nil
}

// Says tells a level.
func (l Level) Says(now time.Time) say.Text {
	if !l.Known {
		return say.T("nothing was mixed into them yet")
	}
	says := say.T("%s left in each", say.Of(l.LeftL, unit.Litre))
	if l.Days != nil {
		says = say.T("%s, about %s at this rate", says, say.Plural(int(*l.Days), "day"))
	}
	if l.MixedAt != nil {
		says = say.T("%s; mixed %s ago", says, say.Plural(int(now.Sub(*l.MixedAt).Hours()/24), "day"))
	}
	return says
}
