package raft_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/raft"
	"ulpa/core/tray"
)

func anyRaft(t *rapid.T) raft.Raft {
	boards := rapid.IntRange(2, 9).Draw(t, "boards")
	r := raft.Raft{Rows: rapid.IntRange(1, 5).Draw(t, "rows"), Columns: boards * rapid.IntRange(1, 4).Draw(t, "wide"), Boards: boards}
	r.Floats = rapid.Permutation(r.Order()).Draw(t, "floats")
	require.NoError(t, r.Check())
	return r
}

// Every hole lies on one board and on that which it says; moved along as often as there are
// boards they float as before; an order that is none of theirs is refused, or read as none.
func TestEveryHoleHasItsBoard(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := anyRaft(t)
		seen := map[tray.Cell]bool{}
		for b := 1; b <= r.Boards; b++ {
			for _, c := range r.Holes(b) {
				require.False(t, seen[c])
				require.Equal(t, b, r.Board(c.Col))
				seen[c] = true
			}
			some := r.Plant(b, 1000, true, func(c tray.Cell) bool { return false })
			for _, x := range some {
				for _, y := range some {
					require.False(t, x.Row == y.Row && y.Col-x.Col == 1 || x.Col == y.Col && y.Row-x.Row == 1, "%v beside %v", x, y)
				}
			}
		}
		require.Len(t, seen, r.Rows*r.Columns)
		on := r
		for range r.Boards {
			m := raft.Moved{Order: on.Along(), Was: on.Order()}
			require.NoError(t, m.Check(on))
			on.Floats = m.Order
		}
		require.Equal(t, r.Order(), on.Order())
		require.Error(t, raft.Moved{Order: r.Order()}.Check(r))
		require.Error(t, raft.Moved{Order: append(r.Along()[1:], r.Along()[1])}.Check(r), "a board twice")
		other := r
		other.Floats = r.Order()[1:]
		require.Equal(t, 1, other.Order()[0])
	})
}

// What is lifted is enough, and no fewer would do: for few boards every smaller choice is
// tried.
func TestTheFewestBoardsAreLifted(t *testing.T) {
	sorts := func(from, to, lifted []int) bool {
		stay := slices.DeleteFunc(slices.Clone(from), func(b int) bool { return slices.Contains(lifted, b) })
		want := slices.DeleteFunc(slices.Clone(to), func(b int) bool { return slices.Contains(lifted, b) })
		return slices.Equal(stay, want)
	}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 7).Draw(t, "n")
		one := raft.Raft{Columns: n, Boards: n}.Order()
		from, to := rapid.Permutation(one).Draw(t, "from"), rapid.Permutation(one).Draw(t, "to")
		lifted := raft.Lifted(from, to)
		require.True(t, sorts(from, to, lifted))
		for mask := range 1 << n {
			var fewer []int
			for i := range n {
				if mask&(1<<i) != 0 {
					fewer = append(fewer, i+1)
				}
			}
			require.False(t, len(fewer) < len(lifted) && sorts(from, to, fewer), "%v will do", fewer)
		}
	})
}

// A raft that does what it is told for a year, one batch a week from its own rhythm, comes to
// rest in the right order: no board waits longer than a week once it runs, none stands ripe
// longer than a week, and no week goes without a harvest.
func TestARaftThatFollowsItsAdvice(t *testing.T) {
	lettuce, _ := crop.Find("lettuce")
	rapid.Check(t, func(t *rapid.T) {
		days := lettuce.HarvestDays() - lettuce.NurseryDays
		need := raft.Raft{Rows: 2, Columns: 2, Boards: 2}.RhythmOf(lettuce, 7, false).Needs
		require.Equal(t, int(math.Ceil(float64(days)/7)), need)
		r := raft.Raft{Rows: 3, Columns: 2 * need, Boards: need}
		require.True(t, r.RhythmOf(lettuce, 7, false).Fits)
		r.Floats = rapid.Permutation(r.Order()).Draw(t, "floats")
		on := map[int]raft.Standing{}
		var batches []raft.Seedlings
		last := map[int]calendar.Day{}
		first := calendar.Date(2027, 1, 4)
		for week := range 60 {
			today := first + calendar.Day(7*week)
			batches = append(batches, raft.Seedlings{Batch: "b", Code: "LET", Crop: lettuce, Plants: 6, Ready: today, Due: today + calendar.Day(days)})
			harvested := 0
			for range 20 {
				var boards []raft.Board
				for _, n := range r.Order() {
					b := raft.Board{Number: n, Holes: 6}
					if s, ok := on[n]; ok {
						b.Standing = []raft.Standing{s}
					}
					boards = append(boards, b)
				}
				do := raft.Advise(boards, batches, today)
				if len(do) == 0 || do[0].Kind == raft.Wait {
					break
				}
				switch d := do[0]; d.Kind {
				case raft.Harvest:
					require.LessOrEqual(t, int(today-on[d.Board].Due), 7)
					harvested += d.Plants
					delete(on, d.Board)
				case raft.Turn, raft.Sort:
					m := raft.Moved{Order: d.Order, Was: r.Order()}
					require.NoError(t, m.Check(r))
					r.Floats = d.Order
				case raft.Plant:
					on[d.Board] = raft.Standing{Batch: "b", Crop: lettuce, Plants: d.Plants, Due: today + calendar.Day(days)}
					last[d.Board] = today
					i := slices.IndexFunc(batches, func(s raft.Seedlings) bool { return s.Plants > 0 })
					batches[i].Plants -= d.Plants
				}
			}
			if week > 2*need {
				require.Equal(t, 6, harvested, "week %d", week)
				require.Equal(t, r.Order()[0], newest(last), "the newest floats at the planting end")
			}
		}
	})
}

