package round

import "ulpa/core/raft"

// Raft is the boards of a place, in the order they float.
type Raft struct {
	Place  string
	Boards []raft.Board
}

// raftTasks are boards that are to be moved. What is ripe on them, and what is ready for
// them, are tasks of their batches.
func (s School) raftTasks(p Place) (out []Task) {
	for _, r := range s.Rafts {
		if r.Place != p.ID {
			continue
		}
		for _, d := range raft.Advise(r.Boards, nil, s.Today) {
			if d.Kind == raft.Turn || d.Kind == raft.Sort {
				out = append(out, Task{Key: s.key("boards", p.ID), Kind: "boards", Before: d.Says, Why: d.Because, Urgency: Soon, Minutes: 10, Raft: p.ID})
			}
		}
	}
	return out
}
