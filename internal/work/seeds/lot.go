// Package seeds is the shelf of seed: packets and varieties, tests of what still comes, and
// what a school learns of them.
//
//	x, err := seeds.OnShelf(ctx, store, who)
//	err = seeds.BeginTest(ctx, store, who, seeds.NewTest{ID: id, Lot: lot, Seeds: 20})
package seeds

import (
	"context"
	"math"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
)

// Packet is a seed lot on the shelf.
type Packet struct {
	ID                  uuid.UUID
	Crop, Variety, Name string
	Packed              int      // the year
	Label               *float64 // the share that sprouts, by the label
	Tested, Sprouted    *int     // by a test of one's own
	SeedsLeft           *int
	Treated             bool // dressed or coated
	Pelleted            bool
	VarietyID           uuid.UUID
	Taste               *int   // of its variety, 1 to 5; nil: nobody said
	Notes               string // of its variety
}

func packetOf(r db.ListLotsRow) Packet {
	return Packet{
		r.ID, r.Crop, r.Variety, r.Name, r.Packed, r.LabelRate, r.Tested, r.Sprouted, r.SeedsLeft, r.Treated, r.Pelleted,
		r.VarietyID, r.Taste, r.VarietyNotes,
	}
}

// Packets are those on the shelf.
func Packets(ctx context.Context, tx *store.Tx) (out []Packet, err error) {
	rows, err := tx.ListLots(ctx)
	for _, r := range rows {
		out = append(out, packetOf(r))
	}
	return out, err
}

// GetPacket reads a packet.
func GetPacket(ctx context.Context, tx *store.Tx, id uuid.UUID) (Packet, error) {
	r, err := tx.GetLot(ctx, id)
	return packetOf(db.ListLotsRow(r)), err
}

// LotSetup is a packet of seed as it is written down. Its variety is made when new.
type LotSetup struct {
	ID      uuid.UUID `json:"id"`
	Crop    string    `json:"crop"`
	Variety string    `json:"variety"`
	Name    string    `json:"name"`                 // what stands on the packet's label
	Packed  int       `json:"packed"`               // year
	Label   *float64  `json:"label_rate,omitempty"` // the share that sprouts, by the label
	Tested  *int      `json:"tested,omitempty"`     // by a test of one's own
	Came    *int      `json:"sprouted,omitempty"`   // of the tested
	Seeds   *int      `json:"seeds_left,omitempty"` // nil: nobody counted
	Treated bool      `json:"treated,omitempty"`    // dressed or coated: no food
	Retired bool      `json:"retired,omitempty"`
	// Grams are the seeds in it by weight, instead of their number; they are not kept.
	Grams     *float64 `json:"grams,omitempty"`
	Origin    string   `json:"origin"`              // bought, saved, kitchen or given
	Harvested *int     `json:"harvested,omitempty"` // the year, where it is known
	Pelleted  bool     `json:"pelleted,omitempty"`  // in a coat of clay, one a cell
	KeptIn    string   `json:"kept_in,omitempty"`
	Gone      string   `json:"gone,omitempty"` // why it is not on the shelf any more
}

// Origins are where seed comes from.
var Origins = []ledger.Option{
	{Value: "bought", Name: say.Words("bought##seed")},
	{Value: "saved", Name: say.Words("saved here")},
	{Value: "kitchen", Name: say.Words("from a kitchen fruit")},
	{Value: "given", Name: say.Words("given##seed")},
}

