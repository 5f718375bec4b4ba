package plan_test

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/plan"
)

func Example() {
	ready, err := calendar.ParseDay("2027-05-14")
	if err != nil {
		panic(err)
	}
	s, err := plan.BackSchedule(plan.Input{
		ReadyBy: ready, Workdays: []int{1, 2, 3, 4, 5},
		Stages: []plan.Stage{{Name: "move", Days: 24, HoldDays: 5}, {Name: "harvest", Days: 30, HoldDays: 7}},
	})
	if err != nil {
		panic(err)
	}
	for _, m := range s.Moves {
		fmt.Println(m.Day.Long(), m.Name)
	}
	// Output:
	// Fri 19 March sow
	// Wed 14 April move
	// Fri 14 May harvest
}
