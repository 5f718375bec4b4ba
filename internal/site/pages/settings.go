package pages

import (
	"ulpa/internal/face"
	"ulpa/internal/site"
	"ulpa/internal/who"
)

// sections are the places and what stands in them for good.
func sections(*face.Server) []face.Section {
	return []face.Section{
		{Name: "places", Title: site.PlaceKind.Title, About: site.PlaceKind.About, Sort: site.PlaceKind},
		{Name: "trays", Title: site.TrayKind.Title, About: site.TrayKind.About, Sort: site.TrayKind, May: who.Plan},
		{Name: "tanks", Title: site.TankKind.Title, About: site.TankKind.About, Sort: site.TankKind},
	}
}
