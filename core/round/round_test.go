package round_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/ready"
	"ulpa/core/round"
	"ulpa/core/solution"
)

var today = calendar.Date(2027, 3, 18) // a Thursday

func school() round.School {
	return round.School{
		Today: today, Now: today.At(10, 0, time.UTC), Zone: time.UTC,
		Calendar: calendar.School{Closures: []calendar.Closure{{From: today + 4, To: today + 4}}},
		Places: []round.Place{
			{ID: "bench", Name: "Bench", Kind: "bench", TemperatureC: 20}, {ID: "tower", Name: "Tower", Kind: "tower", TemperatureC: 19},
			{ID: "frame", Name: "Frame", Kind: "frame"}, {ID: "bed", Name: "Bed", Kind: "bed"},
		},
		Settled: map[string]bool{},
	}
}

func plants(cropID string, sown int) round.Batch {
	c, _ := crop.Find(cropID)
	return round.Batch{
		ID: "b", Code: "LET-01", Crop: c, Sown: today - calendar.Day(sown), Rate: 0.9, Cells: 20,
		InTray: map[string]string{}, InPorts: map[string]int{}, InStands: map[string]int{},
	}
}

// only returns the single task of a plan, and the place it is at.
func only(t *testing.T, s round.School) (round.Task, string) {
	t.Helper()
	var found []round.Task
	var at string
	for _, stop := range round.Plan(s) {
		found = append(found, stop.Tasks...)
		if len(stop.Tasks) > 0 {
			at = stop.Place
		}
	}
	require.Len(t, found, 1)
	return found[0], at
}

func nothing(t *testing.T, s round.School) {
	t.Helper()
	for _, stop := range round.Plan(s) {
		require.Empty(t, stop.Tasks, stop.Name)
	}
}

func TestCounting(t *testing.T) {
	s := school()
	b := plants("lettuce", 4) // half up at 20 °C on day 3
	b.InTray["bench"], b.Waiting = "tray", 20
	s.Batches = []round.Batch{b}
	task, at := only(t, s)
	require.Equal(t, "bench", at)
	require.Equal(t, []string{"count", "tray", "Count sprouts in LET-01"}, []string{task.Kind, task.Tray, task.What()})
	require.Contains(t, task.Why, "Day 4 at 20 °C")

	s.Batches[0].Counted, s.Batches[0].Sprouted, s.Batches[0].Verdict.About = today-2, 2, today+20
	task, _ = only(t, s)
	require.NotContains(t, task.Why, "behind", "two were enough on day 2, whatever day it is now")
	s.Batches[0].Sown = today - 7
	task, _ = only(t, s)
	require.Contains(t, task.Why, "2 when last counted. It was behind then.")
	s.Batches[0].Counted = today - 1
	nothing(t, s)
	s.Batches[0].Counted, s.Batches[0].Sown = 0, today-1
	nothing(t, s) // too early to look
}

func TestMovingOn(t *testing.T) {
	s := school()
	b := plants("lettuce", 26)
	b.InTray["bench"], b.Standing, b.Sprouted, b.Cells = "tray", 18, 18, 20
	for _, c := range []struct {
		verdict ready.Verdict
		says    string
		urgent  round.Urgency
	}{
		{ready.Verdict{Word: ready.Ready, Since: today - 1, Until: today + 6, Why: "4 leaves"}, "Move LET-01 on: ready since Wed 17 Mar", round.Today},
		{ready.Verdict{Word: ready.Ready, Since: today - 1, Until: today + 2, Why: "4 leaves"}, "Move LET-01 on: ready since Wed 17 Mar", round.Now},
		{ready.Verdict{Word: ready.Ready, Since: today - 1, Until: today + 4, Why: "4 leaves"}, "Move LET-01 on: ready since Wed 17 Mar", round.Now}, // it would be due on a closed day
		{ready.Verdict{Word: ready.Late, Since: today - 9, Until: today - 2, Why: "4 leaves"}, "Move LET-01 on: late by 2 days", round.Now},
		{ready.Verdict{Word: ready.Early, About: today + 3, Why: "3 of 4"}, "Look at LET-01 and count true leaves", round.Soon},
	} {
		b.Verdict = c.verdict
		s.Batches = []round.Batch{b}
		task, _ := only(t, s)
		require.Equal(t, c.says, task.What())
		require.Equal(t, c.urgent, task.Urgency, c.says)
	}
	b.Verdict, b.LookedOn = ready.Verdict{Word: ready.Early, About: today + 3}, today-1
	s.Batches = []round.Batch{b}
	nothing(t, s) // looked at yesterday
}

func TestTheFrame(t *testing.T) {
	s := school()
	b := plants("kale", 50)
	b.InStands["frame"], b.HardenStart, b.HardenDays = 20, today-3, 10
	s.Batches = []round.Batch{b}
	task, at := only(t, s)
	require.Equal(t, "frame", at)
	require.Equal(t, "Open the frame over LET-01 for 4.5 hours", task.What())
	require.Contains(t, task.Why, "Day 4 of 10")

	s.Nights = []round.Night{{Day: today, MinC: -9}}
	task, _ = only(t, s)
	require.Equal(t, "Bring in LET-01 before tonight: 20 plants", task.What())
	require.Equal(t, round.Now, task.Urgency)
	s.Nights = []round.Night{{Day: today + 1, MinC: -9}}
	task, _ = only(t, s)
	require.NotContains(t, task.What(), "Bring in", "somebody is there tomorrow to do it")

	s.Nights, s.Batches[0].HardenStart = nil, today-30
	task, _ = only(t, s)
	require.Equal(t, "Set out LET-01 20 plants", task.What())
}

