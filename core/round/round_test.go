package round_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/fish"
	"ulpa/core/harden"
	"ulpa/core/ready"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
)

func TestCounting(t *testing.T) {
	s := school()
	b := plants("lettuce", 4) // half up at 20 °C on day 3
	b.InTray["bench"], b.Waiting = "tray", 20
	s.Batches = []round.Batch{b}
	task, at := only(t, s)
	require.Equal(t, "bench", at)
	require.Equal(t, []string{"count", "tray", "Count seedlings in LET-01"}, []string{task.Kind.Name, task.Tray, task.What().String()})
	require.Contains(t, task.Why.String(), "Day 4 at 20 °C: nine sowings in ten like this have")

	s.Batches[0].Counted, s.Batches[0].Sprouted, s.Batches[0].Sprouts.AtCount = today-2, 2, sprouts(b, 20, 2, 2).AtCount
	require.Empty(t, all(s), "it is on course: a day later is soon enough")
	s.Batches[0].Counted = today - 3
	task, _ = only(t, s)
	require.NotContains(t, task.Why.String(), "behind", "on day 2 nothing can be said")
	s.Batches[0].Sown = today - 7
	s.Batches[0].Counted, s.Batches[0].Sprouts = today-2, sprouts(b, 20, 5, 2)
	task, _ = only(t, s)
	require.Contains(t, task.Why.String(), "2 when last counted. It was behind before, too.")
	s.Batches[0].Counted = today - 1
	require.Empty(t, all(s))
	s.Batches[0].Counted, s.Batches[0].Sprouted = today-5, 18
	require.Empty(t, all(s), "nearly all are up")
	s.Batches[0].Counted, s.Batches[0].Sown = 0, today-1
	require.Empty(t, all(s)) // too early to look
	s.Batches[0].Sprouted, s.Batches[0].Sprouts = 0, round.Sprouts{}
	task, _ = only(t, s)
	require.Equal(t, "warmth", task.Kind.Name, "what cannot come up where it stands is said")
}

// Twelve kinds in a tray are one count: whatever is left of it is asked for, and put off it is
// not asked for again, however many there still are.
func TestATrayIsCountedInOneGo(t *testing.T) {
	s := school()
	s.Day.Trays = map[string]string{"tray": "Tray 4"}
	for i := range 12 {
		b := plants("lettuce", 4)
		b.ID, b.Code, b.Waiting = string(rune('a'+i)), "LET-"+string(rune('A'+i)), 4
		b.InTray = map[string]string{"bench": "tray"}
		s.Batches = append(s.Batches, b)
	}
	task, _ := only(t, s)
	require.Equal(t, []string{"count_tray", "tray", "Count what is up in Tray 4"}, []string{task.Kind.Name, task.Of, task.What().String()})
	require.Contains(t, task.Why.String(), "LET-A, LET-B")
	require.Less(t, task.Minutes, 12)
	for i := range 10 {
		s.Batches[i].Counted = today
	}
	two, _ := only(t, s)
	require.Equal(t, task.Key, two.Key)
	s.Batches[10].Counted = today
	one, _ := only(t, s)
	require.Equal(t, []string{"count", "l"}, []string{one.Kind.Name, one.Of})
	s.Settled[task.Key] = true
	require.Empty(t, all(s), "the tray was put off")
	delete(s.Settled, task.Key)
	s.Settled[one.Key], s.Batches[3].Counted, s.Batches[4].Counted = true, 0, 0
	rest, _ := only(t, s)
	require.NotContains(t, rest.Why.String(), "LET-L", "what was put off by itself is not asked for with the others")

	s.Batches[3].Counted, s.Batches[3].Sown = today-8, today-30
	require.Len(t, all(s), 2, "marking what did not come up is a look of its own")
}

