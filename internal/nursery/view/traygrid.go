// Package view draws trays and says how far plants are, for every page that shows some.
package view

import (
	"fmt"

	"ulpa/core/batch"
	"ulpa/internal/face"
	"ulpa/internal/nursery"
)

// TrayGrid draws a tray with what is in its cells.
func TrayGrid(t nursery.Tray, id, mode string) face.GridView {
	g := face.NewGrid(id, t.Row.Name, mode, t.Row.Rows, t.Row.Columns)
	tint := face.TintsOf(&g)
	for _, c := range t.Cells {
		x := g.At(c.Row, c.Col)
		x.State, x.Code, x.Tint = c.State, c.Code, tint.Tint(c.BatchID, c.Code, c.Crop)
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

// PickGrid draws a tray for choosing free cells.
func PickGrid(t nursery.Tray, picked string) face.GridView {
	g := TrayGrid(t, "cells-grid", "pick")
	g.Input = "f-cells"
	for r := range g.Rows {
		for c := range g.Rows[r].Cells {
			g.Rows[r].Cells[c].Open = g.Rows[r].Cells[c].State == "free"
		}
	}
	g.Pick(picked)
	return g
}

// TrayLine is a tray in a list.
type TrayLine struct {
	Name, Path, Place, Says string
}
