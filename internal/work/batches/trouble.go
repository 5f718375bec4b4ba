package batches

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/trouble"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// Ailment is what somebody saw of a batch, and what it was taken for.
type Ailment struct {
	Sign  string `json:"sign"`
	Cause string `json:"cause"`
}

// Ailed is written down when a guess of the guide was taken.
var Ailed = ledger.Declare(ledger.Kind[Ailment]{Name: "ailment", Says: func(a Ailment) say.Text {
	return say.T("Saw: %s. Likely cause: %s", signWords(a.Sign), causeWords(a.Cause))
}})

func signWords(id string) say.Text {
	for _, s := range trouble.Signs {
		if s.ID == id {
			return s.Name
		}
	}
	return say.T("something the guide does not know")
}

func causeWords(id string) say.Text {
	for _, c := range trouble.Causes {
		if c.ID == id {
			return c.Name
		}
	}
	return say.T("nothing the guide knows")
}

// NoteAilment writes down what was seen, and what it was taken for.
func NoteAilment(ctx context.Context, s *store.Store, w who.Who, r ledger.Act, a Ailment) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	var e field.Errors
	e.Require(a.Sign == trouble.None || slices.ContainsFunc(trouble.Signs, func(x trouble.Sign) bool { return x.ID == a.Sign }), "sign", "must be one of these")
	e.Require(a.Cause == trouble.None || slices.ContainsFunc(trouble.Causes, func(x trouble.Cause) bool { return x.ID == a.Cause }), "cause",
		"must be one of these")
	if err := e.Err(); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "nursery.NoteAilment", What: []any{r.On, a, r.At}}, func(tx *store.Tx) error {
		b, err := get(ctx, tx, r.On)
		if err != nil {
			return err
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{
			ID: r.ID, Kind: Ailed.Name, HappenedAt: r.At, About: []uuid.UUID{r.On}, Data: a, Names: b.Code + " " + b.Crop.ID,
		})
		return err
	})
}

// recentNights is how many nights back the coldest tells of damage.
const recentNights = 7

// KnownOf is what the books know of a batch that may tell what ails it.
func KnownOf(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (b Batch, k trouble.Known, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		if b, err = get(ctx, tx, id); err != nil {
			return err
		}
		k, err = known(ctx, tx, b)
		return err
	})
	return b, k, err
}

func known(ctx context.Context, tx *store.Tx, b Batch) (trouble.Known, error) {
	k := trouble.Known{AgeDays: int(b.Today - b.Sown), WarmC: &b.TempC, CutsBack: b.Crop.CutsBack()}
	if b.State.InTrays() > 0 && b.Verdict.Word == ready.Late {
		k.DaysLate = -b.Verdict.DaysLeft(b.Today)
	}
	trays, err := tx.ListTrays(ctx)
	if err != nil {
		return k, err
	}
	for _, t := range trays {
		k.NoHoles = k.NoHoles || !t.Drains && slices.ContainsFunc(b.Cells, func(c Cell) bool { return c.TrayID == t.ID })
	}
	for _, x := range b.Stands {
		k.Outside = k.Outside || x.Kind == "frame" || x.Kind == "bed"
	}
	if k.Outside {
		nights, err := tx.RecentNights(ctx, (b.Today - recentNights).UTC())
		if err != nil {
			return k, err
		}
		for _, n := range nights {
			low := n.MinC
			if n.SiteC != nil {
				low = *n.SiteC
			}
			if !n.Day.After(b.Today.UTC()) && (k.ColdNight == nil || low < *k.ColdNight) {
				k.ColdNight = &low
			}
		}
	}
	if len(b.Ports) > 0 {
		k.InWater = true
		port := b.Ports[0]
		p, err := site.GetPlace(ctx, tx, port.PlaceID)
		if err != nil {
			return k, err
		}
		tanks, err := ledger.TanksOfPlace(ctx, tx, p.ID)
		if err != nil {
			return k, err
		}
		for _, t := range tanks { // a jar serves its own port, any other tank all of them
			serves := !t.Spec.Passive || t.Position == p.PortNumber(port.Tier, port.Col)
			if serves && (t.State.PH != nil || t.State.ECMS != nil) {
				k.PH, k.ECMS, k.WaterC = t.State.PH, t.State.ECMS, t.State.TempC
				k.PHHigh, k.ECLow, k.ECHigh = t.Spec.PHHigh, t.Spec.ECLow, t.Spec.ECHigh
				break
			}
		}
	}
	return k, nil
}
