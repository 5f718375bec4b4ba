package troughs

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/fish"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

const (
	mgL      = "mg/L"
	mostNote = 200
)

// Read is a reading of water with fish.
var Read = ledger.Declare(ledger.Kind[fish.Reading]{
	Name: "fish_read", Says: func(r fish.Reading) say.Text {
		var parts []say.Text
		for _, x := range []struct {
			v    *float64
			says say.Words
			unit string
		}{
			{r.TAN, "ammonia %s", mgL},
			{r.Nitrite, "nitrite %s", mgL},
			{r.Nitrate, "nitrate %s", mgL},
			{r.PH, "%s", "pH"},
			{r.Oxygen, "oxygen %s", mgL},
			{r.TempC, "%s", unit.Celsius},
			{r.Alkalinity, "alkalinity %s", mgL},
			{r.Chloride, "chloride %s", mgL},
		} {
			if x.v != nil {
				parts = append(parts, say.T(x.says, say.Of(*x.v, x.unit)))
			}
		}
		return say.T("Read %s##noted", say.Join(", ", parts...))
	},
	Fields: []ledger.Field[fish.Reading]{
		ledger.Maybe("tan", "Total ammonia, as N", mgL, func(r *fish.Reading) **float64 { return &r.TAN }),
		ledger.Maybe("nitrite", "Nitrite, as N", mgL, func(r *fish.Reading) **float64 { return &r.Nitrite }),
		ledger.Maybe("nitrate", "Nitrate, as N", mgL, func(r *fish.Reading) **float64 { return &r.Nitrate }),
		ledger.Maybe("fish_ph", "pH", "pH", func(r *fish.Reading) **float64 { return &r.PH }),
		ledger.Maybe("oxygen", "Oxygen", mgL, func(r *fish.Reading) **float64 { return &r.Oxygen }),
		ledger.Maybe("fish_temp", "Temperature", unit.Celsius, func(r *fish.Reading) **float64 { return &r.TempC }),
		ledger.Maybe("alkalinity", "Alkalinity", "mg/L CaCO₃", func(r *fish.Reading) **float64 { return &r.Alkalinity }),
		ledger.Maybe("chloride", "Chloride", mgL, func(r *fish.Reading) **float64 { return &r.Chloride }).
			Hinted("Once in a while, from the waterworks’ report or a strip: where there is little, nitrite harms sooner."),
	},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, r fish.Reading) (fish.Reading, error) {
		return r, r.Check()
	},
})

// Whys are why fish come or go.
var Whys = []ledger.Option{
	{Value: fish.PutIn, Name: say.Words("put in")},
	{Value: fish.Died, Name: say.Words("found dead")},
	{Value: fish.Taken, Name: say.Words("taken out")},
}

// Stocked is fish that came or went.
var Stocked = ledger.Declare(ledger.Kind[fish.Stock]{
	Name: "fish_stock", Says: func(s fish.Stock) say.Text {
		var says say.Text
		switch s.Why {
		case fish.PutIn:
			says = say.T("Put in %d fish, of %s each", s.Fish, say.Of(s.MassG, unit.Gram))
		case fish.Died:
			says = say.T("%d fish found dead", s.Fish)
		default:
			says = say.T("%d fish taken out", s.Fish)
		}
		if s.Note != "" {
			says = say.T("%s: %s", says, say.Name(s.Note))
		}
		return says
	},
	Fields: []ledger.Field[fish.Stock]{
		ledger.PickOf("why", "Fish were", Whys, func(s *fish.Stock) *string { return &s.Why }),
		ledger.Number("fish", "How many", func(s *fish.Stock) *int { return &s.Fish }),
		ledger.Amount("mass_g", "Average weight of each when put in", unit.Gram, func(s *fish.Stock) *float64 { return &s.MassG }),
		ledger.Short("fish_note", "What was seen", func(s *fish.Stock) *string { return &s.Note }),
	},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, s fish.Stock) (fish.Stock, error) {
		return s, checkStock(s)
	},
})

func checkStock(s fish.Stock) error {
	var e field.Errors
	e.Require(s.Why == fish.PutIn || s.Why == fish.Died || s.Why == fish.Taken, "why", "must be one of these")
	e.Require(s.Fish >= 1 && s.Fish <= 100_000, "fish", "must be 1 to 100,000")
	e.Require(s.Why != fish.PutIn || s.MassG > 0 && s.MassG <= 50_000, "mass_g", "enter about what one weighs")
	e.Require(len([]rune(s.Note)) <= mostNote, "fish_note", "must be %d letters at most", mostNote)
	return e.Err()
}

// Weighed is a sample of them.
var Weighed = ledger.Declare(ledger.Kind[fish.Sample]{
	Name: "fish_weigh", Says: func(s fish.Sample) say.Text { return say.T("Weighed %d fish: %s", s.Fish, say.Of(s.Grams, unit.Gram)) },
	Fields: []ledger.Field[fish.Sample]{
		ledger.Number("sampled", "Weighed together", func(s *fish.Sample) *int { return &s.Fish }).
			Hinted("Weigh them in a bucket of their own water and take off the bucket’s weight; five to ten fish are enough."),
		ledger.Amount("grams", "They weigh", unit.Gram, func(s *fish.Sample) *float64 { return &s.Grams }),
	},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, s fish.Sample) (fish.Sample, error) {
		return s, checkSample(s)
	},
})

