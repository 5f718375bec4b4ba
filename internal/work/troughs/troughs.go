// Package troughs is vessels with fish: who swims there, what they eat, how the water stands,
// and what is wrong with it.
//
//	list, err := troughs.All(ctx, store, who)
//	err = troughs.Feed(ctx, store, who, id, list[0].ID, fish.Fed{Grams: 40}, time.Time{})
package troughs

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/fish"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
	"ulpa/internal/work/waters"
)

// Setup is a vessel with fish as it is set up.
type Setup struct {
	ID             uuid.UUID `json:"id"`
	Name           string    `json:"name"`
	Place          uuid.UUID `json:"place"`
	Kind           string    `json:"kind"` // of core/fish
	WaterL         float64   `json:"water_l"`
	FilterM2       float64   `json:"filter_m2"` // of surface for bacteria; 0: nobody knows
	PlantM2        float64   `json:"plant_m2"`
	FeedPercent    float64   `json:"feed_percent"` // of body mass a day, where they are hungriest
	ProteinPercent float64   `json:"protein_percent"`
	Water          string    `json:"water,omitempty"` // the id of the water for changes
	Tank           string    `json:"tank,omitempty"`  // the id of the tank that shares their water
	Retired        bool      `json:"retired,omitempty"`
}

func (s Setup) trough() fish.Trough {
	return fish.Trough{
		Kind: s.Kind, WaterL: s.WaterL, FilterM2: s.FilterM2, PlantM2: s.PlantM2, FeedPercent: s.FeedPercent, ProteinPercent: s.ProteinPercent,
	}
}

// pick is where a vessel can stand, which waters go in, and which tanks there are.
func pick(ctx context.Context, tx *store.Tx) (things.Options, error) {
	out, err := site.PickPlace(ctx, tx)
	if err != nil {
		return nil, err
	}
	if out["water"], err = waters.Pick(ctx, tx); err != nil {
		return nil, err
	}
	tanks, err := ledger.Tanks(ctx, tx)
	for _, t := range tanks {
		out["tank"] = append(out["tank"], ledger.Option{Value: t.ID.String(), Name: say.Name(t.Name)})
	}
	return out, err
}

func kinds() (out []ledger.Option) {
	for _, k := range fish.Kinds {
		out = append(out, ledger.Option{Value: k.ID, Name: k.Name})
	}
	return out
}

