// Package plan works from the day something must be ready back to the day to sow: for one batch
// (BackSchedule), and for a whole season within room, hands and closed days (PlanSeason).
//
// The idea: a batch is a row of stages, each with its shortest length and how much longer it can
// wait. Every plan is a choice of days, places and packets with a cost; the search looks for the
// cheapest until its time is over, and says beside it a bound that no plan can beat.
//
// A first program asks when to sow lettuce for the fourteenth of May:
//
//	s, err := plan.BackSchedule(plan.Input{
//		ReadyBy: may14, Workdays: []int{1, 2, 3, 4, 5},
//		Stages:  []plan.Stage{{Name: "move", Days: 24, HoldDays: 5}, {Name: "harvest", Days: 30, HoldDays: 7}},
//	})
//	fmt.Println(s.Moves[0].Day)
//
// At the edges: where no day is possible the error says which field stands in the way. A season
// without batches costs nothing and is proved. What is sown already stays as it is.
package plan
