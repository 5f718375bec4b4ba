package pages

import (
	"context"
	"strconv"

	"github.com/gin-gonic/gin"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/season"
)

// planSowing writes down a sowing that a sum has worked out.
func (s Pages) planSowing(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	p := season.Planned{ID: f.ID("id"), Crop: f.Get("crop"), Wanted: f.Int("wanted", 0)}
	for name, at := range map[string]*calendar.Day{"sow_on": &p.SowOn, "ready_by": &p.ReadyBy} {
		if d, err := calendar.ParseDay(f.Get(name)); err == nil {
			*at = d
		}
	}
	if err := season.Plan(ctx, s.Store, w, p); err != nil {
		return err
	}
	return s.Lead(c, face.Outcome{
		Says: say.T("Planned: the round will ask for it on %s.", p.SowOn.Long()), Back: face.BackTo("/planned/" + p.ID.String() + "/drop"), To: "/nursery",
	})
}

// dropPlanned takes a planned sowing back.
func (s Pages) dropPlanned(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	list, err := season.Plans(ctx, s.Store, w)
	if err == nil {
		err = season.Drop(ctx, s.Store, w, id)
	}
	if err != nil {
		return err
	}
	done := face.Outcome{Says: say.T("Taken off the plan."), To: "/nursery"}
	for _, p := range list {
		if p.ID == id && !p.OfGoal {
			done.Back = face.BackTo("/planned", "crop", p.Crop, "wanted", strconv.Itoa(p.Wanted),
				"sow_on", p.SowOn.String(), "ready_by", p.ReadyBy.String())
		}
	}
	return s.Lead(c, done)
}

// plannedView is a sowing to come, in the nursery's list.
type plannedView struct{ Says, When, Path, Drop string }

func (s Pages) plannedViews(ctx context.Context, w who.Who) (out []plannedView, err error) {
	list, err := season.Plans(ctx, s.Store, w)
	if err != nil {
		return nil, err
	}
	book, err := crops.Get(ctx, s.Store, w)
	for _, p := range list {
		out = append(out, plannedView{
			Says: w.Prefs.T("%s, %d wanted by %s", book.Find(p.Crop).Name, p.Wanted, p.ReadyBy.Short()), When: w.Prefs.Say(p.SowOn.Short()),
			Path: "/sow?planned=" + p.ID.String(), Drop: "/planned/" + p.ID.String() + "/drop",
		})
	}
	return out, err
}
