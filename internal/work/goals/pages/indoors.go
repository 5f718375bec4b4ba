package pages

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/goals"
)

// indoorsView is when to begin what indoors, as a table to print.
type indoorsView struct {
	Lead  string
	Lines []beginView
	Frost bool // no frost was entered
}

// beginView is a crop with the days on which something is done to it.
type beginView struct {
	Crop, Path, Varieties   string
	Sow, Until              string
	Harden, Out, Pick, Note string
	Now                     bool
	Kept                    bool // under cover only
}

func (indoorsView) Title() say.Text { return say.T("When to start what indoors") }

func (s Pages) indoors(c *gin.Context) error {
	ctx, w := s.Me(c)
	list, today, err := goals.IndoorTable(ctx, s.Store, w)
	if err != nil {
		return err
	}
	r, v := w.Prefs, indoorsView{}
	now := 0
	for _, b := range list {
		x := beginView{Crop: r.Say(b.Crop.Name), Path: crops.Path(b.Crop.ID), Varieties: strings.Join(b.Varieties, ", "), Kept: b.Kept}
		if b.Kept {
			x.Note = r.T("under cover only: no night here is safe for it")
		} else if !b.Told {
			v.Frost = true
			continue
		} else {
			x.days(b, today, r)
		}
		if x.Now {
			now++
		}
		v.Lines = append(v.Lines, x)
	}
	switch {
	case len(list) == 0:
		v.Lead = r.T("No packet on the shelf is of a crop for outdoors.")
	case v.Frost && len(v.Lines) == 0:
		v.Lead = r.T("Enter the last frost, or a weather station’s nights: then every crop has its day.")
	case now > 0:
		v.Lead = r.T("It is time to start %s, of the %s there is seed of.", say.Plural(now, "crop"), say.Plural(len(v.Lines), "crop"))
	default:
		v.Lead = r.T("Nothing has to be started now, of the %s there is seed of.", say.Plural(len(v.Lines), "crop"))
	}
	s.Render(c, http.StatusOK, "indoors", "Season", v)
	return nil
}

func (x *beginView) days(b goals.Begun, today calendar.Day, r say.Reader) {
	day := func(d calendar.Day) string {
		if d.UTC().Year() != today.UTC().Year() {
			return r.Say(say.Date(d.UTC(), "2 Jan 2006"))
		}
		return r.Say(say.Date(d.UTC(), "2 Jan"))
	}
	x.Sow, x.Harden, x.Out, x.Pick, x.Until = day(b.Sow), day(b.Harden), day(b.Out), day(b.Harvest), day(b.Until)
	x.Now = b.Due(today)
	switch {
	case b.Crop.InPlace:
		x.Sow, x.Harden, x.Note = "", "", r.T("sow it outside, where it stays")
	case b.Past(today):
		x.Note = r.T("if you sow today")
		x.Harden, x.Out, x.Pick = day(b.Today.Harden), day(b.Today.Out), day(b.Today.Harvest)
	}
}
