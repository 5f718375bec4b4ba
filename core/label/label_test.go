package label_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/label"
)

// Every label of every sheet that is allowed lies on its page, and on no other label.
func TestLabelsLieApartOnTheirPage(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		mm := func(name string, high float64) float64 { return rapid.Float64Range(0, high).Draw(t, name) }
		s := label.Sheet{
			PageW: 10 + mm("pw", 300), PageH: 10 + mm("ph", 400), W: 8 + mm("w", 120), H: 8 + mm("h", 60), Left: mm("left", 20), Top: mm("top", 20),
			GapX: mm("gx", 8), GapY: mm("gy", 8), Columns: rapid.IntRange(1, 5).Draw(t, "cols"), Rows: rapid.IntRange(1, 13).Draw(t, "rows"),
		}
		if s.Check() != nil {
			return
		}
		first := rapid.IntRange(1, s.On()).Draw(t, "first")
		type at struct {
			page int
			x, y float64
		}
		var there []at
		for n := range s.On() + 3 {
			page, x, y := s.Place(n, first)
			require.True(t, x >= 0 && y >= 0 && x+s.W <= s.PageW+0.61 && y+s.H <= s.PageH+0.61)
			for _, o := range there {
				apart := o.page != page || x >= o.x+s.W-1e-9 || o.x >= x+s.W-1e-9 || y >= o.y+s.H-1e-9 || o.y >= y+s.H-1e-9
				require.True(t, apart, "%v and %v", o, at{page, x, y})
			}
			there = append(there, at{page, x, y})
		}
		require.Equal(t, (s.On()+2+first-1)/s.On(), there[len(there)-1].page)
	})
}

// Whatever the names are: every word is printed, inside its field, and no line lies on another.
func TestTextIsNeitherCutNorOverlaid(t *testing.T) {
	measure := func(says string, big bool, size float64) float64 {
		wide := 0.55
		if big {
			wide = 0.62
		}
		return wide * size * label.PointMM * float64(len([]rune(says)))
	}
	word := rapid.StringMatching(`[A-Za-zñüß-]{1,24}`)
	rapid.Check(t, func(t *rapid.T) {
		var texts []label.Text
		for i := range rapid.IntRange(1, 5).Draw(t, "n") {
			texts = append(texts, label.Text{Says: strings.Join(rapid.SliceOfN(word, 1, 6).Draw(t, "words"), " "), Big: i == 0})
		}
		w, h := rapid.Float64Range(8, 120).Draw(t, "w"), rapid.Float64Range(6, 60).Draw(t, "h")
		lines := label.Fit(texts, w, h, measure)
		said, want := []string{}, []string{}
		for _, x := range texts {
			want = append(want, strings.Fields(x.Says)...)
		}
		foot := 0.0
		for _, l := range lines {
			said = append(said, strings.Fields(l.Says)...)
			require.LessOrEqual(t, measure(l.Says, l.Big, l.Size), w+1e-9)
			top := l.Y - 0.78*l.Size*label.PointMM
			require.GreaterOrEqual(t, top, foot-1e-9, "it begins below the line before")
			foot = l.Y + 0.22*l.Size*label.PointMM
			require.LessOrEqual(t, foot, h+1e-9)
		}
		require.Equal(t, want, said)
	})
}