func TestMovingOn(t *testing.T) {
	s := school()
	b := plants("lettuce", 26)
	b.InTray["bench"], b.Standing, b.Sprouted = "tray", 18, 18
	for _, c := range []struct {
		verdict ready.Verdict
		day     moved // from Thursday
		says    string
		urgent  round.Urgency
	}{
		{
			ready.Verdict{Word: ready.Ready, Since: today - 1, Until: today + 6, Why: say.Words("4 leaves")},
			0, "Move LET-01 on: ready since Wed 17 Mar",
			round.Today,
		},
		{
			ready.Verdict{Word: ready.Ready, Since: today - 1, Until: today + 2, Why: say.Words("4 leaves")},
			0, "Move LET-01 on: ready since Wed 17 Mar",
			round.Today,
		}, // somebody is here tomorrow
		{
			ready.Verdict{Word: ready.Ready, Since: today - 1, Until: today + 3, Why: say.Words("4 leaves")},
			1, "Move LET-01 on: ready since Wed 17 Mar",
			round.Now,
		}, // it is over before Tuesday
		{ready.Verdict{Word: ready.Late, Since: today - 9, Until: today - 2, Why: say.Words("4 leaves")}, 0, "Move LET-01 on: late by 2 days", round.Today},
		{ready.Verdict{Word: ready.Late, Since: today - 9, Until: today - 2, Why: say.Words("4 leaves")}, 1, "Move LET-01 on: late by 3 days", round.Now},
		{ready.Verdict{Word: ready.Look, About: today, Why: say.Words("day 26")}, 0, "Look at LET-01 and count true leaves", round.Today},
		{ready.Verdict{Word: ready.Early, About: today + 3, Why: say.Words("3 of 4")}, 0, "Look at LET-01 and count true leaves", round.Soon},
	} {
		b.Verdict = c.verdict
		s.Batches = []round.Batch{b}
		task, _ := only(t, c.day.on(s))
		require.Equal(t, c.says, task.What().String())
		require.Equal(t, c.urgent, task.Urgency, c.says)
	}
	b.Verdict, b.LookedOn = ready.Verdict{Word: ready.Early, About: today + 3}, today-1
	s.Batches = []round.Batch{b}
	require.Empty(t, all(s)) // looked at yesterday

	// What the season has planned is asked for on its day, and not before it.
	b.Planned = &round.PlannedMove{Day: today + 1, To: "Long table", Goal: "Kitchen"}
	s.Batches = []round.Batch{b}
	require.Empty(t, all(s))
	b.Planned.Day = today
	s.Batches = []round.Batch{b}
	task, _ := only(t, s)
	require.Equal(t, "Move LET-01 on, as it is planned", task.What().String())
	require.Contains(t, task.Why.String(), "to Long table, for Kitchen")
	b.Planned = nil

	// Sprouts and roots sown in place are eaten, or grown, where they stand.
	for id, days := range map[string]int{"cress": 14, "radish": 30} {
		x := plants(id, days)
		x.InTray["bench"], x.Standing, x.Sprouted, x.Verdict = "tray", 18, 18, ready.Verdict{Word: ready.Late, Until: today - 8}
		s.Batches = []round.Batch{x}
		task, _ := only(t, s)
		require.Equal(t, "harvest", task.Kind.Name, id)
	}
}

func TestTheFrame(t *testing.T) {
	s := school()
	b := plants("kale", 50)
	done := map[calendar.Day]bool{today - 3: true, today - 2: true, today - 1: true}
	b.InStands["frame"], b.Frame, b.GoodDays = 20, "frame", 3
	b.Harden = &harden.Plan{School: s.Calendar, Start: today - 3, Steps: 10, DayHours: 7, Done: done}
	s.Batches = []round.Batch{b}
	task, at := only(t, s)
	require.Equal(t, "frame", at)
	require.Equal(t, "Open the frame over LET-01 for 3.5 hours", task.What().String())
	require.Contains(t, task.Why.String(), "Day 4 of 10")
	require.NotContains(t, task.Why.String(), "stay off")

	delete(done, today-2)
	task, _ = only(t, s)
	require.Contains(t, task.Why.String(), "Day 3 of 10", "a day on which nobody opened it does not count")

	s.Cold.Ahead = []cold.Night{{Day: today, MinC: -9}}
	task, _ = only(t, s)
	require.Equal(t, "Bring in LET-01 before tonight: 20 plants", task.What().String())
	require.Equal(t, round.Now, task.Urgency)
	require.Contains(t, task.Why.String(), "-9 °C is forecast")
	s.Cold.Ahead = []cold.Night{{Day: today + 1, MinC: -9}}
	task, _ = only(t, s)
	require.Equal(t, "harden", task.Kind.Name, "somebody is there tomorrow to bring them in")
	s.Cold.Ahead = []cold.Night{{Day: today, MinC: -1}}
	s.Batches[0].GoodDays = 12
	task, _ = only(t, s)
	require.Equal(t, "harden", task.Kind.Name, "twelve days outside have made it hardy")

	// Once it has been opened it is closed again before the last bell, by day.
	s.Cold.Ahead = nil
	done[today] = true
	task, _ = only(t, s)
	require.Equal(t, "Close Frame by 15:10, before the last bell", task.What().String())
	s.Settled[task.Key] = true
	require.Empty(t, all(s))

	// At the end of the ramp the lid stays off only where a mild night is forecast.
	s = school()
	for d := range 8 {
		done[today-20+calendar.Day(d)] = true
	}
	delete(done, today)
	b.Harden.Start = today - 25
	b.GoodDays, s.Batches = len(done), []round.Batch{b}
	for len(done) < 9 {
		done[today-25+calendar.Day(len(done))] = true
	}
	s.Batches = []round.Batch{b}
	task, _ = only(t, s)
	require.NotContains(t, task.Why.String(), "may stay off", "nobody knows the night")
	b.Harden.Done = map[calendar.Day]bool{}
	for d := calendar.Day(1); len(b.Harden.Done) < 10; d++ {
		b.Harden.Done[today-d] = true
	}
	names := func() (out []string) {
		s.Batches = []round.Batch{b}
		for _, x := range all(s) {
			out = append(out, x.Kind.Name)
		}
		return out
	}
	require.ElementsMatch(t, []string{"set_out", "harden"}, names(), "what waits for somebody to plant it stays outside by day")
	b.Outward = &round.Outward{Out: today + 6, Goal: "Fair"}
	require.Equal(t, []string{"harden"}, names(), "they are planted on their day")
}

