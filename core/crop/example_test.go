package crop_test

import (
	"fmt"

	"ulpa/core/crop"
)

func Example() {
	c, ok := crop.Find("lettuce")
	fmt.Println(c.Name, ok, c.NurseryDays, "days in the nursery")
	// Output:
	// Lettuce true 24 days in the nursery
}
