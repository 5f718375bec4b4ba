package vessel_test

import (
	"fmt"

	"ulpa/core/vessel"
)

func Example() {
	box := vessel.Vessel{Shape: vessel.Box, LengthCM: 60, WidthCM: 40, HeightCM: 30}
	f, err := box.AtDepth(20)
	if err != nil {
		panic(err)
	}
	fmt.Printf("%.0f L at a depth of 20 cm\n", f.Litres)
	// Output:
	// 48 L at a depth of 20 cm
}
