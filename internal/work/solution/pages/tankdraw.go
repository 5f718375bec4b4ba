package pages

import (
	"time"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/vessel"
	"ulpa/internal/base/ledger"
)

// The tank is drawn from tankTop, when it is full, down to tankFloor.
const tankTop, tankFloor = 10.0, 210.0

// tankDrawing is a tank cut open: heights are of the drawing, downwards. The words at
// its lines stand where they cross neither a line nor each other.
type tankDrawing struct {
	Known            bool
	Level, Fill, Dry string // Fill is the upper line with its word
	LevelY, LevelH   float64
	Read             string // the level as it was last read, where less is in it by now
	ReadY            float64
	FillY, DryY      float64
	LevelAt          float64 // the baselines of the words
	FillAt, DryAt    float64
}

// drawTank draws a tank with its fill line; a jar has none, but a line to pour to, or
// one that it is never to pass.
func drawTank(t ledger.Tank, jar *vessel.JarAnswer, now time.Time, p say.Reader) tankDrawing {
	y := func(l float64) float64 { return tankFloor - (tankFloor-tankTop)*min(1, l/t.Spec.CapacityL) }
	fill, word := t.Spec.FillToL, say.Words("fill to %s")
	if jar != nil {
		if fill, word = jar.AllowedL, "up to %s"; jar.PourL > 0 {
			fill, word = jar.Litres+jar.PourL, "pour to %s"
		}
	}
	d := tankDrawing{Fill: p.T(word, say.Of(fill, unit.Litre)), Dry: p.Format(t.Spec.DryBelowL, unit.Litre), FillY: y(fill), DryY: y(t.Spec.DryBelowL)}
	if read := t.State.LevelL; read != nil {
		level := t.State.LevelOn(t.Spec, now)
		d.Known, d.Level, d.LevelY = true, p.Format(level, unit.Litre), y(level)
		d.LevelH = tankFloor - d.LevelY
		if *read-level > markedFrom*t.Spec.CapacityL {
			d.Level = p.T("about %s", say.Of(level, unit.Litre))
			d.Read, d.ReadY = p.T("%s when last known", say.Of(*read, unit.Litre)), y(*read)
		}
	}
	d.place()
	return d
}

// markedFrom is how much less must be in it than was read, of what it holds, to mark both.
const markedFrom = 0.02

// What the words take up over and under their baselines.
const (
	smallOver, smallUnder = 12.0, 4.0
	levelOver, levelUnder = 22.0, 4.0
)

// place chooses the baselines: the marks at their own lines, then the level in the
// water, or over it, or wherever there is room.
func (d *tankDrawing) place() {
	d.FillAt, d.DryAt = d.FillY-5, d.DryY+16
	if d.FillAt-smallOver < 2 {
		d.FillAt = d.FillY + 16
	}
	if d.DryAt+smallUnder > tankFloor || d.DryAt-smallOver < d.FillAt+smallUnder && d.FillAt > d.FillY {
		d.DryAt = d.DryY - 5
	}
	if d.FillAt < d.FillY {
		d.FillAt = min(d.FillAt, d.DryAt-smallOver-smallUnder-1)
	}
	taken := [][2]float64{
		{d.FillAt - smallOver, d.FillAt + smallUnder},
		{d.DryAt - smallOver, d.DryAt + smallUnder},
		{d.FillY - 1, d.FillY + 1},
		{d.DryY - 1, d.DryY + 1},
		{d.LevelY - 2, d.LevelY + 2},
	}
	d.LevelAt = d.LevelY + 30
	for _, at := range []float64{
		d.LevelY + 30, d.LevelY - 8, max(d.DryY, d.DryAt+smallUnder) + levelOver + 3, min(d.DryY, d.DryAt-smallOver) - levelUnder - 3, max(d.FillY,
			d.FillAt+smallUnder) + levelOver + 3,
		min(d.FillY, d.FillAt-smallOver, d.LevelY) - levelUnder - 5, max(d.DryY, d.DryAt+smallUnder, d.LevelY) + levelOver + 5,
	} {
		free := at-levelOver > 2 && at+levelUnder < tankFloor
		for _, x := range taken {
			free = free && (at-levelOver > x[1] || at+levelUnder < x[0])
		}
		if free {
			d.LevelAt = at
			return
		}
	}
}
