package recipe_test

import (
	"fmt"

	"ulpa/core/recipe"
)

func Example() {
	a, err := recipe.ReservoirAdjust(
		recipe.AdjustInput{CapacityL: 60, FillToL: 58, LevelL: 40, ECMScm: 1.2, ECTargetMScm: 1.5, WaterECMSc: 0.5, StockRise: 0.25},
	)
	if err != nil {
		panic(err)
	}
	fmt.Printf("%.1f L of water, then %.0f mL of each stock\n", a.WaterL, a.StockML)
	// Output:
	// 18.0 L of water, then 120 mL of each stock
}
