package raft_test

import (
	"fmt"

	"ulpa/core/raft"
)

// Boards are harvested at one end and planted at the other.
func ExampleRaft_Along() {
	r := raft.Raft{Rows: 4, Columns: 12, Boards: 4}
	fmt.Println(r.Order(), "then", r.Along())
	// Output:
	// [1 2 3 4] then [4 1 2 3]
}
