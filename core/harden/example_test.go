package harden_test

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/harden"
)

func Example() {
	thursday, err := calendar.ParseDay("2027-03-18")
	if err != nil {
		panic(err)
	}
	p := harden.Plan{Start: thursday, Steps: 5, DayHours: 7}
	for _, d := range p.Ramp(thursday) {
		if d.Closed {
			fmt.Println(d.Day.Short(), "closed")
			continue
		}
		fmt.Printf("%s %.1f h outside, overnight %v\n", d.Day.Short(), d.Hours, d.Night)
	}
	// Output:
	// Thu 18 Mar 2.0 h outside, overnight false
	// Fri 19 Mar 3.0 h outside, overnight false
	// Sat 20 Mar closed
	// Sun 21 Mar closed
	// Mon 22 Mar 4.5 h outside, overnight false
	// Tue 23 Mar 5.5 h outside, overnight false
	// Wed 24 Mar 6.5 h outside, overnight true
}
