package say_test

import (
	"fmt"

	"ulpa/core/say"
)

func Example() {
	fmt.Println(say.Plural(1, "tray"), "and", say.Plural(3, "tray"))
	// Output:
	// 1 tray and 3 trays
}
