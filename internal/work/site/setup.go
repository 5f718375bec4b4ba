package site

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/raft"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// Kinds of place, as people choose them.
var Kinds = []struct {
	ID   string
	Name say.Words
}{
	{"bench", "Bench"},
	{"shelf", "Shelf"},
	{"warm_shelf", "Warm shelf"},
	{"sill", "Window sill"},
	{"tower", "Tower"},
	{"raft", "Raft"},
	{"jars", "Jar shelf"},
	{"frame", "Cold frame"},
	{"bed", "Bed"},
	{"other", "Another kind of place"},
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

// ported tells a kind of place where plants stand in ports.
func ported(kind string) bool { return kind == "tower" || kind == "raft" || kind == "jars" }

// Indoors tells a kind of place that stands neither in a frame nor in open ground.
func Indoors(kind string) bool { return kind != "frame" && kind != "bed" && !ported(kind) }

// ReadPlaces lists the places in walking order.
func ReadPlaces(ctx context.Context, s *store.Store, w who.Who) (out []Place, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = Places(ctx, tx)
		return err
	})
	return out, err
}

// flat are the kinds of place that are so long and so wide.
var flat = []string{"bench", "shelf", "warm_shelf", "sill", "raft", "frame", "bed", "other"}

// PlaceSetup is a place of the walk as it is set up.
type PlaceSetup struct {
	ID           uuid.UUID `json:"id"`
	Name         string    `json:"name"`
	Kind         string    `json:"kind"`
	WalkOrder    int       `json:"order"` // of the walk, from 1
	Tiers        int       `json:"tiers"` // of ports
	Columns      int       `json:"columns"`
	Boards       int       `json:"boards,omitempty"` // in which a raft floats; 0: in one piece
	LengthCM     float64   `json:"length_cm"`
	WidthCM      float64   `json:"width_cm"`
	TemperatureC *float64  `json:"temperature_c"`      // as it usually is there
	SpringC      *float64  `json:"spring_c,omitempty"` // where a season is another
	SummerC      *float64  `json:"summer_c,omitempty"`
	AutumnC      *float64  `json:"autumn_c,omitempty"`
	WinterC      *float64  `json:"winter_c,omitempty"`
	Daylight     *float64  `json:"daylight,omitempty"`    // share of that outside, 0 to 1; nil: as usual for its kind
	LampUmol     *float64  `json:"lamp_umol,omitempty"`   // µmol/m² and second under its lamps
	LampHours    *float64  `json:"lamp_hours,omitempty"`  // a day
	Meter        string    `json:"meter,omitempty"`       // the id of the series that says how warm it is there; "": none
	Humid        string    `json:"humid_meter,omitempty"` // the id of the series that says how humid it is there; "": none
	Retired      bool      `json:"retired,omitempty"`
}

