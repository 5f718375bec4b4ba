package site

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/potting"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// PotSetup is a size of pot that the school owns.
type PotSetup struct {
	ID       uuid.UUID `json:"id"`
	Name     string    `json:"name"`
	TopCM    float64   `json:"top_cm"`
	BottomCM float64   `json:"bottom_cm"`
	HeightCM float64   `json:"height_cm"`
	Square   bool      `json:"square"`
	Owned    int       `json:"owned"`
	Dirty    int       `json:"dirty"` // empty, not washed yet
	Days     int       `json:"days"`  // for which one usually holds a plant
	Retired  bool      `json:"retired,omitempty"`
	used     int
}

// Pot is the size as it is used in sums.
func (p PotSetup) Pot() potting.Pot {
	return potting.Pot{TopCM: p.TopCM, BottomCM: p.BottomCM, HeightCM: p.HeightCM, Square: p.Square, Days: p.Days}
}

// Free is how many stand clean and empty.
func (p PotSetup) Free() int { return max(0, p.Owned-p.used-p.Dirty) }

// PotKind is how sizes of pots are set up.
var PotKind = &things.Kind[PotSetup]{
	Name: "pots", One: "size of pot", Add: "Add a size of pot", Title: "Pots",
	About: "Pot sizes, how many there are, and how long each holds a plant. Pots that plants leave count as unwashed until somebody says they are " +
		"washed.",
	May: who.Plan,
	Fields: []ledger.Field[PotSetup]{
		ledger.Short("name", "Name", func(p *PotSetup) *string { return &p.Name }),
		ledger.Amount("top_cm", "Diameter at the top", unit.Centimetre, func(p *PotSetup) *float64 { return &p.TopCM }),
		ledger.Amount("bottom_cm", "Diameter at the bottom", unit.Centimetre, func(p *PotSetup) *float64 { return &p.BottomCM }),
		ledger.Amount("height_cm", "Height", unit.Centimetre, func(p *PotSetup) *float64 { return &p.HeightCM }),
		ledger.Yes("square", "they are square", func(p *PotSetup) *bool { return &p.Square }),
		ledger.Number("owned", "How many there are", func(p *PotSetup) *int { return &p.Owned }).Hinted("In use, clean and dirty together."),
		ledger.Number("dirty", "Still to be washed", func(p *PotSetup) *int { return &p.Dirty }).
			Hinted("0 when all are washed. A pot counts as unwashed once its plant has left it."),
		ledger.Number("days", "Holds a plant for about so many days", func(p *PotSetup) *int { return &p.Days }).
			Hinted("Then somebody looks at its roots; what they see decides."),
	},
	ID:      func(p *PotSetup) *uuid.UUID { return &p.ID },
	Retired: func(p *PotSetup) *bool { return &p.Retired },
	Blank:   func() PotSetup { return PotSetup{TopCM: 9, BottomCM: 6.5, HeightCM: 8.5, Days: 28} },
	All: func(ctx context.Context, tx *store.Tx) (out []PotSetup, err error) {
		rows, err := tx.AllPots(ctx)
		for _, r := range rows {
			out = append(out, PotSetup{r.ID, r.Name, r.TopCm, r.BottomCm, r.HeightCm, r.Square, r.Owned, r.Dirty, r.Days, r.Retired, r.Used})
		}
		return out, err
	},
	Label: func(p PotSetup) string { return p.Name },
	Says: func(p PotSetup) say.Text {
		return say.T("%d clean and free, %d in use, %d to wash", p.Free(), p.used, p.Dirty)
	},
	Check: func(ctx context.Context, tx *store.Tx, old, p *PotSetup) error {
		var e field.Errors
		p.Name = name.Take(&e, "name", p.Name, 40)
		for n, v := range map[string]float64{"top_cm": p.TopCM, "bottom_cm": p.BottomCM, "height_cm": p.HeightCM} {
			e.Require(v > 0 && v <= 200, n, "must be %s to %s", say.Figure(0, unit.Centimetre), say.Of(200, unit.Centimetre))
		}
		e.Require(p.Owned >= 0 && p.Owned <= 100_000, "owned", "must be 0 to 100,000")
		e.Require(p.Dirty >= 0 && p.Dirty <= 100_000, "dirty", "must be 0 to 100,000")
		e.Require(p.Days >= 0 && p.Days <= 400, "days", "must be 0 to 400")
		if old != nil && p.Retired && !old.Retired {
			e.Require(old.used == 0, "retired", "%s are in these; pot them on first", say.Plural(old.used, "plant"))
		}
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *PotSetup, p PotSetup) error {
		return tx.PutPot(ctx, db.PutPotParams{
			SchoolID: tx.Who.School, ID: p.ID, Name: p.Name, TopCm: p.TopCM, BottomCm: p.BottomCM, HeightCm: p.HeightCM, Square: p.Square,
			Owned: p.Owned, Dirty: p.Dirty, Days: p.Days, Retired: p.Retired,
		})
	},
	Alters: func(_ context.Context, _ *store.Tx, p PotSetup) (out []say.Text, err error) {
		if p.used > 0 {
			out = append(out, say.T("%s are in these. How long each holds a plant will be worked out again.", say.Plural(p.used, "plant")))
		}
		return out, nil
	},
	Drop: func(ctx context.Context, tx *store.Tx, p PotSetup) error {
		n, err := tx.DropPot(ctx, p.ID)
		if err == nil && n == 0 {
			return field.Refuse("id", "is on record: plants were in these. Retire it instead")
		}
		return err
	},
}

