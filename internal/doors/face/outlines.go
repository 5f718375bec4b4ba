package face

import (
	"fmt"
	"strings"
)

// outline is the line around all cells of a batch in a drawing, and its code in the first of them.
type outline struct {
	Code, Path string
	Tint       int
	X, Y, W    int // of the code's tag
	Squeeze    bool
}

// How the lines around batches stand in the drawing: inside their cells, so that two batches
// side by side have a line each.
const (
	lineInset  = 2
	cellInset  = 3
	letterWide = 8 // of a code in its tag
	tagLeast   = gridPitch - 2*lineInset
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
				if o.W > tagLeast && !g.same(r, c, 0, 1) {
					o.W, o.Squeeze = tagLeast, true
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
	cell := g.Rows[r].Cells[c]
	left, top := cell.X-cellInset, cell.Y-cellInset
	for _, side := range []int{-1, 1} { // above and below
		ends := func(c int) bool { return !g.same(r, c, side, 0) }
		if !ends(c) || g.same(r, c, 0, -1) && ends(c-1) {
			continue
		}
		last := c
		for g.same(r, last, 0, 1) && ends(last+1) {
			last++
		}
		y := top + lineInset
		if side > 0 {
			y = top + gridPitch - lineInset
		}
		fmt.Fprintf(to, "M%d %dH%d", left+lineInset, y, left+(last-c+1)*gridPitch-lineInset)
	}
	for _, side := range []int{-1, 1} { // left and right
		ends := func(r int) bool { return !g.same(r, c, 0, side) }
		if !ends(r) || g.same(r, c, -1, 0) && ends(r-1) {
			continue
		}
		last := r
		for g.same(last, c, 1, 0) && ends(last+1) {
			last++
		}
		x := left + lineInset
		if side > 0 {
			x = left + gridPitch - lineInset
		}
		fmt.Fprintf(to, "M%d %dV%d", x, top+lineInset, top+(last-r+1)*gridPitch-lineInset)
	}
}

// same tells whether the cell beside another one, by so many rows and columns, is of the same batch
// and drawn beside it.
func (g GridView) same(r, c, down, right int) bool {
	if r+down < 0 || r+down >= len(g.Rows) || c+right < 0 || c+right >= len(g.Rows[r].Cells) {
		return false
	}
	a, b := g.Rows[r].Cells[c], g.Rows[r+down].Cells[c+right]
	return a.Code == b.Code && b.X-a.X == right*gridPitch
}
