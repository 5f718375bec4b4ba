package tower_test

import (
	"fmt"

	"ulpa/core/crop"
	"ulpa/core/tower"
)

// Which tier of five suits basil, the best first.
func ExampleWhere() {
	basil, _ := crop.Find("basil")
	a := tower.Where(basil, 5)
	fmt.Println(a.Tiers, a.Why)
	// Output:
	// [2 3 1 4 0] You cut it again and again: put it at hand height.
}
