package api

import (
	"net/http"
	"time"

	"github.com/google/uuid"

	"ulpa/core/fish"
	"ulpa/core/working"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/troughs"
)

type troughOut struct {
	ID      uuid.UUID      `json:"id"`
	Name    string         `json:"name"`
	Place   uuid.UUID      `json:"place"`
	Fish    int            `json:"fish"`
	MassG   float64        `json:"mass_g" jsonschema_description:"of one fish, as weighed, with its growth since"`
	PutIn   int            `json:"put_in" jsonschema_description:"all that there ever were"`
	Died    int            `json:"died" jsonschema_description:"of those"`
	Last    fish.Reading   `json:"water" jsonschema_description:"the latest of each figure; nitrogen is mg/L as N"`
	When    fish.Times     `json:"water_read_at" jsonschema_description:"when each of them was read"`
	ReadAt  *time.Time     `json:"read_at,omitempty" jsonschema_description:"the oldest of ammonia, pH and temperature; absent: one of them was never read"`
	Alarms  []alarmOut     `json:"alarms"`
	Acts    []string       `json:"acts" jsonschema_description:"what to do about all of them together, in order"`
	ChangeL *float64       `json:"change_l,omitempty" jsonschema_description:"of the water at once; absent: none, or the water was not read since it was changed"`
	Refused bool           `json:"change_refused,omitempty" jsonschema_description:"no part of the new water can go in without harm"`
	Cycle   string         `json:"new_filter,omitempty" jsonschema:"enum=begin,enum=rising,enum=nitrite,enum=try,enum=ready"`
	Bears   float64        `json:"bears_days_unfed"`
	FeedG   *float64       `json:"feed_today_g,omitempty"`
	Advice  string         `json:"feed_advice,omitempty" jsonschema_description:"none, half or normal"`
	Working []working.Step `json:"working"`
}

type alarmOut struct {
	Says string `json:"says"`
	What string `json:"what" jsonschema_description:"of oxygen unionised nitrite nitrate hot cold acid alkaline alkalinity deaths unfed unread"`
	Now  bool   `json:"now"`
}

type fishReadIn struct {
	done
	fish.Reading
}

type fishStockIn struct {
	done
	fish.Stock
}

type fishSampleIn struct {
	done
	fish.Sample
}

type fishFedIn struct {
	done
	fish.Fed
}

type fishWaterIn struct {
	done
	fish.Added
}

func troughOf(t troughs.Trough, now time.Time) troughOut {
	s, x := t.State, t.Trough()
	out := troughOut{
		ID: t.ID, Name: t.Name, Place: t.Place, Fish: s.Fish, MassG: s.MassG, PutIn: s.PutIn, Died: s.Died, Last: s.Last, When: s.When, ReadAt: s.ReadAt,
		Acts:   []string{},
		Alarms: []alarmOut{}, Bears: x.Bears(s), Working: []working.Step{},
	}
	if s.Fish == 0 {
		out.Cycle = s.Cycle(now).Step
	}
	for _, a := range x.Alarms(s, now) {
		out.Alarms = append(out.Alarms, alarmOut{a.Says.String(), a.What, a.Now})
	}
	for _, a := range x.Acts(s, now) {
		out.Acts = append(out.Acts, a.String())
	}
	if c := x.Change(s); c != nil {
		if out.Refused = c.Refused; !c.Refused {
			out.ChangeL = &c.Litres
		}
	}
	if d, known := x.Day(s, now); known {
		out.FeedG, out.Advice, out.Working = &d.FeedTodayG, d.Advice, d.Steps
	}
	return out
}

func listTroughs(c *call) (any, error) {
	all, err := troughs.All(c.ctx, c.Store, c.w)
	if err != nil {
		return nil, err
	}
	var out []troughOut
	for _, t := range all {
		out = append(out, troughOf(t, c.Store.Now()))
	}
	return page(c, out, func(t troughOut) string { return t.ID.String() })
}

func troughAt(c *call, id uuid.UUID) (any, error) {
	t, err := troughs.Get(c.ctx, c.Store, c.w, id)
	if err != nil {
		return nil, err
	}
	return troughOf(t, c.Store.Now()), nil
}

// onFish reads an act on the vessel of the path, and answers how it stands then.
func onFish[T any](act func(c *call, id uuid.UUID, in T) error) func(*call) (any, error) {
	return onThing(act, troughAt)
}

func fishOperations() []operation {
	post, get := http.MethodPost, http.MethodGet
	return []operation{
		{
			Method: get, Path: "/fish-water", Summary: "List fish tanks, how the fish are and what is wrong", Query: paging, Out: listOut[troughOut]{},
			Do: listTroughs,
		},
		{
			Method: post, Path: "/fish/:id/readings", Summary: "Write down a reading of a fish tank", In: fishReadIn{}, Out: troughOut{},
			Do: onFish(func(c *call, id uuid.UUID, in fishReadIn) error {
				return troughs.LogReading(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, in.Reading)
			}),
		},
		{
			Method: post, Path: "/fish/:id/stock", Summary: "Write down fish that were put in or taken out", In: fishStockIn{}, Out: troughOut{},
			Do: onFish(func(c *call, id uuid.UUID, in fishStockIn) error {
				return troughs.Restock(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, in.Stock)
			}),
		},
		{
			Method: post, Path: "/fish/:id/samples", Summary: "Write down what some fish weigh", In: fishSampleIn{}, Out: troughOut{},
			Do: onFish(func(c *call, id uuid.UUID, in fishSampleIn) error {
				return troughs.Weigh(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, in.Sample)
			}),
		},
		{
			Method: post, Path: "/fish/:id/feeds", Summary: "Write down what fish were given", In: fishFedIn{}, Out: troughOut{},
			Do: onFish(func(c *call, id uuid.UUID, in fishFedIn) error {
				return troughs.Feed(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, in.Fed)
			}),
		},
		{
			Method: post, Path: "/fish/:id/changes", Summary: "Write down what was done to a fish tank", In: fishWaterIn{}, Out: troughOut{},
			Do: onFish(func(c *call, id uuid.UUID, in fishWaterIn) error {
				return troughs.Change(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, in.Added)
			}),
		},
	}
}