// Kind is how they are set up.
var Kind = &things.Kind[Setup]{
	Name: "fish", One: "vessel with fish", Add: "Add a vessel with fish", Title: "Fish",
	About: "Tanks with fish. You put fish in, weigh, feed and read them on a page of their own. Ask first which fish may be kept, and by whom.",
	May:   who.Settings,
	Fields: []ledger.Field[Setup]{
		ledger.Short("name", "Name", func(s *Setup) *string { return &s.Name }),
		ledger.PickID("place", "Where it is", func(s *Setup) *uuid.UUID { return &s.Place }),
		ledger.PickOf("kind", "Fish", kinds(), func(s *Setup) *string { return &s.Kind }),
		ledger.PickOf("water", "Water for changes", []ledger.Option{{Value: "", Name: say.Words("not measured yet")}},
			func(s *Setup) *string { return &s.Water }).
			Hinted("How much may be changed depends on its pH and alkalinity."),
		ledger.PickOf("tank", "Shares its water with", []ledger.Option{{Value: "", Name: say.Words("no tank")}}, func(s *Setup) *string { return &s.Tank }).
			Hinted("A tank that fish swim in, or whose water comes from them, is never fed from bottles nor given acid."),
		ledger.Amount("water_l", "Total water, including pipes and beds", unit.Litre, func(s *Setup) *float64 { return &s.WaterL }),
		ledger.Amount("filter_m2", "Surface of the filter", "m²", func(s *Setup) *float64 { return &s.FilterM2 }).Hinted("What its maker says; 0: not known."),
		ledger.Amount("plant_m2", "Plants that its water feeds", "m²", func(s *Setup) *float64 { return &s.PlantM2 }),
		ledger.Amount("feed_percent", "Feed a day, of body mass", "%", func(s *Setup) *float64 { return &s.FeedPercent }).
			Hinted("Share of their weight a day, at the temperature where they eat most: 1.5 to 2.5 % for fish a hand long, more for small ones."),
		ledger.Amount("protein_percent", "Protein in the feed", "%", func(s *Setup) *float64 { return &s.ProteinPercent }),
	},
	ID:      func(s *Setup) *uuid.UUID { return &s.ID },
	Retired: func(s *Setup) *bool { return &s.Retired },
	Blank:   func() Setup { return Setup{Kind: fish.Kinds[0].ID, WaterL: 500, FeedPercent: 1.5, ProteinPercent: 32} },
	Pick:    pick,
	All: func(ctx context.Context, tx *store.Tx) (out []Setup, err error) {
		rows, err := tx.AllTroughs(ctx)
		for _, r := range rows {
			out = append(out, Setup{
				r.ID, r.Name, r.PlaceID, r.Kind, r.WaterL, r.FilterM2, r.PlantM2, r.FeedPercent, r.ProteinPercent, ledger.IDWords(r.WaterID),
				ledger.IDWords(r.TankID), r.Retired,
			})
		}
		return out, err
	},
	Label: func(s Setup) string { return s.Name },
	Page:  func(s Setup) string { return "/fish/" + s.ID.String() },
	Says:  func(s Setup) say.Text { return say.T("%s, %s", say.Of(s.WaterL, unit.Litre), fish.KindOf(s.Kind).Name) },
	Check: func(ctx context.Context, tx *store.Tx, _, s *Setup) error {
		var e field.Errors
		s.Name = name.Take(&e, "name", s.Name, 60)
		e.Require(fish.KindOf(s.Kind).ID == s.Kind, "kind", "must be one of these")
		e.Require(s.WaterL >= 10 && s.WaterL <= 1e6, "water_l", "must be %s to %s", say.Figure(10, unit.Litre), say.Of(1e6, unit.Litre))
		e.Require(s.FilterM2 >= 0 && s.FilterM2 <= 1e5, "filter_m2", "must be 0 to 100,000")
		e.Require(s.PlantM2 >= 0 && s.PlantM2 <= 1e5, "plant_m2", "must be 0 to 100,000")
		e.Require(s.FeedPercent > 0 && s.FeedPercent <= 15, "feed_percent", "must be above 0 up to 15")
		e.Require(s.ProteinPercent >= 5 && s.ProteinPercent <= 70, "protein_percent", "must be 5 to 70")
		if _, err := site.GetPlace(ctx, tx, s.Place); err != nil {
			e.Add("place", "choose a place")
		}
		options, err := pick(ctx, tx)
		if err != nil {
			return err
		}
		for name, id := range map[string]string{"water": s.Water, "tank": s.Tank} {
			known := slices.ContainsFunc(options[name], func(o ledger.Option) bool { return o.Value == id })
			e.Require(id == "" || known, name, "must be one of these")
		}
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *Setup, s Setup) error {
		return tx.PutTrough(ctx, db.PutTroughParams{
			SchoolID: tx.Who.School, ID: s.ID, Name: s.Name, PlaceID: s.Place, Kind: s.Kind, WaterL: s.WaterL, FilterM2: s.FilterM2, PlantM2: s.PlantM2,
			FeedPercent: s.FeedPercent, ProteinPercent: s.ProteinPercent, Retired: s.Retired, WaterID: ledger.IDOf(s.Water), TankID: ledger.IDOf(s.Tank),
		})
	},
	Drop: func(ctx context.Context, tx *store.Tx, s Setup) error {
		if err := tx.DropTrough(ctx, s.ID); err != nil {
			return err
		}
		return tx.DropThing(ctx, s.ID)
	},
	Alters: func(ctx context.Context, tx *store.Tx, s Setup) (out []say.Text, err error) {
		list, err := read(ctx, tx, []Setup{s})
		if err == nil && list[0].State.Fish > 0 {
			out = append(out, say.T("%d fish swim in it.", list[0].State.Fish))
		}
		return out, err
	},
}

