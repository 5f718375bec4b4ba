package round_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/round"
)

// A job is due from its day on until it is done, and again so many days after; one that is
// done once is done for good.
func TestAJobComesDue(t *testing.T) {
	for name, x := range map[string]struct {
		job  round.Job
		want calendar.Day
	}{
		"never done":            {round.Job{From: today}, today},
		"done for good":         {round.Job{From: today, Last: today}, 0},
		"again":                 {round.Job{From: today - 9, Every: 7, Last: today - 2}, today + 5},
		"done before it began":  {round.Job{From: today, Every: 7, Last: today - 30}, today},
		"late, then from there": {round.Job{From: today - 30, Every: 7, Last: today - 1}, today + 6},
	} {
		require.Equal(t, x.want, x.job.Due(), name)
	}
	s := school()
	s.Jobs = []round.Job{
		{ID: "j", Name: "Sweep", Place: "bench", From: today - 1, Minutes: 5, For: "Skiff"}, {ID: "k", Name: "Oil", Place: "bench", From: today + 1, Minutes: 5},
	}
	task, at := only(t, s)
	require.Equal(t, []string{"bench", "job", "Sweep", "Skiff"}, []string{at, task.Kind.Name, task.What().String(), task.For})
	require.False(t, task.Acts(), "a tick does it")
	s.Settled[task.Key] = true
	require.Empty(t, all(s))
}
