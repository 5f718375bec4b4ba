package site

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Kinds of place, as people choose them.
var Kinds = []struct {
	ID   string
	Name say.Words
}{
	{"bench", "Bench"}, {"shelf", "Warm shelf"}, {"raft", "Raft"}, {"tower", "Tower"}, {"jars", "Jar shelf"}, {"frame", "Cold frame"}, {"bed", "Bed"},
}

// KindWords is what a kind of place is called.
func KindWords(kind string) say.Words {
	for _, k := range Kinds {
		if k.ID == kind {
			return k.Name
		}
	}
	return say.Words(kind)
}

// Words are what its kind is called.
func (p Place) Words() say.Words { return KindWords(p.Kind) }

// ReadPlaces lists the places in walking order.
func ReadPlaces(ctx context.Context, s *store.Store, w who.Who) (out []Place, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = Places(ctx, tx)
		return err
	})
	return out, err
}

// NewPlace is a place to be added to the walk.
type NewPlace struct {
	ID                uuid.UUID
	Name, Kind        string
	WalkOrder         int
	Tiers, Columns    int // of ports
	LengthCM, WidthCM float64
	TemperatureC      float64 // as it usually is there
}

// AddPlace adds a place to the walk. Towers, rafts and jar shelves have tiers
// and columns of ports; the others have none.
func AddPlace(ctx context.Context, s *store.Store, w who.Who, p NewPlace) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	var e field.Errors
	p.Name = name.Take(&e, "name", p.Name, 60)
	known := false
	for _, k := range Kinds {
		known = known || k.ID == p.Kind
	}
	e.Require(known, "kind", "choose a kind of place")
	if p.Kind == "tower" || p.Kind == "raft" || p.Kind == "jars" {
		e.Require(p.Tiers >= 1 && p.Tiers <= 60, "tiers", "takes 1 to 60")
		e.Require(p.Columns >= 1 && p.Columns <= 60, "columns", "takes 1 to 60")
	} else {
		p.Tiers, p.Columns = 0, 0
	}
	e.Require(p.TemperatureC >= -20 && p.TemperatureC <= 60, "temperature", "takes %s to %s", say.Figure(-20, unit.Celsius), say.Of(60, unit.Celsius))
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.AddPlace(ctx, db.AddPlaceParams{
			SchoolID: w.School, ID: p.ID, Name: p.Name, Kind: p.Kind, WalkOrder: p.WalkOrder, Tiers: p.Tiers, Columns: p.Columns,
			LengthCm: p.LengthCM, WidthCm: p.WidthCM, TemperatureC: p.TemperatureC,
		})
	})
}

// NewTray is a tray that stands in a place.
type NewTray struct {
	ID, Place     uuid.UUID
	Name          string
	Rows, Columns int
	CellML        float64 // what a cell holds
}

// AddTray adds a tray that stands in a place.
func AddTray(ctx context.Context, s *store.Store, w who.Who, t NewTray) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	var e field.Errors
	t.Name = name.Take(&e, "name", t.Name, 40)
	e.Require(t.Rows >= 1 && t.Rows <= 40, "rows", "takes 1 to 40")
	e.Require(t.Columns >= 1 && t.Columns <= 40, "columns", "takes 1 to 40")
	e.Require(t.CellML > 0 && t.CellML <= 20000, "cell", "takes millilitres above 0")
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.AddTray(ctx, db.AddTrayParams{
			SchoolID: w.School, ID: t.ID, Name: t.Name, PlaceID: t.Place, Rows: t.Rows, Columns: t.Columns, CellMl: t.CellML,
		})
	})
}

// NewTank is a reservoir to be added to a place.
type NewTank struct {
	ID, Place uuid.UUID
	Name      string
	Position  int
	Spec      tank.Spec
}

// AddTank adds a reservoir.
func AddTank(ctx context.Context, s *store.Store, w who.Who, n NewTank) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	var e field.Errors
	n.Name = name.Take(&e, "name", n.Name, 60)
	n.Spec = tank.Usual(n.Spec)
	x := n.Spec
	e.Require(x.CapacityL > 0 && x.CapacityL <= 1e6, "capacity", "takes a volume above 0")
	e.Require(x.FillToL > 0 && x.FillToL <= x.CapacityL, "fill", "takes a volume up to what it holds")
	e.Require(x.DryBelowL >= 0 && x.DryBelowL < x.FillToL, "dry", "takes a volume below the fill line")
	e.Require(x.PHLow >= 3 && x.PHLow <= x.PHTarget && x.PHTarget <= x.PHHigh && x.PHHigh <= 9, "ph", "takes low ≤ target ≤ high, between 3 and 9")
	e.Require(
		x.ECLow >= 0 && x.ECLow <= x.ECTarget && x.ECTarget <= x.ECHigh && x.ECHigh <= 10,
		"ec",
		"takes low ≤ target ≤ high, up to %s",
		say.Of(10, unit.MS),
	)
	e.Require(x.StockRise > 0, "stock", "takes the rise for 1 mL in 1 L")
	e.Require(x.Acid.Agent.Acid(), "acid", "choose an acid")
	e.Require(x.Base.Agent.Words() != say.Words("") && !x.Base.Agent.Acid(), "base", "choose a base")
	if err := e.Err(); err != nil {
		return err
	}
	spec, err := json.Marshal(n.Spec)
	if err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.AddReservoir(ctx, db.AddReservoirParams{SchoolID: w.School, ID: n.ID, PlaceID: n.Place, Name: n.Name, Position: n.Position, Spec: spec})
	})
}
