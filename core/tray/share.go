package tray

import (
	"cmp"
	"slices"
)

// Share divides cells among so many people: each has whole rows where there are rows enough,
// else cells that lie side by side; nobody has over one row, or one cell, more than another.
func Share(cells []Cell, people int) [][]Cell {
	if people < 1 {
		return nil
	}
	var rows [][]Cell
	for _, c := range inOrder(cells) {
		if n := len(rows); n == 0 || rows[n-1][0].Row != c.Row {
			rows = append(rows, nil)
		}
		rows[len(rows)-1] = append(rows[len(rows)-1], c)
	}
	parts := rows
	if len(rows) < people {
		parts = nil
		for _, row := range rows {
			for _, c := range row {
				parts = append(parts, []Cell{c})
			}
		}
	}
	out := make([][]Cell, people)
	for i := range out {
		for _, part := range parts[i*len(parts)/people : (i+1)*len(parts)/people] {
			out[i] = append(out[i], part...)
		}
	}
	return out
}

func inOrder(cells []Cell) []Cell {
	out := slices.Clone(cells)
	slices.SortFunc(out, func(a, b Cell) int { return cmp.Or(a.Row-b.Row, a.Col-b.Col) })
	return out
}
