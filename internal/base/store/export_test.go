package store

import "slices"

// Tells tells whether writes to a table tell what they changed.
func Tells(table string) bool { return slices.Contains(told, table) }

// IsUntold tells whether a table is known not to.
func IsUntold(table string) bool {
	return slices.Contains(untold, table) || slices.Contains(readings, table)
}
