package trial

import (
	"fmt"
	"math/bits"
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// How cells are put into blocks.
const (
	ByRows    = "rows"
	ByColumns = "columns"
	InAll     = "all"
)

// Place is a cell, counted from 1.
type Place struct{ Row, Column int }

// DrawInput is a tray or a bed whose cells are given to arms by lot, block by block, so that each block
// holds each arm as often as the others.
type DrawInput struct {
	Arms          []string
	Rows, Columns int
	Seed          uint64 // the same seed draws the same layout
	BlockBy       string
	BlockSize     int  // so many rows or columns make a block; the last may be smaller
	Fill          bool // cells that are left over are given to arms too; else they stay empty
	Reserved      []Place
}

// Drawn is a cell with its block, from 1, and its arm; "" where it stays empty.
type Drawn struct {
	Place
	Block int
	Arm   string
}

// Layout is every cell, row by row, and how many each arm has.
type Layout struct {
	Cells  []Drawn
	Counts []int // in the order of the arms
	Blocks int
	Steps  []working.Step
}

// lot is the generator SplitMix64 (Steele, Lea and Flood 2014).
type lot struct{ state uint64 }

func (l *lot) next() uint64 {
	l.state += 0x9E3779B97F4A7C15
	z := l.state
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return z ^ z>>31
}

// below is a number from 0 to n − 1, each as likely as the others.
func (l *lot) below(n int) int {
	_, rest := bits.Div64(1, 0, uint64(n)) // 2^64 mod n, for n above 1
	for {
		if x := l.next(); rest == 0 || x < -rest {
			return int(x % uint64(n))
		}
	}
}

func shuffle[T any](l *lot, list []T) {
	for i := len(list) - 1; i > 0; i-- {
		j := l.below(i + 1)
		list[i], list[j] = list[j], list[i]
	}
}

func (in DrawInput) check() error {
	var e field.Errors
	e.Require(len(in.Arms) >= 2 && len(in.Arms) <= 50, "arms", "must be 2 to 50")
	for i, a := range in.Arms {
		e.Require(a != "" && len(a) <= 200, fmt.Sprintf("arms.%d", i), "is missing: give it a name")
		e.Require(!slices.Contains(in.Arms[:i], a), fmt.Sprintf("arms.%d", i), "is there twice")
	}
	e.Require(in.Rows >= 1 && in.Rows <= 1000, "rows", "must be 1 to 1,000")
	e.Require(in.Columns >= 1 && in.Columns <= 1000, "columns", "must be 1 to 1,000")
	e.Require(in.Rows*in.Columns <= 100_000 || in.Rows > 1000 || in.Columns > 1000, "columns", "make more than 100,000 cells with these rows")
	e.Require(in.Seed < 1<<53, "seed", "must be a whole number from 0 to 9,007,199,254,740,991")
	e.Require(in.BlockSize >= 1 && in.BlockSize <= 1000, "block_size", "must be 1 to 1,000")
	seen := map[Place]bool{}
	for i, p := range in.Reserved {
		at := fmt.Sprintf("reserved.%d.", i)
		e.Require(p.Row >= 1 && p.Row <= in.Rows, at+"row", "is outside")
		e.Require(p.Column >= 1 && p.Column <= in.Columns, at+"column", "is outside")
		e.Require(!seen[p], at+"row", "is there twice")
		seen[p] = true
	}
	return e.Err()
}

// blocks are the cells of each block, in the order in which the lots are handed to them.
func (in DrawInput) blocks() (out [][]Place) {
	add := func(rows, columns [2]int, byColumn bool) {
		var list []Place
		for r := rows[0]; r <= rows[1]; r++ {
			for c := columns[0]; c <= columns[1]; c++ {
				list = append(list, Place{r, c})
			}
		}
		if byColumn {
			slices.SortStableFunc(list, func(a, b Place) int { return a.Column - b.Column })
		}
		out = append(out, list)
	}
	switch in.BlockBy {
	case InAll:
		add([2]int{1, in.Rows}, [2]int{1, in.Columns}, false)
	case ByColumns:
		for c := 1; c <= in.Columns; c += in.BlockSize {
			add([2]int{1, in.Rows}, [2]int{c, min(in.Columns, c+in.BlockSize-1)}, true)
		}
	default:
		for r := 1; r <= in.Rows; r += in.BlockSize {
			add([2]int{r, min(in.Rows, r+in.BlockSize-1)}, [2]int{1, in.Columns}, false)
		}
	}
	return out
}

// Draw gives the cells to the arms by lot. It refuses with field.Errors.
func Draw(in DrawInput) (Layout, error) {
	if err := in.check(); err != nil {
		return Layout{}, err
	}
	reserved := map[Place]bool{}
	for _, p := range in.Reserved {
		reserved[p] = true
	}
	blocks := in.blocks()
	fits := false
	for i := range blocks {
		free := slices.DeleteFunc(slices.Clone(blocks[i]), func(p Place) bool { return reserved[p] })
		fits = fits || len(free) >= len(in.Arms) || in.Fill && len(free) > 0
	}
	if !fits {
		return Layout{}, field.Refuse("arms", "are too many: no block has a free cell for each of them")
	}
	out := Layout{Cells: make([]Drawn, in.Rows*in.Columns), Counts: make([]int, len(in.Arms)), Blocks: len(blocks)}
	l := &lot{in.Seed}
	for i, cells := range blocks {
		for _, p := range cells {
			out.Cells[(p.Row-1)*in.Columns+p.Column-1] = Drawn{Place: p, Block: i + 1}
		}
		free := slices.DeleteFunc(slices.Clone(cells), func(p Place) bool { return reserved[p] })
		for j, arm := range in.lots(l, len(free), out.Counts) {
			if arm >= 0 {
				out.Counts[arm]++
				out.Cells[(free[j].Row-1)*in.Columns+free[j].Column-1].Arm = in.Arms[arm]
			}
		}
	}
	out.Steps = []working.Step{{
		Name: say.T("Cells of each arm"), Formula: say.T("drawn by lot, block by block, from the number %d", in.Seed), Value: float64(slices.Min(out.Counts)),
		Source: say.Words("SplitMix64 (Steele, Lea and Flood 2014)"),
	}}
	return out, nil
}

// lots are the arms of a block's free cells, by their places in the list; −1: the cell stays empty.
func (in DrawInput) lots(l *lot, free int, counts []int) (lots []int) {
	if free == 0 {
		return nil
	}
	each, rest := free/len(in.Arms), free%len(in.Arms)
	extra := slices.Repeat([]int{-1}, rest)
	if in.Fill && rest > 0 {
		order := make([]int, len(in.Arms))
		for i := range order {
			order[i] = i
		}
		shuffle(l, order)
		slices.SortStableFunc(order, func(a, b int) int { return counts[a] - counts[b] })
		extra = order[:rest]
	}
	for arm := range in.Arms {
		lots = append(lots, slices.Repeat([]int{arm}, each)...)
	}
	lots = append(lots, extra...)
	shuffle(l, lots)
	return lots
}
