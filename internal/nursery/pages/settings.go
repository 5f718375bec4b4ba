package pages

import (
	"ulpa/internal/face"
	"ulpa/internal/nursery"
	"ulpa/internal/who"
)

// sections are the packets of seed and what they are of.
func sections(*face.Server) []face.Section {
	return []face.Section{
		{Name: "lots", Title: nursery.LotKind.Title, About: nursery.LotKind.About, Sort: nursery.LotKind, May: who.Plan},
		{Name: "varieties", Title: nursery.VarietyKind.Title, About: nursery.VarietyKind.About, Sort: nursery.VarietyKind, May: who.Plan},
	}
}
