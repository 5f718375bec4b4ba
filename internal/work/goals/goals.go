// Package goals is what a school wants from its season, the plan that brings it about, and
// how far what is planned is what was kept.
//
//	o, err := goals.Look(ctx, store, who)
//	err = goals.Keep(ctx, store, who, o.Tag)
package goals

import (
	"context"
	"slices"
	"strconv"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/season"
	"ulpa/internal/work/site"
)

// Setup is a goal as it is written down.
type Setup struct {
	ID      uuid.UUID    `json:"id"`
	Name    string       `json:"name"`
	Kind    string       `json:"kind"` // ready, weekly, class, bed or trial
	Crop    string       `json:"crop"`
	Variety string       `json:"variety,omitempty"`
	Wanted  int          `json:"wanted"`            // 0: by the weight, or as many as fill the bed
	Grams   *float64     `json:"grams,omitempty"`   // to be harvested, instead of a number
	PlantG  *float64     `json:"plant_g,omitempty"` // what one plant gives; nil: as it did here
	Place   uuid.UUID    `json:"place,omitzero"`    // the bed that is to be filled
	From    calendar.Day `json:"from"`
	By      calendar.Day `json:"by"`
	Weekday string       `json:"weekday,omitempty"` // of a weekly one: 1 (Monday) to 7; "": any
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
			{Value: "bed", Name: say.Words("to fill a bed, between two days")},
			{Value: "trial", Name: say.Words("for a trial, between two days")},
		}, func(g *Setup) *string { return &g.Kind }),
		ledger.PickOf("crop", "Crop", nil, func(g *Setup) *string { return &g.Crop }),
		ledger.Short("variety", "Variety", func(g *Setup) *string { return &g.Variety }).
			Hinted("If empty: any of these. For a trial name two or more, with commas between."),
		ledger.Number("wanted", "Plants wanted", func(g *Setup) *int { return &g.Wanted }).
			Hinted("Each week if it is wanted weekly; of each variety if it is a trial. 0: by weight, or as many as fill the bed."),
		ledger.Maybe("grams", "Or a number by weight", unit.Gram, func(g *Setup) **float64 { return &g.Grams }).Where("kind", "ready", "weekly"),
		ledger.Maybe("plant_g", "One plant gives about", unit.Gram, func(g *Setup) **float64 { return &g.PlantG }).Where("kind", "ready", "weekly").
			Hinted("If empty: what it has been here so far."),
		ledger.PickID("place", "Bed", func(g *Setup) *uuid.UUID { return &g.Place }).Where("kind", "bed", "ready", "weekly", "trial").
			Hinted("Where they are to grow at last. None: wherever there is room."),
		ledger.Day("from", "From the day", func(g *Setup) *calendar.Day { return &g.From }),
		ledger.Day("by", "By the day", func(g *Setup) *calendar.Day { return &g.By }),
		ledger.PickOf("weekday", "On", slices.Insert(slices.Clone(season.Weekdays), 0, ledger.Option{Value: "", Name: say.Words("any day of the week")}),
			func(g *Setup) *string { return &g.Weekday }).Where("kind", "weekly").
			Hinted("If nobody is there on that day, the day before. A week in which nobody is there at all wants nothing."),
		ledger.Yes("harvest", "to be harvested then, and not only planted out", func(g *Setup) *bool { return &g.Harvest }),
		ledger.Percent("sure", "How sure", func(g *Setup) **float64 { return &g.Sure }).Hinted("50 to 99 %; 90 where left empty."),
		ledger.PickOf("missing", "If it is missed", []ledger.Option{
			{Value: plan.Must, Name: say.Words("must not be")},
			{Value: plan.Should, Name: say.Words("should not be")},
			{Value: plan.Nice, Name: say.Words("can be accepted")},
		}, func(g *Setup) *string { return &g.Missing }),
		ledger.Short("whom", "For whom", func(g *Setup) *string { return &g.Whom }),
	},
	Pick: func(ctx context.Context, tx *store.Tx) (things.Options, error) {
		options, err := crops.Options(ctx, tx)
		if err != nil {
			return nil, err
		}
		places, err := site.Places(ctx, tx)
		beds := []ledger.Option{{Name: say.Words("none##place")}}
		for _, p := range places {
			if p.Kind == "bed" || p.Kind == "frame" {
				beds = append(beds, ledger.Option{Value: p.ID.String(), Name: say.Name(p.Name)})
			}
		}
		return things.Options{"crop": options, "place": beds}, err
	},
	ID:      func(g *Setup) *uuid.UUID { return &g.ID },
	Retired: func(g *Setup) *bool { return &g.Retired },
	Blank:   func() Setup { return Setup{Kind: "ready", Missing: plan.Should} },
	All:     all,
	Label:   func(g Setup) string { return g.Name },
	Page:    func(Setup) string { return "/season" },
	Says: func(g Setup) say.Text {
		says := say.T("%s, %s to %s", g.Wants(), g.From.Short(), g.By.Short())
		if n := g.weekday(); n > 0 {
			return say.T("%s: %s", season.Weekdays[n-1].Name, says)
		}
		return says
	},
	Check: check,
	Keep: func(ctx context.Context, tx *store.Tx, _ *Setup, g Setup) error {
		return tx.PutGoal(ctx, db.PutGoalParams{
			SchoolID: tx.Who.School, ID: g.ID, Name: g.Name, Kind: g.Kind, Crop: g.Crop, Variety: g.Variety, Wanted: g.Wanted, FromDay: g.From.UTC(),
			ByDay: g.By.UTC(), Harvest: g.Harvest, Sure: *g.Sure, Missing: g.Missing, Whom: g.Whom, Retired: g.Retired, Grams: g.Grams, PlantG: g.PlantG,
			PlaceID: g.bed(), Weekday: g.weekday(),
		})
	},
	Drop:  func(ctx context.Context, tx *store.Tx, g Setup) error { return tx.DropGoal(ctx, g.ID) },
	Used:  func(g Setup) bool { return g.used },
	Stays: "something is planned for it; retire it instead",
	Hangs: "Sowings are planned for it; before you save, the season page says which of them change.",
}

