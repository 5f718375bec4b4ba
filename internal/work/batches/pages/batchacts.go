package pages

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	cropsview "ulpa/internal/work/crops/view"
	"ulpa/internal/work/harvest"
)

// actOnBatch is what every form of the batch page does: read, ask the verb, say so.
func (s Pages) actOnBatch(c *gin.Context, which string, said say.Words, do func(*face.Form, ledger.Act, who.Who) error) error {
	_, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	if !f.Any() {
		err = do(f, act, w)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showBatch(c, status, which, f) },
		func() face.Outcome { return face.Outcome{Says: said, Undo: act.ID, To: "/batches/" + act.On.String()} })
}

func (s Pages) look(c *gin.Context) error {
	return s.actOnBatch(c, "look", "Saved what you saw.", func(f *face.Form, act ledger.Act, w who.Who) error {
		seen := face.Entered(f, batches.Looked)
		if f.Any() {
			return nil
		}
		x := batches.Looks{Leaves: seen.Leaves, HeightCM: seen.HeightCM, Roots: seen.Roots}
		return batches.Look(c.Request.Context(), s.Store, w, act, x)
	})
}

func (s Pages) closeBatch(c *gin.Context) error {
	return s.actOnBatch(c, "close", "Closed. Its results stay here, and its tray is free.", func(f *face.Form, act ledger.Act, w who.Who) error {
		return batches.Close(c.Request.Context(), s.Store, w, act)
	})
}

func (s Pages) lose(c *gin.Context) error {
	return s.actOnBatch(c, "lose", "Written down.", func(f *face.Form, act ledger.Act, w who.Who) error {
		from, lost := takenFrom(f), face.Entered(f, batches.LostSome)
		if f.Any() {
			return nil
		}
		return batches.Lose(c.Request.Context(), s.Store, w, act, from, batch.CauseOf(string(lost.Cause)))
	})
}

func (s Pages) handOver(c *gin.Context) error {
	return s.actOnBatch(c, "hand-over", "Written down.", func(f *face.Form, act ledger.Act, w who.Who) error {
		from, handed := takenFrom(f), face.Entered(f, batches.HandedOver)
		if f.Any() {
			return nil
		}
		return batches.HandOver(c.Request.Context(), s.Store, w, act, from, handed.Way)
	})
}

func (s Pages) harvest(c *gin.Context) error {
	return s.actOnBatch(c, "harvest", "Harvest saved.", func(f *face.Form, act ledger.Act, w who.Who) error {
		r := harvest.Request{ID: act.ID, Batch: act.On, Grams: face.Entered(f, harvest.Harvested).Grams, At: act.At}
		if kind, place, ok := strings.Cut(f.Get("where"), ":"); ok {
			place, _ = batch.SplitStand(place)
			if p, err := uuid.Parse(place); err == nil && kind != "cell" {
				r.Place = &p
			}
		}
		if f.Get("how") == "whole" {
			r.From = takenFrom(f)
		}
		if f.Any() {
			return nil
		}
		r.Sure = f.Get("sure") != ""
		return harvest.Weigh(c.Request.Context(), s.Store, w, r)
	})
}

// describe changes what a batch is for.
func (s Pages) describe(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	b, err := batches.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	d := batches.Described{Batch: id, Purpose: f.Text("purpose"), Wanted: f.Int("wanted", 0)}
	if f.Text("ready_by") != "" {
		day := f.Day("ready_by").UTC()
		d.ReadyBy = &day
	}
	if f.Get("planned") != "" {
		d.Planned = f.ID("planned")
	}
	if b.LotID == uuid.Nil && f.Get("crop") != "" {
		d.Crop, d.Variety = f.Get("crop"), cmp.Or(f.Text("variety"), w.Prefs.T("variety unknown"))
	}
	like, err := batches.PlannedLike(ctx, s.Store, w, b)
	if err != nil {
		return err
	}
	if !f.Any() {
		err = batches.Describe(ctx, s.Store, w, d)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showBatch(c, status, "describe", f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Saved."), Back: face.BackTo("/batches/"+id.String()+"/describe", describedAs(b, like)...), To: "/batches/" + id.String()}
	})
}

// describedAs is what a batch is for, as the form has it.
func describedAs(b batches.Batch, like []batches.Planned) []string {
	pairs := []string{"purpose", b.Purpose, "wanted", strconv.Itoa(b.Wanted)}
	if b.LotID == uuid.Nil {
		pairs = append(pairs, "crop", b.Crop.ID, "variety", b.Variety)
	}
	if b.ReadyBy != nil {
		pairs = append(pairs, "ready_by", b.ReadyBy.Format(time.DateOnly))
	}
	for _, p := range like {
		if p.Mine {
			pairs = append(pairs, "planned", p.ID.String())
		}
	}
	return pairs
}

// takenFrom reads "so many from there", or which ports.
func takenFrom(f *face.Form) (from []batch.Spot) {
	kind, place, _ := strings.Cut(f.Get("where"), ":")
	at := batch.Spot{Kind: batch.SpotKind(kind), N: f.Int("plants", 0)}
	at.In, at.Pot = batch.SplitStand(place)
	switch {
	case at.Kind != batch.InStand && at.Kind != batch.InPort && at.Kind != batch.InCell:
		f.Wrong("where", "choose where they were")
	case at.N < 1:
		f.Wrong("plants", "enter how many plants")
	case at.Kind == batch.InPort && f.Text("ports") != "":
		for _, x := range f.Cells("ports", 60, 60) {
			from = append(from, batch.Spot{Kind: batch.InPort, In: place, Row: x.Row, Col: x.Col})
		}
	default:
		from = append(from, at)
	}
	return from
}

// ruleColumns are the values of a crop that say when it may move on.
var ruleColumns = []string{"ready_leaves", "ready_height_cm", "ready_age", "nursery_hold", "ready_every"}

func ruleValues(x crop.Crop, p say.Reader) (pairs []string) {
	for _, name := range ruleColumns {
		k, _ := crop.ColumnOf(name)
		pairs = append(pairs, name, cropsview.TypedValue(k, k.Of(x), p))
	}
	return pairs
}

func ownRule(x crop.Crop) bool {
	return slices.ContainsFunc(ruleColumns, func(name string) bool { return x.Own[name] })
}

func (s Pages) setRule(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	b, err := batches.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	err = crops.Set(ctx, s.Store, w, b.Crop.ID, cropsview.ChangedValues(f, b.Crop))
	return s.Settle(c, f, err, func(status int) error { return s.showBatch(c, status, "rule", f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("From now on %s uses this rule.", say.Lower(b.Crop.Name)), To: "/batches/" + id.String()}
	})
}
