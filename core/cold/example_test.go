package cold_test

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/cold"
	"ulpa/core/crop"
)

func Example() {
	today, err := calendar.ParseDay("2027-05-10")
	if err != nil {
		panic(err)
	}
	tomato, _ := crop.Find("tomato")
	site := cold.Site{Ahead: []cold.Night{{Day: today, MinC: 9}, {Day: today + 1, MinC: -1}}}
	for _, reason := range site.Against(tomato, 0, today) {
		fmt.Println(reason)
	}
	// Output:
	// -1 °C is forecast for Tue 11 May: about -2.5 °C here, and tomato not hardened off stands 10 °C. Chance of harm: 99 %.
}
