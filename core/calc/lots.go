package calc

import (
	"encoding/json"
	"fmt"
	"math"
	"strconv"

	"ulpa/core/say"
	"ulpa/core/trial"
)

var trialDraw = Calculator{
	Need: Planning,
	Name: "trial-draw", Title: "A fair layout by lot", Answers: "Which cell of a tray or a bed gets which treatment, drawn by lot, each as often in every block",
	Fields: []Field{
		{Name: "arms", Kind: "list", Needed: true, Names: true, Takes: "2 to 50 names, no two alike", Hint: "with commas between them", OnScreen: "Treatments"},
		{Name: "rows", Kind: "integer", Needed: true, Takes: "1 to 1,000", OnScreen: "Rows"},
		{Name: "columns", Kind: "integer", Needed: true, Takes: "1 to 1,000; at most 100,000 cells", OnScreen: "Columns"},
		{
			Name: "seed", Kind: "integer", Needed: true, Takes: "0 to 9,007,199,254,740,991: the same number draws the same layout",
			OnScreen: "Number to draw from",
		},
		{
			Name: "block_by", Kind: "text", Default: "rows", Choices: []string{"rows", "columns", "all"}, Takes: "rows, columns, or all in one block",
			OnScreen: "Blocks by",
		},
		{Name: "block_size", Kind: "integer", Takes: "1 to 1,000 rows or columns in a block; 1 where left out", OnScreen: "so many in a block"},
		{
			Name: "reserved", Kind: "list", Takes: `{"row", "column"}: cells that are left out`, OnScreen: "Cells left out",
			Parts: []Field{{Name: "row", Kind: "integer", OnScreen: "row"}, {Name: "column", Kind: "integer", OnScreen: "column"}},
		},
		{
			Name: "spare", Kind: "text", Default: "empty", Choices: []string{"empty", "fill"},
			Called: map[string]say.Words{"empty": "stay empty", "fill": "go to treatments too"}, Takes: "what becomes of cells that are left over",
			OnScreen: "Cells left over",
		},
	},
	Example: `{"arms": ["plain", "soaked", "cold"], "rows": 4, "columns": 6, "seed": 7, "spare": "fill"}`,
	run: func(o *object) (answer, error) {
		in := trial.DrawInput{
			Rows: o.integer("rows"), Columns: o.integer("columns"), Seed: o.large("seed"), BlockBy: trial.ByRows, BlockSize: 1,
			Fill: o.has("spare") && o.choice("spare", "empty", "fill") == "fill",
		}
		for i, v := range o.list("arms") {
			s, ok := v.(string)
			if !ok {
				o.refuse(fmt.Sprintf("arms.%d", i), "must be a text, not %s", kind(v))
			}
			in.Arms = append(in.Arms, s)
		}
		if o.has("block_by") {
			in.BlockBy = o.choice("block_by", trial.ByRows, trial.ByColumns, trial.InAll)
		}
		if size := o.has("block_size"); size && in.BlockBy == trial.InAll {
			o.refuse("block_size", "is for blocks of rows or columns: leave it out")
		} else if size {
			in.BlockSize = o.integer("block_size")
		}
		if o.has("reserved") {
			o.each("reserved", func(_ int, p *object) {
				in.Reserved = append(in.Reserved, trial.Place{Row: p.integer("row"), Column: p.integer("column")})
			})
		}
		return with(o, func() (trial.Layout, error) { return trial.Draw(in) }, func(l trial.Layout) answer {
			cells, counts := []answer{}, []answer{}
			for _, c := range l.Cells {
				one := answer{"row": c.Row, "column": c.Column, "block": c.Block, "arm": nil}
				if c.Arm != "" {
					one["arm"] = c.Arm
				}
				cells = append(cells, one)
			}
			for i, n := range l.Counts {
				counts = append(counts, answer{"arm": in.Arms[i], "cells": n})
			}
			return answer{"cells": cells, "counts": counts, "blocks": l.Blocks, "steps": l.Steps}
		})
	},
}

// large reads a whole number from 0 on that may be too large for a float to hold all digits of.
func (o *object) large(name string) uint64 {
	if !o.need(name, "a whole number") {
		return 0
	}
	n, ok := o.fields[name].(json.Number)
	if !ok {
		o.refuse(name, "must be a number, not %s", kind(o.fields[name]))
		return 0
	}
	if v, err := strconv.ParseUint(n.String(), 10, 64); err == nil {
		return v
	}
	v := o.asNumber(name, n) // such as 7.0 or 1e3
	if v < 0 || v != math.Trunc(v) || v > 1<<53 {
		o.refuse(name, "must be a whole number")
		return 0
	}
	return uint64(v)
}