func newest(planted map[int]calendar.Day) (board int) {
	for b, on := range planted {
		if board == 0 || on > planted[board] {
			board = b
		}
	}
	return board
}

// What comes next to every board is as many plants as it has holes, and no seedling is
// promised to two; what is to be sown is sown a nursery's days before.
func TestWhatComesNext(t *testing.T) {
	lettuce, _ := crop.Find("lettuce")
	today := calendar.Date(2027, 3, 18)
	rapid.Check(t, func(t *rapid.T) {
		var boards []raft.Board
		for i := range rapid.IntRange(1, 8).Draw(t, "boards") {
			b := raft.Board{Number: i + 1, Holes: rapid.IntRange(1, 20).Draw(t, "holes")}
			if n := rapid.IntRange(0, b.Holes).Draw(t, "plants"); n > 0 {
				b.Standing = []raft.Standing{{Crop: lettuce, Plants: n, Due: today + calendar.Day(rapid.IntRange(-20, 60).Draw(t, "due"))}}
			}
			boards = append(boards, b)
		}
		var seedlings []raft.Seedlings
		has := map[string]int{}
		for i := range rapid.IntRange(0, 4).Draw(t, "batches") {
			s := raft.Seedlings{Batch: string(rune('a' + i)), Crop: lettuce, Plants: rapid.IntRange(0, 30).Draw(t, "seedlings")}
			s.Ready = today + calendar.Day(rapid.IntRange(-10, 30).Draw(t, "ready"))
			s.Due = s.Ready + calendar.Day(lettuce.HarvestDays()-lettuce.NurseryDays)
			s.Until = s.Ready + calendar.Day(rapid.IntRange(0, 20).Draw(t, "waits"))
			seedlings, has[s.Batch] = append(seedlings, s), s.Plants
		}
		days := rapid.IntRange(0, 90).Draw(t, "days")
		school := calendar.School{Closures: []calendar.Closure{{From: today + 11, To: today + 24}}}
		ahead := raft.Ahead(boards, seedlings, lettuce, today, days, school.Open)
		total := 0
		free := map[int]calendar.Day{}
		for _, b := range boards {
			free[b.Number] = max(b.Due(), today)
		}
		for _, x := range ahead {
			require.Equal(t, free[x.Board], x.Free, "one after the other")
			free[x.Board] = max(x.Harvest, x.Free+1)
			require.GreaterOrEqual(t, x.On, x.Free)
			require.True(t, school.Open(x.On))
			require.GreaterOrEqual(t, x.Free, today)
			require.Equal(t, int(x.On-x.Free), x.EmptyDays)
			if x.Batch == "" {
				require.True(t, school.Open(x.SowBy))
				require.GreaterOrEqual(t, x.On, x.SowBy+calendar.Day(lettuce.NurseryDays))
				require.True(t, x.Late || x.SowBy <= x.Free-calendar.Day(lettuce.NurseryDays))
			} else {
				has[x.Batch] -= x.Plants
				require.GreaterOrEqual(t, has[x.Batch], 0)
			}
			total += x.Plants
		}
		for _, b := range boards {
			total += b.Plants()
			require.Greater(t, free[b.Number], today+calendar.Day(days), "nothing is left open")
		}
		counted := 0
		for _, w := range raft.Weeks(boards, ahead, today, 60) {
			counted += w.Plants
		}
		require.Equal(t, total, counted, "every plant is harvested in some week")
	})
}

