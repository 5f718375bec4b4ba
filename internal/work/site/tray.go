package site

import (
	"context"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

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
		ledger.PickID("place", "Place", func(t *TraySetup) *uuid.UUID { return &t.Place }),
		ledger.Number("rows", "Rows", func(t *TraySetup) *int { return &t.Rows }),
		ledger.Number("columns", "Columns", func(t *TraySetup) *int { return &t.Columns }),
		ledger.Amount("cell_ml", "Volume of a cell", unit.Millilitre, func(t *TraySetup) *float64 { return &t.CellML }),
		ledger.PickOf("kind", "What it is", trayKinds(), func(t *TraySetup) *string { return &t.Kind }),
		ledger.PickOf("medium", "Filled with", mediums(), func(t *TraySetup) *string { return &t.Medium }),
		ledger.Yes("drains", "water drains out through holes", func(t *TraySetup) *bool { return &t.Drains }).Hinted("It has no holes: water it only a " +
			"little."),
		ledger.Amount("height_cm", "Height", unit.Centimetre, func(t *TraySetup) *float64 { return &t.HeightCM }).Where("kind", "tube", "pots", "tub", "bag", "flat"),
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
		return field.Refuse("many", "must be 1 to %d", mostAtOnce)
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
	e.Require(t.Rows >= 1 && t.Rows <= 40, "rows", "must be 1 to 40")
	e.Require(t.Columns >= 1 && t.Columns <= 40, "columns", "must be 1 to 40")
	if t.Kind == "" {
		t.Kind, t.Drains = tray.Kinds[0].ID, true
	}
	if t.Medium == "" {
		t.Medium = tray.Mediums[0].ID
	}
	e.Require(tray.KindOf(t.Kind).ID == t.Kind, "kind", "must be one of these")
	e.Require(tray.MediumOf(t.Medium).ID == t.Medium, "medium", "must be one of these")
	e.Require(t.HeightCM >= 0 && t.HeightCM <= 200, "height_cm", "must be %s to %s", say.Figure(0, unit.Centimetre), say.Of(200, unit.Centimetre))
	e.Require(t.CellML > 0 && t.CellML <= 20000, "cell_ml", "must be above 0 millilitres")
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
		same := tray.KindOf(t.Kind).Open == tray.KindOf(old.Kind).Open
		e.Require(same || used.Used == 0, "kind", "cannot change between cells and open sections while something is in it")
		if t.Retired && !old.Retired {
			e.Require(used.Alive == 0, "retired", "%s hold seeds or plants; move or close them first", say.Plural(used.Alive, "cell"))
		}
	}
	return e.Err()
}
