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
	drawn := face.NewGrid
	if t.Open() {
		drawn = face.NewOpenGrid
	}
	g := drawn(p, id, t.Name, mode, t.Rows, t.Columns)
	tint := face.TintsOf(p, &g)
	for _, b := range inOrderOfSowing(t.Batches) { // so that one more changes no colour
		tint.Tint(b.ID, b.Code, b.Crop.ID)
	}
	for _, c := range t.Cells {
		x := g.At(c.Row, c.Col)
		x.State, x.Code, x.Tint = string(c.State), c.Code, tint.Tint(c.Batch, c.Code, c.Crop)
		x.Open = mode == "mark" && !c.Open
		says := stateWords(c.Cell)
		if c.Open {
			x.Tally = p.Say(says)
		}
		x.Says = x.Name + ", " + c.Code + ", " + p.Say(says)
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

func stateWords(c batch.Cell) say.Text {
	switch {
	case c.Open && c.Over:
		return say.T("%d growing, no more will come up", c.Plants)
	case c.Open && c.Waits > 0:
		return say.T("%d growing, up to %d more may come up", c.Plants, c.Waits)
	case c.Open:
		return say.T("%d growing", c.Plants)
	case c.State == batch.Sown:
		return say.T("nothing up yet")
	case c.State == batch.Thinned:
		return say.T("thinned to one")
	case c.State == batch.Empty:
		return say.T("empty, nothing came up")
	case c.State == batch.Lost:
		return say.T("lost, %s", c.Cause.Name())
	}
	return c.State.Words()
}

// PickGrid draws a tray for choosing free cells.
func PickGrid(p say.Reader, t trays.Tray, picked string) face.GridView {
	return pickGrid(p, t, "cells", picked, func(state string, _ bool) bool { return state == "free" || state == "kept" })
}

// FromGrid draws a tray for choosing plants to be taken out of their cells.
func FromGrid(p say.Reader, t trays.Tray, picked string) face.GridView {
	return pickGrid(p, t, "from", picked, func(state string, section bool) bool { return !section && batch.CellState(state).Alive() })
}

// IntoGrid draws a tray for choosing cells that plants are put into: those that are free, those in
// which nothing came or that were lost, and sections of an open tray.
func IntoGrid(p say.Reader, t trays.Tray, picked string) face.GridView {
	return pickGrid(p, t, "to", picked, func(state string, section bool) bool {
		return section || state == "free" || state == string(batch.Empty) || state == string(batch.Lost)
	})
}

// pickGrid draws a tray for choosing cells, which go into an input of that name.
func pickGrid(p say.Reader, t trays.Tray, input, picked string, open func(state string, section bool) bool) face.GridView {
	g := TrayGrid(p, t, input+"-grid", "pick")
	g.Input = "f-" + input
	for r := range g.Rows {
		for c := range g.Rows[r].Cells {
			x := &g.Rows[r].Cells[c]
			x.Open = open(x.State, x.Tally != "")
		}
	}
	g.Pick(picked)
	return g
}

// TrayLine is a tray in a list.
type TrayLine struct {
	Name, Path, Place, Says string
}
