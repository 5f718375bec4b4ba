package round_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/round"
	"ulpa/core/seed"
)

var today = calendar.Date(2027, 3, 18) // a Thursday

// school is closed on Monday: from Friday evening to Tuesday nobody is there for three days.
func school() things {
	return things{Day: round.Day{
		Today: today, Now: today.At(10, 0, time.UTC), Zone: time.UTC, DayBegins: 510, DayEnds: 930,
		Calendar: calendar.School{Closures: []calendar.Closure{{From: today + 4, To: today + 4}}},
		Places: []round.Place{
			{ID: "bench", Name: "Bench", Kind: "bench", TemperatureC: 20},
			{ID: "tower", Name: "Tower", Kind: "tower", TemperatureC: 19},
			{ID: "frame", Name: "Frame", Kind: "frame"},
			{ID: "bed", Name: "Bed", Kind: "bed"},
		},
	}, Settled: map[round.Key]bool{}}
}

// things are what a small school has: what is due of each is put together as the round does.
type things struct {
	round.Day
	Batches []round.Batch
	Tanks   []round.Tank
	Planned []round.Planned
	Jobs    []round.Job
	Tests   []round.SeedTest
	Gaps    []round.Gap
	Trays   []round.Tray
	Meters  []round.Meter
	Troughs []round.Trough
	Rafts   []round.Raft
	Took    map[string]round.Took
	Given   map[round.Key]string
	Settled map[round.Key]bool
}

func plan(s things) []round.Stop {
	return round.Join(s.Day, slices.Concat(
		each(s.Batches, s.OfBatch), each(s.Tanks, s.OfTank), each(s.Jobs, s.OfJob), each(s.Tests, s.OfTest), each(s.Gaps, s.OfGap),
		each(s.Trays, s.OfTray), each(s.Meters, s.OfMeter), each(s.Troughs, s.OfTrough), each(s.Rafts, s.OfRaft), each(s.Planned, s.OfPlanned),
	), round.Decided{Settled: s.Settled, Given: s.Given, Took: s.Took})
}

func each[T any](list []T, due func(T) []round.Task) (out []round.Task) {
	for _, x := range list {
		out = append(out, due(x)...)
	}
	return out
}

func (m moved) on(s things) things {
	s.Today += calendar.Day(m)
	s.Now = s.Now.AddDate(0, 0, int(m))
	return s
}

type moved int

func plants(cropID string, sown int) round.Batch {
	c, _ := crop.Find(cropID)
	b := round.Batch{
		ID: "b", Code: "LET-01", Crop: c, Sown: today - calendar.Day(sown), Cells: 20,
		InTray: map[string]string{}, InPorts: map[string]int{}, InStands: map[string]int{},
	}
	b.Sprouts = sprouts(b, 20, sown, -1)
	return b
}

func sprouts(b round.Batch, tempC float64, day, seen int) round.Sprouts {
	in := seed.ExpectedInput{
		Cells: b.Cells, SeedsPerCell: 1, Germination: seed.Germination{Rate: 0.9}, LabelWorth: 20, Pace: seed.PaceOf(b.Crop), Day: float64(day),
		TemperaturesC: []float64{tempC},
		Evenness:      6, TemperatureShare: 1, TemperatureErrorC: 1, TimeError: 0.15,
	}
	now, _ := seed.Count(in)
	x := round.Sprouts{ComesUp: seed.PaceOf(b.Crop)(tempC) > 0, Share: 1, Now: now}
	if seen >= 0 {
		in.Seen = &seen
		at, _ := seed.Count(in)
		x.AtCount = &at
	}
	return x
}

func all(s things) (tasks []round.Task) {
	for _, stop := range plan(s) {
		tasks = append(tasks, stop.Tasks...)
	}
	return tasks
}

// only returns the single task of a plan, and the place it is at.
func only(t *testing.T, s things) (round.Task, string) {
	t.Helper()
	tasks := all(s)
	require.Len(t, tasks, 1)
	for _, stop := range plan(s) {
		if len(stop.Tasks) > 0 {
			return tasks[0], stop.Place
		}
	}
	return tasks[0], ""
}
