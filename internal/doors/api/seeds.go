package api

import (
	"net/http"
	"time"

	"github.com/google/uuid"

	"ulpa/core/seed"
	"ulpa/internal/work/seeds"
)

// knownOut is what a school thinks of a packet of seed, and by what.
type knownOut struct {
	Lot     uuid.UUID  `json:"lot"`
	Advice  string     `json:"advice" jsonschema:"enum=throw,enum=test,enum=first,enum=buy,enum=keeps,enum=second,enum="`
	Lots    chanceOut  `json:"this_lot"`
	Variety chanceOut  `json:"variety"`
	Crop    chanceOut  `json:"crop"`
	Tests   []testOut  `json:"tests"`
	Sown    []sownFrom `json:"sown"`
}

type chanceOut struct {
	Mean  float64 `json:"mean" jsonschema_description:"the share of seeds that germinate"`
	Low   float64 `json:"low" jsonschema_description:"of 95 %"`
	High  float64 `json:"high"`
	Rests float64 `json:"rests_on_seeds" jsonschema_description:"seeds that were tested; older tests count less"`
}

func chanceOf(l seed.Learned) chanceOut {
	low, high := l.Between(0.95)
	return chanceOut{l.Mean(), low, high, l.Rests}
}

type testOut struct {
	ID    uuid.UUID  `json:"id"`
	At    time.Time  `json:"at"`
	Seeds int        `json:"seeds"`
	On    string     `json:"on"`
	Light string     `json:"light"`
	TempC *float64   `json:"temp_c,omitempty"`
	Came  int        `json:"came"`
	Bad   int        `json:"bad"`
	Over  bool       `json:"over"`
	Batch *uuid.UUID `json:"batch,omitempty" jsonschema_description:"what its seedlings became"`
}

type sownFrom struct {
	Batch uuid.UUID `json:"batch"`
	Code  string    `json:"code"`
	At    time.Time `json:"at"`
	Cells int       `json:"cells"`
	Came  int       `json:"came"`
	Seeds int       `json:"seeds"`
}

func knownOf(o seeds.One) knownOut {
	out := knownOut{
		Lot: o.ID, Advice: o.Advice, Lots: chanceOf(o.Own), Variety: chanceOf(o.OfVariety), Crop: chanceOf(o.OfCrop), Tests: []testOut{}, Sown: []sownFrom{},
	}
	for _, t := range o.Tests {
		out.Tests = append(out.Tests, testOut{t.Test, t.At, t.Seeds, t.On, t.Light, t.TempC, t.Came, t.Bad, t.Over, t.Batch})
	}
	for _, x := range o.Sowings {
		out.Sown = append(out.Sown, sownFrom{x.Batch, x.Code, x.At, x.Cells, x.Came, x.Seeds})
	}
	return out
}

type newTestIn struct {
	done
	Seeds int        `json:"seeds"`
	On    string     `json:"on" jsonschema:"enum=paper,enum=bag,enum=tray"`
	Light string     `json:"light" jsonschema:"enum=light,enum=dark"`
	TempC *float64   `json:"temp_c,omitempty" jsonschema_description:"if left out: that of the place"`
	Place *uuid.UUID `json:"place,omitempty"`
}

type sawTestIn struct {
	done
	Test uuid.UUID `json:"test"`
	Came int       `json:"came" jsonschema_description:"so far, in all"`
	Bad  int       `json:"bad,omitempty"`
	Over bool      `json:"over,omitempty" jsonschema_description:"no more seedlings will come up"`
}

type finishIn struct {
	Why string `json:"why" jsonschema:"enum=used-up,enum=too-old,enum=mouldy,enum=failed-test,enum=mice,enum=given-away,enum=other"`
}

type mergeIn struct {
	Into uuid.UUID `json:"into"`
}

// onLot reads an act on the packet of the path, and answers with what is known of it then.
func onLot[T any](act func(c *call, id uuid.UUID, in T) error) func(*call) (any, error) {
	return onThing(act, lotOut)
}

func lotOut(c *call, id uuid.UUID) (any, error) {
	o, err := seeds.Get(c.ctx, c.Store, c.w, id)
	if err != nil {
		return nil, err
	}
	return knownOf(o), nil
}

func seedOperations() []operation {
	return []operation{
		{Method: http.MethodGet, Path: "/lots/:id/known", Summary: "Read what is known about a packet of seed", Out: knownOut{}, Do: func(c *call) (any, error) {
			id, err := c.id("id")
			if err != nil {
				return nil, err
			}
			return lotOut(c, id)
		}},
		{
			Method: http.MethodPost, Path: "/lots/:id/tests", Summary: "Begin a germination test", In: newTestIn{}, Out: knownOut{},
			Do: onLot(func(c *call, id uuid.UUID, in newTestIn) error {
				return seeds.BeginTest(c.ctx, c.Store, c.w, seeds.NewTest{
					ID: in.ID, Lot: id, Place: in.Place, Begun: seeds.Begun{Seeds: in.Seeds, On: in.On, Light: in.Light, TempC: in.TempC}, At: in.At,
				})
			}),
		},
		{
			Method: http.MethodPost, Path: "/lots/:id/counts", Summary: "Count a germination test, and end it", In: sawTestIn{}, Out: knownOut{},
			Do: onLot(func(c *call, id uuid.UUID, in sawTestIn) error {
				return seeds.CountTest(c.ctx, c.Store, c.w, seeds.SawTest{ID: in.ID, Lot: id, Test: in.Test, Came: in.Came, Bad: in.Bad, Over: in.Over, At: in.At})
			}),
		},
		{
			Method: http.MethodPost, Path: "/lots/:id/finish", Summary: "Take a packet off the shelf, for a reason", In: finishIn{}, Out: knownOut{},
			Do: onLot(func(c *call, id uuid.UUID, in finishIn) error { return seeds.Finish(c.ctx, c.Store, c.w, id, in.Why) }),
		},
		{
			Method: http.MethodPost, Path: "/lots/:id/merge", Summary: "Pour a packet into another of the same variety", In: mergeIn{}, Out: knownOut{},
			Do: onLot(func(c *call, id uuid.UUID, in mergeIn) error {
				return seeds.Merge(c.ctx, c.Store, c.w, seeds.Pouring{From: id, Into: in.Into})
			}),
		},
	}
}
