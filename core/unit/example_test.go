package unit_test

import (
	"fmt"

	"ulpa/core/unit"
)

func Example() {
	metric, us := unit.Parse("metric", "ms"), unit.Parse("us", "ppm500")
	fmt.Println(metric.Format(1.7, unit.MS), "is", us.Format(1.7, unit.MS))
	fmt.Println(metric.Format(20, unit.Celsius), "is", us.Format(20, unit.Celsius))
	// Output:
	// 1.7 mS/cm is 850 ppm (500 scale)
	// 20 °C is 68 °F
}
