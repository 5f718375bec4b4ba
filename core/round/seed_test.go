package round_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/round"
	"ulpa/core/say"
)

// A test is counted first when something can be seen, then every other day, where it lies, or
// at the bench when nobody said where; after three times its days it is to be ended.
func TestSeedTestsAreCounted(t *testing.T) {
	of := func(x round.SeedTest) (string, *round.Task) {
		s := school()
		s.Tests = []round.SeedTest{x}
		for _, stop := range plan(s) {
			for i := range stop.Tasks {
				return stop.Place, &stop.Tasks[i]
			}
		}
		return "", nil
	}
	for name, x := range map[string]struct {
		test  round.SeedTest
		place string
		says  string
	}{
		"nothing to see yet": {round.SeedTest{Begun: today - 3, DaysUp: 6}, "", ""},
		"the first":          {round.SeedTest{Begun: today - 4, DaysUp: 6, Place: "frame"}, "frame", "take them out"},
		"counted yesterday":  {round.SeedTest{Begun: today - 9, DaysUp: 6, Counted: today - 1}, "", ""},
		"every other day":    {round.SeedTest{Begun: today - 9, DaysUp: 6, Counted: today - 2}, "bench", "take them out"},
		"nobody knows":       {round.SeedTest{Begun: today - 2}, "bench", "take them out"},
		"nothing more comes": {round.SeedTest{Begun: today - 21, DaysUp: 6, Counted: today - 2}, "bench", "end the test"},
	} {
		place, task := of(x.test)
		require.Equal(t, x.place, place, name)
		if task != nil {
			require.Contains(t, task.Why.String(), x.says, name)
			require.True(t, task.Acts(), "a tick alone writes nothing down")
		}
	}
}

// A gap is sown on its day where its tray stands, and now when nobody can for days.
func TestGapsAreSownOnTheirDay(t *testing.T) {
	gap := round.Gap{ID: "g", Tray: "t", Name: "Tray 1", Place: "frame", Cells: "A1-A4", Crop: say.Words("Lettuce"), On: today + 1}
	at := func(days moved) []round.Task {
		s := days.on(school())
		s.Gaps = []round.Gap{gap}
		return all(s)
	}
	require.Empty(t, at(-1), "its Friday has not come")
	require.Equal(t, round.Now, at(1)[0].Urgency, "on Friday, and nobody is back before Tuesday")
	require.Contains(t, at(1)[0].Why.String(), "Nobody can before")
	late := at(6) // the next Wednesday: waited, and nothing closed ahead
	require.Equal(t, round.Today, late[0].Urgency)
	require.Equal(t, "A1-A4", late[0].Cells)
}
