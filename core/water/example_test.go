package water_test

import (
	"fmt"

	"ulpa/core/water"
)

// A supplier's report gives hardness in German degrees.
func ExampleCaCO3() {
	mgL, fits := water.CaCO3(10, "dh", false)
	fmt.Printf("%.0f mg/L %v\n", mgL, fits)
	// Output:
	// 178 mg/L true
}
