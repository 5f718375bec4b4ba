// Package say is how the core puts numbers and things into words.
//
//	say.Plural(3, "tray") // "3 trays"
package say

import "fmt"

// Plural is a number with the thing it counts, in one or in many: "1 day", "3 days".
func Plural(n int, one string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %ss", n, one)
}
