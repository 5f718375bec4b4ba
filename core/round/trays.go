package round

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
)

// Tray is something to do to a tray: a cover, the heat from below, a turn, water.
type Tray struct {
	ID, Name, Place string
	tray.Advice
}

// Care is what a tray itself needs.
var Care = declare(Kind{Name: "care", Of: Trays, Writes: true, EndedBy: []string{"tray_care"}})

// OfTray is what is to be done to a tray.
func (s Day) OfTray(x Tray) []Task {
	t := s.task(Care, x.ID, x.Place)
	t.Before, t.Why, t.Urgency, t.Minutes, t.Tray = say.T("%s: %s", say.Name(x.Name), say.Lower(x.Says)), x.Why, Soon, 2, x.ID
	if t.Part = x.Advice.ID; x.Today {
		t.Urgency = Today
	}
	return []Task{t}
}

// Thirst is what a tray in use draws a day, by its warmth, its light and what is up in it.
type Thirst struct {
	ID, Name, Place string
	UseL            float64
	Watered         calendar.Day // when it last was, as far as anybody wrote; 0: nobody did
}

// WaterTrays is the water that trays want on each day, all of a place in one go.
var WaterTrays = declare(Kind{Name: "water_trays", Of: Places, Together: waterTogether})

// Amount is how much of something one thing gets.
type Amount struct {
	ID, Name string
	Litres   float64
}

// OfThirst is what a tray has drawn since somebody was last here.
func (s Day) OfThirst(x Thirst) []Task {
	since := max(s.before(), x.Watered)
	litres := math.Round(100*x.UseL*float64(s.Today-since)) / 100
	if litres <= 0 {
		return nil
	}
	t := s.task(WaterTrays, x.ID, x.Place)
	t.Urgency, t.Minutes, t.Amounts = Today, 1, []Amount{{x.ID, x.Name, litres}}
	t.Why = say.T("The last open day was %s.", s.before().Long())
	if next, closed := s.Calendar.Next(s.Today); closed > 1 {
		t.Why = say.T("%s Nobody is here before %s: water what is light until it drips.", t.Why, next.Long())
	}
	return []Task{t}
}

// before is the last open day before today.
func (s Day) before() calendar.Day {
	d := s.Today - 1
	for d > s.Today-longestAway && !s.Calendar.Open(d) {
		d--
	}
	return d
}

// longestAway is how many days of what trays draw are told at most: by then they are dry.
const longestAway = 14

// waterTogether tells all trays of a place at once.
func waterTogether(_ Day, list []Task) Task {
	t := list[0]
	t.Amounts, t.Minutes = nil, 1+(len(list)+1)/2
	var each []say.Text
	for _, x := range list {
		t.Amounts = append(t.Amounts, x.Amounts...)
		for _, a := range x.Amounts {
			each = append(each, say.T("%s %s", say.Name(a.Name), say.Of(1000*a.Litres, unit.Millilitre)))
		}
	}
	t.Before = say.T("Water the trays that feel light: %s", say.Plural(len(each), "tray"))
	t.Code, t.After = "", nil
	t.Why = say.T("%s Since then they have used about: %s. Lift each: one that feels heavy gets nothing, seedlings damp off in wet.", t.Why, say.List(each...))
	return t
}
