package table_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/table"
)

// What has more lines or columns than a table is refused before it is taken apart.
func TestATableIsBounded(t *testing.T) {
	for name, text := range map[string]string{
		"columns": strings.Repeat(",", 4<<20), "lines": strings.Repeat("a,b\n", 1<<20), "tabs": strings.Repeat("a\tb\n", 3) + strings.Repeat("\t", 1<<20),
	} {
		_, err := table.Read(text)
		require.ErrorContains(t, err, "lines or", name)
	}
}
