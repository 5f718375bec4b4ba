package potting_test

import (
	"fmt"

	"ulpa/core/potting"
)

// Mix for two dozen pots.
func ExampleFill() {
	need, err := potting.Fill(potting.Pot{TopCM: 9, BottomCM: 6.5, HeightCM: 9}, 24, potting.Mix{BagL: 40, OnHandL: 5})
	fmt.Printf("%.2f L each, %.1f L of mix, %d bag to open, %v\n", need.PotL, need.MixL, *need.Bags, err)
	// Output:
	// 0.37 L each, 10.4 L of mix, 1 bag to open, <nil>
}
