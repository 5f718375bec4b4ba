package pages

import (
	"html/template"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/crops"
	cropsview "ulpa/internal/work/crops/view"
	"ulpa/internal/work/sums"
	sumsview "ulpa/internal/work/sums/view"
)

// cropLine is a crop in the list.
type cropLine struct {
	Name, Path, Kind, Cold, Moves, Harvest, Suits string
	Own                                           int
}

// cropsView is the list of crops.
type cropsView struct {
	Query string
	Lines []cropLine
	Own   int
}

func (cropsView) Title() say.Text { return say.T("Crops") }

func (s Pages) cropsPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	p := w.Prefs
	v := cropsView{Query: strings.TrimSpace(c.Query("crop"))}
	asked := words.Askings(v.Query)
	for _, x := range book.Listed(p) {
		said := append(crop.Words("systems", x.Systems), x.Name, crop.Word("kind", x.Kind), x.Family, crop.Word("tender", string(x.Tender)))
		if !words.Has(words.Everywhere(say.Join(" ", said...)), asked) {
			continue
		}
		v.Lines = append(v.Lines, cropLine{
			p.Say(
				x.Name,
			), crops.Path(x.ID), p.Say(crop.Word("kind", x.Kind)), p.Say(crop.Word("tender", string(x.Tender))), p.Say(say.Plural(x.NurseryDays, "day")),
			p.Say(say.Plural(x.HarvestDays(), "day")), p.Say(say.Join(", ", crop.Words("systems", x.Systems)...)), len(x.Own),
		})
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
	Choices      []face.ChoiceView
	Many         []manyView      // of which several may be chosen
	From, To     *face.FieldView // of a range
	Open         bool            // it is being changed
}

// manyView is one of several that a value may have, to be ticked.
type manyView struct {
	face.ChoiceView
	Chosen bool
}

// knownGroup is the values of a crop under one heading.
type knownGroup struct {
	Name   say.Words
	Values []knownView
}

// cropView is what is known of a crop, and what the school says instead.
type cropView struct {
	Crop              crop.Crop
	Kind              say.Words
	Path              string
	Like              say.Text // of a crop of the school's own: what it is like
	Read              []string // in words
	Warm, Time        template.HTML
	Groups            []knownGroup
	Germination, Plan string
}

func (v cropView) Title() say.Text { return v.Crop.Name }

func (s Pages) cropPage(c *gin.Context) error {
	_, w := s.Me(c)
	return s.showCrop(c, http.StatusOK, face.BlankForm(w.Prefs))
}

func (s Pages) showCrop(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	usual, ok := crop.Of(c.Param("id"))
	if !ok || usual.ID == crop.Unknown { // of which nothing is known
		return store.ErrNotFound
	}
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	if !book.Has(usual.ID) {
		return store.ErrNotFound
	}
	x := book.Find(usual.ID)
	kin, _ := crop.Find(crop.Kin(x.ID))
	v := cropView{Crop: x, Kind: crop.Word("kind", x.Kind), Path: crops.Path(x.ID)}
	if kin.ID != x.ID {
		v.Like = say.T("of our own, like %s", say.Lower(kin.Name))
	}
	v.Germination = sums.Link("germination-time", map[string]any{"crop": kin.ID, "temperature_c": 20.0}, w.Prefs)
	if v.Plan, err = sumsview.ScheduleLink(ctx, s.Store, w, x); err != nil {
		return err
	}
	for _, k := range crop.Columns {
		if len(v.Groups) == 0 || v.Groups[len(v.Groups)-1].Name != k.Group {
			v.Groups = append(v.Groups, knownGroup{Name: k.Group})
		}
		g := &v.Groups[len(v.Groups)-1]
		one := knownOf(k, x, usual, f)
		one.Open = one.Error != "" || w.May(who.Plan) && c.Query("change") == k.Name
		g.Values = append(g.Values, one)
	}
	v.Read = w.Prefs.All(inWords(x))
	v.Warm, v.Time = warmPicture(x, w.Prefs), timePicture(x, w.Prefs)
	s.Render(c, status, "crop", "Nursery", v)
	return nil
}