// What stands indoors because it was cold goes back when the nights allow, and what
// stands in a bed is covered.
func TestBedsAndThoseBroughtIn(t *testing.T) {
	s := school()
	b := plants("pea", 50)
	b.InStands["bed"] = 12
	s.Batches = []round.Batch{b}
	s.Cold.Ahead = []cold.Night{{Day: today, MinC: -8}}
	task, at := only(t, s)
	require.Equal(t, []string{"bed", "Cover LET-01 with fleece before tonight: 12 plants"}, []string{at, task.What().String()})

	k := plants("kale", 50)
	k.InStands["bench"], k.Frame, k.GoodDays = 20, "frame", 3
	s.Batches = []round.Batch{k}
	require.Empty(t, all(s), "tonight is too cold to take them back")
	k.Harden = &harden.Plan{School: s.Calendar, Start: today - 3, Steps: 10, DayHours: 7, Done: map[calendar.Day]bool{}}
	s.Batches = []round.Batch{k}
	require.Empty(t, all(s), "and with frost about they stay in by day")
	tender := k
	tender.Crop, _ = crop.Find("tomato")
	s.Batches, s.Cold.Ahead = []round.Batch{tender}, []cold.Night{{Day: today, MinC: 4}}
	task, at = only(t, s)
	require.Equal(t, []string{"bench", "Take LET-01 to Frame for the day: 20 plants"}, []string{at, task.What().String()}, "too cold by night alone")
	tender.InStands = map[string]int{"frame": 20}
	s.Batches = []round.Batch{tender}
	var kinds []string
	for _, x := range all(s) {
		kinds = append(kinds, x.Kind.Name)
	}
	require.ElementsMatch(t, []string{"bring_in", "harden"}, kinds, "hardening off goes on by day")
	tender.InStands, tender.Harden.Done[today] = map[string]int{"bench": 20}, true
	s.Batches = []round.Batch{tender}
	require.Empty(t, all(s), "they were out today")
	k.Harden = nil
	s.Cold.Ahead = nil
	k.InStands = map[string]int{"frame": 20}
	k.Crop, _ = crop.Find("tomato")
	s.Batches = []round.Batch{k}
	task, at = only(t, s)
	require.Equal(t, []string{"frame", "Write down tonight’s forecast low"}, []string{at, task.What().String()})
	k.Crop, _ = crop.Find("kale")
	k.InStands = map[string]int{"bench": 20}
	s.Batches = []round.Batch{k}
	s.Cold.Ahead = []cold.Night{{Day: today, MinC: 6}}
	task, at = only(t, s)
	require.Equal(t, []string{"bench", "Take LET-01 back to Frame: 20 plants"}, []string{at, task.What().String()})
}

