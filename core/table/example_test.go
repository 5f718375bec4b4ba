package table_test

import (
	"fmt"

	"ulpa/core/table"
)

func ExampleRead() {
	t, err := table.Read("from the logger\nday;min\n2027-03-01;-2,5\n2027-03-02;1,0\n")
	fmt.Println(t.Head, len(t.Rows), t.Line[0], err)
	// Output:
	// [day min] 2 3 <nil>
}
