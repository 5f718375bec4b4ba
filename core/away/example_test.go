package away_test

import (
	"fmt"
	"time"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/round"
)

// Over a weekend nobody is there; nothing stands here, so that nothing is to be done.
func ExampleForetell() {
	friday, _ := calendar.ParseDay("2027-03-19")
	day := round.Day{Today: friday, Zone: time.UTC}
	span := away.Ahead(day)
	plan := away.Foretell(day, span, nil)
	fmt.Println(span.From, "to", span.Back, span.Closed, "closed,", len(plan.Things), "things")
	// Output:
	// 2027-03-19 to 2027-03-22 2 closed, 0 things
}
