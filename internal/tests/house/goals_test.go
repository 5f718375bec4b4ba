package house_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/goals"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
	"ulpa/internal/work/season"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

// A goal is planned back over closed days to its sowing, which the round asks for on its
// day; what is sown stays as it is, and a plan that has changed meanwhile is not kept.
func TestASeasonIsKeptTrue(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	today := calendar.Of(f.Clock.Now())
	goal := goals.Setup{ID: uuid.New(), Name: "Table", Kind: "weekly", Crop: "lettuce", Wanted: 3, From: today + 70, By: today + 83, Missing: plan.Must}
	_, err := goals.Kind.Put(ctx, f.Store, f.crew, goal, things.New)
	require.ErrorIs(t, err, who.ErrNotAllowed)
	_, err = goals.Kind.Put(ctx, f.Store, f.ines, goal, things.New)
	require.NoError(t, err)
	look := func() goals.Outlook {
		o, err := goals.Look(ctx, f.Store, f.ines)
		require.NoError(t, err)
		return o
	}
	first := look()
	require.NotEmpty(t, first.Changes)
	require.GreaterOrEqual(t, first.Cost, first.Bound)
	for _, b := range first.Lines[0].Batches {
		require.Empty(t, b.Why)
		require.True(t, b.Ready >= b.From && b.Ready <= b.By)
	}
	require.ErrorIs(t, goals.Keep(ctx, f.Store, f.crew, first.Tag), who.ErrNotAllowed)
	refusedAt(t, "plan", goals.Keep(ctx, f.Store, f.ines, "another plan"))
	require.NoError(t, goals.Keep(ctx, f.Store, f.ines, first.Tag))
	require.NoError(t, goals.Keep(ctx, f.Store, f.ines, first.Tag), "kept twice it is one")
	require.Empty(t, look().Changes)
	planned, err := season.Plans(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.Len(t, planned, len(first.Lines[0].Batches))

	// Struck off the list it is not planned, and not sown either.
	require.NoError(t, season.Drop(ctx, f.Store, f.ines, planned[0].ID))
	struck := look()
	require.Len(t, struck.Changes, 1)
	require.False(t, struck.Lines[0].Batches[0].Sown)
	require.NoError(t, goals.Keep(ctx, f.Store, f.ines, struck.Tag))

	// Its day comes, and it is sown.
	f.Clock.Set(f.Clock.Now().AddDate(0, 0, int(planned[0].SowOn-today)))
	walk, err := round.Today(ctx, f.Store, f.ines)
	require.NoError(t, err)
	asked := false
	for _, stop := range walk.Stops {
		for _, task := range stop.Tasks {
			asked = asked || task.Of == planned[0].ID.String()
		}
	}
	require.True(t, asked)
	sow := func() sowing.Sown {
		s, err := sowing.Sow(ctx, f.Store, f.ines, sowing.SowRequest{
			ID: uuid.New(), Lot: f.lot, Wanted: 3, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: 2, Col: 2}, {Row: 2, Col: 3}, {Row: 2, Col: 4}},
			Planned: &planned[0].ID,
		})
		require.NoError(t, err)
		return s
	}
	undone := sow()
	require.NoError(t, notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: undone.Batch}))
	require.False(t, look().Lines[0].Batches[0].Sown, "a sowing that was undone is to be sown")
	sown := sow()
	require.Empty(t, look().Changes, "what is sown is as it was planned")
	require.True(t, look().Lines[0].Batches[0].Sown)
	require.Equal(t, sown.Code, look().Lines[0].Batches[0].Code)

	// What is lost is sown again, if there is time; and what makes up for it is kept like any.
	require.NoError(t, trays.Count(ctx, f.Store, f.ines, trays.CountRequest{ID: uuid.New(), Tray: f.tray, Marks: []batch.Mark{
		{In: f.tray.String(), Row: 2, Col: 2, State: batch.Sprouted},
		{In: f.tray.String(), Row: 2, Col: 3, State: batch.Empty},
		{In: f.tray.String(), Row: 2, Col: 4, State: batch.Empty},
	}}))
	repair := look()
	require.Len(t, repair.Changes, 1)
	again := repair.Lines[0].Batches[1]
	require.Equal(t, 1, again.Again)
	require.Equal(t, 2, again.Plants)
	require.NoError(t, goals.Skip(ctx, f.Store, f.ines, again.ID))
	require.Empty(t, look().Changes)

	// A closure over the next sowing: the plan says what no longer holds, and moves nothing.
	_, err = season.ClosureKind.Put(ctx, f.Store, f.ines, season.ClosureSetup{
		ID: uuid.New(), From: planned[1].SowOn, To: planned[1].SowOn, Name: "Fair",
	}, things.New)
	require.NoError(t, err)
	after := look()
	require.Len(t, after.Changes, 1)
	still, err := season.Plans(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.Equal(t, planned[1:], still)
	require.NoError(t, goals.Keep(ctx, f.Store, f.ines, after.Tag))
	still, err = season.Plans(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.NotEqual(t, planned[1].SowOn, still[0].SowOn)

	// Too soon: it says why, and from when on it could be.
	soon := goals.Setup{ID: uuid.New(), Name: "Soon", Kind: "class", Crop: "lettuce", Wanted: 3, From: f.ines.Day(f.Clock.Now()) + 2, Missing: plan.Nice}
	_, err = goals.Kind.Put(ctx, f.Store, f.ines, soon, things.New)
	require.NoError(t, err)
	for _, l := range look().Lines {
		if l.Goal.Name == "Soon" {
			require.Equal(t, plan.Impossible, l.Batches[0].Why)
			require.Greater(t, l.Batches[0].Later, soon.From)
			wayOut(t, f, look, l.Batches[0])
		}
	}
	pinned(t, f, look)
	refusedAt(t, "id", goals.Kind.Delete(ctx, f.Store, f.ines, goal.ID, ""))
	inStep(t, f.DB, f.ines)
}

// wayOut takes a batch that cannot be the first way that is offered, and then it can.
func wayOut(t *testing.T, f fixture, look func() goals.Outlook, b goals.Batch) {
	require.Equal(t, plan.CauseSoon, b.Cause.Kind)
	ways := look().Ways(b.ID)
	require.NotEmpty(t, ways)
	require.ErrorIs(t, goals.Go(ctx, f.Store, f.crew, b.ID, ways[0].Kind), who.ErrNotAllowed)
	refusedAt(t, "way", goals.Go(ctx, f.Store, f.ines, b.ID, "a miracle"))
	require.NoError(t, goals.Go(ctx, f.Store, f.ines, b.ID, ways[0].Kind))
	_, now, _ := look().Find(b.ID)
	require.Empty(t, now.Why)
	require.NoError(t, goals.Free(ctx, f.Store, f.ines, b.ID, ""))
	_, now, _ = look().Find(b.ID)
	require.NotEmpty(t, now.Why)
}

// pinned moves a sowing to a day, away from another, and takes that back.
func pinned(t *testing.T, f fixture, look func() goals.Outlook) {
	var b goals.Batch
	for _, l := range look().Lines {
		for _, x := range l.Batches {
			if !x.Sown && x.Why == "" && len(x.Moves) > 0 && !x.Wish.Skip {
				b = x
			}
		}
	}
	day := func() calendar.Day {
		_, now, _ := look().Find(b.ID)
		return now.DayOf(plan.StageTray)
	}
	was := day()
	require.NoError(t, goals.Say(ctx, f.Store, f.ines, b.ID, plan.Pin{Stage: plan.StageTray, Day: was, Not: true}))
	require.NotEqual(t, was, day())
	require.NoError(t, goals.Say(ctx, f.Store, f.ines, b.ID, plan.Pin{Stage: plan.StageTray, Day: was}))
	require.Equal(t, was, day(), "what contradicts it is taken back")
	saturday := was.Monday() + 5
	refusedAt(t, "day", goals.Say(ctx, f.Store, f.ines, b.ID, plan.Pin{Stage: plan.StageTray, Day: saturday}))
	refusedAt(t, "place", goals.Say(ctx, f.Store, f.ines, b.ID, plan.Pin{Stage: plan.StageTray, Place: "the moon"}))
	refusedAt(t, "stage", goals.Say(ctx, f.Store, f.ines, b.ID, plan.Pin{Stage: "flight", Day: was}))
	// A place that it is kept at, or away from, can be another the next time.
	place := b.Moves[0].Place
	require.NoError(t, goals.Say(ctx, f.Store, f.ines, b.ID, plan.Pin{Stage: plan.StageTray, Place: place, Not: true}))
	_, away, _ := look().Find(b.ID)
	require.Equal(t, len(b.Stages[0].Where), len(away.Stages[0].Where))
	require.NoError(t, goals.Say(ctx, f.Store, f.ines, b.ID, plan.Pin{Stage: plan.StageTray, Place: place}))
	require.NoError(t, goals.Free(ctx, f.Store, f.ines, b.ID, plan.StageTray))
	_, now, _ := look().Find(b.ID)
	require.True(t, now.Wish.None())

	// Once periods are told, nothing is moved on other days, nor beyond their minutes.
	for _, p := range []season.Period{{Weekday: "2", Minutes: 30, Whom: "Dory"}, {Weekday: "6", Minutes: 20}} {
		p.ID = uuid.New()
		_, err := season.PeriodKind.Put(ctx, f.Store, f.ines, p, things.New)
		require.NoError(t, err)
	}
	for _, l := range look().Lines {
		for _, x := range l.Batches {
			for _, m := range x.Moves {
				require.True(t, x.Sown || m.Day.Weekday() == time.Tuesday || m.Day.Weekday() == time.Saturday)
			}
		}
	}
}

// A calendar's holidays, exam week and weekly lesson are taken as what they are, once however
// often they are sent, and the day's minutes follow from them.
func TestACalendarIsTaken(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	today := f.ines.Day(f.Clock.Now()).Monday() + 14
	date := func(d calendar.Day) string { return d.UTC().Format("20060102") }
	event := func(name, lines string) string {
		return "BEGIN:VEVENT\r\nUID:" + name + "\r\nSUMMARY:" + name + "\r\n" + lines + "\r\nEND:VEVENT\r\n"
	}
	text := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n" +
		event("Holiday", "DTSTART;VALUE=DATE:"+date(today)+"\r\nDTEND;VALUE=DATE:"+date(today+5)) +
		event("Exams", "DTSTART;VALUE=DATE:"+date(today+7)+"\r\nDTEND;VALUE=DATE:"+date(today+12)) +
		event("Dory", "DTSTART:"+date(today+1)+"T104000\r\nDTEND:"+date(today+1)+"T112500\r\nRRULE:FREQ=WEEKLY;COUNT=30") + "END:VCALENDAR\r\n"
	got, err := season.ReadCalendar(ctx, f.Store, f.ines, text)
	require.NoError(t, err)
	require.Len(t, got.Days, 2)
	require.Len(t, got.Weekly, 1)
	take := func(w who.Who) (int, error) {
		return season.TakeCalendar(ctx, f.Store, w, []season.Taken{{Days: got.Days[0], As: "closed"}, {Days: got.Days[1], As: "special"}}, got.Weekly)
	}
	_, err = take(f.crew)
	require.ErrorIs(t, err, who.ErrNotAllowed)
	for _, want := range []int{3, 0} {
		n, err := take(f.ines)
		require.NoError(t, err)
		require.Equal(t, want, n)
	}
	require.NoError(t, f.Store.Read(ctx, f.ines, func(tx *store.Tx) error {
		school, err := season.Calendar(ctx, tx)
		require.NoError(t, err)
		for day, minutes := range map[calendar.Day]int{today + 1: 0, today + 8: 0, today + 15: 45, today + 16: 0} {
			require.Equal(t, minutes, school.Minutes(day, 30), day.String())
		}
		require.True(t, school.Open(today+8), "in an exam week somebody is there")
		require.False(t, school.Open(today+1))
		require.Equal(t, "Dory", school.Whom(today+15))
		return nil
	}))
}

// Who counts leaves all day long has one plan that day; the next morning it goes by what was seen.
func TestAPlanGoesByWhatWasSeenBeforeToday(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	stages := func() (out []int) {
		o, err := goals.Look(ctx, d.Store, ines)
		require.NoError(t, err)
		for _, l := range o.Lines {
			for _, b := range l.Batches {
				for _, s := range b.Stages {
					out = append(out, s.Days)
				}
			}
		}
		return out
	}
	before := stages()
	require.NotEmpty(t, before)
	o, err := batches.ReadOverview(ctx, d.Store, ines)
	require.NoError(t, err)
	for _, l := range o.Lines {
		if l.InTrays() > 0 && l.Crop.Ready.Leaves > 0 {
			require.NoError(t, batches.Look(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: l.ID}, batches.Looks{Leaves: 12, HeightCM: 9}))
		}
	}
	require.Equal(t, before, stages())
	d.Clock.Set(d.Clock.Now().AddDate(0, 0, 1))
	require.NotEqual(t, before, stages(), "leaves come faster here than usual")
}

