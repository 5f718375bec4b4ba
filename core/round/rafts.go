package round

import "ulpa/core/raft"

// Raft is the boards of a place, in the order they float.
type Raft struct {
	Place  string
	Boards []raft.Board
}

// Boards are boards of a raft that are to be moved.
var Boards = declare(Kind{Name: "boards", Of: Places, Writes: true, EndedBy: []string{"boards_moved"}})

// OfRaft is boards that are to be moved. What is ripe on them, and what is ready for them, are
// tasks of their batches.
func (s Day) OfRaft(r Raft) (out []Task) {
	for _, x := range raft.Advise(r.Boards, nil, s.Today) {
		if x.Kind == raft.Turn || x.Kind == raft.Sort {
			t := s.task(Boards, r.Place, r.Place)
			t.Before, t.Why, t.Urgency, t.Minutes = x.Says, x.Because, Soon, 10
			out = append(out, t)
		}
	}
	return out
}
