package play

import (
	"slices"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/sim"
)

// Want is what a school wants: heads or cuts for a kitchen in each week, or plants for a day.
type Want struct {
	Name, Crop string
	Plants     int
	Grams      float64 // of each, at least; plants for a day: 0
	From, By   calendar.Day
	Weekly     bool
	Cut        bool   // what is taken grows again
	Where      string // in which it grows to the end: tower, raft, jars or bed
}

// Order is what is wanted on one day.
type Order struct {
	*Want
	Day calendar.Day
}

// Scenario is a school and what it wants of a season.
type Scenario struct {
	Name                    string
	From, To                calendar.Day
	Climate                 sim.Climate
	PoorLots                float64 // share of packets that are old; 0: as usual
	Closed                  []calendar.Closure
	BenchC, LampMol         float64
	Trays, Rows, Columns    int
	CellML                  float64
	TowerTiers, TowerColumn int
	RaftRows, RaftColumns   int
	Jars                    int
	Alkalinity, TapEC       float64 // mg/L as CaCO3, mS/cm
	Wants                   []Want
	Minutes                 float64 // of a day
}

func day(month time.Month, d int) calendar.Day { return calendar.Date(2027, month, d) }

var holidays = []calendar.Closure{
	{From: day(2, 15), To: day(2, 19), Name: "Half-term"},
	{From: day(3, 29), To: day(4, 9), Name: "Spring holiday"},
	{From: day(5, 3), To: day(5, 3), Name: "May day"},
	{From: day(5, 31), To: day(6, 4), Name: "Summer half-term"},
}

// spring is a school in its spring, before anything is changed.
func spring(name string, change func(*Scenario)) Scenario {
	s := Scenario{
		Name: name, From: day(1, 4), To: day(6, 18), Climate: sim.Temperate, Closed: holidays,
		BenchC: 18, LampMol: 7, Trays: 8, Rows: 6, Columns: 12, CellML: 40,
		TowerTiers: 9, TowerColumn: 4, RaftRows: 4, RaftColumns: 12, Jars: 6, Alkalinity: 120, TapEC: 0.5, Minutes: 45,
		Wants: []Want{
			{Name: "Lettuce for the kitchen", Crop: "lettuce", Plants: 10, Grams: 150, From: day(3, 15), By: day(6, 11), Weekly: true, Where: "tower"},
			{Name: "Basil for the kitchen", Crop: "basil", Plants: 4, Grams: 15, From: day(4, 12), By: day(6, 11), Weekly: true, Cut: true, Where: "raft"},
			{Name: "Kale for the beds", Crop: "kale", Plants: 18, From: day(4, 26), By: day(4, 30), Where: "bed"},
			{Name: "Chard for the beds", Crop: "chard", Plants: 16, From: day(5, 10), By: day(5, 14), Where: "bed"},
			{Name: "Tomatoes for the fair", Crop: "tomato", Plants: 12, From: day(6, 7), By: day(6, 9), Where: "bed"},
			{Name: "Marigolds for the fair", Crop: "marigold", Plants: 24, From: day(6, 7), By: day(6, 9), Where: "bed"},
		},
	}
	if change != nil {
		change(&s)
	}
	return s
}

// Tuned are the scenarios that advice may be bettered by. Apart are those that were chosen before
// anything was tuned, and are only looked at.
var (
	Tuned = []Scenario{
		spring("a spring", nil),
		spring("a cool bench", func(s *Scenario) { s.BenchC, s.LampMol = 15, 0 }),
	}
	Apart = []Scenario{
		spring("hard water, short days", func(s *Scenario) { s.Alkalinity, s.TapEC, s.Minutes = 240, 0.75, 35 }),
		spring("a late, rough spring", func(s *Scenario) {
			s.Climate.MeanC, s.Climate.DailySD, s.Climate.WindMS = 8.6, 3.9, 4.4
		}),
		spring("warm and bright", func(s *Scenario) {
			s.Climate.LatitudeDeg, s.Climate.MeanC, s.Climate.Clear, s.BenchC = 43, 14, 0.55, 20
		}),
	}
)

// Open tells whether the school is open on a day.
func (s Scenario) Open(d calendar.Day) bool {
	if w := d.Weekday(); w == time.Saturday || w == time.Sunday {
		return false
	}
	return !slices.ContainsFunc(s.Closed, func(c calendar.Closure) bool { return d >= c.From && d <= c.To })
}

// Visit tells whether a caretaker comes by on a closed day: on Mondays and Thursdays of holidays.
func (s Scenario) Visit(d calendar.Day) bool {
	w := d.Weekday()
	return !s.Open(d) && (w == time.Monday || w == time.Thursday)
}

// Next is the first day after one on which somebody is to come.
func (s Scenario) Next(d calendar.Day) calendar.Day {
	for d++; !s.Open(d) && !s.Visit(d) && d < s.To+30; d++ {
	}
	return d
}

// Orders are what is wanted on each day of the season: what is weekly on Thursdays, or on the
// last open day before it in that week; a week that is closed wants nothing.
func (s *Scenario) Orders() (out []Order) {
	for i := range s.Wants {
		w := &s.Wants[i]
		if !w.Weekly {
			out = append(out, Order{w, w.By})
			continue
		}
		for week := w.From.Monday(); week <= w.By; week += 7 {
			for d := week + 3; d >= week; d-- {
				if s.Open(d) && d >= w.From && d <= w.By {
					out = append(out, Order{w, d})
					break
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Order) int { return int(a.Day - b.Day) })
	return out
}
