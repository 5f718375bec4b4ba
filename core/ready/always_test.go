package ready_test

import (
	"testing"

	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/harden"
	"ulpa/core/ready"
	"ulpa/core/unit"
)

func anyRule(t *rapid.T) ready.Rule {
	return ready.Rule{
		Leaves: rapid.IntRange(0, 6).Draw(t, "leaves"), HeightCM: float64(rapid.IntRange(0, 20).Draw(t, "height")), AgeDays: rapid.IntRange(0, 60).Draw(t, "age"),
		Every: rapid.Bool().Draw(t, "every"), HoldDays: rapid.IntRange(0, 21).Draw(t, "hold"),
	}
}

// What must be true of every verdict: it fits its own days, nobody calls a batch
// late on the day it becomes ready, and more leaves never make it less ready.
func TestVerdictsHangTogether(t *testing.T) {
	order := map[ready.Word]int{ready.Early: 0, ready.Ready: 1, ready.Late: 2}
	rapid.Check(t, func(t *rapid.T) {
		r := anyRule(t)
		age := calendar.Day(rapid.IntRange(0, 120).Draw(t, "day"))
		today, seen := sown+age, ready.Seen{}
		if rapid.Bool().Draw(t, "looked") {
			seen = ready.Seen{Leaves: rapid.IntRange(0, 9).Draw(t, "seen leaves"), HeightCM: float64(rapid.IntRange(0, 30).Draw(t, "seen height")), On: sown + calendar.Day(rapid.IntRange(0, int(age)).Draw(t, "seen on"))}
		}
		v := ready.Judge(r, sown, today, seen, unit.Prefs{})
		switch v.Word {
		case ready.Early:
			if v.About <= today || v.Until < v.About {
				t.Fatalf("early, but about %v on %v, until %v", v.About, today, v.Until)
			}
		case ready.Ready:
			if v.Since > today || v.DaysLeft(today) < 0 {
				t.Fatalf("ready since %v on %v with %d days left", v.Since, today, v.DaysLeft(today))
			}
		case ready.Late:
			if v.DaysLeft(today) >= 0 || v.Until != v.Since+calendar.Day(r.HoldDays) {
				t.Fatalf("late with %d days left", v.DaysLeft(today))
			}
		}
		if v.Why == "" && (r.Leaves > 0 || r.HeightCM > 0 || r.AgeDays > 0) {
			t.Fatalf("%s, and nothing says why", v.Word)
		}
		if seen.On != 0 {
			more := seen
			more.Leaves++
			if w := ready.Judge(r, sown, today, more, unit.Prefs{}); order[w.Word] < order[v.Word] {
				t.Fatalf("%d leaves: %s; one more: %s", seen.Leaves, v.Word, w.Word)
			}
		}
		if v.Word == ready.Late && seen.On == 0 {
			if w := ready.Judge(r, sown, v.Since, seen, unit.Prefs{}); w.Word != ready.Ready {
				t.Fatalf("late in the end, but %s on the day it became ready", w.Word)
			}
		}
	})
}

// What must be true of every ramp: as many open days as steps, hours that only
// grow, no step on a closed day, and once out overnight always out.
func TestRampsHangTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		start := sown + calendar.Day(rapid.IntRange(0, 400).Draw(t, "start"))
		steps := rapid.IntRange(-3, 40).Draw(t, "steps")
		var school calendar.School
		for range rapid.IntRange(0, 3).Draw(t, "closures") {
			from := start + calendar.Day(rapid.IntRange(-5, 30).Draw(t, "from"))
			school.Closures = append(school.Closures, calendar.Closure{From: from, To: from + calendar.Day(rapid.IntRange(0, 20).Draw(t, "long"))})
		}
		ramp := harden.Ramp(school, start, steps)
		want, hours, night := max(harden.MinDays, min(harden.MaxDays, steps)), 0.0, false
		open := 0
		for i, d := range ramp {
			if i > 0 && d.Day != ramp[i-1].Day+1 {
				t.Fatalf("%v follows %v", d.Day, ramp[i-1].Day)
			}
			if d.Closed == school.Open(d.Day) {
				t.Fatalf("%v is closed: %v", d.Day, d.Closed)
			}
			if d.Closed {
				continue
			}
			if open++; d.Step != open || d.Hours < hours || d.Hours > 10 || night && !d.Night {
				t.Fatalf("step %d: %+v after %.1f hours", open, d, hours)
			}
			hours, night = d.Hours, d.Night
			if x, ok := harden.On(ramp, d.Day); !ok || x != d {
				t.Fatalf("%v is not found again", d.Day)
			}
		}
		if open != want || ramp[0].Closed || !night || hours != 10 {
			t.Fatalf("%d open days of %d, ending with %.1f hours, out at night: %v", open, want, hours, night)
		}
		if _, ok := harden.On(ramp, ramp[0].Day-1); ok {
			t.Fatal("a day before the ramp is on it")
		}
	})
}
