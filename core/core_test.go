// Package core_test keeps the core to itself.
package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// The core has no clock, no I/O, no SQL and no HTML, and knows nothing of ours above it.
func TestCoreStandsOnItsOwn(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "./...").Output()
	require.NoError(t, err)
	require.Contains(t, string(out), "ulpa/core/batch")
	for _, p := range strings.Fields(string(out)) {
		for _, never := range []string{"ulpa/internal", "ulpa/cmd", "net/http", "html/template", "text/template", "database/sql", "github.com", "os/exec"} {
			require.False(t, strings.HasPrefix(p, never), "core imports %s", p)
		}
	}
}

// No core package asks the clock what time it is.
func TestCoreHasNoClock(t *testing.T) {
	out, err := exec.Command("grep", "-rnE", `time\.(Now|Since|Until|Sleep)\(`, "--include=*.go", "--exclude=*_test.go", ".").Output()
	require.Error(t, err, "grep finds nothing and says so by its exit code")
	require.Empty(t, string(out))
}
