package pages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/work/harvest"
)

// harvestView is what is ready, what comes, and what was harvested.
type harvestView struct {
	Lines   []harvestLine
	Spoiled []harvestLine
	Done    []harvestDone
	Total   string
	Ready   int
}

func (harvestView) Title() say.Text { return say.T("Harvest") }

// harvestLine is a batch that is ready or will be.
type harvestLine struct {
	Code, Path, Crop, Variety, Says, Due, Mark string
}

// harvestDone is a harvest that was written down.
type harvestDone struct{ Day, Code, Crop, Weight, How, Person string }

func (s Pages) harvestPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	o, err := harvest.ReadOverview(ctx, s.Store, w)
	if err != nil {
		return err
	}
	var v harvestView
	p := w.Prefs
	for _, l := range o.Spoiled {
		v.Spoiled = append(v.Spoiled, harvestLine{Code: l.Code, Path: "/batches/" + l.ID.String(), Crop: p.Say(l.Crop.Name), Variety: l.Variety})
	}
	for _, l := range o.Lines {
		x := harvestLine{
			Code:    l.Code,
			Path:    "/batches/" + l.ID.String(),
			Crop:    p.Say(l.Crop.Name),
			Variety: l.Variety,
			Says:    p.T("%d growing", l.InPorts()+l.InStands()),
			Mark:    "none",
		}
		until := say.Plural(int(l.Due-o.Today), "day")
		switch ready := o.Today >= l.Due; {
		case !l.Crop.Eaten() && l.Crop.Kind != "flower":
			x.Due = p.T("not food")
		case l.Crop.Kind == "flower" && ready:
			x.Due = p.T("in flower")
		case l.Crop.Kind == "flower":
			x.Due = p.T("in flower in about %s", until)
		case ready && l.State.Taken > 0 && !l.Crop.Cuts:
			x.Due, x.Mark = p.T("ready still, %s left", say.Plural(l.InPorts()+l.InStands(), "plant")), "today"
		case ready && l.Cut > 0:
			x.Due, x.Mark = p.T("ready again, last cut %s", l.Cut.Short()), "today"
		case ready:
			x.Due, x.Mark = p.T("ready, day %d", int(o.Today-l.Sown)), "today"
		case l.Cut > 0:
			x.Due = p.T("again in about %s", until)
		default:
			x.Due = p.T("in about %s", until)
		}
		if x.Mark == "today" {
			v.Ready++
		}
		v.Lines = append(v.Lines, x)
	}
	total := 0.0
	for _, d := range o.Done {
		how := p.T("cut")
		if d.Whole {
			how = p.T("whole")
		}
		total += d.Grams
		v.Done = append(v.Done, harvestDone{p.Say(w.Day(d.At).Long()), d.Code, p.Say(d.Crop.Name), w.Prefs.Format(d.Grams, unit.Gram), how, d.Person})
	}
	v.Total = w.Prefs.Format(total, unit.Gram)
	s.Render(c, http.StatusOK, "harvest", "Harvest", v)
	return nil
}