func checkSample(s fish.Sample) error {
	var e field.Errors
	e.Require(s.Fish >= 1 && s.Fish <= 100_000, "sampled", "must be 1 to 100,000")
	e.Require(s.Grams > 0 && s.Grams <= 50_000*float64(max(1, s.Fish)), "grams", "must be a weight above 0")
	return e.Err()
}

// FedFish is what they were given.
var FedFish = ledger.Declare(ledger.Kind[fish.Fed]{
	Name: "fish_fed", Says: func(f fish.Fed) say.Text {
		if f.Left {
			return say.T("Fed %s; some was left", say.Of(f.Grams, unit.Gram))
		}
		return say.T("Fed %s", say.Of(f.Grams, unit.Gram))
	},
	Fields: []ledger.Field[fish.Fed]{
		ledger.Amount("fed_g", "Fed", unit.Gram, func(f *fish.Fed) *float64 { return &f.Grams }),
		ledger.Yes("left", "some was left after ten minutes", func(f *fish.Fed) *bool { return &f.Left }),
	},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, f fish.Fed) (fish.Fed, error) {
		return f, checkFed(f)
	},
})

func checkFed(f fish.Fed) error {
	if f.Grams < 0 || f.Grams > 1e6 {
		return field.Refuse("fed_g", "must be a weight, 0 or more")
	}
	return nil
}

// Changed is what was done to their water.
var Changed = ledger.Declare(ledger.Kind[fish.Added]{
	Name: "fish_water", Says: func(a fish.Added) say.Text {
		var parts []say.Text
		if a.ChangeL > 0 {
			parts = append(parts, say.T("changed %s", say.Of(a.ChangeL, unit.Litre)))
		}
		if a.BaseG > 0 {
			parts = append(parts, say.T("%s of potassium bicarbonate", say.Of(a.BaseG, unit.Gram)))
		}
		return say.T("Water: %s", say.Join(", ", parts...))
	},
	Fields: []ledger.Field[fish.Added]{
		ledger.Amount("change_l", "Water changed", unit.Litre, func(a *fish.Added) *float64 { return &a.ChangeL }),
		ledger.Amount("base_g", "Potassium bicarbonate", unit.Gram, func(a *fish.Added) *float64 { return &a.BaseG }),
	},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, a fish.Added) (fish.Added, error) {
		return a, checkAdded(a)
	},
})

func checkAdded(a fish.Added) error {
	var e field.Errors
	e.Require(a.ChangeL > 0 || a.BaseG > 0, "change_l", "enter what was done")
	e.Require(a.ChangeL >= 0 && a.ChangeL <= 1e6, "change_l", "must be 0 litres or more")
	e.Require(a.BaseG >= 0 && a.BaseG <= 1e5, "base_g", "must be a weight, 0 or more")
	return e.Err()
}

// keep writes an entry about a vessel.
func keep(ctx context.Context, s *store.Store, w who.Who, verb, kind string, act ledger.Act, data any, check func(Trough) error) error {
	return ledger.Once(ctx, s, w, ledger.Sent{ID: act.ID, Verb: verb, What: []any{act.On, data, act.At}}, func(tx *store.Tx) error {
		t, err := full.One(ctx, tx, act.On)
		if err != nil {
			return err
		}
		if check != nil {
			if err := check(t); err != nil {
				return err
			}
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{ID: act.ID, Kind: kind, HappenedAt: act.At, About: []uuid.UUID{act.On, t.Place}, Data: data, Names: t.Name})
		return err
	})
}

// LogReading writes down what was read of the water.
func LogReading(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, r fish.Reading) error {
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	if err := r.Check(); err != nil {
		return err
	}
	return keep(ctx, s, w, "troughs.LogReading", Read.Name, act, r, nil)
}

// Restock writes down that fish came or went.
func Restock(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, x fish.Stock) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	if err := checkStock(x); err != nil {
		return err
	}
	return keep(ctx, s, w, "troughs.Restock", Stocked.Name, act, x, func(t Trough) error {
		if x.Why != fish.PutIn && x.Fish > t.State.Fish {
			return field.Refuse("fish", "is more than the %d fish in there", t.State.Fish)
		}
		return nil
	})
}

// Weigh writes down what some of them weigh.
func Weigh(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, x fish.Sample) error {
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	if err := checkSample(x); err != nil {
		return err
	}
	return keep(ctx, s, w, "troughs.Weigh", Weighed.Name, act, x, nil)
}

// Feed writes down what they were given.
func Feed(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, x fish.Fed) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	if err := checkFed(x); err != nil {
		return err
	}
	return keep(ctx, s, w, "troughs.Feed", FedFish.Name, act, x, nil)
}

// Change writes down what was done to their water; alkali only in an adult's name.
func Change(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, x fish.Added) error {
	need := who.Record
	if x.BaseG > 0 {
		need = who.Dose
	}
	if err := w.Must(need); err != nil {
		return err
	}
	if err := checkAdded(x); err != nil {
		return err
	}
	return keep(ctx, s, w, "troughs.Change", Changed.Name, act, x, nil)
}
