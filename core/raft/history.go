package raft

import (
	"cmp"
	"slices"

	"ulpa/core/batch"
	"ulpa/core/calendar"
)

// Happened is one act on a batch, with its day.
type Happened struct {
	Batch string
	On    calendar.Day
	Act   batch.Act
}

// Stay is a batch on a board, from its first plant to its last.
type Stay struct {
	Board    int
	Batch    string
	From     calendar.Day
	Until    calendar.Day // 0: some stand there still
	Plants   int          // that ever stood there
	Standing int
	Taken    int
	Lost     int
	MovedOn  int
	Grams    float64 // its share of what was weighed, plant by plant
}

// Days is how long it was or has been there.
func (s Stay) Days(today calendar.Day) int {
	if s.Until != 0 {
		today = s.Until
	}
	return int(today - s.From)
}

// History is what stood on each board of the raft called place, board by board, from
// everything that happened to the batches that ever came to it, in the order in which it
// happened. A cut of the whole batch is shared among all its plants, wherever they stand.
func (r Raft) History(place string, acts []Happened) []Stay {
	books, open := map[string]*batch.State{}, map[stayKey]*Stay{}
	var all []*Stay
	for _, x := range acts {
		s := books[x.Batch]
		if s == nil {
			s = batch.New()
			books[x.Batch] = s
		}
		before, standing := r.counted(place, s), s.Standing()
		if s.Apply(x.Act) != nil {
			continue // the audit says so; a history is read all the same
		}
		after := r.counted(place, s)
		if x.Act.Kind == batch.Close {
			after = make([]int, len(after))
		}
		lost := r.countedOf(place, x.Act.Lost)
		for i := range after {
			key := stayKey{i + 1, x.Batch}
			if open[key] == nil {
				if after[i] == 0 {
					continue
				}
				open[key] = &Stay{Board: i + 1, Batch: x.Batch, From: x.On}
				all = append(all, open[key])
			}
			open[key].take(x, before[i]-after[i], lost[i])
			open[key].weigh(x.Act, before[i]-after[i], before[i], standing)
			if open[key].Standing = after[i]; after[i] == 0 {
				open[key].Until = x.On
				delete(open, key)
			}
		}
	}
	slices.SortStableFunc(all, func(a, b *Stay) int { return cmp.Compare(a.Board, b.Board) })
	var out []Stay
	for _, s := range all {
		out = append(out, *s)
	}
	return out
}

type stayKey struct {
	board int
	batch string
}

// counted is how many of a batch's plants stand on each board.
func (r Raft) counted(place string, s *batch.State) []int {
	out := make([]int, max(1, r.Boards))
	for p := range s.Ports {
		r.count(place, p, out)
	}
	return out
}

func (r Raft) countedOf(place string, spots []batch.Spot) []int {
	out := make([]int, max(1, r.Boards))
	for _, p := range spots {
		r.count(place, p, out)
	}
	return out
}

func (r Raft) count(place string, p batch.Spot, in []int) {
	if p.Kind == batch.InPort && p.In == place && p.Col < r.Columns {
		in[r.Board(p.Col)-1] += p.Plants()
	}
}

// take is what an act did to the plants of the stay: gone fewer there than before, of whom
// some were lost on the way.
func (s *Stay) take(x Happened, gone, lost int) {
	switch {
	case gone < 0:
		s.Plants -= gone
	case x.Act.Kind == batch.Harvest:
		s.Taken += gone
	case x.Act.Kind == batch.Lose:
		s.Lost += gone
	default:
		lost = min(lost, gone)
		s.Lost, s.MovedOn = s.Lost+lost, s.MovedOn+gone-lost
	}
}

// weigh adds its share of a harvest.
func (s *Stay) weigh(a batch.Act, gone, before, standing int) {
	if a.Kind != batch.Harvest {
		return
	}
	of, from := standing, before
	if a.Whole {
		of, from = batch.PlantsIn(a.From), gone
	}
	if of > 0 {
		s.Grams += a.Grams * float64(from) / float64(of)
	}
}

// EmptyDays counts the days on which a board bore nothing, since its first plant came.
func EmptyDays(stays []Stay, today calendar.Day) int {
	if len(stays) == 0 {
		return 0
	}
	list := slices.Clone(stays)
	slices.SortFunc(list, func(a, b Stay) int { return cmp.Compare(a.From, b.From) })
	empty, until := 0, list[0].From
	for _, s := range list {
		empty += max(0, int(s.From-until))
		until = max(until, s.From+calendar.Day(s.Days(today)))
	}
	return empty + max(0, int(today-until))
}
