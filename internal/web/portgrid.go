package web

import (
	"fmt"

	"ulpa/internal/site"
)

// portGrid draws the ports of a tower, raft or jar shelf, unrolled tier by tier.
func portGrid(p site.Place, id, mode string) gridView {
	g := newGrid(id, p.Row.Name, mode, p.Row.Tiers, p.Row.Columns)
	g.Tower = p.Row.Kind == "tower"
	tint := tintsOf(&g)
	for _, x := range p.Ports {
		cell := g.at(x.Tier, x.Col)
		cell.State, cell.Code, cell.Open = "plant", x.Code, false
		cell.Tint = tint.tint(x.BatchID, x.Code, x.Crop)
		cell.Says = fmt.Sprintf("%s, %s, %s", cell.Name, x.Code, cropName(x.Crop))
	}
	return g
}
