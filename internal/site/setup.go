package site

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/things"
	"ulpa/internal/who"
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
var flat = []string{"bench", "shelf", "warm_shelf", "sill", "frame", "bed", "other"}

// PlaceSetup is a place of the walk as it is set up.
type PlaceSetup struct {
	ID           uuid.UUID `json:"id"`
	Name         string    `json:"name"`
	Kind         string    `json:"kind"`
	WalkOrder    int       `json:"order"` // of the walk, from 1
	Tiers        int       `json:"tiers"` // of ports
	Columns      int       `json:"columns"`
	LengthCM     float64   `json:"length_cm"`
	WidthCM      float64   `json:"width_cm"`
	TemperatureC *float64  `json:"temperature_c"`      // as it usually is there
	SpringC      *float64  `json:"spring_c,omitempty"` // where a season is another
	SummerC      *float64  `json:"summer_c,omitempty"`
	AutumnC      *float64  `json:"autumn_c,omitempty"`
	WinterC      *float64  `json:"winter_c,omitempty"`
	Daylight     *float64  `json:"daylight,omitempty"`   // share of that outside, 0 to 1; nil: as usual for its kind
	LampUmol     *float64  `json:"lamp_umol,omitempty"`  // µmol/m² and second under its lamps
	LampHours    *float64  `json:"lamp_hours,omitempty"` // a day
	Meter        string    `json:"meter,omitempty"`      // the id of the series that says how warm it is there; "": none
	Retired      bool      `json:"retired,omitempty"`
}