// MixSetup is a mix that pots are filled with.
type MixSetup struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name"`
	Litres  float64   `json:"litres"` // on hand, loose
	BagL    float64   `json:"bag_l"`  // 0: not in bags
	Retired bool      `json:"retired,omitempty"`
}

// MixKind is how mixes are set up.
var MixKind = &things.Kind[MixSetup]{
	Name: "mixes", One: "mix##thing", Add: "Add a mix", Title: "Compost and mixes",
	About: "What pots are filled with, and how much of it there is. Potting on uses it up.",
	May:   who.Plan,
	Fields: []ledger.Field[MixSetup]{
		ledger.Short("name", "Name", func(m *MixSetup) *string { return &m.Name }),
		ledger.Amount("litres", "On hand", unit.Litre, func(m *MixSetup) *float64 { return &m.Litres }),
		ledger.Amount("bag_l", "Litres in a bag", unit.Litre, func(m *MixSetup) *float64 { return &m.BagL }).Hinted("Leave it empty if it does not come in " +
			"bags."),
	},
	ID:      func(m *MixSetup) *uuid.UUID { return &m.ID },
	Retired: func(m *MixSetup) *bool { return &m.Retired },
	Blank:   func() MixSetup { return MixSetup{BagL: 40} },
	All: func(ctx context.Context, tx *store.Tx) (out []MixSetup, err error) {
		rows, err := tx.AllMixes(ctx)
		for _, r := range rows {
			out = append(out, MixSetup{r.ID, r.Name, r.Litres, r.BagL, r.Retired})
		}
		return out, err
	},
	Label: func(m MixSetup) string { return m.Name },
	Says:  func(m MixSetup) say.Text { return say.T("%s in stock", say.Of(m.Litres, unit.Litre)) },
	Check: func(_ context.Context, _ *store.Tx, _, m *MixSetup) error {
		var e field.Errors
		m.Name = name.Take(&e, "name", m.Name, 40)
		e.Require(m.Litres >= 0 && m.Litres <= 100_000, "litres", "must be 0 litres or more")
		e.Require(m.BagL >= 0 && m.BagL <= 1000, "bag_l", "must be 0 litres or more")
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *MixSetup, m MixSetup) error {
		return tx.PutMix(ctx, db.PutMixParams{SchoolID: tx.Who.School, ID: m.ID, Name: m.Name, Litres: m.Litres, BagL: m.BagL, Retired: m.Retired})
	},
	Drop: func(ctx context.Context, tx *store.Tx, m MixSetup) error { return tx.DropMix(ctx, m.ID) },
}

// Potting is what there is to pot with.
type Potting struct {
	Pots  []PotSetup
	Mixes []MixSetup
}

// ReadPotting reads the pots and mixes that are in use.
func ReadPotting(ctx context.Context, s *store.Store, w who.Who) (out Potting, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		pots, err := PotKind.All(ctx, tx)
		if err != nil {
			return err
		}
		mixes, err := MixKind.All(ctx, tx)
		for _, p := range pots {
			if !p.Retired {
				out.Pots = append(out.Pots, p)
			}
		}
		for _, m := range mixes {
			if !m.Retired {
				out.Mixes = append(out.Mixes, m)
			}
		}
		return err
	})
	return out, err
}

// Pot finds a size of pot, and whether there is one.
func (x Potting) Pot(id string) (PotSetup, bool) {
	for _, p := range x.Pots {
		if p.ID.String() == id {
			return p, true
		}
	}
	return PotSetup{}, false
}

// Mix finds a mix; the zero one is none.
func (x Potting) Mix(id string) (m MixSetup) {
	for _, m := range x.Mixes {
		if m.ID.String() == id {
			return m
		}
	}
	return m
}

// intoPots takes the mix that so many pots of a size need, and writes into the act what was taken.
func intoPots(ctx context.Context, tx *store.Tx, r MoveRequest, n int, a *batch.Act) error {
	if _, err := tx.TouchPot(ctx, r.Pot); err != nil {
		return store.Missing(err, "pot", "choose a size of pot")
	}
	pots, err := PotKind.All(ctx, tx)
	if err != nil {
		return err
	}
	p, known := Potting{Pots: pots}.Pot(r.Pot.String())
	if !known || p.Retired {
		return field.Refuse("pot", "choose a size of pot")
	}
	if n > p.Free() {
		return field.Refuse("pot", "only %d are clean and free", p.Free())
	}
	if r.Mix == uuid.Nil {
		return nil
	}
	need, err := potting.Fill(p.Pot(), n, potting.Mix{})
	if err != nil {
		return err
	}
	mixes, err := MixKind.All(ctx, tx)
	if err != nil {
		return err
	}
	there := Potting{Mixes: mixes}.Mix(r.Mix.String()).Litres
	a.Mix, a.MixL = r.Mix.String(), min(there, need.MixL)
	return tx.UseMix(ctx, db.UseMixParams{ID: r.Mix, Used: need.MixL})
}

// mixBack puts what was taken for pots back, when the act is undone.
func mixBack(ctx context.Context, tx *store.Tx, a batch.Act) error {
	if a.MixL == 0 {
		return nil
	}
	id, err := uuid.Parse(a.Mix)
	if err != nil {
		return err
	}
	return tx.UseMix(ctx, db.UseMixParams{ID: id, Used: -a.MixL})
}
