package house_test

import (
	"bytes"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/beds"
	"ulpa/internal/work/goals"
	"ulpa/internal/work/season"
	"ulpa/internal/work/site"
)

// Beds remember what grew in them, keep families apart in time as strictly as the school
// says, and sections never lie over each other or beyond their bed.
func TestBedsOverTheYears(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	bed := site.PlaceSetup{ID: uuid.New(), Name: "Long bed", Kind: "bed", LengthCM: 300, WidthCM: 100, TemperatureC: new(10.0)}
	_, err := site.PlaceKind.Put(ctx, f.Store, f.ines, bed, things.New)
	require.NoError(t, err)
	section := func(name string, x, length float64) (beds.Section, error) {
		s := beds.Section{ID: uuid.New(), Name: name, Place: bed.ID, XCM: x, LengthCM: length, WidthCM: 100, Sun: "full"}
		_, err := beds.SectionKind.Put(ctx, f.Store, f.ines, s, things.New)
		return s, err
	}
	left, err := section("Left", 0, 100)
	require.NoError(t, err)
	right, err := section("Right", 150, 100)
	require.NoError(t, err)
	_, err = section("Over", 60, 50)
	refusedAt(t, "x_cm", err)
	_, err = section("Beyond", 260, 60)
	refusedAt(t, "length_cm", err)

	const year = 2027
	tomato, _ := crop.Of("tomato")
	want := func(c ...crop.Crop) beds.Outlook {
		a := beds.Asked{Year: year}
		for _, x := range c {
			a.Wants = append(a.Wants, beds.Want{Crop: x, Sections: 1})
		}
		o, err := beds.Look(ctx, f.Store, f.ines, a)
		require.NoError(t, err)
		return o
	}
	in := func(o beds.Outlook, s beds.Section) string {
		c, _, _ := o.Planned(s.ID)
		return c.ID
	}
	grew := func(w who.Who, put []beds.Put) error {
		_, err := beds.Grew(ctx, f.Store, w, year-1, put)
		return err
	}
	require.ErrorIs(t, grew(f.crew, []beds.Put{{Section: left.ID, Crop: "pepper"}}), who.ErrNotAllowed)
	refusedAt(t, "crop", grew(f.ines, []beds.Put{{Section: left.ID, Crop: "stone"}}))
	refusedAt(t, "section", grew(f.ines, []beds.Put{{Section: uuid.New(), Crop: "pepper"}}))
	for range 2 { // sent twice it grew once
		require.NoError(t, grew(f.ines, []beds.Put{{Section: left.ID, Crop: "pepper"}}))
	}
	o := want(tomato)
	require.Len(t, o.In(left.ID, year-1), 1)
	require.Equal(t, "tomato", in(o, right), "a tomato does not follow its kin where there is another section")
	require.Empty(t, in(o, left))

	require.NoError(t, grew(f.ines, []beds.Put{{Section: right.ID, Crop: "potato"}}))
	o = want(tomato)
	_, troubles, ok := o.Planned(left.ID)
	if !ok {
		_, troubles, ok = o.Planned(right.ID)
	}
	require.True(t, ok, "where it is advice, it stands all the same")
	require.Equal(t, "rotation", troubles[0].Code)
	require.NoError(t, beds.SetRule(ctx, f.Store, f.ines, beds.Rule{YearsApart: 3, Way: "strict"}))
	o = want(tomato)
	require.Empty(t, in(o, left)+in(o, right), "where it is strict, it does not")
	require.NoError(t, beds.SetRule(ctx, f.Store, f.ines, beds.Rule{YearsApart: 3, Way: "off"}))
	require.NotEmpty(t, in(want(tomato), left)+in(want(tomato), right))
	refusedAt(t, "years", beds.SetRule(ctx, f.Store, f.ines, beds.Rule{YearsApart: 30, Way: "off"}))

	require.NoError(t, beds.Forget(ctx, f.Store, f.ines, o.In(left.ID, year-1)[0].ID))
	require.Empty(t, want(tomato).In(left.ID, year-1))
	refusedAt(t, "id", beds.SectionKind.Delete(ctx, f.Store, f.ines, right.ID, ""))
}