// PlaceKind is how places are set up. Towers, rafts and jar shelves have tiers and columns
// of ports; the others have none.
var PlaceKind = &things.Kind[PlaceSetup]{
	Name: "places", One: "place##thing", Add: "Add a place", Title: "Places",
	About: "Where plants, trays and tanks stand, in the order one walks by them.",
	May:   who.Settings,
	Fields: []ledger.Field[PlaceSetup]{
		ledger.Short("name", "Name", func(p *PlaceSetup) *string { return &p.Name }),
		ledger.PickOf("kind", "Kind", placeKinds(), func(p *PlaceSetup) *string { return &p.Kind }),
		ledger.Number("tiers", "Tiers or rows of ports", func(p *PlaceSetup) *int { return &p.Tiers }).Where("kind", "tower", "raft", "jars"),
		ledger.Number("columns", "Ports in each", func(p *PlaceSetup) *int { return &p.Columns }).Where("kind", "tower", "raft", "jars"),
		ledger.Amount("length_cm", "Length", unit.Centimetre, func(p *PlaceSetup) *float64 { return &p.LengthCM }).Where("kind", flat...),
		ledger.Amount("width_cm", "Width", unit.Centimetre, func(p *PlaceSetup) *float64 { return &p.WidthCM }).Where("kind", flat...),
		ledger.Maybe("temperature_c", "Usual temperature", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.TemperatureC }).
			Hinted("By day and night together, when people work there; it decides when seeds are looked for."),
		ledger.Maybe("spring_c", "In spring", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.SpringC }).Hinted("Only where a season differs."),
		ledger.Maybe("summer_c", "In summer", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.SummerC }),
		ledger.Maybe("autumn_c", "In autumn", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.AutumnC }),
		ledger.Maybe("winter_c", "In winter", unit.Celsius, func(p *PlaceSetup) **float64 { return &p.WinterC }),
		ledger.Percent("daylight", "Daylight that comes there", func(p *PlaceSetup) **float64 { return &p.Daylight }).
			Hinted("Of that outside. Where nothing is said: all of it out of doors, 60 through glass, none on a shelf."),
		ledger.Maybe("lamp_umol", "Light of its lamps, µmol/m² and second", "", func(p *PlaceSetup) **float64 { return &p.LampUmol }).
			Hinted("PPFD at the leaves, by a meter or the lamp’s paper."),
		ledger.Maybe("lamp_hours", "Hours of lamps a day", "", func(p *PlaceSetup) **float64 { return &p.LampHours }),
		ledger.PickOf("meter", "Or as warm as this meter says", nil, func(p *PlaceSetup) *string { return &p.Meter }).
			Hinted("The mean of its last week; when it is silent, what stands here."),
	},
	Pick:    pickMeter,
	ID:      func(p *PlaceSetup) *uuid.UUID { return &p.ID },
	Retired: func(p *PlaceSetup) *bool { return &p.Retired },
	Blank:   func() PlaceSetup { return PlaceSetup{Kind: "bench"} },
	All: func(ctx context.Context, tx *store.Tx) (out []PlaceSetup, err error) {
		rows, err := tx.AllPlaces(ctx)
		for _, r := range rows {
			out = append(out, PlaceSetup{
				r.ID, r.Name, r.Kind, r.WalkOrder, r.Tiers, r.Columns, r.LengthCm, r.WidthCm, &r.TemperatureC,
				r.SpringC, r.SummerC, r.AutumnC, r.WinterC, r.Daylight, r.LampUmol, r.LampHours, idWords(r.MeterID), r.Retired,
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
		return say.T("%s, %s", said, say.Of(*p.TemperatureC, unit.Celsius))
	},
	Check: checkPlace,
	Keep: func(ctx context.Context, tx *store.Tx, _ *PlaceSetup, p PlaceSetup) error {
		return tx.PutPlace(ctx, db.PutPlaceParams{
			SchoolID: tx.Who.School, ID: p.ID, Name: p.Name, Kind: p.Kind, WalkOrder: p.WalkOrder, Tiers: p.Tiers, Columns: p.Columns,
			LengthCm: p.LengthCM, WidthCm: p.WidthCM, TemperatureC: *p.TemperatureC,
			SpringC: p.SpringC, SummerC: p.SummerC, AutumnC: p.AutumnC, WinterC: p.WinterC, MeterID: idOf(p.Meter), Retired: p.Retired,
			Daylight: p.Daylight, LampUmol: p.LampUmol, LampHours: p.LampHours,
		})
	},
	Drop: func(ctx context.Context, tx *store.Tx, p PlaceSetup) error {
		return dropped(ctx, tx, p.ID, tx.DropPlace)
	},
	Alters: func(ctx context.Context, tx *store.Tx, p PlaceSetup) (out []say.Text, err error) {
		used, err := tx.PlaceUsed(ctx, p.ID)
		if n := used.Ports + used.Plants; n > 0 {
			out = append(out, say.T("%s stand here.", say.Plural(n, "plant")))
		}
		if used.Trays > 0 {
			out = append(out, say.T("%s stand here; how warm it is decides when their seeds are looked for.", say.Plural(used.Trays, "tray")))
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
		e.Require(p.Tiers >= 1 && p.Tiers <= 60, "tiers", "takes 1 to 60")
		e.Require(p.Columns >= 1 && p.Columns <= 60, "columns", "takes 1 to 60")
	} else {
		p.Tiers, p.Columns = 0, 0
	}
	e.Require(p.TemperatureC != nil, "temperature_c", "takes how warm it usually is there; a heated room in use has about %s", say.Of(18, unit.Celsius))
	for name, c := range map[string]*float64{
		"temperature_c": p.TemperatureC, "spring_c": p.SpringC, "summer_c": p.SummerC, "autumn_c": p.AutumnC, "winter_c": p.WinterC,
	} {
		e.Require(c == nil || *c >= -20 && *c <= 60, name, "takes %s to %s", say.Figure(-20, unit.Celsius), say.Of(60, unit.Celsius))
	}
	e.Require(p.Daylight == nil || *p.Daylight >= 0 && *p.Daylight <= 1, "daylight", "takes 0 to 100 %%")
	e.Require(p.LampUmol == nil || *p.LampUmol >= 0 && *p.LampUmol <= 3000, "lamp_umol", "takes 0 to 3000")
	e.Require(p.LampHours == nil || *p.LampHours >= 0 && *p.LampHours <= 24, "lamp_hours", "takes 0 to 24 hours")
	e.Require((p.LampUmol == nil) == (p.LampHours == nil), "lamp_hours", "lamps take both: how strong, and how long")
	e.Require(p.LengthCM >= 0 && p.LengthCM <= 100000, "length_cm", "takes %s to %s", say.Figure(0, unit.Centimetre), say.Of(100000, unit.Centimetre))
	e.Require(p.WidthCM >= 0 && p.WidthCM <= 100000, "width_cm", "takes %s to %s", say.Figure(0, unit.Centimetre), say.Of(100000, unit.Centimetre))
	meters, err := pickMeter(ctx, tx)
	if err != nil {
		return err
	}
	e.Require(slices.ContainsFunc(meters["meter"], func(o ledger.Option) bool { return o.Value == p.Meter }), "meter", "choose one of the list")
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
	e.Require(p.WalkOrder >= 0 && p.WalkOrder <= 100000, "order", "takes 0 to 100,000")
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
		e.Require(old.Kind == p.Kind || plants == 0, "kind", "stays while %s stand here; move them first", say.Plural(plants, "plant"))
		if p.Retired && !old.Retired {
			e.Require(plants == 0, "retired", "%s stand here; move them first", say.Plural(plants, "plant"))
			e.Require(used.Trays == 0, "retired", "%s stand here; move them first", say.Plural(used.Trays, "tray"))
			e.Require(used.Tanks == 0, "retired", "%s here; retire those first", say.Plural(used.Tanks, "tank"))
		}
	}
	return e.Err()
}

// TraySetup is a tray as it is set up.
type TraySetup struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name"`
	Place   uuid.UUID `json:"place"` // where it stands
	Rows    int       `json:"rows"`
	Columns int       `json:"columns"`
	CellML  float64   `json:"cell_ml"` // what a cell holds
	Retired bool      `json:"retired,omitempty"`
	// Kind and Medium are of core/tray.
	Kind     string  `json:"kind"`
	Drains   bool    `json:"drains"` // it has holes
	Medium   string  `json:"medium"`
	HeightCM float64 `json:"height_cm,omitempty"`
}

// TrayKind is how trays are set up. Moving one is changing where it stands.
var TrayKind = &things.Kind[TraySetup]{
	Name: "trays", One: "tray##thing", Add: "Add a tray", Title: "Trays",
	About: "What seeds are sown in, cell by cell. A tray moves with all that is in it.",
	May:   who.Plan,
	Fields: []ledger.Field[TraySetup]{
		ledger.Short("name", "Name", func(t *TraySetup) *string { return &t.Name }),
		ledger.PickID("place", "Stands in", func(t *TraySetup) *uuid.UUID { return &t.Place }),
		ledger.Number("rows", "Rows", func(t *TraySetup) *int { return &t.Rows }),
		ledger.Number("columns", "Columns", func(t *TraySetup) *int { return &t.Columns }),
		ledger.Amount("cell_ml", "A cell holds", unit.Millilitre, func(t *TraySetup) *float64 { return &t.CellML }),
		ledger.PickOf("kind", "What it is", trayKinds(), func(t *TraySetup) *string { return &t.Kind }),
		ledger.PickOf("medium", "Filled with", mediums(), func(t *TraySetup) *string { return &t.Medium }),
		ledger.Yes("drains", "water leaves it through holes", func(t *TraySetup) *bool { return &t.Drains }).Hinted("Without holes it is watered little."),
		ledger.Amount("height_cm", "Height", unit.Centimetre, func(t *TraySetup) *float64 { return &t.HeightCM }).Where("kind", "tube", "pots", "tub", "bag"),
	},
	ID:      func(t *TraySetup) *uuid.UUID { return &t.ID },
	Retired: func(t *TraySetup) *bool { return &t.Retired },
	Blank:   func() TraySetup { return TraySetup{Kind: tray.Kinds[0].ID, Medium: tray.Mediums[0].ID, Drains: true} },
	Pick:    PickPlace,
	All: func(ctx context.Context, tx *store.Tx) (out []TraySetup, err error) {
		rows, err := tx.AllTrays(ctx)
		for _, r := range rows {
			out = append(out, TraySetup{r.ID, r.Name, r.PlaceID, r.Rows, r.Columns, r.CellMl, r.Retired, r.Kind, r.Drains, r.Medium, r.HeightCm})
		}
		return out, err
	},
	Label: func(t TraySetup) string { return t.Name },
	Page:  func(t TraySetup) string { return "/trays/" + t.ID.String() },
	Says: func(t TraySetup) say.Text {
		return say.T("%d × %d, cells of %s", t.Rows, t.Columns, say.Of(t.CellML, unit.Millilitre))
	},
	Check: checkTray,
	Keep: func(ctx context.Context, tx *store.Tx, old *TraySetup, t TraySetup) error {
		if err := tx.PutTray(ctx, db.PutTrayParams{
			SchoolID: tx.Who.School, ID: t.ID, Name: t.Name, PlaceID: t.Place, Rows: t.Rows, Columns: t.Columns, CellMl: t.CellML, Retired: t.Retired,
			Kind: t.Kind, Drains: t.Drains, Medium: t.Medium, HeightCm: t.HeightCM,
		}); err != nil {
			return err
		}
		if old != nil && old.Place != t.Place {
			return carried(ctx, tx, *old, t)
		}
		return nil
	},
	Drop: func(ctx context.Context, tx *store.Tx, t TraySetup) error { return dropped(ctx, tx, t.ID, tx.DropTray) },
	Alters: func(ctx context.Context, tx *store.Tx, t TraySetup) (out []say.Text, err error) {
		used, err := tx.TrayUsed(ctx, t.ID)
		if used.Used > 0 {
			out = append(out, say.T("%s in use. They move with the tray.", say.Plural(used.Used, "cell")))
		}
		return out, err
	},
}

// pickMeter is the meters that write temperatures.
func pickMeter(ctx context.Context, tx *store.Tx) (things.Options, error) {
	series, err := tx.ListSeries(ctx)
	out := things.Options{"meter": {{Name: say.T("no meter")}}}
	for _, m := range series {
		if m.Unit == unit.Celsius {
			out["meter"] = append(out["meter"], ledger.Option{Value: m.ID.String(), Name: say.Name(m.Name)})
		}
	}
	return out, err
}

// idWords is an id as it is picked; "" is none.
func idWords(id *uuid.UUID) string {
	if id == nil {
		return ""
	}
	return id.String()
}

// idOf is the other way.
func idOf(words string) *uuid.UUID {
	id, err := uuid.Parse(words)
	if err != nil {
		return nil
	}
	return &id
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
	if err = store.Missing(err, "place", "choose where it stands; add a place first when there is none"); err != nil {
		e.Join(err)
		if _, told := err.(field.Errors); told {
			return nil
		}
		return err
	}
	e.Require(!p.Retired, "place", "is retired; take it back into use first")
	return nil
}

func trayKinds() (out []ledger.Option) {
	for _, k := range tray.Kinds {
		out = append(out, ledger.Option{Value: k.ID, Name: k.Name})
	}
	return out
}

func mediums() (out []ledger.Option) {
	for _, m := range tray.Mediums {
		out = append(out, ledger.Option{Value: m.ID, Name: m.Name})
	}
	return out
}

// mostAtOnce trays are added in one go.
const mostAtOnce = 60

// AddTrays adds so many trays alike, with names that count on from those there are; the id
// names what was sent: sent again it adds none.
func AddTrays(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, like TraySetup, many int) error {
	if err := w.Must(TrayKind.May); err != nil {
		return err
	}
	if many < 1 || many > mostAtOnce {
		return field.Refuse("many", "takes 1 to %d", mostAtOnce)
	}
	if id == uuid.Nil {
		return field.Refuse("id", "is missing; load the page again")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SettingsAlone(ctx, w.School.String()); err != nil {
			return err
		}
		all, err := TrayKind.All(ctx, tx)
		if err != nil {
			return err
		}
		last, there := 0, map[uuid.UUID]bool{}
		for _, t := range all {
			there[t.ID] = true
			if n, err := strconv.Atoi(t.Name[strings.LastIndex(t.Name, " ")+1:]); err == nil {
				last = max(last, n)
			}
		}
		called := w.Prefs.T("Tray")
		for i := range many {
			t := like
			if t.ID = uuid.NewSHA1(id, []byte{byte(i)}); there[t.ID] {
				continue
			}
			last++
			t.Name = called + " " + strconv.Itoa(last)
			if _, err := TrayKind.PutIn(ctx, tx, t, things.New); err != nil {
				return err
			}
		}
		return nil
	})
}

