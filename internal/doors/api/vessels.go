package api

import (
	"fmt"
	"net/http"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/labels"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/trays"
)

type gapOut struct {
	ID    uuid.UUID    `json:"id"`
	Tray  uuid.UUID    `json:"tray"`
	Cells []string     `json:"cells"`
	Crop  string       `json:"crop"`
	On    calendar.Day `json:"on"`
}

type gapIn struct {
	ID    uuid.UUID    `json:"id" jsonschema_description:"made by the caller; sent again, it is stored once"`
	Cells []string     `json:"cells"`
	Crop  string       `json:"crop"`
	On    calendar.Day `json:"on" jsonschema_description:"the day on which it is to be sown"`
}

// handfulIn is so many plants of a section of an open tray.
type handfulIn struct {
	Cell   string `json:"cell"`
	Plants int    `json:"plants"`
}

type shiftIn struct {
	done
	From  []string    `json:"from,omitempty"`
	Some  []handfulIn `json:"some,omitempty" jsonschema_description:"of sections of an open tray: so many plants of each"`
	Extra bool        `json:"extra,omitempty" jsonschema_description:"one stays in each cell of from; the seedlings that are thinned out go"`
	Into  uuid.UUID   `json:"into,omitzero" jsonschema_description:"the tray they go to"`
	To    []string    `json:"to,omitempty" jsonschema_description:"if left out: the free ones there, in order"`
	Close bool        `json:"close,omitempty" jsonschema_description:"instead: fill gaps from the end"`
}

type ailmentIn struct {
	done
	Sign  string `json:"sign"`
	Cause string `json:"cause"`
}

type labelOut struct {
	ID      uuid.UUID `json:"id"`
	Code    string    `json:"code"`
	Lines   []string  `json:"lines"`
	Address string    `json:"address" jsonschema_description:"a path on this server; the code on the label contains it"`
	Printed bool      `json:"printed"`
}

type printedIn struct {
	Things []uuid.UUID `json:"things"`
}

func gapsOut(c *call) ([]gapOut, error) {
	out := []gapOut{}
	return out, c.Store.Read(c.ctx, c.w, func(tx *store.Tx) error {
		list, err := trays.Gaps(c.ctx, tx)
		for _, g := range list {
			x := gapOut{ID: g.ID, Tray: g.Tray, Crop: g.Crop.ID, On: g.On}
			for _, cell := range g.Cells {
				x.Cells = append(x.Cells, cell.Name())
			}
			out = append(out, x)
		}
		return err
	})
}

// onTray reads an act on the tray of the path; nothing is answered.
func onTray[T any](act func(c *call, id uuid.UUID, in T) error) func(*call) (any, error) {
	return onThing(act, func(*call, uuid.UUID) (any, error) { return nil, nil })
}

func vesselOperations() []operation {
	post, get := http.MethodPost, http.MethodGet
	return []operation{
		{Method: get, Path: "/gaps", Summary: "List the cells that are reserved in trays", Query: paging, Out: listOut[gapOut]{}, Do: func(c *call) (any, error) {
			list, err := gapsOut(c)
			if err != nil {
				return nil, err
			}
			return page(c, list, func(g gapOut) string { return g.ID.String() })
		}},
		{
			Method: post, Path: "/trays/:id/gaps", Summary: "Reserve cells of a tray for a sowing", In: gapIn{},
			Do: onTray(func(c *call, id uuid.UUID, in gapIn) error {
				var e field.Errors
				k := trays.Keep{ID: in.ID, Tray: id, Cells: cells(&e, "cells", in.Cells), Crop: in.Crop, On: in.On}
				if err := e.Err(); err != nil {
					return err
				}
				return trays.KeepGap(c.ctx, c.Store, c.w, k)
			}),
		},
		{Method: http.MethodDelete, Path: "/gaps/:id", Summary: "Free those cells again", Do: func(c *call) (any, error) {
			id, err := c.id("id")
			if err != nil {
				return nil, err
			}
			return nil, trays.DropGap(c.ctx, c.Store, c.w, id)
		}},
		{
			Method: post, Path: "/trays/:id/shifts", Summary: "Put plants into other cells", In: shiftIn{},
			Do: onTray(func(c *call, id uuid.UUID, in shiftIn) error {
				var e field.Errors
				r := trays.ShiftRequest{ID: in.ID, Tray: id, Into: in.Into, Extra: in.Extra, Closing: in.Close, At: in.At}
				r.From, r.To = cells(&e, "from", in.From), cells(&e, "to", in.To)
				for i, x := range in.Some {
					at, err := tray.Parse(x.Cell)
					if err != nil {
						e.Tell(fmt.Sprintf("some.%d.cell", i), say.Why(err))
					}
					r.Some = append(r.Some, trays.Handful{At: at, Plants: x.Plants})
				}
				if err := e.Err(); err != nil {
					return err
				}
				return trays.Shift(c.ctx, c.Store, c.w, r)
			}),
		},
		{
			Method: post, Path: "/batches/:id/ailments", Summary: "Write down what is wrong with plants", In: ailmentIn{}, Out: batchOut{},
			Do: onBatch(func(c *call, id uuid.UUID, in ailmentIn) error {
				return batches.NoteAilment(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, batches.Ailment{Sign: in.Sign, Cause: in.Cause})
			}),
		},
		{
			Method: get, Path: "/labels", Summary: "List what labels say", Out: listOut[labelOut]{},
			Query: append([]param{{"sort", "new, batches, trays, packets or places"}}, paging...),
			Do: func(c *call) (any, error) {
				sort := c.gin.Query("sort")
				if sort == "" {
					sort = labels.Without
				}
				list, err := labels.Of(c.ctx, c.Store, c.w, sort)
				if err != nil {
					return nil, err
				}
				var out []labelOut
				for _, l := range list {
					out = append(out, labelOut{l.ID, l.Code, l.Lines, l.Address, l.Printed})
				}
				return page(c, out, func(l labelOut) string { return l.ID.String() })
			},
		},
		{
			Method: post, Path: "/labels/printed", Summary: "Write down which things have a label", In: printedIn{},
			Do: func(c *call) (any, error) {
				var in printedIn
				if err := c.read(&in); err != nil {
					return nil, err
				}
				return nil, labels.Printed(c.ctx, c.Store, c.w, in.Things)
			},
		},
	}
}
