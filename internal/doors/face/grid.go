package face

import (
	"fmt"
	"html"
	"html/template"
	"strconv"

	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/tray"
)

// GridView is a tray or a tower drawn as its cells. The cells a person chooses
// go into plain inputs of the same form, so that the drawing is a help and
// never the only way.
type GridView struct {
	ID, Label, Mode string // mode: "mark", "pick" or "show"
	Input           string // pick: the input that holds the chosen cells
	W, H, EdgeW     int
	CellW           int // how wide a cell is drawn
	pitch           int // from one column to the next
	Rows            []gridRow
	Columns         []axisLabel
	Sections        []SectionLabel
	Tower           bool
}

// gridRow is a row of a drawing of cells.
type gridRow struct {
	Label string
	Y     int
	Cells []gridCell
}

// gridCell is a cell that can be walked to.
type gridCell struct {
	Name, State, Says string
	X, Y              int
	Row, Col          int
	Tally             string // written in it
	Open              bool   // can be chosen or marked
	Picked            bool
	Code              string
	Tint              int // one of six, by batch
}

// Attributes are those of the cell's group, written in one go: a tray has a hundred.
func (c gridCell) Attributes() template.HTMLAttr {
	b := make([]byte, 0, 240)
	text := func(parts ...string) {
		for _, p := range parts {
			b = append(b, p...)
		}
	}
	number := func(n int) { b = strconv.AppendInt(b, int64(n), 10) }
	text(`class="cell tint-`)
	number(c.Tint)
	text(`" transform="translate(`)
	number(c.X)
	text(" ")
	number(c.Y)
	text(`)" data-cell="`, c.Name, `" data-state="`, c.State, `" data-was="`, c.State, `" data-row="`)
	number(c.Row)
	text(`" data-col="`)
	number(c.Col)
	if text(`"`); c.Open {
		text(" data-open")
	}
	if c.Code != "" {
		text(` data-code="`, html.EscapeString(c.Code), `"`)
	}
	text(` aria-selected="`, strconv.FormatBool(c.Picked), `" aria-label="`, html.EscapeString(c.Says), `"`)
	return template.HTMLAttr(b) // #nosec G203 -- what people wrote is escaped above
}

// axisLabel names a column below a drawing.
type axisLabel struct {
	X    int
	Text string
}

// SectionLabel is a batch in the list beside a grid, with its colour there.
type SectionLabel struct {
	Code, Crop, Path string
	Tint             int
	Says             string
}

const (
	gridPitch = 48 // from one row to the next, and from one column to the next where cells are square
	cellGap   = 6
	wideGrid  = 12 // columns of square cells that a drawing of open sections is as wide as
	gridLeft  = 30
	gridTop   = 8
)

// NewGrid is a grid whose cells are all free.
func NewGrid(p say.Reader, id, label, mode string, rows, cols int) GridView {
	return newGrid(p, id, label, mode, rows, cols, gridPitch)
}

// NewOpenGrid is one of open sections: as wide as a tray, whatever their number.
func NewOpenGrid(p say.Reader, id, label, mode string, rows, cols int) GridView {
	return newGrid(p, id, label, mode, rows, cols, max(gridPitch, wideGrid*gridPitch/cols))
}

func newGrid(p say.Reader, id, label, mode string, rows, cols, pitch int) GridView {
	free := p.T("free")
	g := GridView{
		ID: id, Label: label, Mode: mode, W: gridLeft + cols*pitch + 8, EdgeW: cols*pitch + 8, H: gridTop + rows*gridPitch + 24,
		CellW: pitch - cellGap, pitch: pitch,
	}
	for c := range cols {
		g.Columns = append(g.Columns, axisLabel{gridLeft + c*pitch + pitch/2, fmt.Sprint(c + 1)})
	}
	for r := range rows {
		row := gridRow{Label: tray.Letter(r), Y: gridTop + r*gridPitch + gridPitch/2 + 5}
		for c := range cols {
			cell := tray.Cell{Row: r, Col: c}
			row.Cells = append(
				row.Cells,
				gridCell{
					Name:  cell.Name(),
					State: "free",
					Says:  cell.Name() + ", " + free,
					X:     gridLeft + c*pitch + 3,
					Y:     gridTop + r*gridPitch + 3,
					Row:   r,
					Col:   c,
					Open:  mode == "pick",
				},
			)
		}
		g.Rows = append(g.Rows, row)
	}
	return g
}

// Part draws the columns in parts of so many, in another order and a little apart: boards of
// a raft as they float. Each cell keeps its name.
func (g *GridView) Part(order []int, wide int) {
	const gap = 14
	shift := make([]int, len(g.Columns))
	for at, part := range order {
		for i := range wide {
			from, to := (part-1)*wide+i, at*wide+i
			shift[from] = (to-from)*g.pitch + at*gap
		}
	}
	for i := range g.Columns {
		g.Columns[i].X += shift[i]
	}
	for _, row := range g.Rows {
		for i := range row.Cells {
			row.Cells[i].X += shift[i]
		}
	}
	g.W, g.EdgeW = g.W+gap*(len(order)-1), g.EdgeW+gap*(len(order)-1)
}

// At is the cell of a row and a column, to be filled in.
func (g *GridView) At(row, col int) *gridCell { return &g.Rows[row].Cells[col] }

// tints numbers the batches of a drawing in the order they come.
type tints struct {
	of map[uuid.UUID]int
	g  *GridView
	p  say.Reader
}

// TintsOf starts telling the batches of a grid apart by colour.
func TintsOf(p say.Reader, g *GridView) tints { return tints{map[uuid.UUID]int{}, g, p} }

// Tint is the colour of a batch, the same each time it is asked for.
func (t tints) Tint(id uuid.UUID, code, cropID string) int {
	n, ok := t.of[id]
	if !ok {
		n = len(t.of) % 6
		t.of[id] = n
		t.g.Sections = append(t.g.Sections, SectionLabel{Code: code, Crop: t.p.Say(CropName(cropID)), Path: "/batches/" + id.String(), Tint: n})
	}
	return n
}

// CropName is what people call a crop.
func CropName(id string) say.Words {
	c, ok := crop.Of(id)
	if !ok {
		return say.Words(id)
	}
	return c.Name
}

// Pick marks the cells of a list as chosen.
func (g *GridView) Pick(list string) {
	if len(g.Rows) == 0 {
		return
	}
	cells, _ := tray.ParseList(list, len(g.Rows), len(g.Rows[0].Cells))
	for _, c := range cells {
		if x := g.At(c.Row, c.Col); x.Open {
			x.Picked = true
		}
	}
}
