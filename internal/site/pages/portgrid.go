package pages

import (
	"fmt"

	"ulpa/internal/face"
	"ulpa/internal/site"
)

// portGrid draws the ports of a tower, raft or jar shelf, unrolled tier by tier.
func portGrid(p site.Place, id, mode string) face.GridView {
	g := face.NewGrid(id, p.Row.Name, mode, p.Row.Tiers, p.Row.Columns)
	g.Tower = p.Row.Kind == "tower"
	tint := face.TintsOf(&g)
	for _, x := range p.Ports {
		cell := g.At(x.Tier, x.Col)
		cell.State, cell.Code, cell.Open = "plant", x.Code, false
		cell.Tint = tint.Tint(x.BatchID, x.Code, x.Crop)
		cell.Says = fmt.Sprintf("%s, %s, %s", cell.Name, x.Code, face.CropName(x.Crop))
	}
	return g
}