// PlaceKind is how places are set up. Towers, rafts and jar shelves have tiers and columns
// of ports; the others have none.
var PlaceKind = &things.Kind[PlaceSetup]{
	Name: "places", One: "place##thing", Add: "Add a place", Title: "Places",
	About: "Where plants, trays and tanks are, in walking order.",
	May:   who.Settings,
	Fields: []ledger.Field[PlaceSetup]{
		ledger.Short("name", "Name", func(p *PlaceSetup) *string { return &p.Name }),
		ledger.PickOf("kind", "Kind", placeKinds(), func(p *PlaceSetup) *string { return &p.Kind }),
		ledger.Number("tiers", "Tiers or rows of ports", func(p *PlaceSetup) *int { return &p.Tiers }).Where("kind", "tower", "raft", "jars"),
		ledger.Number("columns", "Ports in each", func(p *PlaceSetup) *int { return &p.Columns }).Where("kind", "tower", "raft", "jars"),
		ledger.Number("boards", "Boards it floats in", func(p *PlaceSetup) *int { return &p.Boards }).Where("kind", "raft").
			Hinted("Each has the same number of columns of ports; boards move along as plants age. 0: it is all one piece."),
		ledger.Amount("length_cm", "Length", unit.Centimetre, func(p *PlaceSetup) *float64 { return &p.LengthCM }).Where("kind", flat...),
		ledger.Amount("width_cm", "Width", unit.Centimetre, func(p *PlaceSetup) *float64 { return &p.WidthCM }).Where("kind", flat...),
		ledger.Maybe("temperature_c", "Usual temperature", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.TemperatureC }).
			Hinted("By day and night together, when people work there; it decides when seeds are looked for. Of a bed or a frame it may stay empty."),
		ledger.Maybe("spring_c", "In spring", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.SpringC }).Hinted("Only where a season differs."),
		ledger.Maybe("summer_c", "In summer", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.SummerC }),
		ledger.Maybe("autumn_c", "In autumn", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.AutumnC }),
		ledger.Maybe("winter_c", "In winter", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.WinterC }),
		ledger.Percent("daylight", "Daylight that comes there", func(p *PlaceSetup) **float64 { return &p.Daylight }).
			Hinted("Share of the light outside. If you leave it out: all of it outdoors, 60 % under glass, none on a shelf."),
		ledger.Maybe("lamp_umol", "Light of its lamps, µmol/m²/s", "", func(p *PlaceSetup) **float64 { return &p.LampUmol }).
			Hinted("Light at the leaves (PPFD), from a meter or the lamp’s data sheet."),
		ledger.Maybe("lamp_hours", "Hours of lamps a day", "", func(p *PlaceSetup) **float64 { return &p.LampHours }),
		ledger.PickOf("meter", "Or as warm as this meter says", nil, func(p *PlaceSetup) *string { return &p.Meter }).
			Hinted("The mean of its last week; if it stops reporting, the figure here."),
		ledger.PickOf("humid_meter", "As humid as this meter says", nil, func(p *PlaceSetup) *string { return &p.Humid }),
	},
	Pick:    pickMeter,
	ID:      func(p *PlaceSetup) *uuid.UUID { return &p.ID },
	Retired: func(p *PlaceSetup) *bool { return &p.Retired },
	Blank:   func() PlaceSetup { return PlaceSetup{Kind: "bench"} },
	All: func(ctx context.Context, tx *store.Tx) (out []PlaceSetup, err error) {
		rows, err := tx.AllPlaces(ctx)
		for _, r := range rows {
			out = append(out, PlaceSetup{
				r.ID, r.Name, r.Kind, r.WalkOrder, r.Tiers, r.Columns, r.Boards, r.LengthCm, r.WidthCm, r.TemperatureC,
				r.SpringC, r.SummerC, r.AutumnC, r.WinterC, r.Daylight, r.LampUmol, r.LampHours, ledger.IDWords(r.MeterID), ledger.IDWords(r.HumidID), r.Retired,
			})
		}
		return out, err
	},
	Label: func(p PlaceSetup) string { return p.Name },
	Page:  func(p PlaceSetup) string { return "/places/" + p.ID.String() },
	Says: func(p PlaceSetup) say.Text {
		said := say.Text(KindWords(p.Kind))
		if p.Tiers > 0 {
			said = say.T("%s, %d × %d", said, p.Tiers, p.Columns)
		}
		if p.Boards > 1 {
			said = say.T("%s in %s", said, say.Plural(p.Boards, "board"))
		}
		if p.TemperatureC == nil {
			return said
		}
		return say.T("%s, %s", said, say.Of(*p.TemperatureC, unit.Celsius))
	},
	Check: checkPlace,
	Keep: func(ctx context.Context, tx *store.Tx, _ *PlaceSetup, p PlaceSetup) error {
		return tx.PutPlace(ctx, db.PutPlaceParams{
			SchoolID: tx.Who.School, ID: p.ID, Name: p.Name, Kind: p.Kind, WalkOrder: p.WalkOrder, Tiers: p.Tiers, Columns: p.Columns,
			LengthCm: p.LengthCM, WidthCm: p.WidthCM, TemperatureC: p.TemperatureC,
			SpringC: p.SpringC, SummerC: p.SummerC, AutumnC: p.AutumnC, WinterC: p.WinterC, MeterID: ledger.IDOf(p.Meter), Retired: p.Retired,
			Daylight: p.Daylight, LampUmol: p.LampUmol, LampHours: p.LampHours, HumidID: ledger.IDOf(p.Humid), Boards: p.Boards,
		})
	},
	Drop: func(ctx context.Context, tx *store.Tx, p PlaceSetup) error {
		return dropped(ctx, tx, p.ID, tx.DropPlace)
	},
	Alters: func(ctx context.Context, tx *store.Tx, p PlaceSetup) (out []say.Text, err error) {
		used, err := tx.PlaceUsed(ctx, p.ID)
		if n := used.Ports + used.Plants; n > 0 {
			out = append(out, say.T("%s grow here.", say.Plural(n, "plant")))
		}
		if used.Trays > 0 {
			out = append(out, say.T("%s grow here; Ulpa uses this temperature to work out when to look for their seedlings.", say.Plural(used.Trays, "tray")))
		}
		if used.Tanks > 0 {
			out = append(out, say.T("%s here.", say.Plural(used.Tanks, "tank")))
		}
		return out, err
	},
	Order: func(ctx context.Context, tx *store.Tx, ids []uuid.UUID) error {
		for i, id := range ids {
			if err := tx.SetWalkOrder(ctx, db.SetWalkOrderParams{ID: id, WalkOrder: i + 1}); err != nil {
				return err
			}
		}
		return nil
	},
}