func TestTheColdestNightBeforeSomebodyIsBack(t *testing.T) {
	s := school()
	s.Today = today + 1 // Friday; Monday is closed
	s.Now = s.Today.At(10, 0, time.UTC)
	b := plants("tomato", 50)
	b.InStands["frame"] = 6
	s.Batches = []round.Batch{b}
	s.Nights = []round.Night{{Day: today + 3, MinC: -1}, {Day: today + 4, MinC: -3}, {Day: today + 5, MinC: -9}}
	task, _ := only(t, s)
	require.Equal(t, "Bring in LET-01 before Mon 22 March: 6 plants", task.What(), "Tuesday's night is for Tuesday")
}

func TestHarvest(t *testing.T) {
	s := school()
	whole := plants("lettuce", 52)
	whole.InPorts["tower"] = 12
	s.Batches = []round.Batch{whole}
	task, at := only(t, s)
	require.Equal(t, []string{"tower", "Harvest LET-01"}, []string{at, task.What()})
	require.Equal(t, round.Soon, task.Urgency)
	s.Batches[0].Sown = today - 60
	task, _ = only(t, s)
	require.Equal(t, round.Today, task.Urgency)
	s.Batches[0].Cut, s.Batches[0].Whole = today-1, true
	task, _ = only(t, s)
	require.Equal(t, "Harvest LET-01", task.What(), "the heads that are left are ready still")
	s.Batches[0].Whole = false
	nothing(t, s) // leaves were cut: they grow again
	cut := plants("basil", 90)
	cut.InPorts["tower"], cut.Cut = 6, today-5
	s.Batches = []round.Batch{cut}
	nothing(t, s)
	s.Batches[0].Cut = today - 12
	task, _ = only(t, s)
	require.Equal(t, "harvest", task.Kind)
}

func tank(ph, level float64, readDaysAgo int) round.Tank {
	at := today.At(9, 0, time.UTC).AddDate(0, 0, -readDaysAgo)
	ec, temp := 1.5, 19.0
	spec := solution.Spec{
		CapacityL: 60, FillToL: 58, DryBelowL: 12, UseLPerDay: 2, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.3, ECLow: 1.2, ECTarget: 1.5, ECHigh: 1.8,
		WaterEC: 0.5, WaterAlkalinity: 150, StockRise: 0.25, ReadEveryDays: 3,
		Acid: solution.Product{Agent: solution.PhosphoricAcid, StrengthPercent: 30, DensityGML: 1.18}, Base: solution.Product{Agent: solution.PotassiumBicarbonate, StrengthPercent: 99},
	}
	x := round.Tank{ID: "t", Name: "Tower", Place: "tower", Spec: spec}
	x.State.Read(spec, solution.Reading{PH: &ph, ECMS: &ec, TempC: &temp, LevelL: &level}, at)
	return x
}

func TestTanks(t *testing.T) {
	s := school()
	s.Tanks = []round.Tank{tank(5.9, 57, 1)}
	nothing(t, s)
	s.Tanks = []round.Tank{tank(5.9, 57, 3)}
	task, at := only(t, s)
	require.Equal(t, []string{"tower", "Read Tower"}, []string{at, task.What()})
	s.Tanks = []round.Tank{tank(6.9, 57, 0)}
	task, _ = only(t, s)
	require.Equal(t, "Bring Tower right: pH 6.9", task.What())
	require.Equal(t, round.Now, task.Urgency)
	s.Tanks = []round.Tank{{ID: "t", Name: "New", Place: "tower", Spec: s.Tanks[0].Spec}}
	task, _ = only(t, s)
	require.Contains(t, task.Why, "Nothing is known")
}

// Thursday to Tuesday is five days and a bit: what drinks two litres a day has
// to start above 22.6 L to stay above 12.
func TestLevelsOverClosedDays(t *testing.T) {
	s := school()
	from, back, days := s.Absence()
	require.Equal(t, []calendar.Day{today + 1, today + 5, 4}, []calendar.Day{from, back, calendar.Day(days)})
	s.Tanks = []round.Tank{tank(5.9, 24, 0)}
	nothing(t, s)
	s.Tanks = []round.Tank{tank(5.9, 22, 0)}
	task, _ := only(t, s)
	require.Equal(t, "fill", task.Kind)
	require.Equal(t, "Fill Tower: 36.1 L", task.What())
	require.Equal(t, "Down to 11.3 L by Tue 23 March; nobody is here for 4 days.", task.Why)
	require.Equal(t, round.Today, task.Urgency, "tomorrow somebody is still here")
}

func TestWhatIsSettledIsNotAskedAgain(t *testing.T) {
	s := school()
	s.Tanks = []round.Tank{tank(6.9, 57, 0)}
	task, _ := only(t, s)
	s.Settled[task.Key] = true
	nothing(t, s)
	s.Today++
	s.Now = s.Now.AddDate(0, 0, 1)
	_, _ = only(t, s) // tomorrow it is due again
}
