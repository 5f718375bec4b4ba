package pages

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/trays"
)

// A visit's marks, from one cell to all of them: every cell is one of a tray, none is
// marked as what it was seen to be, and however the lists are written there are no more
// than cells.
func FuzzMarks(f *testing.F) {
	f.Add("seen=A1:sown+A2:sprouted&sprouted=A1-A2&lost=A1&cause=eaten")
	f.Add("sprouted=A1-AN40&thinned=AN40-A1&empty=a1&lost=ZZ1000&sown=A1+A1")
	f.Add("lost=A0&sprouted=" + strings.Repeat("A1-AN40,", 2000))
	var large trays.Tray
	large.Rows, large.Columns = 40, 40
	f.Fuzz(func(t *testing.T, body string) {
		sent, _ := url.ParseQuery(body)
		marks := readMarks(face.FormOf(sent, say.Reader{}), large)
		require.LessOrEqual(t, len(marks), len(marked)*40*40)
		was := map[batch.Mark]bool{}
		for _, m := range marks {
			require.True(t, m.Row >= 0 && m.Row < 40 && m.Col >= 0 && m.Col < 40)
			require.True(t, m.Was != m.State || m.State == batch.Lost)
			require.False(t, was[m], "%v comes twice", m)
			was[m] = true
		}
	})
}
