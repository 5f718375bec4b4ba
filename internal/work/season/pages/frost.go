package pages

import (
	"errors"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"ulpa/core/climate"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/season"
)

// frostView is when crops may stand outside, by the nights of a station and by a chart.
type frostView struct {
	Form    *face.Form
	Lead    string
	Station string
	Rule    cold.Rule
	Percent string
	Crops   []outView
	Kinds   []kindView
	Table   *tableView // a file that is looked at, before its nights are kept
	May     bool
}

// outView is when a crop may go out, by risk and by the chart.
type outView struct{ Name, Kind, ByRisk, ByChart, In, Path string }

// kindView is the dates for a sort of plant.
type kindView struct{ Name, Says string }

// tableView is a file with the columns that may be chosen.
type tableView struct {
	Head     []string
	Rows     [][]string
	Day, Low int
	Unit     string
	Text     string
	Says     string
}

func (frostView) Title() say.Text { return say.T("Frost") }

func (s Pages) frostPage(c *gin.Context) error {
	return s.showFrost(c, http.StatusOK, face.FormOf(nil, s.Reader(c)), nil)
}

func (s Pages) showFrost(c *gin.Context, status int, f *face.Form, table *tableView) error {
	ctx, w := s.Me(c)
	st, frosts, err := season.LookAtFrost(ctx, s.Store, w)
	if err != nil {
		return err
	}
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	r, today := w.Prefs, w.Day(s.Store.Now())
	v := frostView{Form: f, Rule: st.Rule, Percent: r.Decimal("%.0f", 100*st.Rule.Risk), Table: table, May: w.Must(who.Settings) == nil}
	v.Lead = r.T("No weather station’s nights have been entered yet, so no day is known to be safe.")
	if n := len(st.Nights); n > 0 {
		v.Station = r.T("%s: %s, %s to %s", say.Name(st.Name), say.Plural(n, "night"), say.Date(st.Nights[0].Day.UTC(), "2 Jan 2006"),
			say.Date(st.Nights[n-1].Day.UTC(), "2 Jan 2006"))
		v.Lead = r.T("If you plant out on its day, frost meets it in %s of a hundred years.", say.Name(v.Percent))
	}
	for _, t := range []crop.Tender{crop.TenderCrop, crop.HalfHardy, crop.Hardy} {
		x, ok := frosts.By[t]
		if !ok {
			continue
		}
		k := kindView{Name: r.Say(crop.Word("tender", string(t)))}
		share, _ := frosts.Still(t, today)
		k.Says = r.T("frost harms it at %s; in %.0f of %d springs such a night still came",
			say.Of(cold.Thresholds[t], unit.Celsius), share*float64(x.Spring.Years), x.Spring.Years)
		v.Kinds = append(v.Kinds, k)
	}
	for _, cr := range book.Listed(r) {
		if !cr.Suits("bed") {
			continue
		}
		o := outView{Name: r.Say(cr.Name), Kind: r.Say(crop.Word("tender", string(cr.Tender))), Path: crops.Path(cr.ID)}
		near := frosts.Spring(today)
		if frosts.NeverOut(cr) {
			o.ByRisk = r.T("under cover only")
			v.Crops = append(v.Crops, o)
			continue
		}
		if cr.Autumn {
			o.ByRisk, o.ByChart = r.T("in autumn"), r.T("in autumn")
			v.Crops = append(v.Crops, o)
			continue
		}
		if d, ok := frosts.SafeByRisk(cr, near); ok {
			o.ByRisk = r.Say(say.Date(d.UTC(), "2 Jan"))
		}
		if d, ok := frosts.SafeByChart(cr, near); ok {
			o.ByChart = r.Say(say.Date(d.UTC(), "2 Jan"))
		}
		if d, ok := frosts.InBy(cr, near+180); ok {
			o.In = r.Say(say.Date(d.UTC(), "2 Jan"))
		}
		if o.ByRisk != "" || o.ByChart != "" {
			v.Crops = append(v.Crops, o)
		}
	}
	s.Render(c, status, "frost", "Season", v)
	return nil
}

// readStation looks at a file, or, once its columns are chosen, keeps its nights.
func (s Pages) readStation(c *gin.Context) error {
	ctx, w := s.Me(c)
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	f, text, err := face.ReadFile(c, w.Prefs, climate.MaxStationFile)
	if err != nil {
		return err
	}
	refuse := func(err error, table *tableView) error {
		var wrong field.Errors
		if !errors.As(err, &wrong) {
			return err
		}
		f.Refuse(err)
		return s.showFrost(c, http.StatusUnprocessableEntity, f, table)
	}
	if len(text) > climate.MaxStationFile {
		return refuse(field.Refuse("text", "is larger than 4 MB"), nil)
	}
	t, err := climate.ReadTable(text)
	if err != nil {
		return refuse(err, nil)
	}
	view := tableOf(t, text, f, w.Prefs)
	if f.Get("low") == "" { // looked at first
		return s.showFrost(c, http.StatusOK, f, view)
	}
	nights, err := t.Nights(view.Day, view.Low, view.Unit)
	if err != nil {
		return refuse(err, view)
	}
	err = season.PutStation(ctx, s.Store, w, f.Text("name"), nights)
	return s.Settle(c, f, err, func(status int) error { return s.showFrost(c, status, f, view) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Saved: %s.", say.Plural(len(nights), "night")), To: "/season/frost"}
	})
}

// tableOf is a file with its columns as they were chosen, else as they are guessed.
func tableOf(t climate.Table, text string, f *face.Form, r say.Reader) *tableView {
	v := &tableView{Head: t.Head, Rows: t.Rows[:min(5, len(t.Rows))], Text: text, Says: r.T("%s, of which the first are:", say.Plural(len(t.Rows), "line"))}
	v.Day, v.Low, v.Unit = t.Guess()
	if f.Get("low") != "" {
		v.Day, v.Low, v.Unit = column(f.Get("day")), column(f.Get("low")), f.Get("unit")
	}
	return v
}

// column is a column's number as it was sent, −1 for none.
func column(s string) int {
	if n, err := strconv.Atoi(s); err == nil {
		return n
	}
	return -1
}

// UnitNames are the units a file's lows can be in.
func (tableView) UnitNames() []unitName {
	return []unitName{{climate.Celsius, "°C"}, {climate.TenthCelsius, "0.1 °C"}, {climate.Fahrenheit, "°F"}}
}

// unitName is a unit in which a station gives temperatures.
type unitName struct{ Key, Name string }

func (s Pages) setFrost(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	rule := cold.Rule{Way: f.Get("way"), LastFrost: f.Text("last_frost"), Leeway: f.Int("leeway", -1)}
	if p := f.Number("risk", "%"); p != nil {
		rule.Risk = *p / 100
	}
	err := season.SetFrostRule(ctx, s.Store, w, rule)
	return s.Settle(c, f, err, func(status int) error { return s.showFrost(c, status, f, nil) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Saved. The season is worked out with it from now on."), To: "/season/frost"}
	})
}
