package plan

import "ulpa/core/calendar"

// Load is what a plan takes: of each place the room in use, and the minutes of moves, by
// day from the first.
type Load struct {
	First   calendar.Day
	Rooms   [][]float64 // by place, as in the question
	Minutes []float64
}

// LoadOf works out what a plan takes, over so many days from a first one. What lies before
// the season, moves that are made already among it, is left out.
func (in SeasonInput) LoadOf(s Season, first calendar.Day, days int) Load {
	l := Load{First: first, Minutes: make([]float64, days)}
	place := map[string]int{}
	for i, p := range in.Places {
		place[p.Name] = i
		l.Rooms = append(l.Rooms, make([]float64, days))
	}
	at := func(list []float64, d calendar.Day, v float64) {
		if d >= in.From && d >= first && int(d-first) < days {
			list[d-first] += v
		}
	}
	for i, line := range s.Batches {
		if !line.Grown {
			continue
		}
		b := in.Batches[i]
		n := float64(b.Plants)
		for k, m := range line.Moves {
			end, stage := line.Ready, b.Stages[k]
			if k+1 < len(line.Moves) {
				end = line.Moves[k+1].Day
			}
			at(l.Minutes, m.Day, stage.MinutesFixed+stage.MinutesEach*n)
			stand, _ := stage.stand(m.Place)
			for d := max(m.Day, in.From); d < end; d++ {
				at(l.Rooms[place[m.Place]], d, stand.RoomEach*n)
			}
		}
		at(l.Minutes, line.Ready, b.ReadyMinutesFixed+b.ReadyMinutesEach*n)
	}
	return l
}

// ByWeek is what a list by day comes to in each week: as the fullest day, or in all.
func ByWeek(days []float64, take func(a, b float64) float64) []float64 {
	out := make([]float64, (len(days)+6)/7)
	for i, v := range days {
		out[i/7] = take(out[i/7], v)
	}
	return out
}
