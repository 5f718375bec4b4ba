package chemistry_test

import (
	"fmt"

	"ulpa/core/chemistry"
)

func Example() {
	oxygen, _, err := chemistry.OxygenSaturation(20, 0)
	if err != nil {
		panic(err)
	}
	fmt.Printf("%.2f mg/L at 20 °C\n", oxygen)
	// Output:
	// 9.09 mg/L at 20 °C
}
