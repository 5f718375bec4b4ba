package pages

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/crops"
	cropsview "ulpa/internal/crops/view"
	"ulpa/internal/face"
	"ulpa/internal/store"
	"ulpa/internal/sums"
	sumsview "ulpa/internal/sums/view"
	"ulpa/internal/who"
)

// cropLine is a crop in the list.
type cropLine struct {
	Name, Path, Kind, Cold, Moves, Harvest, Suits string
	Own                                           int
}

type cropsView struct {
	Query string
	Lines []cropLine
	Own   int
}

func (cropsView) Title() string { return "Crops" }

func (s Pages) cropsPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := cropsView{Query: strings.TrimSpace(c.Query("crop"))}
	for _, x := range book.All() {
		said := strings.ToLower(strings.Join([]string{x.Name, x.Kind, x.Family, string(x.Tender), strings.Join(x.Systems, " ")}, " "))
		if !strings.Contains(said, strings.ToLower(v.Query)) {
			continue
		}
		v.Lines = append(v.Lines, cropLine{x.Name, "/crops/" + x.ID, x.Kind, string(x.Tender), say.Plural(x.NurseryDays, "day"), say.Plural(x.HarvestDays(), "day"), strings.Join(x.Systems, ", "), len(x.Own)})
		v.Own += len(x.Own)
	}
	s.Render(c, http.StatusOK, "crops", "Nursery", v)
	return nil
}

// knownView is one value of a crop.
type knownView struct {
	face.FieldView
	Shown, Usual string
	Own, Guess   bool
	Choices      []string
}

type knownGroup struct {
	Name   string
	Values []knownView
}

type cropView struct {
	Crop              crop.Crop
	Path              string
	Groups            []knownGroup
	Germination, Plan string
}

func (v cropView) Title() string { return v.Crop.Name }

func (s Pages) cropPage(c *gin.Context) error {
	_, w := s.Me(c)
	return s.showCrop(c, http.StatusOK, face.BlankForm(w.Prefs))
}

func (s Pages) showCrop(c *gin.Context, status int, f face.Form) error {
	ctx, w := s.Me(c)
	usual, ok := crop.Find(c.Param("id"))
	if !ok {
		return store.ErrNotFound
	}
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	x := book.Find(usual.ID)
	v := cropView{Crop: x, Path: "/crops/" + x.ID}
	v.Germination = sums.Link("germination-time", map[string]any{"crop": x.ID, "temperature_c": 20.0}, w.Prefs)
	if v.Plan, err = sumsview.ScheduleLink(ctx, s.Store, w, x); err != nil {
		return err
	}
	for _, k := range crop.Columns {
		if len(v.Groups) == 0 || v.Groups[len(v.Groups)-1].Name != k.Group {
			v.Groups = append(v.Groups, knownGroup{Name: k.Group})
		}
		g := &v.Groups[len(v.Groups)-1]
		g.Values = append(g.Values, knownOf(k, x, usual, f))
	}
	s.Render(c, status, "crop", "Nursery", v)
	return nil
}

func knownOf(k crop.Column, x, usual crop.Crop, f face.Form) knownView {
	value := k.Of(x)
	v := knownView{FieldView: face.MakeField(f, k.Name, k.Label, f.Prefs.Name(k.Unit), "text", ""), Shown: shownValue(k, value, f.Prefs), Own: x.Own[k.Name], Guess: x.Uncertain[k.Name], Choices: k.Choices}
	if v.Own {
		v.Usual = shownValue(k, k.Of(usual), f.Prefs)
	}
	if _, typed := f.Values[k.Name]; !typed {
		v.Value = cropsview.TypedValue(k, value, f.Prefs)
	}
	if k.Choices == nil && (value == "yes" || value == "no") {
		v.Choices = []string{"yes", "no"}
	}
	if k.Name == "systems" {
		v.Choices = nil // several may be named
	}
	return v
}

// shownValue is a value as it is read.
func shownValue(k crop.Column, value string, p unit.Prefs) string {
	number, window := k.Measured()
	s := cropsview.TypedValue(k, value, p)
	if window {
		s = strings.Replace(s, "-", " to ", 1)
	}
	if (number || window) && k.Unit != "" && k.Unit != "pH" {
		s += " " + p.Name(k.Unit)
	}
	if s == "" {
		return "–"
	}
	return s
}

func (s Pages) cropSave(c *gin.Context) error {
	ctx, w := s.Me(c)
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	id := c.Param("id")
	values := cropsview.ChangedValues(f, book.Find(id))
	if f.Get("usual") != "" { // back to the catalogue's own value
		usual, _ := crop.Find(id)
		k, _ := crop.ColumnOf(f.Get("usual"))
		if values = map[string]string{}; k.Name != "" {
			values[k.Name] = k.Of(usual)
		}
	}
	err = crops.Set(ctx, s.Store, w, id, values)
	return s.Settle(c, f, err, func(status int) error { return s.showCrop(c, status, f) }, func() face.Outcome {
		o := face.Outcome{To: "/crops/" + id}
		if len(values) > 0 {
			o.Says = "Kept. Your school’s values go before the catalogue’s."
		}
		return o
	})
}
