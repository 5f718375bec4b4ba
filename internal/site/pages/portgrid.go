package pages

import (
	"ulpa/core/say"
	"ulpa/internal/face"
	"ulpa/internal/site"
)

// portGrid draws the ports of a tower, raft or jar shelf, unrolled tier by tier.
func portGrid(r say.Reader, p site.Place, id, mode string) face.GridView {
	g := face.NewGrid(r, id, p.Row.Name, mode, p.Row.Tiers, p.Row.Columns)
	g.Tower = p.Row.Kind == "tower"
	tint := face.TintsOf(r, &g)
	for _, x := range p.Ports {
		cell := g.At(x.Tier, x.Col)
		cell.State, cell.Code, cell.Open = "plant", x.Code, false
		cell.Tint = tint.Tint(x.BatchID, x.Code, x.Crop)
		cell.Says = cell.Name + ", " + x.Code + ", " + r.Say(face.CropName(x.Crop))
	}
	return g
}
