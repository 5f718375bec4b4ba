package name_test

import (
	"fmt"

	"ulpa/core/name"
)

func Example() {
	fmt.Printf("%q\n", name.Clean("  North\u00a0 tower "))
	fmt.Println(name.Wrong("North\u200btower", 40))
	fmt.Println(name.Key("NORTH tower") == name.Key("north Tower"))
	// Output:
	// "North tower"
	// has letters that cannot be seen, or that reverse the line; type it again
	// true
}
