package trial_test

import (
	"fmt"

	"ulpa/core/trial"
)

func Example() {
	c, err := trial.Compare([]trial.Arm{{Name: "on the mat", N: 40, Successes: 36}, {Name: "on the sill", N: 40, Successes: 25}}, 0.95)
	if err != nil {
		panic(err)
	}
	p := c.Pairs[0]
	fmt.Printf("%.2f more, between %.2f and %.2f: %s\n", -p.Difference, -*p.High, -*p.Low, p.Reading)
	// Output:
	// 0.28 more, between 0.09 and 0.44: difference
}
