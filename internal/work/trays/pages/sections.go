package pages

import (
	"slices"
	"strings"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/trays"
)

// sectionView is a section of an open tray: how many grow in it is typed, not tapped.
type sectionView struct {
	Cell, Code, Crop string
	Says             string // as it was counted last
	Plants           int
	Over             bool   // no more will come up, as it was counted last
	Ticked           bool   // and as the form has it
	Count, Ends      string // the names of its inputs
}

// The inputs of a section are named by its cell.
const (
	countOf = "n_"
	endOf   = "over_"
)

// sectionsOf are the sections in which something grows or may come up.
func sectionsOf(t trays.Tray, f *face.Form, r say.Reader) (out []sectionView) {
	for _, c := range t.Cells {
		if !c.Open {
			continue
		}
		at := tray.Cell{Row: c.Row, Col: c.Col}.Name()
		x := sectionView{
			Cell: at, Code: c.Code, Crop: r.Say(face.CropName(c.Crop)), Plants: c.Plants, Over: c.Over, Count: countOf + at, Ends: endOf + at,
			Says: r.T("%d growing", c.Plants), Ticked: c.Over,
		}
		if f.Get("seen") != "" { // as it was sent
			x.Ticked = f.Get(x.Ends) != ""
		}
		out = append(out, x)
	}
	return out
}

// readSections are the marks of the sections that were counted; where nothing was typed, nothing was.
func readSections(f *face.Form, t trays.Tray) (marks []batch.Mark) {
	ended := strings.Fields(f.Get("ended"))
	for _, c := range t.Cells {
		at := tray.Cell{Row: c.Row, Col: c.Col}.Name()
		over, shown := f.Get(endOf+at) != "", slices.Contains(ended, at)
		if !c.Open || f.Text(countOf+at) == "" && over == shown {
			continue
		}
		n := f.Int(countOf+at, c.Plants)
		if n < 0 || n > batch.MostInSection {
			f.Wrong(countOf+at, "must be 0 to %d plants", batch.MostInSection)
		}
		marks = append(marks, batch.Mark{Row: c.Row, Col: c.Col, State: batch.Sprouted, N: n, Over: over, Cause: batch.CauseOf(f.Get("cause"))})
	}
	return marks
}

// readHandfuls are the plants to be taken from sections.
func readHandfuls(f *face.Form, t trays.Tray) (out []trays.Handful) {
	for _, c := range t.Cells {
		at := tray.Cell{Row: c.Row, Col: c.Col}
		if name := countOf + at.Name(); c.Open && f.Text(name) != "" {
			n := f.Int(name, 0)
			if n < 0 || n > c.Plants {
				f.Wrong(name, "only %d are there", c.Plants)
			}
			if n > 0 {
				out = append(out, trays.Handful{At: at, Plants: n})
			}
		}
	}
	return out
}
