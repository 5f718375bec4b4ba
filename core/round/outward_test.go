package round_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/harden"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// whys are why the kinds of tasks of a school are asked for.
func whys(s things) map[*round.Kind]string {
	out := map[*round.Kind]string{}
	for _, t := range all(s) {
		out[t.Kind] = ""
		if t.Why != nil {
			out[t.Kind] = t.Why.String()
		}
	}
	return out
}

// Plants that the season has for a planting day are asked to the frame on their day, and before the
// closed days in which it falls; on planting day they are asked out, whether or not they are used
// to the weather.
func TestPlantsGoOutAsPlanned(t *testing.T) {
	s := school()
	b := plants("kale", 40)
	b.InStands["bench"] = 20
	b.Outward = &round.Outward{Harden: today + 1, Out: today + 12, Frame: "Frame", Goal: "Beds"}
	s.Batches = []round.Batch{b}
	require.Empty(t, all(s), "not before its day")
	friday := moved(1).on(s)
	task, at := only(t, friday)
	require.Equal(t, "bench", at)
	require.Equal(t, "Take LET-01 to Frame to harden off: 20 plants", task.What().String())
	require.Equal(t, round.Today, task.Urgency)
	require.Contains(t, task.Why.String(), "for Beds")

	b.Outward.Harden = today + 3 // a Sunday
	s.Batches = []round.Batch{b}
	require.Empty(t, all(s))
	task, _ = only(t, moved(1).on(s))
	require.Equal(t, round.ToFrame, task.Kind, "nobody is here on the day itself")

	b.Outward.Harden, b.Outward.Out = today-12, today
	s.Batches = []round.Batch{b}
	task, _ = only(t, s)
	require.Equal(t, round.SetOut, task.Kind)
	require.Contains(t, task.Why.String(), "never been outside")
	b.InStands = map[string]int{"frame": 20}
	b.Frame, b.GoodDays, b.Harden = "frame", 3, &harden.Plan{School: s.Calendar, Start: today - 5, Steps: 10, DayHours: 7}
	s.Batches = []round.Batch{b}
	require.Contains(t, whys(s)[round.SetOut], "outside for 3 days")
	b.InStands = map[string]int{"bed": 20}
	s.Batches = []round.Batch{b}
	require.NotContains(t, whys(s), round.SetOut, "they are out")
}

// Trays of a place are watered in one go, each by what it used since somebody was here.
func TestTraysAreWateredByWhatTheyUsed(t *testing.T) {
	s := school()
	a := round.Thirst{ID: "a", Name: "Tray 1", Place: "bench", UseL: 0.1}
	b := round.Thirst{ID: "b", Name: "Tray 2", Place: "bench", UseL: 0.05, Watered: today}
	give := func(day things, list ...round.Thirst) round.Task {
		stops := round.Join(day.Day, each(list, day.OfThirst), round.Decided{})
		require.Len(t, stops[0].Tasks, 1)
		return stops[0].Tasks[0]
	}
	task := give(s, a, b)
	require.Equal(t, []round.Amount{{ID: "a", Name: "Tray 1", Litres: 0.1}}, task.Amounts, "the other was watered today")
	require.Contains(t, task.Why.String(), "Tray 1 "+say.Of(100, unit.Millilitre).String())
	b.Watered = 0
	tuesday := moved(5).on(s)
	require.InDelta(t, 0.4, give(tuesday, a, b).Amounts[0].Litres, 1e-9, "over the weekend and a closed day")
	require.Contains(t, give(moved(1).on(s), a).Why.String(), "until it drips")
}

// A batch of which nothing is left is asked about until somebody closes it.
func TestWhatIsGoneIsClosed(t *testing.T) {
	s := school()
	b := plants("lettuce", 60)
	b.Gone = true
	s.Batches = []round.Batch{b}
	task, at := only(t, s)
	require.Equal(t, "bench", at)
	require.Equal(t, round.CloseBatch, task.Kind)
	require.Equal(t, "Close LET-01", task.What().String())
}