func TestTheColdestNightBeforeSomebodyIsBack(t *testing.T) {
	s := moved(1).on(school()) // Friday; Monday is closed
	b := plants("tomato", 50)
	b.InStands["frame"] = 6
	s.Batches = []round.Batch{b}
	s.Cold.Ahead = []cold.Night{{Day: today + 3, MinC: 2}, {Day: today + 4, MinC: -3}, {Day: today + 5, MinC: -9}}
	task, _ := only(t, s)
	require.Equal(t, "Bring in LET-01 before Mon 22 March: 6 plants", task.What().String(), "Tuesday's night is for Tuesday")
}

func TestHarvest(t *testing.T) {
	s := school()
	whole := plants("lettuce", 52)
	whole.InPorts["tower"] = 12
	s.Batches = []round.Batch{whole}
	task, at := only(t, s)
	require.Equal(t, []string{"tower", "Harvest LET-01"}, []string{at, task.What().String()})
	require.Equal(t, round.Soon, task.Urgency)
	s.Batches[0].Sown = today - 60
	task, _ = only(t, s)
	require.Equal(t, round.Today, task.Urgency)
	s.Batches[0].Cut, s.Batches[0].Whole = today-1, true
	task, _ = only(t, s)
	require.Contains(t, task.Why.String(), "12 plants left, counting from when they were ready", "heads that are left are ready still, not again")
	s.Batches[0].Whole = false
	require.Empty(t, all(s)) // leaves were cut: they grow again
	cut := plants("basil", 90)
	cut.InPorts["tower"], cut.Cut = 6, today-5
	s.Batches = []round.Batch{cut}
	require.Empty(t, all(s))
	s.Batches[0].Cut = today - 12
	task, _ = only(t, s)
	require.Equal(t, "harvest", task.Kind.Name)
	flower := plants("marigold", 75)
	flower.InStands["bed"], flower.GoodDays = 9, 40
	s.Batches = []round.Batch{flower}
	task, _ = only(t, s)
	require.Equal(t, "look", task.Kind.Name, "flowers are not weighed")
}

func vat(ph, level float64, readDaysAgo int) round.Tank {
	at := today.At(9, 0, time.UTC).AddDate(0, 0, -readDaysAgo)
	ec, temp, n := 1.5, 19.0, 20
	spec := tank.Spec{
		CapacityL: 60, FillToL: 58, DryBelowL: 12, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.3, ECLow: 1.2, ECTarget: 1.5, ECHigh: 1.8,
		WaterEC: 0.5, WaterAlkalinity: 150, StockRise: 0.25, ReadEveryDays: 3,
		Acid: chemistry.Product{
			Agent:           chemistry.PhosphoricAcid,
			StrengthPercent: 30,
			DensityGML:      1.18,
		}, Base: chemistry.Product{Agent: chemistry.PotassiumBicarbonate, StrengthPercent: 99},
	}
	x := round.Tank{ID: "t", Name: "Tower", Place: "tower", Tank: tank.Tank{Spec: spec, Plants: n}}
	for _, back := range []float64{9, 6, 3} { // it drinks two litres a day
		l := level + 2*back
		x.State.Read(spec, tank.Reading{LevelL: &l, Plants: &n}, at.Add(-time.Duration(back*24)*time.Hour))
	}
	x.State.Read(spec, tank.Reading{PH: &ph, ECMS: &ec, TempC: &temp, LevelL: &level, Plants: &n}, at)
	x.Judged = tank.Judge(spec, x.State)
	return x
}

func TestTanks(t *testing.T) {
	s := school()
	s.Tanks = []round.Tank{vat(5.9, 57, 1)}
	require.Empty(t, all(s))
	s.Tanks = []round.Tank{vat(5.9, 57, 3)}
	task, at := only(t, s)
	require.Equal(t, []string{"tower", "Read Tower"}, []string{at, task.What().String()})
	s.Tanks = []round.Tank{vat(6.9, 57, 0)}
	task, _ = only(t, s)
	require.Equal(t, "Correct Tower: pH 6.9", task.What().String())
	require.Equal(t, round.Today, task.Urgency, "leaves go pale in days, not in one")
	friday := moved(1).on(s)
	friday.Tanks = []round.Tank{vat(6.9, 57, -1)}
	task, _ = only(t, friday)
	require.Equal(t, round.Now, task.Urgency)
	require.Contains(t, task.Why.String(), "If it waits, it would stay so for 3 days.")
	s.Tanks = []round.Tank{vat(4.3, 57, 0)}
	task, _ = only(t, s)
	require.Equal(t, []any{"rescue", round.Now}, []any{task.Kind.Name, task.Urgency})
	s.Tanks = []round.Tank{{ID: "t", Name: "New", Place: "tower", Tank: tank.Tank{Spec: s.Tanks[0].Spec}}}
	task, _ = only(t, s)
	require.Contains(t, task.Why.String(), "Nothing is known")
}