func checkTray(ctx context.Context, tx *store.Tx, old, t *TraySetup) error {
	var e field.Errors
	t.Name = name.Take(&e, "name", t.Name, 40)
	e.Require(t.Rows >= 1 && t.Rows <= 40, "rows", "takes 1 to 40")
	e.Require(t.Columns >= 1 && t.Columns <= 40, "columns", "takes 1 to 40")
	if t.Kind == "" {
		t.Kind, t.Drains = tray.Kinds[0].ID, true
	}
	if t.Medium == "" {
		t.Medium = tray.Mediums[0].ID
	}
	e.Require(tray.KindOf(t.Kind).ID == t.Kind, "kind", "takes one of these")
	e.Require(tray.MediumOf(t.Medium).ID == t.Medium, "medium", "takes one of these")
	e.Require(t.HeightCM >= 0 && t.HeightCM <= 200, "height_cm", "takes %s to %s", say.Figure(0, unit.Centimetre), say.Of(200, unit.Centimetre))
	e.Require(t.CellML > 0 && t.CellML <= 20000, "cell_ml", "takes millilitres above 0")
	if old == nil || old.Place != t.Place || old.Retired && !t.Retired {
		if err := inPlace(ctx, tx, &e, t.Place); err != nil {
			return err
		}
	}
	if old != nil {
		if err := tx.LockTray(ctx, t.ID); err != nil {
			return err
		}
		used, err := tx.TrayUsed(ctx, t.ID)
		if err != nil {
			return err
		}
		e.Require(t.Rows >= used.Rows, "rows", "has cells in use up to row %d", used.Rows)
		e.Require(t.Columns >= used.Columns, "columns", "has cells in use up to column %d", used.Columns)
		if t.Retired && !old.Retired {
			e.Require(used.Alive == 0, "retired", "%s hold seeds or plants; move or close them first", say.Plural(used.Alive, "cell"))
		}
	}
	return e.Err()
}
