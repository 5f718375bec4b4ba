// Package goals is what a school wants from its season, the plan that brings it about, and
// how far what is planned is what was kept.
//
//	o, err := goals.Look(ctx, store, who)
//	err = goals.Keep(ctx, store, who, o.Tag)
package goals

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/internal/crops"
	"ulpa/internal/ledger"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/things"
	"ulpa/internal/who"
)

// Setup is a goal as it is written down.
type Setup struct {
	ID      uuid.UUID    `json:"id"`
	Name    string       `json:"name"`
	Kind    string       `json:"kind"` // ready, weekly or class
	Crop    string       `json:"crop"`
	Variety string       `json:"variety,omitempty"`
	Wanted  int          `json:"wanted"`
	From    calendar.Day `json:"from"`
	By      calendar.Day `json:"by"`
	Harvest bool         `json:"harvest,omitempty"`
	Sure    *float64     `json:"sure,omitempty"`
	Missing string       `json:"missing"` // must, should or nice
	Whom    string       `json:"whom,omitempty"`
	Retired bool         `json:"retired,omitempty"`
	used    bool
}

// usuallySure is how sure a goal is to be met where nothing is said.
const usuallySure = 0.9

// Kind is how goals are written down.
var Kind = &things.Kind[Setup]{
	Name: "goals", One: "goal##thing", Add: "Add a goal", Title: "Goals",
	About: "What the season is for: so many plants, or their harvest, by a day or in every week. The season’s plan follows from it.",
	May:   who.Plan,
	Fields: []ledger.Field[Setup]{
		ledger.Short("name", "What it is called", func(g *Setup) *string { return &g.Name }),
		ledger.PickOf("kind", "It is wanted", []ledger.Option{
			{Value: "ready", Name: say.Words("once, between two days")},
			{Value: "weekly", Name: say.Words("in every week between two days")},
			{Value: "class", Name: say.Words("for a class, on a day")},
		}, func(g *Setup) *string { return &g.Kind }),
		ledger.PickOf("crop", "Crop", nil, func(g *Setup) *string { return &g.Crop }),
		ledger.Short("variety", "Variety", func(g *Setup) *string { return &g.Variety }).Hinted("Left empty: any of these."),
		ledger.Number("wanted", "Plants wanted", func(g *Setup) *int { return &g.Wanted }).Hinted("Each week, where it is wanted weekly."),
		ledger.Day("from", "From the day", func(g *Setup) *calendar.Day { return &g.From }),
		ledger.Day("by", "By the day", func(g *Setup) *calendar.Day { return &g.By }),
		ledger.Yes("harvest", "to be harvested then, and not only planted out", func(g *Setup) *bool { return &g.Harvest }),
		ledger.Percent("sure", "As sure as", func(g *Setup) **float64 { return &g.Sure }).Hinted("50 to 99 %; 90 where left empty."),
		ledger.PickOf("missing", "Missing it", []ledger.Option{
			{Value: plan.Must, Name: say.Words("must not be")},
			{Value: plan.Should, Name: say.Words("should not be")},
			{Value: plan.Nice, Name: say.Words("can be borne")},
		}, func(g *Setup) *string { return &g.Missing }),
		ledger.Short("whom", "For whom", func(g *Setup) *string { return &g.Whom }),
	},
	Pick: func(ctx context.Context, tx *store.Tx) (things.Options, error) {
		options, err := crops.Options(ctx, tx)
		return things.Options{"crop": options}, err
	},
	ID:      func(g *Setup) *uuid.UUID { return &g.ID },
	Retired: func(g *Setup) *bool { return &g.Retired },
	Blank:   func() Setup { return Setup{Kind: "ready", Missing: plan.Should} },
	All:     all,
	Label:   func(g Setup) string { return g.Name },
	Page:    func(Setup) string { return "/season" },
	Says: func(g Setup) say.Text {
		c, _ := crop.Of(g.Crop)
		if g.Kind == "weekly" {
			return say.T("%d %s a week, %s to %s", g.Wanted, say.Lower(c.Name), g.From.Short(), g.By.Short())
		}
		return say.T("%d %s, %s to %s", g.Wanted, say.Lower(c.Name), g.From.Short(), g.By.Short())
	},
	Check: check,
	Keep: func(ctx context.Context, tx *store.Tx, _ *Setup, g Setup) error {
		return tx.PutGoal(ctx, db.PutGoalParams{
			SchoolID: tx.Who.School, ID: g.ID, Name: g.Name, Kind: g.Kind, Crop: g.Crop, Variety: g.Variety, Wanted: g.Wanted, FromDay: g.From.UTC(),
			ByDay: g.By.UTC(), Harvest: g.Harvest, Sure: *g.Sure, Missing: g.Missing, Whom: g.Whom, Retired: g.Retired,
		})
	},
	Drop: func(ctx context.Context, tx *store.Tx, g Setup) error {
		if g.used {
			return field.Refuse("id", "something is planned for it; retire it instead")
		}
		return tx.DropGoal(ctx, g.ID)
	},
	Alters: func(_ context.Context, _ *store.Tx, g Setup) (out []say.Text, err error) {
		if g.used {
			out = append(out, say.T("Sowings are planned for it; the season says what of them changes, before it is kept."))
		}
		return out, nil
	},
}

func all(ctx context.Context, tx *store.Tx) (out []Setup, err error) {
	rows, err := tx.Goals(ctx)
	for _, r := range rows {
		out = append(out, Setup{
			r.ID, r.Name, r.Kind, r.Crop, r.Variety, r.Wanted, calendar.Of(r.FromDay), calendar.Of(r.ByDay), r.Harvest, &r.Sure, r.Missing, r.Whom, r.Retired, r.Used,
		})
	}
	return out, err
}

func check(ctx context.Context, tx *store.Tx, old, g *Setup) error {
	var e field.Errors
	g.Name = name.Take(&e, "name", g.Name, 60)
	g.Variety, g.Whom = name.Line(&e, "variety", g.Variety, 60), name.Line(&e, "whom", g.Whom, 80)
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return err
	}
	e.Require(slices.Contains([]string{"ready", "weekly", "class"}, g.Kind), "kind", "takes one of these")
	e.Require(slices.Contains([]string{plan.Must, plan.Should, plan.Nice}, g.Missing), "missing", "takes one of these")
	e.Require(book.Has(g.Crop), "crop", "choose a crop")
	e.Require(g.Wanted >= 1 && g.Wanted <= 10_000, "wanted", "takes 1 to 10,000 plants")
	if g.Kind == "class" && g.From > 0 && g.By == 0 {
		g.By = g.From
	}
	e.Require(g.From > 0, "from", "takes a date")
	e.Require(g.By >= g.From, "by", "is before the first day")
	e.Require(g.By-g.From <= 366, "by", "is more than a year after the first day")
	if g.Sure == nil {
		g.Sure = new(usuallySure)
	}
	e.Require(*g.Sure >= 0.5 && *g.Sure <= 0.99, "sure", "takes 50 to 99 %")
	if old != nil {
		g.used = old.used
	}
	return e.Err()
}
