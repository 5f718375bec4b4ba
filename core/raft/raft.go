// Package raft is boards with holes that float on water: which hole lies on which board,
// in what order the boards float, when they move along, what a weekly cohort takes, and what
// was harvested from a board.
//
//	r := raft.Raft{Rows: 4, Columns: 12, Boards: 4}
//	r.Order()  // [1 2 3 4], from the end where they are planted to the end where they are harvested
//	r.Along()  // [4 1 2 3]: the last came out, and went in again at the planting end
package raft

import (
	"slices"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/tray"
)

// Raft is a stretch of rows and columns of holes, cut across into boards of equally many
// columns. A hole keeps its name wherever its board floats: it is painted on the board.
type Raft struct {
	Rows, Columns int
	Boards        int   // 0 or 1: one piece
	Floats        []int // boards from the planting end to the harvest end; anything else: 1, 2, 3 ...
}

// MostBoards bounds the boards of a raft.
const MostBoards = 30

// Check refuses boards into which the columns cannot be cut.
func (r Raft) Check() error {
	var e field.Errors
	e.Require(r.Boards >= 0 && r.Boards <= MostBoards, "boards", "must be 0 to %d", MostBoards)
	e.Require(r.Boards < 2 || r.Columns%r.Boards == 0, "boards", "%d columns of holes cannot be cut into %d equal boards", r.Columns, r.Boards)
	return e.Err()
}

// Parted tells whether it floats in boards at all.
func (r Raft) Parted() bool { return r.Boards > 1 && r.Columns%r.Boards == 0 }

// Wide is how many columns of holes a board has.
func (r Raft) Wide() int { return r.Columns / max(1, r.Boards) }

// Order is the boards from the planting end to the harvest end.
func (r Raft) Order() []int {
	natural := make([]int, max(1, r.Boards))
	for i := range natural {
		natural[i] = i + 1
	}
	if !slices.Equal(slices.Sorted(slices.Values(r.Floats)), natural) {
		return natural
	}
	return slices.Clone(r.Floats)
}

// Along is the order after the last board came out and went in again at the planting end.
func (r Raft) Along() []int {
	o := r.Order()
	return append([]int{o[len(o)-1]}, o[:len(o)-1]...)
}

// Board is that of a column of holes, from 1.
func (r Raft) Board(col int) int { return col/r.Wide() + 1 }

// Part numbers the board that a port of the raft called place lies on; 0: it is elsewhere.
func (r Raft) Part(place string) func(batch.Spot) int {
	return func(p batch.Spot) int {
		if p.Kind != batch.InPort || p.In != place || p.Col >= r.Columns {
			return 0
		}
		return r.Board(p.Col)
	}
}

// Holes are those of a board, row by row from the side where one stands.
func (r Raft) Holes(board int) (out []tray.Cell) {
	for row := range r.Rows {
		for c := range r.Wide() {
			out = append(out, tray.Cell{Row: row, Col: (board-1)*r.Wide() + c})
		}
	}
	return out
}

// Plant chooses holes of a board for so many plants, in order; apart leaves every second
// hole free, as on a chequered board. Fewer than asked for: the board has no more.
func (r Raft) Plant(board, plants int, apart bool, taken func(tray.Cell) bool) (out []tray.Cell) {
	for _, c := range r.Holes(board) {
		if len(out) == plants {
			break
		}
		if !taken(c) && !(apart && (c.Row+c.Col)%2 == 1) {
			out = append(out, c)
		}
	}
	return out
}

// Apart tells whether plants that want so many centimetres stand too close in every hole.
// The holes' distance is 0 where nobody measured: then they do not.
func Apart(wantCM, holesCM float64) bool { return holesCM > 0 && wantCM > 1.25*holesCM }

// Lifted are the boards that have to come out of the water to bring one order into another:
// all but the longest run of those that can stay in their turn.
func Lifted(from, to []int) (out []int) {
	at := map[int]int{}
	for i, b := range to {
		at[b] = i
	}
	// longest[i] is the run that ends with from[i], before[i] the one it follows.
	longest, before := make([]int, len(from)), make([]int, len(from))
	end := -1
	for i := range from {
		longest[i], before[i] = 1, -1
		for k := range i {
			if at[from[k]] < at[from[i]] && longest[k]+1 > longest[i] {
				longest[i], before[i] = longest[k]+1, k
			}
		}
		if end < 0 || longest[i] > longest[end] {
			end = i
		}
	}
	stays := map[int]bool{}
	for ; end >= 0; end = before[end] {
		stays[from[end]] = true
	}
	for _, b := range from {
		if !stays[b] {
			out = append(out, b)
		}
	}
	return out
}

// Moved is written down when boards float in another order.
type Moved struct {
	Order    []int `json:"order"`              // from the planting end to the harvest end
	Was      []int `json:"was"`                // before
	Scrubbed []int `json:"scrubbed,omitempty"` // boards that were scrubbed while they were out
}

// Check refuses an order that is none of this raft's boards, or what was nothing.
func (m Moved) Check(r Raft) error {
	if !r.Parted() {
		return field.Refuse("order", "this place floats as one piece; enter in its settings how many boards it has")
	}
	now := r
	now.Floats = m.Order
	if !slices.Equal(now.Order(), m.Order) {
		return field.Refuse("order", "needs every board once: %s", numbers(r.Order()))
	}
	if slices.Equal(m.Order, r.Order()) && len(m.Scrubbed) == 0 {
		return field.Refuse("order", "is the order they float in already")
	}
	for _, b := range m.Scrubbed {
		if b < 1 || b > r.Boards {
			return field.Refuse("scrubbed", "must be boards 1 to %d", r.Boards)
		}
	}
	return nil
}

// Says tells what was done.
func (m Moved) Says() say.Text {
	out := say.T("Boards moved: now %s", numbers(m.Order))
	if slices.Equal(m.Order, m.Was) {
		return say.T("Scrubbed board %s", numbers(m.Scrubbed))
	}
	along := Raft{Columns: len(m.Was), Boards: len(m.Was), Floats: m.Was}
	if len(m.Was) > 1 && slices.Equal(along.Along(), m.Order) {
		out = say.T("Boards moved on by one: board %d came out and went in at the planting end", m.Order[0])
	}
	if len(m.Scrubbed) > 0 {
		out = say.T("%s; scrubbed board %s", out, numbers(m.Scrubbed))
	}
	return out
}

func numbers(boards []int) say.Text {
	var list []say.Text
	for _, b := range boards {
		list = append(list, say.T("%d", b))
	}
	return say.Join(", ", list...)
}
