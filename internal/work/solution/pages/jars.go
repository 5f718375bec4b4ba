package pages

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/core/vessel"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/solution"
)

// jarView is a jar cut open, to the same scale as the others: heights are of the drawing,
// downwards.
type jarView struct {
	ID, Name, Path, Tank string
	Plant, Says, Phase   string
	Mark                 string // now, soon or none
	Here, Known, Empty   bool
	X, W, Top, Floor, H  float64 // of the walls
	LevelY, LevelH       float64
	RimX, RimW           float64 // of the net pot
	FootX, FootW, FootY  float64
	FootR, LidW          float64
	PourY                float64
	Pour                 string // to pour, "": nothing
	Roots                string // their path
	Label                string
	litres               float64
}

// wallView is a shelf of jars, cut open, with the form of what is poured.
type wallView struct {
	Name, Path, Place string
	Lead              string
	Jars              []jarView
	At                *jarView
	Why               []string
	Steps             []face.StepView
	Form              *face.Form
	Mixed             bool
	MixedSays         string
	Next              *jarView // to be filled after it
	Can               string
	CanW              float64 // of it left, in percent
	CanSays           string
	Doubts            []face.Doubt
	Spout             bool
	Hole              *face.Form
	HoleSays          string
	HoleSteps         []face.StepView
}

func (v wallView) Title() say.Text { return say.Name(v.Name) }

// The drawing of a jar: so wide and high, with room over the lid for leaves.
const (
	jarW, jarLid, jarFloor = 150.0, 46.0, 206.0
	usualCanL              = 5.0
)

func (s Pages) jarsPage(c *gin.Context) error {
	_, w := s.Me(c)
	return s.showJars(c, http.StatusOK, face.BlankForm(w.Prefs), nil)
}

func (s Pages) showJars(c *gin.Context, status int, f *face.Form, asked solution.Asked) error {
	ctx, w := s.Me(c)
	place, err := face.PathID(c)
	if err != nil {
		return err
	}
	wall, err := solution.Jars(ctx, s.Store, w, place)
	if err != nil {
		return err
	}
	p := w.Prefs
	if asks := c.Request.URL.Query(); f.Get("can") == "" && asks.Get("can") != "" {
		f.Values.Set("can", asks.Get("can"))
	}
	v := wallView{Name: wall.Place.Name, Path: "/jars/" + place.String(), Place: "/places/" + place.String(), Form: f}
	scale := 0.0
	for _, j := range wall.Jars {
		h, _, across := j.Tank.Spec.Shape()
		scale = math.Max(scale, math.Max(h/(jarFloor-jarLid), across/(jarW-40)))
	}
	for _, j := range wall.Jars {
		v.Jars = append(v.Jars, drawJar(j, wall, scale, v.Path, p))
	}
	v.pick(c, wall, f, p)
	canL := usualCanL
	asks := face.FormOf(c.Request.URL.Query(), p)
	if x := asks.Number("can", unit.Litre); x != nil && *x > 0 && *x <= 100 {
		canL = *x
	}
	v.can(canL, wall.Poured, p)
	v.cut(asks, p)
	for _, d := range asked {
		v.Doubts = append(v.Doubts, face.Doubt{Field: d.Field, Message: p.Say(d.Message())})
	}
	toPour := 0
	for _, x := range v.Jars {
		if x.Pour != "" {
			toPour++
		}
	}
	switch {
	case len(v.Jars) == 0:
		v.Lead = p.T("There are no jars here. A coordinator adds them in the settings, under Tanks.")
	case toPour == 0:
		v.Lead = p.T("%s. Nothing to pour before %s.", say.Plural(len(v.Jars), "jar"), wall.Next.On)
	default:
		v.Lead = p.T(
			"%s, %d of them to be filled before %s. Work from left to right; the list counts down what is left in the can.",
			say.Plural(len(v.Jars), "jar"), toPour, wall.Next.On,
		)
	}
	s.Render(c, status, "jars", "Solution", v)
	return nil
}

