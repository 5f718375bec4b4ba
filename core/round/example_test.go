package round_test

import (
	"fmt"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/round"
	"ulpa/core/say"
)

func Example() {
	today, err := calendar.ParseDay("2027-03-18")
	if err != nil {
		panic(err)
	}
	day := round.Day{
		Today: today, Now: today.At(9, 0, time.UTC), Zone: time.UTC, DayBegins: 510, DayEnds: 930,
		Places: []round.Place{{ID: "bench", Name: "Nursery bench", Kind: "bench", TemperatureC: 18}},
	}
	tasks := day.OfPlanned(round.Planned{ID: "p", Crop: say.Name("Lettuce"), Wanted: 24, SowOn: today, ReadyBy: today + 54})
	for _, stop := range round.Join(day, tasks, round.Decided{}) {
		for _, task := range stop.Tasks {
			fmt.Printf("%s: %s (%s, %d min)\n", stop.Name, task.What(), task.Urgency.Word(), task.Minutes)
		}
	}
	// Output:
	// Nursery bench: Sow lettuce, 24 plants wanted (today, 12 min)
}
