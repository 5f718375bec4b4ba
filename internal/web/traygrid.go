package web

import (
	"fmt"

	"ulpa/core/batch"
	"ulpa/internal/nursery"
)

// trayGrid draws a tray with what is in its cells.
func trayGrid(t nursery.Tray, id, mode string) gridView {
	g := newGrid(id, t.Row.Name, mode, t.Row.Rows, t.Row.Columns)
	tint := tintsOf(&g)
	for _, c := range t.Cells {
		x := g.at(c.Row, c.Col)
		x.State, x.Code, x.Tint = c.State, c.Code, tint.tint(c.BatchID, c.Code, c.Crop)
		x.Open = mode == "mark"
		x.Says = fmt.Sprintf("%s, %s, %s", x.Name, c.Code, stateWords(c.State, c.Cause))
	}
	return g
}

func stateWords(state, cause string) string {
	switch batch.CellState(state) {
	case batch.Sown:
		return "nothing up yet"
	case batch.Thinned:
		return "thinned to one"
	case batch.Empty:
		return "empty, nothing came"
	case batch.Lost:
		return "lost, " + cause
	}
	return state
}

// pickGrid draws a tray for choosing free cells.
func pickGrid(t nursery.Tray, picked string) gridView {
	g := trayGrid(t, "cells-grid", "pick")
	g.Input = "f-cells"
	for r := range g.Rows {
		for c := range g.Rows[r].Cells {
			g.Rows[r].Cells[c].Open = g.Rows[r].Cells[c].State == "free"
		}
	}
	g.pick(picked)
	return g
}

type trayLine struct {
	Name, Path, Place, Says string
}