// pick chooses the jar that was asked for, or the first that is to be filled.
func (v *wallView) pick(c *gin.Context, wall solution.Wall, f *face.Form, p say.Reader) {
	at := -1
	asked := c.Query("jar")
	if tank := f.Get("tank"); tank != "" {
		asked = tank
	}
	for i, x := range v.Jars {
		if x.ID == asked {
			at = i
		}
	}
	for i, x := range v.Jars {
		if at < 0 && x.Pour != "" {
			at = i
		}
	}
	if at < 0 {
		return
	}
	v.Jars[at].Here = true
	v.At = &v.Jars[at]
	for n := 1; n < len(v.Jars) && v.Next == nil; n++ {
		if x := &v.Jars[(at+n)%len(v.Jars)]; x.Pour != "" {
			v.Next = x
		}
	}
	a := wall.Jars[at].Advice
	v.Why, v.Steps = p.All(a.Why), face.StepsOf(a.Steps, p)
	spec := wall.Jars[at].Tank.Spec
	v.Mixed, v.MixedSays = f.Get("water") == "" || f.Get("mixed") != "", p.T("from a can of feed, mixed to %s", say.Of(spec.ECTarget, unit.MS))
	if v.At.litres > 0 && f.Get("water") == "" {
		v.Form.Values.Set("water", p.Figure(v.At.litres, unit.Litre))
		v.Mixed = a.Plan.FedML() > 0
	}
	v.Spout = a.Jar != nil && a.Jar.Hang
}

func (v *wallView) can(canL, poured float64, p say.Reader) {
	left := canL - math.Mod(poured, canL)
	v.Can, v.CanW = p.Figure(canL, unit.Litre), 100*left/canL
	v.CanSays = p.T("%s of %s left; poured today: %s", say.Figure(left, unit.Litre), say.Of(canL, unit.Litre), say.Of(poured, unit.Litre))
}

// cut works out the hole for a net pot, when its measures were typed.
func (v *wallView) cut(f *face.Form, p say.Reader) {
	v.Hole = f
	if f.Get("rim_cm") == "" {
		return
	}
	get := func(name string) float64 { return f.Amount(name, unit.Centimetre) }
	h, err := vessel.Cut(vessel.NetPot{RimCM: get("rim_cm"), FootCM: get("foot_cm"), HeightCM: get("height_cm")})
	if err != nil {
		v.Hole.Refuse(err)
		return
	}
	compass, across := say.Of(h.CompassCM, unit.Centimetre), say.Of(h.AcrossCM, unit.Centimetre)
	v.HoleSays = p.T("Set the compass to %s for a hole %s across. The rim rests on the lid.", compass, across)
	v.HoleSteps = face.StepsOf(h.Steps, p)
}

func drawJar(j solution.Jar, wall solution.Wall, scale float64, path string, p say.Reader) jarView {
	t := j.Tank
	h, foot, across := t.Spec.Shape()
	y := func(cm float64) float64 { return jarFloor - cm/scale }
	v := jarView{
		ID: t.ID.String(), Name: t.Name, Path: path + "?jar=" + t.ID.String() + "#judge", Tank: "/tanks/" + t.ID.String(),
		W: across / scale, Top: y(h), Floor: jarFloor, FootY: y(foot), Empty: len(j.Plants) == 0,
	}
	v.X, v.H = (jarW-v.W)/2, jarFloor-v.Top
	v.RimW, v.FootW = 0.44*v.W, 0.3*v.W
	v.RimX, v.FootX = (jarW-v.RimW)/2, (jarW-v.FootW)/2
	v.FootR, v.LidW = v.FootX+v.FootW, v.W+12
	if v.Empty {
		v.Mark, v.Says, v.Phase = "none", p.T("it is empty"), p.T("wash it before the next")
		v.Label = p.T("%s: %s", t.Name, v.Says)
		return v
	}
	v.Plant = p.Say(j.Plants[0].Crop.Name)
	a := j.Advice
	if t.State.LevelL == nil {
		v.Says = p.T("not read yet")
		return v
	}
	level := t.State.LevelOn(t.Spec, wall.Now)
	levelCM := level / t.Spec.CapacityL * h
	v.Known, v.LevelY = true, y(levelCM)
	v.LevelH = jarFloor - v.LevelY
	v.Mark, v.Says = "none", p.T("%s in it", say.Of(level, unit.Litre))
	if a.Jar == nil {
		v.Label = p.T("%s: %s", t.Name, v.Says)
		return v
	}
	roots := math.Max(2, math.Max(j.Roots, foot-levelCM+1.5)) // they reach the water
	v.Roots = rootsPath(jarW/2, v.FootY, y(math.Max(0.3, foot-roots)), v.FootW)
	v.jarWords(*a.Jar, a, wall, y, p)
	v.Label = p.T("%s: %s, %s", t.Name, v.Says, v.Phase)
	return v
}

