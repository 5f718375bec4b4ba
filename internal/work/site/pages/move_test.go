package pages

import (
	"fmt"
	"math"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/doors/face"
)

// A move's plants, from one cell to all of them: every cell is one of a tray or a place,
// and however the lists are written there are no more than cells.
func FuzzMove(f *testing.F) {
	f.Add("from_cell_x=A1-BH60&lost=A1&from_port_y=A1;B2&from_stand_z=4&ramp=1e3&to=" + uuid.NewString())
	f.Add("from_cell_=A1&from__=A1&from_stand_=-1&from_port_a=A1-&lost=A0")
	f.Fuzz(func(t *testing.T, body string) {
		sent, _ := url.ParseQuery(body)
		v := face.FormOf(sent, say.Reader{})
		r := readMove(v, uuid.New(), time.Time{})
		require.LessOrEqual(t, len(r.From), 2*60*60)
		for _, s := range append(r.From, r.Lost...) {
			require.True(t, s.Row >= 0 && s.Row < 60 && s.Col >= 0 && s.Col < 60 && s.N >= 0 && s.N <= math.MaxInt32)
		}
		if v.Error("to") == "" && v.Error("id") == "" {
			_, err := url.Parse("/places/" + r.To.String())
			require.NoError(t, err)
		}
	})
}

// The lost of a move are typed as cells alone: the tray they were chosen in lost them,
// and nothing is taken from a tray by guess.
func TestTheTrayThatACellWasChosenInLosesIt(t *testing.T) {
	for body, want := range map[string]struct{ from, lost, says string }{
		"from_cell_x=A1-A3&lost=A2":                    {from: "x A1, x A3", lost: "x A2"},
		"from_cell_x=A1-A2&lost=B1":                    {from: "x A1, x A2", lost: "x B1"},
		"from_cell_x=A1&from_cell_y=B1-B2&lost=B2":     {from: "x A1, y B1", lost: "y B2"},
		"from_cell_x=A1&from_cell_y=B1&lost=C1":        {says: "C1 is not among the chosen plants"},
		"from_cell_x=A1&from_cell_y=A1&lost=A1":        {says: "A1 is chosen in several trays"},
		"from_port_p=A1&lost=A1":                       {says: "A1 is not among the chosen plants"},
		"from_cell_x=A1&from_port_p=B1-B2&lost=A1":     {from: "p B1, p B2", lost: "x A1"},
		"from_cell_x=A1,A1+A2-A1&lost=A1+A1&from_=A1":  {from: "x A2", lost: "x A1"},
		"from_cell_x=A1&from_stand_z=4&from_stand_y=0": {from: "x A1, 4 from z"},
	} {
		sent, err := url.ParseQuery(body + "&to=" + uuid.NewString() + "&id=" + uuid.NewString())
		require.NoError(t, err)
		f := face.FormOf(sent, say.Reader{})
		r := readMove(f, uuid.New(), time.Time{})
		told := func(list []batch.Spot) string {
			var out []string
			for _, s := range list {
				if s.Kind == batch.InStand {
					out = append(out, fmt.Sprintf("%d from %s", s.N, s.In))
				} else {
					out = append(out, s.In+" "+tray.Cell{Row: s.Row, Col: s.Col}.Name())
				}
			}
			return strings.Join(out, ", ")
		}
		if want.says != "" {
			require.Contains(t, f.Error("lost"), want.says, body)
			continue
		}
		require.Empty(t, f.Errors, body)
		require.Equal(t, want.from, told(r.From), body)
		require.Equal(t, want.lost, told(r.Lost), body)
	}
}
