package pages

import (
	"fmt"
	"strings"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/internal/nursery"
)

// storyView is a batch as a band as wide as its plants.
type storyView struct {
	W, H         float64
	Band         string // what was, as a path
	Ahead        string // what is foreseen, dashed
	Now          float64
	Marks        []storyMark
	Weeks        []storyMark
	Next         string
	Says         string
	NextX, NextY float64
}

type storyMark struct {
	X, Y, Line float64 // Line is where the mark's stem begins
	Text       string
	Lost       bool
}

// The drawing's measures.
const (
	storyW    = 720.0
	storyEdge = 10.0
	storyHalf = 42.0 // of the band at its widest
	storyMid  = 74.0
	storyRows = 2
	storyRow  = 15.0
)

func storyOf(b nursery.Batch, r say.Reader) *storyView {
	s := b.Story
	if len(s.Points) == 0 {
		return nil
	}
	most := 1
	for _, p := range s.Points {
		most = max(most, p.Alive)
	}
	last := max(s.Now, s.Ahead, 1)
	if n := len(s.Points); b.Closed {
		last = max(1, s.Points[n-1].Day)
	}
	v := &storyView{W: storyW, H: storyMid + storyHalf + 18 + (storyRows+1)*storyRow + 18}
	x := func(day float64) float64 { return storyEdge + (storyW-2*storyEdge)*min(1, max(0, day/last)) }
	half := func(n int) float64 { return storyHalf * float64(n) / float64(most) }
	var top, bottom []string
	edge := func(day float64, n int) {
		top = append(top, fmt.Sprintf("%.1f %.1f", x(day), storyMid-half(n)))
		bottom = append(bottom, fmt.Sprintf("%.1f %.1f", x(day), storyMid+half(n)))
	}
	for _, p := range s.Points {
		edge(p.Day, p.Alive)
	}
	now, alive := min(s.Now, last), s.Points[len(s.Points)-1].Alive
	edge(now, alive)
	for i, j := 0, len(bottom)-1; i < j; i, j = i+1, j-1 {
		bottom[i], bottom[j] = bottom[j], bottom[i]
	}
	v.Band = "M" + strings.Join(append(top, bottom...), "L") + "Z"
	if !b.Closed {
		v.Now = x(now)
	}
	if s.Ahead > now {
		h := half(alive)
		v.Ahead = fmt.Sprintf("M%.1f %.1fH%.1fM%.1f %.1fH%.1f", x(now), storyMid-h, x(s.Ahead), x(now), storyMid+h, x(s.Ahead))
		v.Next, v.NextX, v.NextY = r.Say(s.Next), x(s.Ahead), storyMid+storyHalf+16+storyRow*storyRows
	}
	v.marks(s, x, half(most), r)
	for week := 1.0; 7*week < last; week++ {
		if last < 120 || int(week)%4 == 0 {
			v.Weeks = append(v.Weeks, storyMark{X: x(7 * week), Text: fmt.Sprintf("%.0f", 7*week)})
		}
	}
	v.Says = r.T("%d to begin with, %d now", s.Points[1].Alive, alive)
	return v
}

// marks names what happened: losses above the band, the rest below, each where there is room.
func (v *storyView) marks(s nursery.Story, x func(float64) float64, half float64, r say.Reader) {
	const wide = 6.6 // of a letter
	above, below := -1.0, [storyRows]float64{-1, -1}
	for _, e := range s.Events {
		text := r.Say(e.Says)
		at, w := x(e.Day), wide*float64(len([]rune(text)))+8
		at = min(at, storyW-w)
		if e.Lost > 0 && e.Kind != batch.Close {
			if at > above {
				v.Marks = append(v.Marks, storyMark{X: at, Y: storyMid - half - 14, Line: storyMid - half - 10, Text: text, Lost: true})
				above = at + w
			}
			continue
		}
		for row := range below {
			if at > below[row] {
				v.Marks = append(v.Marks, storyMark{X: at, Y: storyMid + half + 16 + storyRow*float64(row), Line: storyMid + half + 4, Text: text})
				below[row] = at + w
				break
			}
		}
	}
}
