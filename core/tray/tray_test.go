package tray_test

import (
	"cmp"
	"encoding/json"
	"maps"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/tray"
)

func names(list []tray.Cell) (out []string) {
	for _, c := range list {
		out = append(out, c.Name())
	}
	return out
}

func TestLists(t *testing.T) {
	// The same table is tried on what browsers make of lists.
	var table []struct {
		Typed         string
		Cells         []string
		Rows, Columns int
	}
	b, err := os.ReadFile("testdata/lists.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(b, &table))
	require.Greater(t, len(table), 5)
	for _, x := range table {
		got, err := tray.ParseList(x.Typed, cmp.Or(x.Rows, 8), cmp.Or(x.Columns, 12))
		require.NoError(t, err, x.Typed)
		require.ElementsMatch(t, x.Cells, names(got), x.Typed)
	}
	for typed, says := range map[string]string{
		"I1": "is outside: it goes to H12", "A13": "is outside", "A1-J2": "is outside", "7": "is not a cell", "A": "is not a cell",
		strings.Repeat("A1,", 97): "more cells than the 96", "A0": "is not a cell", "A-1": "is not a cell", "A1-": "is not a cell", "A1-B": "is not a cell",
		"ABCD1": "is not a cell", "A1.5": "is not a cell",
	} {
		_, err := tray.ParseList(typed, 8, 12)
		require.ErrorContains(t, err, says, typed)
	}
}

func TestNamesRoundTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := tray.Cell{Row: rapid.IntRange(0, 200).Draw(t, "row"), Col: rapid.IntRange(0, 200).Draw(t, "col")}
		back, err := tray.Parse(c.Name())
		require.NoError(t, err)
		require.Equal(t, c, back)
	})
}

func TestRoomIsFilledFromTheBottom(t *testing.T) {
	b1 := func(c tray.Cell) bool { return c.Name() != "B1" } // stands full
	require.Equal(t, []string{"B2", "B3", "A1"}, names(tray.FreeFromBottom(2, 3, 3, b1)))
	require.Equal(t, []string{"B2", "B3", "A1", "A2", "A3"}, names(tray.FreeFromBottom(2, 3, 9, b1)), "no more than there is room for")
	require.Empty(t, tray.FreeFromBottom(2, 3, 0, b1))
}

// Cells are written as they are read again, each once and in order.
func TestCellsAreWrittenAsTheyAreRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		has := map[tray.Cell]bool{}
		for range rapid.IntRange(1, 40).Draw(t, "n") {
			has[tray.Cell{Row: rapid.IntRange(0, 9).Draw(t, "row"), Col: rapid.IntRange(0, 11).Draw(t, "col")}] = true
		}
		back, err := tray.ParseList(tray.Format(slices.Collect(maps.Keys(has))), 10, 12)
		require.NoError(t, err)
		require.Len(t, back, len(has))
		for _, c := range back {
			require.True(t, has[c])
		}
	})
}

// However cells are shared out, each has its own, nobody two, and nobody much more than another.
func TestCellsAreSharedOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cells := rapid.SliceOfNDistinct(rapid.Custom(func(t *rapid.T) tray.Cell {
			return tray.Cell{Row: rapid.IntRange(0, 9).Draw(t, "row"), Col: rapid.IntRange(0, 11).Draw(t, "col")}
		}), 1, 90, rapid.ID[tray.Cell]).Draw(t, "cells")
		people := rapid.IntRange(1, 6).Draw(t, "people")
		rows := map[int]bool{}
		for _, c := range cells {
			rows[c.Row] = true
		}
		var all []tray.Cell
		least, most := 1000, 0
		for _, mine := range tray.Share(cells, people) {
			all = append(all, mine...)
			n := len(mine)
			if len(rows) >= people {
				own := map[int]bool{}
				for _, c := range mine {
					own[c.Row] = true
				}
				n = len(own)
			}
			least, most = min(least, n), max(most, n)
		}
		require.ElementsMatch(t, cells, all)
		require.LessOrEqual(t, most-least, 1)
	})
}
