package calendar_test

import (
	"fmt"

	"ulpa/core/calendar"
)

func Example() {
	d, err := calendar.ParseDay("2027-03-18")
	if err != nil {
		panic(err)
	}
	fmt.Println(d.Long(), "and a week later", (d + 7).Short())
	// Output:
	// Thu 18 March and a week later Thu 25 Mar
}
