// Package waters is the waters that go in, and what was measured of each. A tank knows its
// own: a new analysis goes into what the tank uses.
//
//	list, err := waters.All(ctx, store, who)
//	err = waters.Analyse(ctx, store, who, id, list[0].ID, water.Analysis{By: water.Drops, Values: values}, time.Time{})
package waters

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/water"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// Setup is a water as it is set up.
type Setup struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name"`
	Kind    string    `json:"kind"` // of core/water
	Retired bool      `json:"retired,omitempty"`
}

// Kind is how waters are set up.
var Kind = &things.Kind[Setup]{
	Name: "waters", One: "water##thing", Add: "Add a water", Title: "Waters",
	About: "Where the water in the tanks comes from. What was measured of it is on its own page.",
	May:   who.Settings,
	Fields: []ledger.Field[Setup]{
		ledger.Short("name", "Name", func(s *Setup) *string { return &s.Name }),
		ledger.PickOf("kind", "Where from", kinds(), func(s *Setup) *string { return &s.Kind }),
	},
	ID:      func(s *Setup) *uuid.UUID { return &s.ID },
	Retired: func(s *Setup) *bool { return &s.Retired },
	Blank:   func() Setup { return Setup{Kind: water.Kinds[0].ID} },
	All: func(ctx context.Context, tx *store.Tx) (out []Setup, err error) {
		rows, err := tx.AllWaters(ctx)
		for _, r := range rows {
			out = append(out, Setup{r.ID, r.Name, r.Kind, r.Retired})
		}
		return out, err
	},
	Label: func(s Setup) string { return s.Name },
	Page:  func(s Setup) string { return "/waters/" + s.ID.String() },
	Says: func(s Setup) say.Text {
		k, _ := water.KindOf(s.Kind)
		return k.Name
	},
	Check: func(_ context.Context, _ *store.Tx, _, s *Setup) error {
		var e field.Errors
		s.Name = name.Take(&e, "name", s.Name, 60)
		k, known := water.KindOf(s.Kind)
		e.Require(known, "kind", "must be one of these")
		e.Require(k.Refused == "", "kind", k.Refused)
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *Setup, s Setup) error {
		return tx.PutWater(ctx, db.PutWaterParams{SchoolID: tx.Who.School, ID: s.ID, Name: s.Name, Kind: s.Kind, Retired: s.Retired})
	},
	Drop: func(ctx context.Context, tx *store.Tx, s Setup) error {
		if err := tx.DropWater(ctx, s.ID); err != nil {
			return err
		}
		return tx.DropThing(ctx, s.ID)
	},
	Alters: func(ctx context.Context, tx *store.Tx, s Setup) (out []say.Text, err error) {
		list, err := read(ctx, tx, []Setup{s})
		if err == nil && len(list[0].Tanks) > 0 {
			out = append(out, say.T("%s use this water.", say.Plural(len(list[0].Tanks), "tank")))
		}
		return out, err
	},
}

func kinds() (out []ledger.Option) {
	for _, k := range water.Kinds {
		out = append(out, ledger.Option{Value: k.ID, Name: k.Name})
	}
	return out
}

const analysis = "water_analysis"

// Analysed is what was measured of a water.
var Analysed = ledger.Declare(ledger.Kind[water.Analysis]{Name: analysis, Says: func(a water.Analysis) say.Text {
	var parts []say.Text
	for _, q := range water.Quantities {
		if v, told := a.Values[q.ID]; told {
			parts = append(parts, say.T("%s %s", q.Name, Of(q, v)))
		}
	}
	return say.T("Water by %s: %s", water.WayName(a.By), say.Join(", ", parts...))
}, Settle: func(ctx context.Context, tx *store.Tx, about ledger.Things) error {
	if t := about.A(ledger.AWater); t != nil {
		return settle(ctx, tx, t.ID)
	}
	return nil
}})

// Water is a water with what is known of it.
type Water struct {
	Setup
	Analyses []water.Dated // in the order of time
	Facts    water.Facts
	Tanks    []Tank // that are filled with it
}

// Tank is one that is filled with a water.
type Tank struct {
	ID   uuid.UUID
	Name string
}

var full = things.Full[Setup, Water]{Kind: Kind, Read: read}