// Trough is a vessel with what is known of it.
type Trough struct {
	Setup
	PlaceName string
	State     fish.State
	Source    fish.Source
}

// Trough is it as it is used in sums, its water for changes with it.
func (t Trough) Trough() fish.Trough {
	out := t.Setup.trough()
	out.Source = t.Source
	return out
}

// factDays is how far back feed and water are looked at.
const factDays = 90

// events by the kinds of their entries.
func event(kind string, data []byte, at time.Time) (e fish.Event, err error) {
	e.At = at
	switch kind {
	case Read.Name:
		e.Reading = &fish.Reading{}
		err = json.Unmarshal(data, e.Reading)
	case Stocked.Name:
		e.Stock = &fish.Stock{}
		err = json.Unmarshal(data, e.Stock)
	case Weighed.Name:
		e.Sample = &fish.Sample{}
		err = json.Unmarshal(data, e.Sample)
	case FedFish.Name:
		e.Fed = &fish.Fed{}
		err = json.Unmarshal(data, e.Fed)
	case Changed.Name:
		e.Added = &fish.Added{}
		err = json.Unmarshal(data, e.Added)
	}
	return e, err
}

func read(ctx context.Context, tx *store.Tx, list []Setup) (out []Trough, err error) {
	var ids []uuid.UUID
	for _, s := range list {
		ids = append(ids, s.ID)
	}
	rows, err := tx.FishFacts(ctx, db.FishFactsParams{Troughs: ids, Since: tx.Now.AddDate(0, 0, -factDays)})
	if err != nil {
		return nil, err
	}
	events := map[uuid.UUID][]fish.Event{}
	for _, r := range rows {
		e, err := event(r.Kind, r.Data, r.HappenedAt.In(tx.Who.Zone))
		if err != nil {
			return nil, err
		}
		events[r.ThingID] = append(events[r.ThingID], e)
	}
	places, err := site.Places(ctx, tx)
	if err != nil {
		return nil, err
	}
	sources, err := sourcesOf(ctx, tx, list)
	if err != nil {
		return nil, err
	}
	for _, s := range list {
		t := Trough{Setup: s, State: fish.Fold(events[s.ID]), Source: sources[s.Water]}
		for _, p := range places {
			if p.ID == s.Place {
				t.PlaceName = p.Name
			}
		}
		out = append(out, t)
	}
	return out, nil
}

// sourcesOf is what is known of the waters that go into some vessels, by their ids.
func sourcesOf(ctx context.Context, tx *store.Tx, list []Setup) (map[string]fish.Source, error) {
	out := map[string]fish.Source{}
	for _, s := range list {
		id := ledger.IDOf(s.Water)
		if _, known := out[s.Water]; id == nil || known {
			continue
		}
		w, err := waters.Read(ctx, tx, *id)
		if err != nil {
			return nil, err
		}
		out[s.Water] = fish.Source{Name: w.Name, PH: w.Facts.Of("ph"), Alkalinity: w.Facts.Of("alkalinity")}
	}
	return out, nil
}

var full = things.Full[Setup, Trough]{Kind: Kind, Read: read}

// InUse lists those that are in use.
func InUse(ctx context.Context, tx *store.Tx) ([]Trough, error) { return full.InUse(ctx, tx) }

// All is InUse in a transaction of its own.
func All(ctx context.Context, s *store.Store, w who.Who) ([]Trough, error) {
	return full.All(ctx, s, w)
}

// Get is one of them, a retired one too.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (Trough, error) {
	return full.Get(ctx, s, w, id)
}