// A plan's seed comes from the older packets that still keep, never twice from the same, and
// what is missing stands in the file.
func TestSeedForTheSeason(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	today := f.ines.Day(f.Clock.Now())
	for _, name := range []string{"Table", "Fair"} {
		g := goals.Setup{ID: uuid.New(), Name: name, Kind: "ready", Crop: "lettuce", Wanted: 8, From: today + 60, By: today + 70, Missing: plan.Must}
		_, err := goals.Kind.Put(ctx, f.Store, f.ines, g, things.New)
		require.NoError(t, err)
	}
	x, err := goals.SeedFor(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.Len(t, x.Needs, 1)
	n := x.Needs[0]
	taken := 0
	for _, p := range n.Packets {
		taken += p.Take
		require.True(t, p.SeedsLeft == nil && p.Take == 0 || p.Take <= *p.SeedsLeft)
	}
	require.Equal(t, n.Seeds, taken+n.Buy)
	require.GreaterOrEqual(t, n.Seeds, 8)
	var file bytes.Buffer
	require.NoError(t, x.WriteCSV(&file, f.ines))
	require.Contains(t, file.String(), "Lettuce")

	// By weight: nothing was weighed, so it must be said what a plant gives.
	heavy := 500.0
	g := goals.Setup{
		ID: uuid.New(), Name: "Soup", Kind: "ready", Crop: "lettuce", Grams: &heavy, Harvest: true, From: today + 90, By: today + 100, Missing: plan.Must,
	}
	_, err = goals.Kind.Put(ctx, f.Store, f.ines, g, things.New)
	refusedAt(t, "plant_g", err)
	each := 100.0
	g.PlantG = &each
	_, err = goals.Kind.Put(ctx, f.Store, f.ines, g, things.New)
	require.NoError(t, err)
	o, err := goals.Look(ctx, f.Store, f.ines)
	require.NoError(t, err)
	for _, l := range o.Lines {
		if l.Goal.Name == "Soup" {
			require.Greater(t, l.Plants, 5, "surely enough, and not on average")
		}
	}
	trial := g
	trial.ID, trial.Name, trial.Kind, trial.Variety, trial.Wanted = uuid.New(), "Trial", "trial", "Harbour Frill", 4
	_, err = goals.Kind.Put(ctx, f.Store, f.ines, trial, things.New)
	refusedAt(t, "variety", err)
}

// What is set out of doors waits for the frost, by the risk or by the chart, and a goal that
// comes too soon for it says so.
func TestFrostKeepsPlantsIn(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	today := f.ines.Day(f.Clock.Now())
	bed := site.PlaceSetup{ID: uuid.New(), Name: "Long bed", Kind: "bed", LengthCM: 300, WidthCM: 100, TemperatureC: new(10.0)}
	_, err := site.PlaceKind.Put(ctx, f.Store, f.ines, bed, things.New)
	require.NoError(t, err)
	year := today.UTC().Year()
	var nights []climate.Minimum
	for y := year - 10; y < year; y++ {
		for d := calendar.Date(y, 1, 1); d <= calendar.Date(y, 12, 31); d++ {
			c := 6.0
			if d <= calendar.Date(y, 5, 20) {
				c = -1
			}
			nights = append(nights, climate.Minimum{Day: d, C: c})
		}
	}
	require.ErrorIs(t, season.PutStation(ctx, f.Store, f.crew, "Hill", nights), who.ErrNotAllowed)
	require.NoError(t, season.PutStation(ctx, f.Store, f.ines, "Hill", nights))
	last := calendar.Date(year, 5, 20)
	goal := goals.Setup{
		ID: uuid.New(), Name: "Beans", Kind: "ready", Crop: "runnerbean", Wanted: 4, Harvest: true, From: last + 90, By: last + 120, Missing: plan.Must,
	}
	out := func() (calendar.Day, goals.Outlook) {
		_, err := goals.Kind.Put(ctx, f.Store, f.ines, goal, goalTag(t, f, goal.ID))
		require.NoError(t, err)
		o, err := goals.Look(ctx, f.Store, f.ines)
		require.NoError(t, err)
		return o.Lines[0].Batches[0].DayOf(plan.StageLast), o
	}
	day, _ := out()
	require.Greater(t, day, last)
	goal.From, goal.By = last+2, last+6
	_, o := out()
	if b := o.Lines[0].Batches[0]; b.Why == "" { // under glass, and late
		require.Positive(t, b.Late)
		require.NotEqual(t, bed.Name, b.Moves[len(b.Moves)-1].Place)
	} else {
		require.Contains(t, []string{plan.CauseFrost, plan.CauseSoon}, b.Cause.Kind)
	}
	refusedAt(t, "last_frost", season.SetFrostRule(ctx, f.Store, f.ines, cold.Rule{Way: cold.ByChart, Risk: 0.1}))
	require.NoError(t, season.SetFrostRule(ctx, f.Store, f.ines, cold.Rule{Way: cold.ByChart, Risk: 0.1, LastFrost: "06-20"}))
	goal.From, goal.By = last+90, last+120
	day, _ = out()
	require.GreaterOrEqual(t, day, calendar.Date(year, 6, 20))
}

// goalTag is the tag of a goal as it is; that of a new one where there is none.
func goalTag(t *testing.T, f fixture, id uuid.UUID) string {
	all, err := goals.Kind.List(ctx, f.Store, f.ines)
	require.NoError(t, err)
	for _, g := range all {
		if g.ID == id {
			return things.Tag(g)
		}
	}
	return things.New
}
