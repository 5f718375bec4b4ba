package pages

import (
	"slices"

	"github.com/gin-gonic/gin"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/sprout"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/sprouts"
)

func (s Pages) tend(c *gin.Context) error {
	return s.actOnBatch(c, "tend", "Written down.", func(f *face.Form, act ledger.Act, w who.Who) error {
		did := f.Values["did"]
		if f.Any() {
			return nil
		}
		r := sprouts.TendRequest{ID: act.ID, Batch: act.On, Did: did, At: act.At, Sure: f.Get("sure") != ""}
		return sprouts.Tend(c.Request.Context(), s.Store, w, r)
	})
}

// tendView is what can be done to sprouts or to plants, the due things ticked.
type tendView struct {
	Plants   bool
	Form     *face.Form
	Choices  []face.TickView
	Cautions []string
}

func tendOf(b batches.Batch, p say.Reader) *tendView {
	if b.Closed || b.State.Standing() == 0 {
		return nil
	}
	v := &tendView{Form: face.BlankForm(p), Plants: b.State.Start != batch.Soaked}
	if !v.Plants {
		v.Cautions = p.All(sprout.Cautions)
	}
	way := sprout.WayOf(b.Crop)
	for _, t := range batch.Tendings {
		if t.Plants != v.Plants || t.ID == batch.Watered && way.WaterDays == 0 || t.ID == batch.Lit && way.LightDay == 0 {
			continue
		}
		on := t.ID == batch.Rinsed && slices.Contains(b.Due, sprout.Job(t.ID)) // the others are ticked when they were done
		v.Choices = append(v.Choices, face.TickView{ID: t.ID, Name: p.Say(say.Capital(t.Name)), On: on})
	}
	return v
}
