// Package view draws trays and says how far plants are, for every page that shows some.
package view

import (
	"cmp"
	"slices"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/trays"
)

// TrayGrid draws a tray with what is in its cells.
func TrayGrid(p say.Reader, t trays.Tray, id, mode string) face.GridView {
	g := face.NewGrid(p, id, t.Name, mode, t.Rows, t.Columns)
	tint := face.TintsOf(p, &g)
	for _, b := range inOrderOfSowing(t.Batches) { // so that one more changes no colour
		tint.Tint(b.ID, b.Code, b.Crop.ID)
	}
	for _, c := range t.Cells {
		x := g.At(c.Row, c.Col)
		x.State, x.Code, x.Tint = c.State, c.Code, tint.Tint(c.Batch, c.Code, c.Crop)
		x.Open = mode == "mark"
		x.Says = x.Name + ", " + c.Code + ", " + p.Say(stateWords(c.State, c.Cause))
	}
	for _, k := range t.Gaps {
		for _, cell := range k.Cells {
			if x := g.At(cell.Row, cell.Col); x.State == "free" {
				x.State, x.Says = "kept", p.T("%s, reserved for %s on %s", cell.Name(), say.Lower(k.Crop.Name), k.On.Short())
			}
		}
	}
	return g
}

func inOrderOfSowing(list []batches.Batch) []batches.Batch {
	return slices.SortedStableFunc(slices.Values(list), func(a, b batches.Batch) int { return cmp.Or(cmp.Compare(a.Sown, b.Sown), cmp.Compare(a.Code, b.Code)) })
}

func stateWords(state, cause string) say.Text {
	switch batch.CellState(state) {
	case batch.Sown:
		return say.T("nothing up yet")
	case batch.Thinned:
		return say.T("thinned to one")
	case batch.Empty:
		return say.T("empty, nothing came up")
	case batch.Lost:
		return say.T("lost, %s", batch.Cause(cause).Name())
	}
	return batch.CellState(state).Words()
}

// PickGrid draws a tray for choosing free cells.
func PickGrid(p say.Reader, t trays.Tray, picked string) face.GridView {
	return pickGrid(p, t, "cells", picked, func(state string) bool { return state == "free" || state == "kept" })
}

// FromGrid draws a tray for choosing plants to be taken out of their cells.
func FromGrid(p say.Reader, t trays.Tray, picked string) face.GridView {
	return pickGrid(p, t, "from", picked, func(state string) bool { return batch.CellState(state).Alive() })
}

// IntoGrid draws a tray for choosing cells that plants are put into: those that are free, and
// those in which nothing came or that were lost.
func IntoGrid(p say.Reader, t trays.Tray, picked string) face.GridView {
	return pickGrid(p, t, "to", picked, func(state string) bool {
		return state == "free" || state == string(batch.Empty) || state == string(batch.Lost)
	})
}

// pickGrid draws a tray for choosing cells, which go into an input of that name.
func pickGrid(p say.Reader, t trays.Tray, input, picked string, open func(state string) bool) face.GridView {
	g := TrayGrid(p, t, input+"-grid", "pick")
	g.Input = "f-" + input
	for r := range g.Rows {
		for c := range g.Rows[r].Cells {
			g.Rows[r].Cells[c].Open = open(g.Rows[r].Cells[c].State)
		}
	}
	g.Pick(picked)
	return g
}

// TrayLine is a tray in a list.
type TrayLine struct {
	Name, Path, Place, Says string
}
