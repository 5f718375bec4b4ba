package pages

import (
	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/site"
)

func kindWords(kind string) say.Text { return site.KindWords(kind) }

// sections are the places and what stands in them for good.
func sections(s *face.Server) []face.Section {
	p := Pages{s}
	return []face.Section{
		{
			Name: "places", Title: site.PlaceKind.Title, About: site.PlaceKind.About, Sort: site.PlaceKind, Picture: placePicture,
			View: p.empty, Forms: []face.SettingsForm{{Name: "furnish", Read: p.readFurnish}},
		},
		{Name: "trays", Title: site.TrayKind.Title, About: site.TrayKind.About, Sort: site.TrayKind, May: who.Plan},
		{Name: "pots", Title: site.PotKind.Title, About: site.PotKind.About, Sort: site.PotKind, May: who.Plan},
		{Name: "mixes", Title: site.MixKind.Title, About: site.MixKind.About, Sort: site.MixKind, May: who.Plan},
		{Name: "tanks", Title: site.TankKind.Title, About: site.TankKind.About, Sort: site.TankKind, View: p.jars, Forms: []face.SettingsForm{
			{Name: "jars", Read: p.readJars, Send: []string{"like", "{tank}"}},
		}},
	}
}

// empty tells whether there is no place yet.
func (s Pages) empty(c *gin.Context) (any, error) {
	ctx, w := s.Me(c)
	all, err := site.PlaceKind.List(ctx, s.Store, w)
	return len(all) == 0, err
}

// readFurnish copies the made-up school's places and vessels.
func (s Pages) readFurnish(c *gin.Context, _ *face.Form) func() error {
	ctx, w := s.Me(c)
	return func() error { return demo.Furnish(ctx, s.Store, w) }
}

// jars are those that a shelf can be filled with.
func (s Pages) jars(c *gin.Context) (any, error) {
	ctx, w := s.Me(c)
	all, err := site.TankKind.List(ctx, s.Store, w)
	var out []face.ChoiceView
	for _, n := range all {
		if n.Position > 0 && !n.Retired {
			out = append(out, face.ChoiceView{Value: n.ID.String(), Name: n.Name})
		}
	}
	return out, err
}

func (s Pages) readJars(c *gin.Context, f *face.Form) func() error {
	ctx, w := s.Me(c)
	like := f.ID("like")
	return func() error {
		_, err := site.FillShelf(ctx, s.Store, w, like)
		return err
	}
}
