package seed

import "ulpa/core/say"

// LayOut says how many seeds to take out of a packet for a sowing, how many go back, and what
// becomes of several in a cell: by habit they stay together, else they are thinned to one.
// Left is what is in the packet; nil: nobody counted.
func LayOut(cells, each int, clump bool, left *int) (out []say.Text) {
	out = append(out, CountOut(cells*each, left))
	switch {
	case each > 1 && clump:
		out = append(out, say.T("%d in a cell stay together as a clump; nothing is thinned.", each))
	case each > 1:
		out = append(out, say.T("%d in a cell, so that few cells stay empty. When they are up, snip off all but the strongest; do not pull the others "+
			"out.", each))
	case left != nil && *left < 2*cells:
		out = append(out, say.T("One in a cell: seed is scarce, and every one counts. An empty cell is filled from a neighbour later."))
	}
	return out
}

// CountOut says how many of the seeds of a packet are taken, and how many go back.
func CountOut(n int, left *int) say.Text {
	switch {
	case left != nil && *left >= n:
		return say.T("Count out %d seeds; %d go back into the packet, closed and dry.", n, *left-n)
	case left != nil:
		return say.T("%d seeds are wanted, and %d are left: sow fewer, or take another packet as well.", n, *left)
	}
	return say.T("Count out %d seeds; what is left goes back into the packet, closed and dry.", n)
}
