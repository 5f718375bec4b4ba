package crops

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// OwnSetup is a crop of a school's own: its name, and the catalogue's crop that it is like.
type OwnSetup struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name"`
	Like    string    `json:"nearest"`          // the id of a crop of the catalogue
	Hazard  string    `json:"hazard,omitempty"` // to take care of; "": as of its name or the most similar crop
	Food    string    `json:"food,omitempty"`   // is it food; "": as of the most similar crop
	Retired bool      `json:"retired,omitempty"`
	used    bool
}

func (n OwnSetup) crop() string { return crop.Like(n.Like, n.Name) }

// OwnKind is how crops of a school's own are written down. Their values are then changed
// on their page, as any crop's.
var OwnKind = &things.Kind[OwnSetup]{
	Name: "own-crops", One: "crop##thing", Add: "Add a crop", Title: "Crops of our own",
	About: "Crops that are not in the catalogue. Each starts with the values of the most similar crop; you change them on its page.",
	May:   who.Plan,
	Fields: []ledger.Field[OwnSetup]{
		ledger.Short("name", "Name", func(n *OwnSetup) *string { return &n.Name }),
		ledger.PickOf("nearest", "The most similar crop", nil, func(n *OwnSetup) *string { return &n.Like }),
		ledger.PickOf("food", "Is it food", foods, func(n *OwnSetup) *string { return &n.Food }),
		ledger.Short("hazard", "Take care", func(n *OwnSetup) *string { return &n.Hazard }).
			Hinted("Poisonous parts, allergens, sap, look-alikes. If you leave it empty, the caution of the crop with the same name is used where one is " +
				"known, or that of the most similar crop."),
	},
	Pick:    catalogue,
	ID:      func(n *OwnSetup) *uuid.UUID { return &n.ID },
	Retired: func(n *OwnSetup) *bool { return &n.Retired },
	Blank:   func() OwnSetup { return OwnSetup{} },
	All: func(ctx context.Context, tx *store.Tx) (out []OwnSetup, err error) {
		rows, err := tx.OwnCrops(ctx)
		if err != nil {
			return nil, err
		}
		for _, r := range rows {
			out = append(out, OwnSetup{ID: r.ID, Name: r.Name, Like: r.Kin, Retired: r.Retired, used: r.Used})
		}
		values, err := tx.CropValues(ctx)
		for _, v := range values {
			i := slices.IndexFunc(out, func(n OwnSetup) bool { return n.crop() == v.Crop })
			switch {
			case i < 0:
			case v.Name == "hazard":
				out[i].Hazard = v.Value
			case v.Name == "food":
				out[i].Food = v.Value
			}
		}
		return out, err
	},
	Label: func(n OwnSetup) string { return n.Name },
	Page:  func(n OwnSetup) string { return Path(n.crop()) },
	Says: func(n OwnSetup) say.Text {
		c, _ := crop.Find(n.Like)
		return say.T("like %s", say.Lower(c.Name))
	},
	Check: checkOwn,
	Keep: func(ctx context.Context, tx *store.Tx, old *OwnSetup, n OwnSetup) error {
		if err := tx.PutOwnCrop(ctx, db.PutOwnCropParams{SchoolID: tx.Who.School, ID: n.ID, Kin: n.Like, Name: n.Name, Retired: n.Retired}); err != nil {
			return err
		}
		if old != nil && old.crop() != n.crop() {
			if err := tx.RenameCrop(ctx, db.RenameCropParams{Was: old.crop(), Now: n.crop()}); err != nil {
				return err
			}
		}
		return keepCare(ctx, tx, n)
	},
	Drop: func(ctx context.Context, tx *store.Tx, n OwnSetup) error {
		if n.used {
			return field.Refuse("id", "something is of it: packets, batches or plans; retire it instead")
		}
		if err := tx.ForgetCrop(ctx, n.crop()); err != nil {
			return err
		}
		return tx.DropOwnCrop(ctx, n.ID)
	},
	Alters: func(_ context.Context, _ *store.Tx, n OwnSetup) (out []say.Text, err error) {
		if n.used {
			out = append(out, say.T("Packets, batches or plans use this name and will follow it."))
		}
		return out, nil
	},
}

var foods = []ledger.Option{
	{Value: "", Name: say.Words("as the most similar crop")},
	{Value: crop.Food, Name: crop.Word("food", crop.Food)},
	{Value: crop.FoodPart, Name: crop.Word("food", crop.FoodPart)},
	{Value: crop.NoFood, Name: crop.Word("food", crop.NoFood)},
	{Value: crop.Poison, Name: crop.Word("food", crop.Poison)},
}

// keepCare writes what a school says of its crop's dangers as its own values.
func keepCare(ctx context.Context, tx *store.Tx, n OwnSetup) error {
	for column, value := range map[string]string{"hazard": n.Hazard, "food": n.Food} {
		var err error
		if value == "" {
			err = tx.ForgetCropValue(ctx, db.ForgetCropValueParams{Crop: n.crop(), Name: column})
		} else {
			err = tx.PutCropValue(ctx, db.PutCropValueParams{SchoolID: tx.Who.School, Crop: n.crop(), Name: column, Value: value})
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// catalogue are the crops that one of a school's own may be like.
func catalogue(_ context.Context, tx *store.Tx) (things.Options, error) {
	all, r := crop.All(), tx.Who.Prefs
	say.Sort(r, all, func(c crop.Crop) string { return r.Say(c.Name) })
	out := []ledger.Option{unchosen}
	for _, c := range all {
		out = append(out, ledger.Option{Value: c.ID, Name: c.Name})
	}
	return things.Options{"nearest": out}, nil
}

func checkOwn(ctx context.Context, tx *store.Tx, old, n *OwnSetup) error {
	var e field.Errors
	n.Name = name.Take(&e, "name", n.Name, 40)
	if len(e) == 0 {
		e.Join(crop.CheckOwn(n.Like, n.Name))
	}
	_, known := crop.Find(n.Like)
	e.Require(known, "nearest", "choose a crop")
	e.Require(len([]rune(n.Hazard)) <= 200, "hazard", "must be %d letters at most", 200)
	e.Require(slices.ContainsFunc(foods, func(o ledger.Option) bool { return o.Value == n.Food }), "food", "must be one of these")
	if named, ok := crop.Of(n.crop()); ok && known && n.Food != "" {
		e.Require(!crop.Graver(named.Food, n.Food) || named.Food == crop.NoFood, "food", "stays: what is called so, or is like it, is known to harm")
	}
	if old != nil {
		n.used = old.used
		e.Require(old.Like == n.Like || !n.used, "nearest", "cannot go: something belongs to this crop")
	}
	book, err := Load(ctx, tx)
	if err != nil {
		return err
	}
	for _, c := range book.list(true) {
		mine := old != nil && c.ID == old.crop()
		e.Require(mine || name.Key(tx.Who.Prefs.Say(c.Name)) != name.Key(n.Name), "name", "is the name of another crop")
	}
	return e.Err()
}

// unchosen asks for a choice: none is a sensible start.
var unchosen = ledger.Option{Name: say.T("choose")}

// Options are the crops that something can be of: the catalogue's, and the school's own.
func Options(ctx context.Context, tx *store.Tx) (out []ledger.Option, err error) {
	book, err := Load(ctx, tx)
	out = append(out, unchosen)
	for _, c := range book.Listed(tx.Who.Prefs) {
		out = append(out, ledger.Option{Value: c.ID, Name: c.Name})
	}
	return out, err
}
