package pages

import (
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/chemistry"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/face"
	"ulpa/internal/site"
)

// setupView is what the sections show: where things can stand, and what there is to choose.
type setupView struct {
	Places       []site.Place
	Kinds, Acids []face.ChoiceView
}

// sections are the places and what stands in them for good.
func sections(s *face.Server) []face.Section {
	p := Pages{s}
	return []face.Section{
		{Name: "places", View: p.setup, Forms: []face.SettingsForm{
			{Name: "places", Read: p.readPlace, Send: []string{"kind", "tower", "name", "Mast", "tiers", "0", "columns", "4"}},
		}},
		{Name: "trays", View: p.setup, Forms: []face.SettingsForm{
			{Name: "trays", Read: p.readTray, Send: []string{"name", "T 9", "place", "{place}", "rows", "0", "columns", "4", "cell", "40"}},
		}},
		{Name: "tanks", View: p.setup, Forms: []face.SettingsForm{
			{Name: "tanks", Read: p.readTank, Send: []string{"name", "Vat", "place", "{place}", "capacity", "50", "fill", "80"}},
		}},
	}
}

func (s Pages) setup(c *gin.Context) (any, error) {
	ctx, w := s.Me(c)
	v := setupView{}
	for _, k := range site.Kinds {
		v.Kinds = append(v.Kinds, face.ChoiceView{Value: k.ID, Name: w.Prefs.Say(k.Name)})
	}
	for _, a := range chemistry.Acids {
		v.Acids = append(v.Acids, face.ChoiceView{Value: string(a), Name: w.Prefs.Say(a.Words())})
	}
	var err error
	v.Places, err = site.ReadPlaces(ctx, s.Store, w)
	return v, err
}

func (s Pages) readPlace(c *gin.Context, f face.Form) func() error {
	ctx, w := s.Me(c)
	p := site.NewPlace{
		ID: uuid.Must(uuid.NewV7()), Name: f.Get("name"), Kind: f.Get("kind"), WalkOrder: f.Int("order", 99),
		Tiers: f.Int("tiers", 0), Columns: f.Int("columns", 0),
		LengthCM: f.Amount("length", unit.Centimetre), WidthCM: f.Amount("width", unit.Centimetre), TemperatureC: 18,
	}
	if t := f.Number("temperature", unit.Celsius); t != nil {
		p.TemperatureC = *t
	}
	return func() error { return site.AddPlace(ctx, s.Store, w, p) }
}

func (s Pages) readTray(c *gin.Context, f face.Form) func() error {
	ctx, w := s.Me(c)
	t := site.NewTray{
		ID: uuid.Must(uuid.NewV7()), Name: f.Get("name"), Place: f.ID("place"),
		Rows: f.Int("rows", 0), Columns: f.Int("columns", 0), CellML: f.Amount("cell", unit.Millilitre),
	}
	return func() error { return site.AddTray(ctx, s.Store, w, t) }
}

func (s Pages) readTank(c *gin.Context, f face.Form) func() error {
	ctx, w := s.Me(c)
	litres := func(name string) float64 { return f.Amount(name, unit.Litre) }
	ms := func(name string) float64 { return f.Amount(name, unit.MS) }
	n := site.NewTank{ID: uuid.Must(uuid.NewV7()), Place: f.ID("place"), Name: f.Get("name"), Spec: tank.Spec{
		CapacityL: litres("capacity"), FillToL: litres("fill"), DryBelowL: litres("dry"),
		Passive: f.Get("passive") != "", HeightCM: f.Amount("height", unit.Centimetre), PotFootCM: f.Amount("foot", unit.Centimetre),
		PHLow: f.Amount("ph_low", ""), PHTarget: f.Amount("ph", ""), PHHigh: f.Amount("ph_high", ""),
		ECLow: ms("ec_low"), ECTarget: ms("ec"), ECHigh: ms("ec_high"), WaterEC: ms("water_ec"), WaterAlkalinity: f.Amount("alkalinity", ""),
		StockRise: ms("stock"), ReadEveryDays: f.Int("every", 0),
		Acid: chemistry.Product{Agent: chemistry.Agent(f.Get("acid")), StrengthPercent: f.Amount("strength", ""), DensityGML: f.Amount("density", "")},
	}}
	return func() error { return site.AddTank(ctx, s.Store, w, n) }
}
