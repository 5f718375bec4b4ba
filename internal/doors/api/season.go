package api

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/who"
	"ulpa/internal/work/goals"
)

type seasonOut struct {
	Plan    string          `json:"plan" jsonschema_description:"its tag, needed to save it"`
	Cost    float64         `json:"cost"`
	Bound   float64         `json:"bound" jsonschema_description:"no plan can cost less"`
	Gap     float64         `json:"gap"`
	Changes []string        `json:"changes" jsonschema_description:"what it would change in the saved plan"`
	Goals   []seasonGoalOut `json:"goals"`
}

type seasonGoalOut struct {
	Goal    uuid.UUID        `json:"goal"`
	Name    string           `json:"name"`
	Batches []seasonBatchOut `json:"batches"`
}

type seasonBatchOut struct {
	ID     uuid.UUID     `json:"id" jsonschema_description:"of its planned sowing, once it is saved"`
	Plants int           `json:"plants"`
	Cells  int           `json:"cells" jsonschema_description:"to sow"`
	Seeds  int           `json:"seeds_per_cell"`
	From   calendar.Day  `json:"ready_from"`
	By     calendar.Day  `json:"ready_by"`
	Ready  *calendar.Day `json:"ready,omitempty"`
	Short  int           `json:"short_days,omitempty" jsonschema_description:"so many fewer than its certainty asks for"`
	Sown   bool          `json:"sown,omitempty"`
	Why    string        `json:"why,omitempty" jsonschema_description:"why it cannot be: impossible, not_worth or crowded_out"`
	Moves  []plan.Placed `json:"moves" jsonschema_description:"stages: tray, pot, harden and last"`
	Ways   []wayOut      `json:"ways,omitempty" jsonschema_description:"out of its not being grown, the cheapest first; choose one by its kind at /season/wish"`
}

// wayOut is how a batch that cannot be grown as it is wanted could be.
type wayOut struct {
	Kind    string        `json:"kind" jsonschema:"enum=later,enum=earlier,enum=fewer,enum=wait,enum=open,enum=other"`
	Days    int           `json:"days,omitempty" jsonschema_description:"by which it is later or earlier, or waits longer"`
	Stage   string        `json:"stage,omitempty" jsonschema_description:"that waits longer"`
	Plants  int           `json:"plants,omitempty" jsonschema_description:"that there are then, of it or of the other"`
	Fewer   int           `json:"fewer,omitempty" jsonschema_description:"than were wanted"`
	Batch   *uuid.UUID    `json:"batch,omitempty" jsonschema_description:"the other one, which makes room"`
	Open    *calendar.Day `json:"open,omitempty" jsonschema_description:"on which somebody comes"`
	Minutes float64       `json:"minutes,omitempty" jsonschema_description:"for so long"`
	Cost    float64       `json:"cost"`
}

func waysOf(o goals.Outlook, id uuid.UUID) (out []wayOut) {
	for _, w := range o.Ways(id) {
		x := wayOut{Kind: w.Kind, Days: w.Days, Stage: w.Stage, Plants: w.Plants, Fewer: w.Fewer, Minutes: w.Minutes, Cost: w.Cost}
		if w.Open != 0 {
			x.Open = &w.Open
		}
		if w.Batch.ID != uuid.Nil {
			x.Batch = &w.Batch.ID
		}
		out = append(out, x)
	}
	return out
}

type keepIn struct {
	Plan string `json:"plan" jsonschema_description:"the tag of the plan as it was read"`
}

type wishIn struct {
	Batch uuid.UUID     `json:"batch"`
	Act   string        `json:"act" jsonschema_description:"pin, not, free, skip, or the kind of a way out: later, earlier, fewer, wait, open or other"`
	Stage string        `json:"stage,omitempty" jsonschema_description:"tray, pot, last or ready; with free and without this, all wishes are removed"`
	On    *calendar.Day `json:"on,omitempty"`
	Place string        `json:"place,omitempty"`
}

// wish says something of one batch of the plan; nothing moves before the plan is kept.
func wish(c *call) (any, error) {
	var in wishIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	switch in.Act {
	case "pin", "not":
		p := plan.Pin{Stage: in.Stage, Place: in.Place, Not: in.Act == "not"}
		if in.On != nil {
			p.Day = *in.On
		}
		return nil, goals.Say(c.ctx, c.Store, c.w, in.Batch, p)
	case "free":
		return nil, goals.Free(c.ctx, c.Store, c.w, in.Batch, in.Stage)
	case "skip":
		return nil, goals.Skip(c.ctx, c.Store, c.w, in.Batch)
	}
	return nil, goals.Go(c.ctx, c.Store, c.w, in.Batch, in.Act)
}

func readSeason(c *call) (any, error) {
	o, err := goals.Look(c.ctx, c.Store, c.w)
	if err != nil {
		return nil, err
	}
	out := seasonOut{Plan: o.Tag, Cost: o.Cost, Bound: o.Bound, Gap: o.Gap, Changes: []string{}, Goals: []seasonGoalOut{}}
	out.Changes = append(out.Changes, c.w.Prefs.All(o.Changes)...)
	for _, l := range o.Lines {
		g := seasonGoalOut{l.Goal.ID, l.Goal.Name, []seasonBatchOut{}}
		for _, b := range l.Batches {
			x := seasonBatchOut{
				ID: b.ID, Plants: b.Plants, Cells: b.Cells, Seeds: b.Seeds / max(1, b.Cells), From: b.From, By: b.By, Short: b.Short, Sown: b.Sown, Why: b.Why,
				Moves: []plan.Placed{}, Ways: waysOf(o, b.ID),
			}
			if b.Ready > 0 {
				x.Ready = &b.Ready
			}
			x.Moves = append(x.Moves, b.Moves...)
			g.Batches = append(g.Batches, x)
		}
		out.Goals = append(out.Goals, g)
	}
	return out, nil
}

// calendar is the plan for whoever subscribes to it: the address is the secret, and is
// withdrawn as a key is. Whatever key does not open it has no calendar at all.
func (s School) calendar(c *gin.Context) {
	key, ok := strings.CutSuffix(c.Param("file"), ".ics")
	w, err := s.holder(c.Request.Context(), "Bearer "+key)
	if !ok || err != nil || w.Scope != who.ScopeCalendar {
		c.String(http.StatusNotFound, "There is no calendar here.\n")
		return
	}
	ctx, done, err := bound.Plans.Enter(c.Request.Context(), bound.Asker{School: w.School, Person: w.Person})
	if err != nil {
		s.refuse(c, err)
		return
	}
	defer done()
	text, err := goals.ICalendar(ctx, s.Store, w, s.Address(c))
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Header("Cache-Control", "private, max-age=900")
	c.Data(http.StatusOK, "text/calendar; charset=utf-8", []byte(text))
}
