package zero_test

import (
	"fmt"

	"ulpa/core/zero"
)

func Example() {
	x := zero.Between(0, 2, 1e-9, func(x float64) float64 { return x*x - 2 })
	fmt.Printf("%.6f\n", x)
	// Output:
	// 1.414214
}
