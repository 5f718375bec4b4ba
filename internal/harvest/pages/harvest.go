package pages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/harvest"
)

type harvestView struct {
	Lines []harvestLine
	Done  []harvestDone
	Total string
	Ready int
}

func (harvestView) Title() string { return "Harvest" }

type harvestLine struct {
	Code, Path, Crop, Variety, Says, Due, Mark string
}

type harvestDone struct{ Day, Code, Crop, Weight, How, Person string }

func (s Pages) harvestPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	o, err := harvest.ReadOverview(ctx, s.Store, w)
	if err != nil {
		return err
	}
	var v harvestView
	for _, l := range o.Lines {
		x := harvestLine{Code: l.Code, Path: "/batches/" + l.ID.String(), Crop: l.Crop.Name, Variety: l.Variety, Says: fmt.Sprintf("%d standing", l.InPorts()+l.InStands()), Mark: "none"}
		in := "in about " + say.Plural(int(l.Due-o.Today), "day")
		switch ready := o.Today >= l.Due; {
		case l.Crop.Kind == "flower" && ready:
			x.Due = "in flower"
		case l.Crop.Kind == "flower":
			x.Due = "in flower " + in
		case ready && l.State.Taken > 0 && !l.Crop.Cuts:
			x.Due, x.Mark = "ready still, "+say.Plural(l.InPorts()+l.InStands(), "plant")+" left", "today"
		case ready && l.Cut > 0:
			x.Due, x.Mark = "ready again, last cut "+l.Cut.Short(), "today"
		case ready:
			x.Due, x.Mark = fmt.Sprintf("ready, day %d", o.Today-l.Sown), "today"
		case l.Cut > 0:
			x.Due = "again " + in
		default:
			x.Due = in
		}
		if x.Mark == "today" {
			v.Ready++
		}
		v.Lines = append(v.Lines, x)
	}
	total := 0.0
	for _, d := range o.Done {
		how := "cut"
		if d.Whole {
			how = "whole"
		}
		total += d.Grams
		v.Done = append(v.Done, harvestDone{w.Day(d.At).Long(), d.Code, d.Crop.Name, w.Prefs.Format(d.Grams, unit.Gram), how, d.Person})
	}
	v.Total = w.Prefs.Format(total, unit.Gram)
	s.Render(c, http.StatusOK, "harvest", "Harvest", v)
	return nil
}
