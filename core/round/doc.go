// Package round works out today's walk: what is due at each place, why, and how long it takes. It
// stores nothing; what people decided comes in.
//
// The idea: each kind of task is declared once ([Kind]), beside the rule that asks for it. A rule
// takes a day and one thing, and gives the tasks of that thing alone, so that what was not written
// about need not be worked out again. [Join] puts the tasks of all things together, at their places
// and in the order to do them.
//
// A first program asks what a tank needs today and puts it on a walk:
//
//	day := round.Day{Today: today, Now: now, Zone: zone, Places: places}
//	tasks := day.OfTank(tank)
//	for _, stop := range round.Join(day, tasks, round.Decided{}) {
//		for _, task := range stop.Tasks {
//			fmt.Println(stop.Name, task.What())
//		}
//	}
//
// At the edges: every place of the day is a stop, one where nothing is due has no tasks. What is due
// of a thing that stands at none of them is at no stop. What was ticked or put off (Decided.Settled)
// is left out.
package round
