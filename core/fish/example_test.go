package fish_test

import (
	"fmt"

	"ulpa/core/fish"
)

// What twenty fish get on a warm day, and how much of it the filter has to carry.
func ExampleDay() {
	d, err := fish.Day(fish.Input{
		Fish: 20, MassG: 150, FeedPercentDay: 1.5, ProteinPercent: 32, TemperatureC: 25, PH: 7, WaterL: 800, TANMgL: 1, UnionisedLimit: 0.05,
	})
	fmt.Printf("%.0f g today, %s, %v\n", d.FeedTodayG, d.Advice, err)
	// Output:
	// 45 g today, normal, <nil>
}
