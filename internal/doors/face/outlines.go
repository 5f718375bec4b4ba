package face

import (
	"fmt"
	"strings"

	"ulpa/core/tray"
)

// outline is the line around all cells of a batch in a drawing, and its code in the first of them.
type outline struct {
	Code, Path string
	Tint       int
	X, Y, W    int // of the code's tag
	TextW      int // to which a long code is narrowed; 0: it has room
}

// How the lines around batches stand in the drawing: inside their cells, so that two batches
// side by side have a line each.
const (
	lineInset  = 2
	cellInset  = 3
	letterWide = 8 // of a code in its tag
	tagPadding = 6
	tagTop     = -5 // so that it hides little of the cell
)

// Outlines are drawn once around each batch: codes and lines tell batches apart where colours
// do not, on paper and for eyes that see fewer of them.
func (g GridView) Outlines() (out []outline) {
	at := map[string]int{}
	lines := []*strings.Builder{}
	for r := range g.Rows {
		for c := range g.Rows[r].Cells {
			cell := g.Rows[r].Cells[c]
			if cell.Code == "" {
				continue
			}
			i, known := at[cell.Code]
			if !known {
				i = len(out)
				at[cell.Code] = i
				o := outline{Code: cell.Code, Tint: cell.Tint, X: cell.X - cellInset + lineInset, Y: cell.Y - cellInset + tagTop, W: letterWide*len(cell.Code) + tagPadding}
				if o.W > g.pitch-2*lineInset && !g.same(r, c, 0, 1) {
					o.W = g.pitch - 2*lineInset
					o.TextW = o.W - tagPadding
				}
				out, lines = append(out, o), append(lines, &strings.Builder{})
			}
			g.edges(lines[i], r, c)
		}
	}
	for i := range out {
		out[i].Path = lines[i].String()
	}
	return out
}

// edges draws the sides of a cell at which its batch ends, each run of them from where it begins.
func (g GridView) edges(to *strings.Builder, r, c int) {
	x, y := g.Rows[r].Cells[c].X-cellInset, g.Rows[r].Cells[c].Y-cellInset
	for _, side := range []tray.Cell{{Row: -1}, {Row: 1}, {Col: -1}, {Col: 1}} {
		along := tray.Cell{Row: side.Col * side.Col, Col: side.Row * side.Row}
		ends := func(n int) bool { return !g.same(r+n*along.Row, c+n*along.Col, side.Row, side.Col) }
		if !ends(0) || g.same(r, c, -along.Row, -along.Col) && ends(-1) {
			continue
		}
		n := 1
		for g.same(r+(n-1)*along.Row, c+(n-1)*along.Col, along.Row, along.Col) && ends(n) {
			n++
		}
		fmt.Fprintf(to, "M%d %d", x+near(side.Col, g.pitch), y+near(side.Row, gridPitch))
		if side.Col == 0 {
			fmt.Fprintf(to, "H%d", x+n*g.pitch-lineInset)
		} else {
			fmt.Fprintf(to, "V%d", y+n*gridPitch-lineInset)
		}
	}
}

// near is how far a line on that side of a cell stands from where the cell begins; the cell is so wide or high.
func near(side, pitch int) int {
	if side > 0 {
		return pitch - lineInset
	}
	return lineInset
}

// same tells whether the cell beside another one, by so many rows and columns, is of the same batch
// and drawn beside it.
func (g GridView) same(r, c, down, right int) bool {
	if r+down < 0 || r+down >= len(g.Rows) || c+right < 0 || c+right >= len(g.Rows[r].Cells) {
		return false
	}
	a, b := g.Rows[r].Cells[c], g.Rows[r+down].Cells[c+right]
	return a.Code == b.Code && b.X-a.X == right*g.pitch
}
