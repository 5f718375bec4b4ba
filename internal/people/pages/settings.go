package pages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/face"
	"ulpa/internal/nursery"
	"ulpa/internal/people"
	"ulpa/internal/season"
	"ulpa/internal/site"
	"ulpa/internal/store"
	"ulpa/internal/who"
	"ulpa/internal/words"
)

type settingsView struct {
	Form      face.Form
	Which     string
	School    people.School
	Places    []site.Place
	Closures  []calendar.Closure
	Crops     []face.ChoiceView
	Kinds     []face.ChoiceView
	Languages []words.Choice
}

func (settingsView) Title() say.Text { return say.T("Settings") }

// F is the form of a section: what was typed when it was refused, else what there is.
func (v settingsView) F(which string) face.Form {
	if which == v.Which {
		return v.Form.As(which)
	}
	clock := func(m int) string { return fmt.Sprintf("%02d:%02d", m/60, m%60) }
	if which == "day" {
		return face.BlankForm(v.Form.Prefs, "begins", clock(v.School.DayBegins), "ends", clock(v.School.DayEnds)).As(which)
	}
	return face.BlankForm(v.Form.Prefs).As(which)
}

func (s Pages) settingsPage(c *gin.Context) error {
	_, w := s.Me(c)
	return s.showSettings(c, http.StatusOK, "", face.BlankForm(w.Prefs))
}

func (s Pages) showSettings(c *gin.Context, status int, which string, f face.Form) error {
	ctx, w := s.Me(c)
	v := settingsView{Form: f, Which: which, Languages: words.Choices()}
	for _, k := range site.Kinds {
		v.Kinds = append(v.Kinds, face.ChoiceView{Value: k.ID, Name: w.Prefs.Say(k.Name)})
	}
	for _, x := range crop.All() {
		v.Crops = append(v.Crops, face.ChoiceView{Value: x.ID, Name: w.Prefs.Say(x.Name)})
	}
	var err error
	if v.School, err = people.GetSchool(ctx, s.Store, w, s.Device(c)); err != nil {
		return err
	}
	if v.Places, err = site.Names(ctx, s.Store, w); err != nil {
		return err
	}
	if v.Closures, err = season.Closures(ctx, s.Store, w); err != nil {
		return err
	}
	s.Render(c, status, "settings", "", v)
	return nil
}

// settingsSave is one handler for the short forms of the settings page.
func (s Pages) settingsSave(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	id, err := uuid.NewV7()
	if err != nil {
		return err
	}
	var do func() error
	which := c.Param("what")
	switch which {
	case "units":
		do = func() error {
			return people.SetSchoolUnits(ctx, s.Store, w, unit.Parse(f.Get("system"), f.Get("scale")))
		}
	case "language":
		do = func() error { return people.SetSchoolLanguage(ctx, s.Store, w, f.Get("language")) }
	case "people":
		do = func() error {
			_, err := people.Add(
				ctx,
				s.Store,
				w,
				people.NewPerson{Kind: who.Kind(f.Get("kind")), Name: f.Get("name"), Login: f.Get("login"), Secret: f.Get("secret")},
			)
			return err
		}
	case "devices":
		do = func() error {
			return people.Enrol(ctx, s.Store, w, id, s.Mark(c), f.Get("device"))
		}
	case "dismiss":
		which, do = "devices", func() error { return people.Dismiss(ctx, s.Store, w, f.ID("device")) }
	case "enrolled":
		which, do = "devices", func() error { return people.SetCrewsOnEnrolledOnly(ctx, s.Store, w, f.Get("only") != "") }
	case "closures":
		from, to := f.Day("from"), f.Day("to")
		do = func() error {
			return season.Close(ctx, s.Store, w, calendar.Closure{From: from, To: to, Name: f.Text("name")})
		}
	case "places":
		p := site.NewPlace{
			ID: id, Name: f.Get("name"), Kind: f.Get("kind"), WalkOrder: f.Int("order", 99), Tiers: f.Int("tiers", 0), Columns: f.Int("columns", 0),
			LengthCM: f.Amount("length", unit.Centimetre), WidthCM: f.Amount("width", unit.Centimetre), TemperatureC: 18,
		}
		if t := f.Number("temperature", unit.Celsius); t != nil {
			p.TemperatureC = *t
		}
		do = func() error { return site.AddPlace(ctx, s.Store, w, p) }
	case "trays":
		t := site.NewTray{
			ID:      id,
			Name:    f.Get("name"),
			Place:   f.ID("place"),
			Rows:    f.Int("rows", 0),
			Columns: f.Int("columns", 0),
			CellML:  f.Amount("cell", unit.Millilitre),
		}
		do = func() error { return site.AddTray(ctx, s.Store, w, t) }
	case "lots":
		n := lotOf(f, id)
		do = func() error { return nursery.AddLot(ctx, s.Store, w, n) }
	case "tanks":
		n := tankOfForm(f, id)
		do = func() error { return site.AddTank(ctx, s.Store, w, n) }
	case "nights", "site-nights":
		put, name, missing := season.PutNight, "min", say.Words("takes the low that is forecast")
		if which == "site-nights" {
			put, name, missing = season.PutSiteNight, "site", "takes the low that was measured"
		}
		day := f.Day("day")
		low := f.Number(name, unit.Celsius)
		if low == nil && f.Error(name) == "" {
			f.Wrong(name, missing)
		}
		do = func() error { return put(ctx, s.Store, w, cold.Night{Day: day, MinC: *low}) }
	case "day":
		begins, ends := f.Clock("begins"), f.Clock("ends")
		do = func() error { return people.SetSchoolDay(ctx, s.Store, w, begins, ends) }
	default:
		return store.ErrNotFound
	}
	if !f.Any() {
		err = do()
	}
	return s.Settle(c, f, err, func(status int) error { return s.showSettings(c, status, which, f) },
		func() face.Outcome { return face.Outcome{Says: say.T("Kept."), To: "/settings#" + which} })
}

func lotOf(f face.Form, id uuid.UUID) nursery.NewLot {
	n := nursery.NewLot{ID: id, Crop: f.Get("crop"), Variety: f.Get("variety"), Name: f.Get("name"), Packed: f.Int("packed", 0)}
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
	return n
}

func tankOfForm(f face.Form, id uuid.UUID) site.NewTank {
	litres := func(name string) float64 { return f.Amount(name, unit.Litre) }
	ms := func(name string) float64 { return f.Amount(name, unit.MS) }
	return site.NewTank{ID: id, Place: f.ID("place"), Name: f.Get("name"), Spec: tank.Spec{
		CapacityL: litres(
			"capacity",
		), FillToL: litres("fill"), DryBelowL: litres("dry"), Passive: f.Get("passive") != "", HeightCM: f.Amount("height", unit.Centimetre),
		PotFootCM: f.Amount("foot", unit.Centimetre),
		PHLow:     f.Amount("ph_low", ""), PHTarget: f.Amount("ph", ""), PHHigh: f.Amount("ph_high", ""),
		ECLow: ms("ec_low"), ECTarget: ms("ec"), ECHigh: ms("ec_high"), WaterEC: ms("water_ec"), WaterAlkalinity: f.Amount("alkalinity", ""),
		StockRise: ms("stock"), ReadEveryDays: f.Int("every", 0),
		Acid: chemistry.Product{Agent: chemistry.Agent(f.Get("acid")), StrengthPercent: f.Amount("strength", ""), DensityGML: f.Amount("density", "")},
	}}
}