// Pick is the waters that something can be filled with.
func Pick(ctx context.Context, tx *store.Tx) (out []ledger.Option, err error) {
	all, err := Kind.All(ctx, tx)
	for _, w := range all {
		if !w.Retired {
			out = append(out, ledger.Option{Value: w.ID.String(), Name: say.Name(w.Name)})
		}
	}
	return out, err
}

// Read is a water with its analyses and the tanks that are filled with it; a retired one too.
func Read(ctx context.Context, tx *store.Tx, id uuid.UUID) (Water, error) {
	return full.One(ctx, tx, id)
}

func read(ctx context.Context, tx *store.Tx, list []Setup) (out []Water, err error) {
	var ids []uuid.UUID
	for _, s := range list {
		out, ids = append(out, Water{Setup: s}), append(ids, s.ID)
	}
	facts, err := store.Keep(ctx, tx, fmt.Sprint("facts about waters ", ids), func() ([]db.FactsAboutRow, error) { return tx.FactsAbout(ctx, ids) })
	if err != nil {
		return nil, err
	}
	tanks, err := ledger.Tanks(ctx, tx)
	if err != nil {
		return nil, err
	}
	for i := range out {
		w := &out[i]
		for _, f := range facts {
			if f.ThingID != w.ID || f.Kind != analysis {
				continue
			}
			a := water.Dated{On: tx.Who.Day(f.HappenedAt)}
			if err := json.Unmarshal(f.Data, &a.Analysis); err != nil {
				return nil, err
			}
			w.Analyses = append(w.Analyses, a)
		}
		w.Facts = water.Known(w.Analyses)
		for _, t := range tanks {
			if t.Water != nil && *t.Water == w.ID {
				w.Tanks = append(w.Tanks, Tank{t.ID, t.Name})
			}
		}
	}
	return out, nil
}

// Get is Read in a transaction of its own.
func Get(ctx context.Context, s *store.Store, me who.Who, id uuid.UUID) (Water, error) {
	return full.Get(ctx, s, me, id)
}

// All are the waters that are in use, with what is known of each.
func All(ctx context.Context, s *store.Store, me who.Who) ([]Water, error) {
	return full.All(ctx, s, me)
}

// Into puts what is known of a water into what a tank uses.
func Into(spec *tank.Spec, f water.Facts) {
	if x, told := f["ec"]; told {
		spec.WaterEC = x.Value
	}
	if x, told := f["alkalinity"]; told {
		spec.WaterAlkalinity = x.Value
	}
}

// Analyse records what was measured of a water; the tanks that are filled with it use
// it from then on.
func Analyse(ctx context.Context, s *store.Store, me who.Who, act ledger.Act, a water.Analysis) error {
	if err := me.Must(who.Record); err != nil {
		return err
	}
	if err := a.Check(); err != nil {
		return err
	}
	return ledger.Once(ctx, s, me, ledger.Sent{ID: act.ID, Verb: "waters.Analyse", What: []any{act.On, a, act.At}}, func(tx *store.Tx) error {
		before, err := Read(ctx, tx, act.On)
		if err != nil {
			return err
		}
		again, err := ledger.Write(ctx, tx, ledger.Fact{
			ID: act.ID, Kind: Analysed.Name, HappenedAt: act.At, About: []uuid.UUID{act.On}, Data: a, Names: before.Name,
		})
		if again || err != nil {
			return err
		}
		return settle(ctx, tx, act.On)
	})
}

// settle brings what tanks use in step with what is known of their water.
func settle(ctx context.Context, tx *store.Tx, waterID uuid.UUID) error {
	now, err := Read(ctx, tx, waterID)
	if err != nil {
		return err
	}
	rows, err := tx.TanksOfWater(ctx, &waterID)
	if err != nil {
		return err
	}
	for _, r := range rows {
		var spec tank.Spec
		if err := json.Unmarshal(r.Spec, &spec); err != nil {
			return err
		}
		Into(&spec, now.Facts)
		b, err := json.Marshal(spec)
		if err != nil {
			return err
		}
		if err := tx.SetTankSpec(ctx, db.SetTankSpecParams{ID: r.ID, Spec: b}); err != nil {
			return err
		}
		if err := ledger.Refold(ctx, tx, r.ID); err != nil {
			return err
		}
	}
	return nil
}

// Of says a figure as people read it.
func Of(q water.Quantity, v float64) say.Text {
	if q.Unit == "" {
		return say.Figure(v, "pH")
	}
	return say.Of(v, q.Unit)
}
