package tray_test

import (
	"fmt"

	"ulpa/core/tray"
)

func Example() {
	cells, err := tray.ParseList("A1-A3, B2", 4, 6)
	if err != nil {
		panic(err)
	}
	for _, c := range cells {
		fmt.Print(c.Name(), " ")
	}
	fmt.Println()
	// Output:
	// A1 A2 A3 B2
}
