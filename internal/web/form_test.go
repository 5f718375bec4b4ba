package web

import (
	"fmt"
	"math"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/tray"
	"ulpa/core/unit"
)

// posted is a body as a form reads it.
func posted(body string) form {
	c := &gin.Context{Request: httptest.NewRequest(http.MethodPost, "/", strings.NewReader(body))}
	c.Request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	return readForm(c, unit.Prefs{})
}

// Whatever is posted: a figure is a figure or refused beside its field, and what
// was typed stands there still, fit for a page and for the database.
func FuzzForm(f *testing.F) {
	f.Add("ph=6.4&units=us/ppm500&level=1,5&id=" + uuid.NewString())
	f.Add("ph=1e309&level=0x1p-2&n=99999999999&t=%00%ff&units=/")
	f.Add("a=NaN&a=2&%=;&b=-9223372036854775808")
	f.Fuzz(func(t *testing.T, body string) {
		all := posted(body)
		for name, typed := range all.values {
			for _, s := range typed {
				require.True(t, utf8.ValidString(s) && !strings.Contains(s, "\x00"), "%q", s)
			}
			for _, u := range []string{"", unit.MS, unit.Celsius, unit.Litre, unit.Gram} {
				g := form{values: all.values, errors: map[string]string{}, prefs: all.prefs}
				v := g.Number(name, u)
				require.Equal(t, v == nil, g.Text(name) == "" || g.Error(name) != "", "%q", typed)
				require.False(t, v != nil && (math.IsNaN(*v) || math.IsInf(*v, 0)), "%q in %s", typed, u)
			}
			g := form{values: all.values, errors: map[string]string{}}
			if n := g.Int(name, 7); g.Error(name) == "" && g.Text(name) != "" {
				require.True(t, n >= math.MinInt32 && n <= math.MaxInt32, "%q", typed)
			}
		}
	})
}

// A visit's marks and a move's plants, from one cell to all of them: every cell is
// one of a tray or a place, none is marked as what it was seen to be, and however
// the lists are written there are no more than cells.
func FuzzCells(f *testing.F) {
	f.Add("seen=A1:sown+A2:sprouted&sprouted=A1-A2&lost=A1&cause=eaten")
	f.Add("sprouted=A1-AN40&thinned=AN40-A1&empty=a1&lost=ZZ1000&sown=A1+A1")
	f.Add("from_cell_x=A1-BH60&lost=A1&from_port_y=A1;B2&from_stand_z=4&ramp=1e3&to=" + uuid.NewString())
	f.Add("from_cell_=A1&from__=A1&from_stand_=-1&from_port_a=A1-&lost=A0&sprouted=" + strings.Repeat("A1-AN40,", 2000))
	f.Fuzz(func(t *testing.T, body string) {
		v := posted(body)
		marks := readMarks(v)
		require.LessOrEqual(t, len(marks), len(marked)*40*40)
		was := map[batch.Mark]bool{}
		for _, m := range marks {
			require.True(t, m.Row >= 0 && m.Row < 40 && m.Col >= 0 && m.Col < 40)
			require.True(t, m.Was != m.State || m.State == batch.Lost)
			require.False(t, was[m], "%v comes twice", m)
			was[m] = true
		}
		v = posted(body)
		r := readMove(v, uuid.New())
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
		f := posted(body + "&to=" + uuid.NewString() + "&id=" + uuid.NewString())
		r := readMove(f, uuid.New())
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
		require.Empty(t, f.errors, body)
		require.Equal(t, want.from, told(r.From), body)
		require.Equal(t, want.lost, told(r.Lost), body)
	}
}