// LotKind is how packets of seed are written down, recounted and tested.
var LotKind = &things.Kind[LotSetup]{
	Name: "lots", One: "packet##thing", Add: "Add a packet", Title: "Seed packets",
	About: "The packets on the shelf: how old, how many seeds, how many in ten germinate.",
	May:   who.Plan,
	Fields: []ledger.Field[LotSetup]{
		ledger.PickOf("crop", "Crop", nil, func(n *LotSetup) *string { return &n.Crop }),
		ledger.Short("variety", "Variety", func(n *LotSetup) *string { return &n.Variety }),
		ledger.Short("name", "Lot number, as on the packet", func(n *LotSetup) *string { return &n.Name }),
		ledger.Number("packed", "Year packed", func(n *LotSetup) *int { return &n.Packed }).Hinted("the year"),
		ledger.Percent("label_rate", "Germination on the label", func(n *LotSetup) **float64 { return &n.Label }),
		ledger.MaybeNumber("tested", "Seeds tested", func(n *LotSetup) **int { return &n.Tested }),
		ledger.MaybeNumber("sprouted", "of them germinated", func(n *LotSetup) **int { return &n.Came }),
		ledger.MaybeNumber("seeds_left", "Seeds in it", func(n *LotSetup) **int { return &n.Seeds }).Hinted("Leave it empty if nobody counted; 0 if it " +
			"is used up."),
		ledger.Maybe("grams", "Or what they weigh", unit.Gram, func(n *LotSetup) **float64 { return &n.Grams }).
			Hinted("Worked out as seeds from the crop’s thousand-seed weight."),
		ledger.PickOf("origin", "Where from", Origins, func(n *LotSetup) *string { return &n.Origin }).
			Hinted("Seed from a kitchen fruit or from your own plants may grow into something different."),
		ledger.MaybeNumber("harvested", "Harvested in", func(n *LotSetup) **int { return &n.Harvested }).Hinted("the year, where it is known"),
		ledger.Short("kept_in", "Where it is kept", func(n *LotSetup) *string { return &n.KeptIn }).Hinted("Cool, dry and dark keeps longest."),
		ledger.Yes("pelleted", "pelleted: in a coat of clay", func(n *LotSetup) *bool { return &n.Pelleted }).Hinted("Sow exactly one in each cell; " +
			"pelleted seed keeps for only a year."),
		ledger.Yes("treated", "treated: dressed or coated seed", func(n *LotSetup) *bool { return &n.Treated }).
			Hinted("Often coloured; the packet says so. Such seed is not food and must never be sprouted for eating."),
	},
	Pick:    pickCrop,
	ID:      func(n *LotSetup) *uuid.UUID { return &n.ID },
	Retired: func(n *LotSetup) *bool { return &n.Retired },
	Blank:   func() LotSetup { return LotSetup{Origin: "bought"} },
	All: func(ctx context.Context, tx *store.Tx) (out []LotSetup, err error) {
		rows, err := tx.AllLots(ctx)
		for _, r := range rows {
			out = append(out, setupOf(r))
		}
		return out, err
	},
	Label: func(n LotSetup) string { return n.Name },
	Page:  func(n LotSetup) string { return "/seeds/" + n.ID.String() },
	Says: func(n LotSetup) say.Text {
		c, _ := crop.Of(n.Crop)
		says := say.T("%s %s, packed in %d", c.Name, say.Name(n.Variety), n.Packed)
		if n.Seeds != nil {
			says = say.T("%s, %s", says, say.Plural(*n.Seeds, "seed"))
		}
		if n.Treated {
			says = say.T("%s, treated", says)
		}
		return says
	},
	Check: checkLot,
	Keep:  keepLot,
	Drop: func(ctx context.Context, tx *store.Tx, n LotSetup) error {
		if err := tx.DropLot(ctx, n.ID); err != nil {
			return err
		}
		return tx.DropThing(ctx, n.ID)
	},
	Alters: func(ctx context.Context, tx *store.Tx, n LotSetup) (out []say.Text, err error) {
		sown, err := tx.LotSown(ctx, &n.ID)
		if sown {
			out = append(out, say.T("Batches were sown from it. What you change here changes what is expected of them."))
		}
		return out, err
	},
}

func setupOf(r db.AllLotsRow) LotSetup {
	return LotSetup{
		ID: r.ID, Crop: r.Crop, Variety: r.Variety, Name: r.Name, Packed: r.Packed, Label: r.LabelRate, Tested: r.Tested, Came: r.Sprouted,
		Seeds: r.SeedsLeft, Treated: r.Treated, Retired: r.Retired, Origin: r.Origin, Harvested: r.Harvested, Pelleted: r.Pelleted,
		KeptIn: r.KeptIn, Gone: r.Gone,
	}
}

// pickCrop is what a packet or variety can be of.
func pickCrop(ctx context.Context, tx *store.Tx) (things.Options, error) {
	options, err := crops.Options(ctx, tx)
	return things.Options{"crop": options}, err
}