// A new school with one place and no trays, and a goal: the season says that nothing can stand
// anywhere yet, and refuses nothing.
func TestAGoalBeforeThereAreTrays(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Person(t, d.School(t, "bare"), who.Coordinator, "kim")
	today, warm := calendar.Of(d.Clock.Now()), 18.0
	place := site.PlaceSetup{ID: uuid.New(), Name: "Window", Kind: "bench", LengthCM: 200, WidthCM: 60, TemperatureC: &warm}
	_, err := site.PlaceKind.Put(ctx, d.Store, w, place, things.New)
	require.NoError(t, err)
	goal := goals.Setup{ID: uuid.New(), Name: "Table", Kind: "weekly", Crop: "lettuce", Wanted: 3, From: today + 70, By: today + 83, Missing: plan.Must}
	_, err = goals.Kind.Put(ctx, d.Store, w, goal, things.New)
	require.NoError(t, err)
	o, err := goals.Look(ctx, d.Store, w)
	require.NoError(t, err)
	require.NotEmpty(t, o.Lines[0].Batches)
	for _, b := range o.Lines[0].Batches {
		require.Equal(t, plan.Impossible, b.Why)
		require.Equal(t, plan.CauseNowhere, b.Cause.Kind)
		require.Equal(t, plan.StageTray, b.Cause.Stage, "trays are missing")
	}
}
