package pages

import (
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/site"
)

// portGrid draws the ports of a tower, raft or jar shelf, unrolled tier by tier.
func portGrid(r say.Reader, p site.Contents, id, mode string) face.GridView {
	g := face.NewGrid(r, id, p.Name, mode, p.Tiers, p.Columns)
	g.Tower = p.Kind == "tower"
	if p.Raft.Parted() {
		g.Part(p.Raft.Order(), p.Raft.Wide())
	}
	tint := face.TintsOf(r, &g)
	for _, x := range p.Ports {
		cell := g.At(x.Tier, x.Col)
		cell.State, cell.Code, cell.Open = "plant", x.Code, false
		cell.Tint = tint.Tint(x.Batch, x.Code, x.Crop)
		cell.Says = cell.Name + ", " + x.Code + ", " + r.Say(face.CropName(x.Crop))
	}
	return g
}
