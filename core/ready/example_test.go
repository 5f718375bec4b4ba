package ready_test

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/ready"
)

func Example() {
	sown, err := calendar.ParseDay("2027-03-01")
	if err != nil {
		panic(err)
	}
	rule := ready.Rule{Leaves: 3, AgeDays: 24, HoldDays: 5}
	seen := ready.Seen{Leaves: 3, On: sown + 20}
	for _, g := range []ready.Grown{{Sown: sown, Today: sown + 10}, {Sown: sown, Today: sown + 21, Seen: seen}, {Sown: sown, Today: sown + 30, Seen: seen}} {
		v := ready.Judge(rule, g)
		fmt.Println(v.Word, "-", v.Why)
	}
	// Output:
	// early - nobody has counted leaves yet (3 wanted)
	// ready - 3 true leaves, 3 wanted
	// late - 3 true leaves, 3 wanted
}
