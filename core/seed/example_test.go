package seed_test

import (
	"fmt"
	"math"

	"ulpa/core/seed"
)

func Example() {
	g, err := seed.GerminationTime("lettuce", 18)
	if err != nil {
		panic(err)
	}
	fmt.Println("half are up after about", math.Round(g.DaysToHalf), "days at 18 °C")
	// Output:
	// half are up after about 3 days at 18 °C
}
