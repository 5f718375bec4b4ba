package pages

import (
	"fmt"
	"strings"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/work/batches"
)

// storyView is a batch as a band as wide as its plants.
type storyView struct {
	W, H         float64
	Band         string // what was, as a path
	Ahead        string // what is foreseen, dashed
	Now, NowText float64
	Marks        []storyMark
	Weeks        []storyMark
	Next         string
	Says         string
	NextX, NextY float64
	Warm         []warmMark
	Shots        []shotView
	Cameras      []float64
}

// warmMark is a stretch of time in a place, and how warm it usually is there.
type warmMark struct {
	X, W, Y float64
	Text    string
	Level   int // 1 cold to 4 hot
}

// shotView is a picture in the strip.
type shotView struct{ Path, Day, Note string }

// storyMark is something that happened, on the drawing of a batch.
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
	storyWarm = 22.0 // of the strip that tells how warm it was
)

func storyOf(b batches.Batch, r say.Reader) *storyView {
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
	v := &storyView{W: storyW, H: storyMid + storyHalf + 18 + (storyRows+1)*storyRow + 18 + storyWarm}
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
		v.NowText = min(v.Now, storyW-18)
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
	v.warmth(s, x, last, r)
	for _, shot := range s.Shots {
		v.Cameras = append(v.Cameras, x(shot.Day))
		v.Shots = append(v.Shots, shotView{"/pictures/" + shot.Picture.Picture.String(), r.T("Day %.0f, %s", shot.Day, shot.On.Short()), shot.Note})
	}
	v.Says = r.T("%d at the start, %d now", s.Points[1].Alive, alive)
	if waiting := b.State.Waiting(); waiting > 0 && !b.Closed {
		v.Says = r.T("%s at the start; %s now, and %d not up yet", say.Plural(s.Points[1].Alive, "cell"), say.Plural(alive-waiting, "plant"), waiting)
		if b.State.Start != "" {
			v.Says = r.T("%d at the start; %s now, and %d still to root", s.Points[1].Alive, say.Plural(alive-waiting, "plant"), waiting)
		}
	}
	return v
}

// marks names what happened: losses above the band, the rest below, each where there is room.
func (v *storyView) marks(s batches.Story, x func(float64) float64, half float64, r say.Reader) {
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

// warmth is a strip of the places it stood in, from one move to the next, by how warm they are.
func (v *storyView) warmth(s batches.Story, x func(float64) float64, last float64, r say.Reader) {
	end := min(s.Now, last)
	for i, w := range s.Warm {
		until := end
		if i+1 < len(s.Warm) {
			until = s.Warm[i+1].Day
		}
		m := warmMark{X: x(w.Day), W: x(until) - x(w.Day), Y: v.H - storyWarm - 16, Level: 1}
		for _, limit := range []float64{10, 17, 23} {
			if w.TempC >= limit {
				m.Level++
			}
		}
		name := r.T("%s, %s", say.Of(w.TempC, unit.Celsius), say.Name(w.Place))
		short := r.Format(w.TempC, unit.Celsius)
		switch {
		case m.W > 6.6*float64(len([]rune(name)))+8:
			m.Text = name
		case m.W > 6.6*float64(len([]rune(short)))+6:
			m.Text = short
		}
		if m.W > 0.5 {
			v.Warm = append(v.Warm, m)
		}
	}
}