// knownCrop refuses a crop that is neither of the catalogue nor of the school's own.
func knownCrop(ctx context.Context, tx *store.Tx, e *field.Errors, id string) error {
	book, err := crops.Load(ctx, tx)
	e.Require(book.Has(id), "crop", "choose a crop")
	return err
}

func checkLot(ctx context.Context, tx *store.Tx, old, n *LotSetup) error {
	var e field.Errors
	n.Variety, n.Name = name.Take(&e, "variety", n.Variety, 60), name.Take(&e, "name", n.Name, 60)
	n.KeptIn, n.Gone = name.Line(&e, "kept_in", n.KeptIn, 60), name.Line(&e, "gone", n.Gone, 120)
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return err
	}
	e.Require(book.Has(n.Crop), "crop", "choose a crop")
	if n.Origin == "" {
		n.Origin = "bought"
	}
	e.Require(slices.ContainsFunc(Origins, func(o ledger.Option) bool { return o.Value == n.Origin }), "origin", "must be one of these")
	e.Require(n.Harvested == nil || *n.Harvested >= 1980 && *n.Harvested <= n.Packed, "harvested", "must be a year no later than the year it was packed")
	if n.Grams != nil {
		e.Require(*n.Grams >= 0 && *n.Grams <= 100_000, "grams", "must be %s to %s", say.Figure(0, unit.Gram), say.Of(100_000, unit.Gram))
		if c := book.Find(n.Crop); n.Seeds == nil && c.SeedG > 0 && e.Err() == nil {
			seeds := int(math.Round(*n.Grams / c.SeedG * 1000))
			n.Seeds = &seeds
		}
		n.Grams = nil
	}
	if !n.Retired {
		n.Gone = ""
	}
	e.Require(n.Packed >= 1990 && n.Packed <= 2100, "packed", "must be the year it was packed")
	e.Require(n.Label == nil || (*n.Label >= 0 && *n.Label <= 1), "label_rate", "must be 0 to 100 %")
	e.Require(n.Tested == nil || (*n.Tested >= 1 && *n.Tested <= 10000), "tested", "must be 1 or more")
	e.Require((n.Tested == nil) == (n.Came == nil), "sprouted", "enter both: how many were tested and how many germinated")
	if n.Tested != nil && n.Came != nil {
		e.Require(*n.Came >= 0 && *n.Came <= *n.Tested, "sprouted", "must be 0 up to the number tested")
	}
	e.Require(n.Seeds == nil || *n.Seeds >= 0 && *n.Seeds <= 10_000_000, "seeds_left", "must be 0 or more")
	if old != nil && old.Crop != n.Crop {
		sown, err := tx.LotSown(ctx, &n.ID)
		if err != nil {
			return err
		}
		e.Require(!sown, "crop", "cannot go: batches were sown from this packet")
	}
	return e.Err()
}

func keepLot(ctx context.Context, tx *store.Tx, _ *LotSetup, n LotSetup) error {
	id, err := VarietyOf(ctx, tx, n.Crop, n.Variety)
	if err != nil {
		return err
	}
	return tx.PutLot(ctx, db.PutLotParams{
		SchoolID: tx.Who.School, ID: n.ID, VarietyID: id, Name: n.Name, Packed: n.Packed, LabelRate: n.Label,
		Tested: n.Tested, Sprouted: n.Came, SeedsLeft: n.Seeds, Treated: n.Treated, Retired: n.Retired,
		Origin: n.Origin, Harvested: n.Harvested, Pelleted: n.Pelleted, KeptIn: n.KeptIn, Gone: n.Gone,
	})
}

// AddLot writes down a new packet.
func AddLot(ctx context.Context, s *store.Store, w who.Who, n LotSetup) error {
	_, err := LotKind.Put(ctx, s, w, n, things.New)
	return err
}

// VarietySetup is a variety as it is written down.
type VarietySetup struct {
	ID      uuid.UUID `json:"id"`
	Crop    string    `json:"crop"`
	Name    string    `json:"name"`
	Taste   *int      `json:"taste,omitempty"` // 1 to 5, as it was here
	Notes   string    `json:"notes,omitempty"`
	Retired bool      `json:"retired,omitempty"`
	lots    int
}