// On Monday nobody fills for the weekend; on Friday what would be dry before Tuesday is
// filled, with one figure; and what a full tank does not last is somebody's to come for.
func TestLevelsOverClosedDays(t *testing.T) {
	s := school()
	from, back, closed := s.Absence()
	require.Equal(t, []calendar.Day{today + 1, today + 5, 3}, []calendar.Day{from, back, calendar.Day(closed)})
	s.Tanks = []round.Tank{vat(5.9, 30, 0)}
	require.Empty(t, all(s), "tomorrow somebody is still here")

	friday := moved(1).on(s)
	friday.Tanks = []round.Tank{vat(5.9, 18, -1)}
	task, _ := only(t, friday)
	require.Equal(t, "fill", task.Kind.Name)
	a := tank.Advise(friday.Tanks[0].Tank, tank.Visit{At: back.At(8, 30, time.UTC), On: back.Long(), Closed: 3}, friday.Now)
	require.Contains(t, task.What().String(), unit.Prefs{}.Format(a.Plan.WaterL, "L"), "one act, one figure")

	friday.Calendar.Closures[0].To = today + 40
	friday.Tanks = []round.Tank{vat(5.9, 57.5, -1)}
	kinds := map[string]round.Task{}
	for _, task := range all(friday) {
		kinds[task.Kind.Name] = task
	}
	require.Contains(t, kinds["visit"].Why.String(), "somebody with a key must come by")
}

func TestWhatIsSettledIsNotAskedAgain(t *testing.T) {
	s := school()
	s.Tanks = []round.Tank{vat(6.9, 57, 0)}
	task, _ := only(t, s)
	s.Settled[task.Key] = true
	require.Empty(t, all(s))
	tomorrow := moved(1).on(s)
	tomorrow.Tanks = []round.Tank{vat(6.9, 57, -1)}
	_, _ = only(t, tomorrow) // tomorrow it is due again
}

// Whatever a school is like, what cannot wait says what waiting costs, and keys differ.
func TestNowHasAReason(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := moved(rapid.IntRange(0, 6).Draw(t, "day")).on(school())
		s.Tanks = []round.Tank{
			vat(rapid.Float64Range(3.5, 8).Draw(t, "ph"), rapid.Float64Range(5, 58).Draw(t, "level"), rapid.IntRange(-6, 5).Draw(t, "read")),
		}
		b := plants("kale", rapid.IntRange(1, 90).Draw(t, "age"))
		b.InStands[rapid.SampledFrom([]string{"frame", "bed", "bench"}).Draw(t, "stands")] = 9
		b.Frame, b.GoodDays = "frame", rapid.IntRange(0, 9).Draw(t, "good days")
		b.Harden = &harden.Plan{School: s.Calendar, Start: today - 9, Steps: 10, DayHours: 7}
		s.Cold.Ahead = []cold.Night{{Day: s.Today, MinC: rapid.Float64Range(-12, 12).Draw(t, "night")}}
		s.Batches = []round.Batch{b}
		keys := map[round.Key]bool{}
		for _, task := range all(s) {
			require.NotEmpty(t, task.Why, task.What().String())
			require.False(t, keys[task.Key])
			keys[task.Key] = true
			if task.Urgency == round.Now {
				require.Regexp(t, `harm|If it waits|dry|closed|before|overnight|burned|nobody knows|must|roots`, task.Why.String())
			}
		}
	})
}

