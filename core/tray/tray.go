// Package tray is the geometry of things with rows and columns: what a cell is
// called, and which cells a person means by "A1-A6, C3".
//
//	cells, err := tray.ParseList("A1-A6, C3", rows, columns)
package tray

import (
	"fmt"
	"strconv"
	"strings"
)

// Cell is a place in a tray or a tower, counted from 0: row A is 0, column 1 is 0.
type Cell struct{ Row, Col int }

// Letter names a row: A to Z, then AA, AB and so on.
func Letter(row int) string {
	if row < 26 {
		return string(rune('A' + row)) // #nosec G115 -- row is below 26
	}
	return Letter(row/26-1) + Letter(row%26)
}

// Name is what a person calls the cell: C7.
func (c Cell) Name() string { return Letter(c.Row) + strconv.Itoa(c.Col+1) }

// Parse reads a cell's name.
func Parse(s string) (Cell, error) {
	s = strings.ToUpper(strings.TrimSpace(s))
	i := 0
	row := 0
	for i < len(s) && i < 3 && s[i] >= 'A' && s[i] <= 'Z' {
		row = row*26 + int(s[i]-'A') + 1
		i++
	}
	col, err := strconv.Atoi(s[i:])
	if i == 0 || err != nil || col < 1 || col > 1000 {
		return Cell{}, fmt.Errorf("%q is not a cell like C7", s)
	}
	return Cell{row - 1, col - 1}, nil
}

// ParseList reads "A1-A6, C3 D1-E4" in a grid of rows by cols: a dash means
// the whole rectangle between two corners. Each cell comes once, in the order said.
func ParseList(s string, rows, cols int) ([]Cell, error) {
	var out []Cell
	seen := make([]bool, rows*cols)
	parts := strings.FieldsFunc(s, func(r rune) bool { return r == ',' || r == ' ' || r == ';' || r == '\n' })
	if len(parts) > rows*cols {
		return nil, fmt.Errorf("names more cells than the %d there are", rows*cols)
	}
	for _, part := range parts {
		a, b, ranged := strings.Cut(part, "-")
		from, err := Parse(a)
		if err != nil {
			return nil, err
		}
		to := from
		if ranged {
			if to, err = Parse(b); err != nil {
				return nil, err
			}
		}
		for r := min(from.Row, to.Row); r <= max(from.Row, to.Row); r++ {
			for c := min(from.Col, to.Col); c <= max(from.Col, to.Col); c++ {
				cell := Cell{r, c}
				if r >= rows || c >= cols {
					return nil, fmt.Errorf("%s is outside: it goes to %s", cell.Name(), Cell{rows - 1, cols - 1}.Name())
				}
				if n := r*cols + c; !seen[n] {
					seen[n] = true
					out = append(out, cell)
				}
			}
		}
	}
	return out, nil
}

// FreeFromBottom chooses up to n cells that are free, the lowest row first and each
// row from its first column: fewer when there is no more room.
func FreeFromBottom(rows, cols, n int, free func(Cell) bool) []Cell {
	var out []Cell
	for row := rows - 1; row >= 0; row-- {
		for col := 0; col < cols && len(out) < n; col++ {
			if c := (Cell{row, col}); free(c) {
				out = append(out, c)
			}
		}
	}
	return out
}