func all(ctx context.Context, tx *store.Tx) (out []Setup, err error) {
	rows, err := tx.Goals(ctx)
	for _, r := range rows {
		g := Setup{
			ID: r.ID, Name: r.Name, Kind: r.Kind, Crop: r.Crop, Variety: r.Variety, Wanted: r.Wanted, Grams: r.Grams, PlantG: r.PlantG,
			From: calendar.Of(r.FromDay), By: calendar.Of(r.ByDay), Harvest: r.Harvest, Sure: &r.Sure, Missing: r.Missing, Whom: r.Whom,
			Retired: r.Retired, used: r.Used,
		}
		if r.Weekday > 0 {
			g.Weekday = strconv.Itoa(r.Weekday)
		}
		if r.PlaceID != nil {
			g.Place = *r.PlaceID
		}
		out = append(out, g)
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
	e.Require(slices.Contains([]string{"ready", "weekly", "class", "bed", "trial"}, g.Kind), "kind", "must be one of these")
	e.Require(slices.Contains([]string{plan.Must, plan.Should, plan.Nice}, g.Missing), "missing", "must be one of these")
	e.Require(book.Has(g.Crop), "crop", "choose a crop")
	if err := g.checkNumbers(ctx, tx, &e); err != nil {
		return err
	}
	if g.Kind != "weekly" {
		g.Weekday = ""
	}
	e.Require(g.Weekday == "" || g.weekday() >= 1 && g.weekday() <= 7, "weekday", "must be one of these")
	if g.Kind == "class" && g.From > 0 && g.By == 0 {
		g.By = g.From
	}
	e.Require(g.From > 0, "from", "must be a date")
	e.Require(g.By >= g.From, "by", "is before the first day")
	e.Require(g.By-g.From <= 366, "by", "is more than a year after the first day")
	if g.Sure == nil {
		g.Sure = new(usuallySure)
	}
	e.Require(*g.Sure >= 0.5 && *g.Sure <= 0.99, "sure", "must be 50 to 99 %")
	if old != nil {
		g.used = old.used
	}
	return e.Err()
}

// checkNumbers refuses what does not say how many plants a goal takes.
func (g *Setup) checkNumbers(ctx context.Context, tx *store.Tx, e *field.Errors) error {
	if g.Kind == "class" { // which takes them home
		g.Place = uuid.Nil
	} else if g.Place != uuid.Nil && g.Kind != "bed" {
		p, err := site.GetPlace(ctx, tx, g.Place)
		if err := store.Missing(err, "place", "choose the bed"); err != nil {
			return err
		}
		e.Require(p.Kind == "bed" || p.Kind == "frame", "place", "choose the bed")
	}
	if g.Kind != "ready" && g.Kind != "weekly" || g.Wanted > 0 {
		g.Grams, g.PlantG = nil, nil
	}
	most := 10_000
	if arms := g.Arms(); g.Kind == "trial" {
		e.Require(len(arms) >= 2 && len(arms) <= 12, "variety", "must be 2 to 12 varieties, with commas between")
		most /= max(1, len(arms))
	}
	e.Require(g.Wanted >= 0 && g.Wanted <= most, "wanted", "must be 1 to %d plants", most)
	switch {
	case g.Kind == "bed":
		p, err := site.GetPlace(ctx, tx, g.Place)
		if err := store.Missing(err, "place", "choose the bed"); err != nil {
			return err
		}
		e.Require(p.Kind == "bed" || p.Kind == "frame", "place", "choose the bed")
		e.Require(g.Wanted > 0 || p.LengthCM > 0 && p.WidthCM > 0, "wanted", "enter how many plants fill it; its length and width are not known")
	case g.Grams != nil:
		e.Require(*g.Grams >= 1 && *g.Grams <= 1e6, "grams", "must be %s to %s", say.Figure(1, unit.Gram), say.Of(1e6, unit.Gram))
		e.Require(g.PlantG == nil || *g.PlantG >= 0.1 && *g.PlantG <= 1e5, "plant_g", "must be %s to %s", say.Figure(0.1, unit.Gram), say.Of(1e5, unit.Gram))
		e.Require(g.Harvest, "harvest", "give a weight only for what is harvested")
		r, err := recordOf(ctx, tx)
		if err != nil {
			return err
		}
		e.Require(g.PlantG != nil || r.grams[g.Crop].plants > 0, "plant_g", "nothing of it was weighed here yet; say what one plant gives")
	default:
		e.Require(g.Wanted > 0, "wanted", "must be 1 to %d plants", most)
	}
	return nil
}

// weekday is that of a weekly goal, from Monday, 1; 0: any, or none that there is.
func (g Setup) weekday() int {
	n, err := strconv.Atoi(g.Weekday)
	if err != nil {
		return 0
	}
	return n
}

// bed is the bed that is to be filled; nil: none.
func (g Setup) bed() *uuid.UUID {
	if g.Place == uuid.Nil {
		return nil
	}
	return &g.Place
}

// Wants is what is wanted, in words.
func (g Setup) Wants() say.Text {
	c, _ := crop.Of(g.Crop)
	name := say.Lower(c.Name)
	switch {
	case g.Kind == "trial":
		return say.T("%d × %s", len(g.Arms()), say.Many(g.Wanted, name))
	case g.Kind == "bed" && g.Wanted == 0:
		return say.T("a bed of %s", name)
	case g.Grams != nil && g.Kind == "weekly":
		return say.T("%s of %s a week", say.Of(*g.Grams, unit.Gram), name)
	case g.Grams != nil:
		return say.T("%s of %s", say.Of(*g.Grams, unit.Gram), name)
	case g.Kind == "weekly":
		return say.T("%s a week", say.Many(g.Wanted, name))
	}
	return say.Many(g.Wanted, name)
}
