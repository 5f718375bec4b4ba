package label_test

import (
	"fmt"

	"ulpa/core/label"
)

// A code is as large as its label lets it be.
func ExampleCodeSide() {
	fmt.Printf("%.0f mm\n", label.CodeSide(60, 25))
	// Output:
	// 22 mm
}