// Whatever is due where: what cannot wait comes first, plants that die before what is late,
// then today's in walking order, then what can wait; nothing is lost or doubled, and what
// cannot wait always fits.
func TestWhatCannotWaitComesFirst(t *testing.T) {
	kinds := []*round.Kind{round.Rescue, round.BringIn, round.Fill, round.Move, round.Count, round.Reading, round.Sow}
	rapid.Check(t, func(t *rapid.T) {
		var stops []round.Stop
		for i := range rapid.IntRange(0, 9).Draw(t, "stops") {
			s := round.Stop{Place: string(rune('a' + i))}
			for range rapid.IntRange(0, 3).Draw(t, "tasks") {
				task := round.Task{Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), Urgency: round.Urgency(rapid.IntRange(0, 2).Draw(t, "urgency")), Minutes: 5}
				s.Tasks, s.Minutes = append(s.Tasks, task), s.Minutes+5
			}
			stops = append(stops, s)
		}
		first := func(s round.Stop) int {
			rank := 1 << 20
			for _, x := range s.Tasks {
				rank = min(rank, x.Rank())
			}
			return rank
		}
		ordered := round.Order(stops)
		require.ElementsMatch(t, stops, ordered)
		for i := 1; i < len(ordered); i++ {
			a, b := ordered[i-1], ordered[i]
			require.LessOrEqual(t, first(a)/10, first(b)/10)
			if first(b) < 10 {
				require.LessOrEqual(t, first(a), first(b))
			} else if first(a)/10 == first(b)/10 {
				require.Less(t, a.Place, b.Place, "the walk's own order")
			}
		}
		fits := round.Fits(ordered, 20)
		for _, s := range ordered[fits:] {
			require.GreaterOrEqual(t, first(s), 10, "what cannot wait is never below the line")
		}
	})
}

// A sowing that nobody counted is asked for on every day from the first on which there is
// something to see, however old it grows, and ever more urgently; a count after all has come
// ends it, and nothing else does. What stayed empty is asked about until it is marked.
func TestASowingIsNeverForgotten(t *testing.T) {
	before := round.Soon
	for day := 4; day < 300; day++ {
		s := school()
		b := plants("lettuce", day)
		b.InTray["bench"], b.Waiting = "tray", 20
		s.Batches = []round.Batch{b}
		task, _ := only(t, s)
		require.Equal(t, "count", task.Kind.Name, "day %d", day)
		require.LessOrEqual(t, task.Urgency, before, "it never grows less urgent")
		before = task.Urgency
		s.Batches[0].Counted = today - calendar.Day(day) + 5
		if day > 60 {
			require.NotEmpty(t, all(s), "a count of day 5 was not the last")
			s.Batches[0].Counted = today - calendar.Day(day) + 40
			task, _ := only(t, s)
			require.Equal(t, "Mark the empty cells of", task.Before.String(), "what had not come by then does not")
			s.Batches[0].Counted = today - 6
			require.Empty(t, all(s), "and this is not asked every day")
		}
	}
	require.Equal(t, round.Now, before)
	s := school()
	b := plants("mint", 200)
	b.InTray["bench"], b.Waiting, b.Rooting = "tray", 20, true
	s.Batches = []round.Batch{b}
	task, _ := only(t, s)
	require.Contains(t, task.Why.String(), "hardly will")
}

// Water with fish is read every other day, and daily where a filter is brought in without any.
func TestHowOftenFishWaterIsRead(t *testing.T) {
	for name, x := range map[string]struct {
		fish, ago int
		asked     bool
	}{
		"yesterday": {20, 1, false}, "the day before": {20, 2, true}, "without fish, yesterday": {0, 1, true}, "without fish, today": {0, 0, false},
	} {
		s := school()
		ph, low, warm, air := 7.0, 0.1, 24.0, 7.5
		r := fish.Reading{PH: &ph, TAN: &low, Nitrite: &low, TempC: &warm, Oxygen: &air}
		events := []fish.Event{{At: s.Now.AddDate(0, 0, -x.ago), Reading: &r}}
		if x.fish > 0 {
			events = append([]fish.Event{{At: s.Now.AddDate(0, 0, -9), Stock: &fish.Stock{Why: fish.PutIn, Fish: x.fish, MassG: 150}}}, events...)
			events = append(events, fish.Event{At: s.Now, Fed: &fish.Fed{Grams: 10}})
		}
		s.Troughs = []round.Trough{{
			ID: "t", Name: "Trough", Place: "bench", Trough: fish.Trough{Kind: "tilapia", WaterL: 800, FeedPercent: 1.5, ProteinPercent: 32},
			State: fish.Fold(events),
		}}
		asked := slices.ContainsFunc(all(s), func(task round.Task) bool { return task.Kind == round.FishRead })
		require.Equal(t, x.asked, asked, name)
	}
}