func placeKinds() (out []ledger.Option) {
	for _, k := range Kinds {
		out = append(out, ledger.Option{Value: k.ID, Name: k.Name})
	}
	return out
}

// dropped deletes a row and its place among things.
func dropped(ctx context.Context, tx *store.Tx, id uuid.UUID, drop func(context.Context, uuid.UUID) error) error {
	if err := drop(ctx, id); err != nil {
		return err
	}
	return tx.DropThing(ctx, id)
}

func checkPlace(ctx context.Context, tx *store.Tx, old, p *PlaceSetup) error {
	var e field.Errors
	p.Name = name.Take(&e, "name", p.Name, 60)
	known := false
	for _, k := range Kinds {
		known = known || k.ID == p.Kind
	}
	e.Require(known, "kind", "choose a kind of place")
	if ported(p.Kind) {
		e.Require(p.Tiers >= 1 && p.Tiers <= 60, "tiers", "must be 1 to 60")
		e.Require(p.Columns >= 1 && p.Columns <= 60, "columns", "must be 1 to 60")
	} else {
		p.Tiers, p.Columns = 0, 0
	}
	if p.Kind != "raft" {
		p.Boards = 0
	}
	e.Join(raft.Raft{Rows: p.Tiers, Columns: p.Columns, Boards: p.Boards}.Check())
	told := p.TemperatureC != nil || outdoors(p.Kind)
	e.Require(told, "temperature_c", "enter how warm it usually is there; a heated room in use is about %s", say.Of(18, unit.Celsius))
	for name, c := range map[string]*float64{
		"temperature_c": p.TemperatureC, "spring_c": p.SpringC, "summer_c": p.SummerC, "autumn_c": p.AutumnC, "winter_c": p.WinterC,
	} {
		e.Require(c == nil || *c >= -20 && *c <= 60, name, "must be %s to %s", say.Figure(-20, unit.Celsius), say.Of(60, unit.Celsius))
	}
	e.Require(p.Daylight == nil || *p.Daylight >= 0 && *p.Daylight <= 1, "daylight", "must be 0 to 100 %%")
	e.Require(p.LampUmol == nil || *p.LampUmol >= 0 && *p.LampUmol <= 3000, "lamp_umol", "must be 0 to 3000")
	e.Require(p.LampHours == nil || *p.LampHours >= 0 && *p.LampHours <= 24, "lamp_hours", "must be 0 to 24 hours")
	e.Require((p.LampUmol == nil) == (p.LampHours == nil), "lamp_hours", "lamps need both: how strong, and how long")
	e.Require(p.LengthCM >= 0 && p.LengthCM <= 100000, "length_cm", "must be %s to %s", say.Figure(0, unit.Centimetre), say.Of(100000, unit.Centimetre))
	e.Require(p.WidthCM >= 0 && p.WidthCM <= 100000, "width_cm", "must be %s to %s", say.Figure(0, unit.Centimetre), say.Of(100000, unit.Centimetre))
	meters, err := pickMeter(ctx, tx)
	if err != nil {
		return err
	}
	e.Require(slices.ContainsFunc(meters["meter"], func(o ledger.Option) bool { return o.Value == p.Meter }), "meter", "choose one of the list")
	e.Require(slices.ContainsFunc(meters["humid_meter"], func(o ledger.Option) bool { return o.Value == p.Humid }), "humid_meter", "choose one of the list")
	if p.WalkOrder == 0 {
		places, err := tx.AllPlaces(ctx)
		if err != nil {
			return err
		}
		for _, x := range places {
			if p.WalkOrder = max(p.WalkOrder, x.WalkOrder+1); x.ID == p.ID {
				p.WalkOrder = x.WalkOrder
				break
			}
		}
		p.WalkOrder = max(1, p.WalkOrder)
	}
	e.Require(p.WalkOrder >= 0 && p.WalkOrder <= 100000, "order", "must be 0 to 100,000")
	if old != nil {
		if err := tx.LockPlace(ctx, p.ID); err != nil {
			return err
		}
		used, err := tx.PlaceUsed(ctx, p.ID)
		if err != nil {
			return err
		}
		plants := used.Ports + used.Plants
		e.Require(p.Tiers >= used.Tiers, "tiers", "has a plant in row %d; move it first", used.Tiers)
		e.Require(p.Columns >= used.Columns, "columns", "has a plant in port %d; move it first", used.Columns)
		e.Require(old.Kind == p.Kind || plants == 0, "kind", "cannot go while %s are here; move them first", say.Plural(plants, "plant"))
		if p.Retired && !old.Retired {
			e.Require(plants == 0, "retired", "%s are here; move them first", say.Plural(plants, "plant"))
			e.Require(used.Trays == 0, "retired", "%s are here; move them first", say.Plural(used.Trays, "tray"))
			e.Require(used.Tanks == 0, "retired", "%s here; retire those first", say.Plural(used.Tanks, "tank"))
		}
	}
	return e.Err()
}

