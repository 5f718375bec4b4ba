package batch

import (
	"cmp"
	"iter"
	"maps"
	"slices"

	"ulpa/core/calendar"
)

// Happened is one act on a batch, with its day.
type Happened struct {
	Batch string
	On    calendar.Day
	Act   Act
}

// Stay is a batch on one part of a place, from its first plant there to its last: on a board
// of a raft, in a jar of a shelf.
type Stay struct {
	Part     int
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

// Stays are what stood on each part of a place, part by part, from everything that happened
// to the batches that ever came to it, in the order in which it happened. part numbers the
// part that a spot belongs to, from 1 to so many; 0 is elsewhere. A cut of the whole batch is
// shared among all its plants, wherever they stand.
func Stays(acts []Happened, parts int, part func(Spot) int) []Stay {
	type key struct {
		part  int
		batch string
	}
	books, open := map[string]*State{}, map[key]*Stay{}
	var all []*Stay
	for _, x := range acts {
		s := books[x.Batch]
		if s == nil {
			s = New()
			books[x.Batch] = s
		}
		before, standing := counted(maps.Keys(s.Ports), parts, part), s.Standing()
		if s.Apply(x.Act) != nil {
			continue // the audit says so; what else is known is told all the same
		}
		after := counted(maps.Keys(s.Ports), parts, part)
		if x.Act.Kind == Close {
			after = make([]int, parts)
		}
		lost := counted(slices.Values(x.Act.Lost), parts, part)
		for i := range after {
			k := key{i + 1, x.Batch}
			if open[k] == nil {
				if after[i] == 0 {
					continue
				}
				open[k] = &Stay{Part: i + 1, Batch: x.Batch, From: x.On}
				all = append(all, open[k])
			}
			open[k].take(x, before[i]-after[i], lost[i])
			open[k].weigh(x.Act, before[i]-after[i], before[i], standing)
			if open[k].Standing = after[i]; after[i] == 0 {
				open[k].Until = x.On
				delete(open, k)
			}
		}
	}
	slices.SortStableFunc(all, func(a, b *Stay) int { return cmp.Compare(a.Part, b.Part) })
	var out []Stay
	for _, s := range all {
		out = append(out, *s)
	}
	return out
}

// counted is how many plants are on each part.
func counted(spots iter.Seq[Spot], parts int, part func(Spot) int) []int {
	out := make([]int, parts)
	for p := range spots {
		if i := part(p); i >= 1 && i <= parts {
			out[i-1] += p.Plants()
		}
	}
	return out
}

// take is what an act did to the plants of the stay: gone fewer there than before, of whom
// some were lost on the way.
func (s *Stay) take(x Happened, gone, lost int) {
	switch {
	case gone < 0:
		s.Plants -= gone
	case x.Act.Kind == Harvest:
		s.Taken += gone
	case x.Act.Kind == Lose:
		s.Lost += gone
	default:
		lost = min(lost, gone)
		s.Lost, s.MovedOn = s.Lost+lost, s.MovedOn+gone-lost
	}
}

// weigh adds its share of a harvest.
func (s *Stay) weigh(a Act, gone, before, standing int) {
	if a.Kind != Harvest {
		return
	}
	of, from := standing, before
	if a.Whole {
		of, from = PlantsIn(a.From), gone
	}
	if of > 0 {
		s.Grams += a.Grams * float64(from) / float64(of)
	}
}

// EmptyDays counts the days on which a part bore nothing, since its first plant came.
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
