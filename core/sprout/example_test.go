package sprout_test

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/sprout"
)

// A run of lentils, day by day: rinsing does not know weekends.
func ExampleAhead() {
	lentils, _ := crop.Find("lentilsprouts")
	start, _ := calendar.ParseDay("2027-03-15")
	for _, d := range sprout.Ahead(sprout.WayOf(lentils), start, calendar.School{}) {
		fmt.Print(d.Rinses, " ")
	}
	// Output:
	// 0 3 3 0
}