// pickMeter is the meters that write temperatures, and those that write humidity.
func pickMeter(ctx context.Context, tx *store.Tx) (things.Options, error) {
	series, err := tx.ListSeries(ctx)
	out := things.Options{"meter": {{Name: say.T("no meter")}}, "humid_meter": {{Name: say.T("no meter")}}}
	for _, m := range series {
		o := ledger.Option{Value: m.ID.String(), Name: say.Name(m.Name)}
		switch m.Unit {
		case unit.Celsius:
			out["meter"] = append(out["meter"], o)
		case "%":
			out["humid_meter"] = append(out["humid_meter"], o)
		}
	}
	return out, err
}

// PickPlace is where something can stand.
func PickPlace(ctx context.Context, tx *store.Tx) (things.Options, error) {
	places, err := Places(ctx, tx)
	out := things.Options{}
	for _, p := range places {
		out["place"] = append(out["place"], ledger.Option{Value: p.ID.String(), Name: say.Name(p.Name)})
	}
	return out, err
}

// inPlace refuses what stands in no place of the list.
func inPlace(ctx context.Context, tx *store.Tx, e *field.Errors, place uuid.UUID) error {
	p, err := tx.GetPlace(ctx, place)
	if err = store.Missing(err, "place", "choose where it is; add a place first when there is none"); err != nil {
		e.Join(err)
		if _, told := err.(field.Errors); told {
			return nil
		}
		return err
	}
	e.Require(!p.Retired, "place", "is retired; restore it first")
	return nil
}
