package climate_test

import (
	"fmt"

	"ulpa/core/climate"
)

func Example() {
	air, err := climate.OfAir(24, 60, -1)
	if err != nil {
		panic(err)
	}
	fmt.Printf("%.2f kPa between leaf and air; dew at %.1f °C\n", air.LeafVPDKPa, *air.DewPointC)
	// Output:
	// 1.02 kPa between leaf and air; dew at 15.8 °C
}
