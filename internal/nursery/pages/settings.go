package pages

import (
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/internal/face"
	"ulpa/internal/nursery"
)

// sections are the packets of seed.
func sections(s *face.Server) []face.Section {
	p := Pages{s}
	return []face.Section{{Name: "lots", View: p.cropChoices, Forms: []face.SettingsForm{
		{Name: "lots", Read: p.readLot, Send: []string{"crop", "lettuce", "variety", "Skerry", "name", "SK", "packed", "1066"}},
	}}}
}

func (s Pages) cropChoices(c *gin.Context) (any, error) {
	_, w := s.Me(c)
	var all []face.ChoiceView
	for _, x := range crop.All() {
		all = append(all, face.ChoiceView{Value: x.ID, Name: w.Prefs.Say(x.Name)})
	}
	return all, nil
}

func (s Pages) readLot(c *gin.Context, f face.Form) func() error {
	ctx, w := s.Me(c)
	n := nursery.NewLot{
		ID: uuid.Must(uuid.NewV7()), Crop: f.Get("crop"), Variety: f.Get("variety"), Name: f.Get("name"), Packed: f.Int("packed", 0),
	}
	if v := f.Number("label", ""); v != nil {
		share := *v / 100
		n.Label = &share
	}
	for name, to := range map[string]**int{"tested": &n.Tested, "sprouted": &n.Came, "seeds": &n.Seeds} {
		if f.Text(name) != "" {
			v := f.Int(name, 0)
			*to = &v
		}
	}
	return func() error { return nursery.AddLot(ctx, s.Store, w, n) }
}
