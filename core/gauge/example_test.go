package gauge_test

import (
	"fmt"

	"ulpa/core/gauge"
)

func Example() {
	high := 6.3
	x, err := gauge.Combine(gauge.CombineInput{
		Readings: []gauge.Reading{{Value: 6.9, Error: gauge.CardError}, {Value: 6.6, Error: gauge.PenError}},
		High:     &high, ActAbove: gauge.ActAbove, ReadAbove: gauge.ReadAbove,
	})
	if err != nil {
		panic(err)
	}
	fmt.Printf("%.2f, give or take %.2f: %s\n", x.Value, x.Error, x.Advice)
	// Output:
	// 6.63, give or take 0.09: lower
}