func knownOf(k crop.Column, x, usual crop.Crop, f *face.Form) knownView {
	value := k.Of(x)
	v := knownView{
		FieldView: face.MakeField(f, k.Name, f.Prefs.Say(k.Label), f.Prefs.Name(k.Unit), "text", ""),
		Shown:     shownValue(k, value, f.Prefs),
		Own:       x.Own[k.Name],
		Guess:     x.Uncertain[k.Name],
	}
	for _, x := range k.Choices {
		v.Choices = append(v.Choices, face.ChoiceView{Value: x, Name: f.Prefs.Say(crop.Word(k.Name, x))})
	}
	if v.Own {
		v.Usual = shownValue(k, k.Of(usual), f.Prefs)
	}
	if _, typed := f.Values[k.Name]; !typed {
		v.Value = cropsview.TypedValue(k, value, f.Prefs)
	}
	if k.Choices == nil && (value == "yes" || value == "no") {
		v.Choices = face.ChoicesOf(f.Prefs, []ledger.Option{{Value: "yes", Name: say.Words("yes")}, {Value: "no", Name: say.Words("no")}})
	}
	if k.Name == "systems" {
		for _, one := range v.Choices {
			v.Many = append(v.Many, manyView{one, slices.Contains(strings.Fields(v.Value), one.Value)})
		}
		v.Choices = nil
	}
	if _, window := k.Measured(); window {
		low, high, _ := strings.Cut(v.Value, "-")
		ends := face.BlankForm(f.Prefs, k.Name+"_from", low, k.Name+"_to", high)
		from := face.MakeField(ends, k.Name+"_from", f.Prefs.T("from##range"), v.Unit, "", "")
		to := face.MakeField(ends, k.Name+"_to", f.Prefs.T("to##range"), v.Unit, "", "")
		v.From, v.To = &from, &to
	}
	return v
}

// together puts what is typed in several fields into the one of its column: the ends of a
// range, and several that are chosen.
func together(f *face.Form) {
	for _, k := range crop.Columns {
		if low, asked := f.Values[k.Name+"_from"]; asked {
			f.Values.Set(k.Name, strings.TrimSpace(low[0])+"-"+f.Text(k.Name+"_to"))
		}
	}
	if f.Values.Has("systems_asked") {
		f.Values.Set("systems", strings.Join(f.Values["system"], " "))
	}
}

// shownValue is a value as it is read.
func shownValue(k crop.Column, value string, p say.Reader) string {
	number, window := k.Measured()
	s := cropsview.TypedValue(k, value, p)
	low, high, _ := strings.Cut(s, "-")
	switch {
	case window:
		s = p.T("%s to %s", low, high)
	case k.Name == "systems":
		s = p.Say(say.Join(", ", crop.Words(k.Name, strings.Fields(s))...))
	case !number && k.Name != "shares" && s != "":
		s = p.Say(crop.Word(k.Name, s))
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
	together(f)
	values := cropsview.ChangedValues(f, book.Find(id))
	if f.Get("usual") != "" { // back to the catalogue's own value
		usual, _ := crop.Of(id)
		k, _ := crop.ColumnOf(f.Get("usual"))
		if values = map[string]string{}; k.Name != "" {
			values[k.Name] = k.Of(usual)
		}
	}
	err = crops.Set(ctx, s.Store, w, id, values)
	return s.Settle(c, f, err, func(status int) error { return s.showCrop(c, status, f) }, func() face.Outcome {
		o := face.Outcome{To: crops.Path(id)}
		if len(values) > 0 {
			o.Says = say.T("Saved. Your school’s values are used instead of the catalogue’s.")
		}
		return o
	})
}