// Plants and grams on boards are those of the books, however they came, went and were cut.
func TestABoardsHistoryAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := anyRaft(t)
		port := func(c tray.Cell) batch.Spot {
			return batch.Spot{Kind: batch.InPort, In: "raft", Row: c.Row, Col: c.Col}
		}
		var free []tray.Cell
		for b := 1; b <= r.Boards; b++ {
			free = append(free, r.Holes(b)...)
		}
		n := rapid.IntRange(1, len(free)).Draw(t, "plants")
		var cells []batch.Spot
		var marks []batch.Mark
		for i := range n {
			cells = append(cells, batch.Spot{Kind: batch.InCell, In: "tray", Row: i / 12, Col: i % 12})
			marks = append(marks, batch.Mark{In: "tray", Row: i / 12, Col: i % 12, State: batch.Sprouted})
		}
		day := calendar.Date(2027, 1, 4)
		acts := []batch.Happened{
			{Batch: "a", On: day, Act: batch.Act{Kind: batch.Sow, Cells: cells, SeedsPerCell: 1}},
			{Batch: "a", On: day + 7, Act: batch.Act{Kind: batch.Count, Marks: marks}},
		}
		state := func() *batch.State {
			var list []batch.Act
			for _, x := range acts {
				list = append(list, x.Act)
			}
			s, err := batch.Fold(list)
			require.NoError(t, err)
			return s
		}
		for range rapid.IntRange(1, 12).Draw(t, "acts") {
			s := state()
			day += calendar.Day(rapid.IntRange(1, 9).Draw(t, "days"))
			var there []batch.Spot
			for p := range s.Ports {
				there = append(there, p)
			}
			slices.SortFunc(there, func(a, b batch.Spot) int { return (a.Row-b.Row)*1000 + a.Col - b.Col })
			a := batch.Act{Kind: rapid.SampledFrom([]batch.Kind{batch.Move, batch.Harvest, batch.Lose, batch.Move}).Draw(t, "kind")}
			some := func(list []batch.Spot) []batch.Spot { return list[:rapid.IntRange(1, len(list)).Draw(t, "some")] }
			switch {
			case s.InTrays() > 0 && (len(there) == 0 || a.Kind == batch.Move):
				a.Kind = batch.Move
				var in []batch.Spot
				for p, c := range s.Cells {
					if c.State.Alive() {
						in = append(in, p)
					}
				}
				slices.SortFunc(in, func(a, b batch.Spot) int { return (a.Row-b.Row)*1000 + a.Col - b.Col })
				a.From = some(in)
				var to []tray.Cell
				for _, c := range free {
					if !s.Ports[port(c)] {
						to = append(to, c)
					}
				}
				for _, c := range rapid.Permutation(to).Draw(t, "to")[:len(a.From)] {
					a.To = append(a.To, port(c))
				}
			case len(there) == 0:
				continue
			case a.Kind == batch.Move:
				a.From = some(there)
				a.To = []batch.Spot{{Kind: batch.InStand, In: "bed", N: len(a.From)}}
			case a.Kind == batch.Harvest:
				a.Grams = rapid.Float64Range(1, 500).Draw(t, "grams")
				if a.Whole = rapid.Bool().Draw(t, "whole"); a.Whole {
					a.From = some(there)
				}
			default:
				a.From = some(there)
			}
			acts = append(acts, batch.Happened{Batch: "a", On: day, Act: a})
		}
		s := state()
		var standing, taken, plants, gone int
		grams := 0.0
		for _, x := range batch.Stays(acts, r.Boards, r.Part("raft")) {
			standing, taken, plants, gone = standing+x.Standing, taken+x.Taken, plants+x.Plants, gone+x.Taken+x.Lost+x.MovedOn
			grams += x.Grams
			require.Equal(t, x.Standing == 0, x.Until != 0)
			require.GreaterOrEqual(t, x.Days(day), 0)
		}
		require.Equal(t, len(s.Ports), standing)
		require.Equal(t, s.Taken, taken)
		require.Equal(t, plants, standing+gone)
		require.LessOrEqual(t, grams, s.Grams+1e-6)
		if s.InTrays()+s.InStands() == 0 || s.Cuts == 0 {
			require.True(t, s.Cuts == 0 || grams > 0)
		}
	})
}

// A board that is out of its turn by a fortnight is let be, by a day more it is not; an empty one
// in the way never is.
func TestHowFarOutOfTurnABoardIsLetBe(t *testing.T) {
	lettuce, _ := crop.Find("lettuce")
	today := calendar.Date(2027, 3, 18)
	board := func(n int, due calendar.Day) raft.Board {
		b := raft.Board{Number: n, Holes: 6}
		if due > 0 {
			b.Standing = []raft.Standing{{Batch: "b", Crop: lettuce, Plants: 6, Sown: today - 20, Due: due}}
		}
		return b
	}
	for name, x := range map[string]struct {
		nearer calendar.Day // due on the board nearer the harvest end
		lift   bool
	}{
		"a fortnight": {today + 24, false}, "a day more": {today + 25, true}, "empty": {0, true}, "in turn": {today + 8, false},
	} {
		do := raft.Advise([]raft.Board{board(2, today+10), board(1, x.nearer)}, nil, today)
		require.Equal(t, x.lift, slices.ContainsFunc(do, func(d raft.Do) bool { return d.Kind == raft.Sort || d.Kind == raft.Turn }), name)
	}
}
