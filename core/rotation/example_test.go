package rotation_test

import (
	"fmt"

	"ulpa/core/rotation"
)

func Example() {
	plan, err := rotation.Best(rotation.Input{
		YearsApart: 3, Weights: rotation.UsualWeights,
		Sections: []rotation.Section{
			{Name: "north", Sun: "full", History: []rotation.Grew{{YearsAgo: 1, Family: "cabbage", Feeder: "heavy"}}},
			{Name: "south", Sun: "full"},
		},
		Wants: []rotation.Want{
			{Crop: "kale", Family: "cabbage", Feeder: "heavy", Sun: "full", Sections: 1},
			{Crop: "pea", Family: "legume", Feeder: "fixer", Sun: "full", Sections: 1},
		},
	}, func() float64 { return 0 })
	fmt.Println(plan.Crops, plan.Cost, plan.Proven, err)
	// Output:
	// [pea kale] 0 true <nil>
}