// jarWords say how a jar fares.
func (v *jarView) jarWords(j vessel.JarAnswer, a tank.Advice, wall solution.Wall, y func(float64) float64, p say.Reader) {
	if v.Phase = p.T("bottom of the pot in water"); j.Hang {
		v.Phase = p.T("roots hang")
	}
	switch how, lasts := a.JarFares(wall.Next.At.Sub(wall.Now).Hours() / 24); how {
	case tank.JarDry:
		v.Mark, v.Says = "now", p.T("dry on %s", say.Date(wall.Now.Add(time.Duration(*lasts*24*float64(time.Hour))), "Mon"))
	case tank.JarHigh:
		v.Mark, v.Says = "soon", p.T("leave it: the level is high")
	case tank.JarBarely:
		v.Mark, v.Says = "soon", p.T("only just lasts")
	default:
		if lasts != nil && *lasts < 60 {
			v.Says = p.T("lasts %s", say.Plural(int(*lasts), "day"))
		}
	}
	if a.Plan.WaterL > 0.005 {
		v.litres, v.Pour, v.PourY = a.Plan.WaterL, p.Format(a.Plan.WaterL, unit.Litre), y(j.LevelAfterCM)
	}
}

// rootsPath draws four roots from the foot of the pot down.
func rootsPath(mid, from, to, width float64) (d string) {
	for i, off := range []float64{-0.3, -0.1, 0.12, 0.3} {
		x := mid + off*width
		bend := 4.0
		if i%2 == 1 {
			bend = -4
		}
		d += fmt.Sprintf("M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f", x, from, x+bend, from+(to-from)/3, x-bend, from+2*(to-from)/3, x+bend/2, to)
	}
	return d
}

func (s Pages) pourJar(c *gin.Context) error {
	ctx, w := s.Me(c)
	place, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	w.Prefs = f.Prefs
	id, _ := uuid.Parse(f.Get("tank"))
	r := solution.TreatRequest{ID: f.ID("id"), Tank: id, Sure: f.Get("sure") != "", Done: tank.Treatment{WaterL: f.Amount("water", unit.Litre)}}
	to := "/jars/" + place.String()
	if !f.Any() {
		var t solution.Page
		if t, err = solution.Get(ctx, s.Store, w, id); err != nil {
			return err
		}
		if f.Get("mixed") != "" {
			r.Done = t.Tank.Spec.Mixed(r.Done.WaterL)
		}
		err = solution.Treat(ctx, s.Store, w, r)
		asks := url.Values{}
		for _, name := range []string{"jar", "can"} {
			if x := f.Get(name); x != "" {
				asks.Set(name, x)
			}
		}
		to += "?" + asks.Encode() + "#judge"
	}
	done := face.Outcome{Says: say.T("Written down: %s poured.", say.Of(r.Done.WaterL, unit.Litre)), Undo: r.ID, To: to}
	return s.settle(c, f, err, done, func(status int, asked solution.Asked) error { return s.showJars(c, status, f, asked) })
}
