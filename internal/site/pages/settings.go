package pages

import (
	"ulpa/core/say"
	"ulpa/internal/face"
	"ulpa/internal/site"
	"ulpa/internal/who"
)

func kindWords(kind string) say.Text { return site.KindWords(kind) }

// sections are the places and what stands in them for good.
func sections(*face.Server) []face.Section {
	return []face.Section{
		{Name: "places", Title: site.PlaceKind.Title, About: site.PlaceKind.About, Sort: site.PlaceKind, Picture: placePicture},
		{Name: "trays", Title: site.TrayKind.Title, About: site.TrayKind.About, Sort: site.TrayKind, May: who.Plan},
		{Name: "tanks", Title: site.TankKind.Title, About: site.TankKind.About, Sort: site.TankKind},
	}
}