// VarietyKind is how varieties are written down and renamed.
var VarietyKind = &things.Kind[VarietySetup]{
	Name: "varieties", One: "variety##thing", Add: "Add a variety", Title: "Varieties",
	About: "What packets and batches are varieties of. A new packet adds its variety.",
	May:   who.Plan,
	Fields: []ledger.Field[VarietySetup]{
		ledger.PickOf("crop", "Crop", nil, func(n *VarietySetup) *string { return &n.Crop }),
		ledger.Short("name", "Name", func(n *VarietySetup) *string { return &n.Name }),
		ledger.MaybeNumber("taste", "How it tasted, 1 to 5", func(n *VarietySetup) **int { return &n.Taste }),
		ledger.Short("notes", "Note", func(n *VarietySetup) *string { return &n.Notes }).
			Hinted("Bolted early, slugs liked it, sold first: what helps to choose next year."),
	},
	Pick:    pickCrop,
	ID:      func(n *VarietySetup) *uuid.UUID { return &n.ID },
	Retired: func(n *VarietySetup) *bool { return &n.Retired },
	Blank:   func() VarietySetup { return VarietySetup{} },
	All: func(ctx context.Context, tx *store.Tx) (out []VarietySetup, err error) {
		rows, err := tx.AllVarieties(ctx)
		for _, r := range rows {
			out = append(out, VarietySetup{r.ID, r.Crop, r.Name, r.Taste, r.Notes, r.Retired, r.Lots})
		}
		return out, err
	},
	Label: func(n VarietySetup) string { return n.Name },
	Says: func(n VarietySetup) say.Text {
		c, _ := crop.Of(n.Crop)
		return say.T("%s, %s", c.Name, say.Plural(n.lots, "packet"))
	},
	Check: func(ctx context.Context, tx *store.Tx, old, n *VarietySetup) error {
		var e field.Errors
		n.Name = name.Take(&e, "name", n.Name, 60)
		n.Notes = name.Line(&e, "notes", n.Notes, 200)
		e.Require(n.Taste == nil || *n.Taste >= 1 && *n.Taste <= 5, "taste", "must be 1 to 5")
		if err := knownCrop(ctx, tx, &e, n.Crop); err != nil {
			return err
		}
		if old != nil {
			n.lots = old.lots
			e.Require(!n.Retired || old.Retired || n.lots == 0, "retired", "%s of it on the shelf; retire those first", say.Plural(n.lots, "packet"))
			if old.Crop != n.Crop {
				grown, err := tx.VarietyGrown(ctx, n.ID)
				if err != nil {
					return err
				}
				e.Require(!grown, "crop", "cannot go: batches of it were sown")
			}
		}
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *VarietySetup, n VarietySetup) error {
		return tx.PutVariety(ctx, db.PutVarietyParams{
			SchoolID: tx.Who.School, ID: n.ID, Crop: n.Crop, Name: n.Name, Retired: n.Retired, Taste: n.Taste, Notes: n.Notes,
		})
	},
	Drop: func(ctx context.Context, tx *store.Tx, n VarietySetup) error { return tx.DropVariety(ctx, n.ID) },
	Alters: func(_ context.Context, _ *store.Tx, n VarietySetup) (out []say.Text, err error) {
		if n.lots > 0 {
			out = append(out, say.T("%s and every batch of it will have this name.", say.Plural(n.lots, "packet")))
		}
		return out, nil
	},
}

// VarietyOf finds a variety by its name, and makes it when it is new.
func VarietyOf(ctx context.Context, tx *store.Tx, cropID, called string) (uuid.UUID, error) {
	varieties, err := tx.AllVarieties(ctx)
	if err != nil {
		return uuid.Nil, err
	}
	for _, v := range varieties {
		if v.Crop == cropID && name.Key(v.Name) == name.Key(called) {
			return v.ID, nil
		}
	}
	id, err := uuid.NewV7()
	if err != nil {
		return id, err
	}
	return id, tx.PutVariety(ctx, db.PutVarietyParams{SchoolID: tx.Who.School, ID: id, Crop: cropID, Name: called})
}
