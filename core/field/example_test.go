package field_test

import (
	"fmt"

	"ulpa/core/field"
)

func Example() {
	var e field.Errors
	e.Require(false, "ph", "takes 0 to 14")
	e.Require(true, "level", "takes litres")
	fmt.Println(e.Err())
	// Output:
	// ph: takes 0 to 14
}
