package trouble_test

import (
	"fmt"

	"ulpa/core/trouble"
)

// Old leaves turn yellow on plants that have waited nine days too long.
func ExampleLook() {
	f := trouble.Look("yellow-low", nil, trouble.Known{DaysLate: 9})
	fmt.Println(f.Causes[0].ID, trouble.Sure(f.Causes[0].Share))
	// Output:
	// late perhaps
}
