package growth_test

import (
	"fmt"

	"ulpa/core/growth"
)

// Lettuce on a lit shelf, from a seedling to five weeks on.
func ExampleGrow() {
	day := 35
	a, err := growth.Grow(growth.Input{
		EmergenceDays: 4, LightMol: []float64{14}, TemperatureC: []float64{20}, OnDay: &day, Parameters: growth.Lettuce,
		Spacing: []growth.Spacing{{FromDay: 0, PlantsM2: 25}},
	})
	fmt.Printf("%.0f g, %v\n", a.On.FreshG, err)
	// Output:
	// 151 g, <nil>
}
