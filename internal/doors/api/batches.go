package api

import (
	"fmt"
	"net/http"
	"strconv"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

// number reads a whole number of the query.
func (c *call) number(name string, usual, low, high int) (int, error) {
	s := c.gin.Query(name)
	if s == "" {
		return usual, nil
	}
	v, err := strconv.Atoi(s)
	if err != nil || v < low || v > high {
		return 0, field.Refuse(name, "must be %d to %d", low, high)
	}
	return v, nil
}

// done is what every act that is written down carries: an id made by whoever writes, so
// that what is sent twice is kept once, and when it happened.
type done struct {
	ID uuid.UUID `json:"id" jsonschema_description:"made by the caller; sent again, it is stored once"`
	At time.Time `json:"at,omitzero" jsonschema_description:"when it happened; if left out: now"`
}

type batchOut struct {
	ID         uuid.UUID     `json:"id"`
	Code       string        `json:"code"`
	Crop       string        `json:"crop"`
	Variety    string        `json:"variety"`
	Purpose    string        `json:"purpose,omitempty"`
	Wanted     int           `json:"wanted"`
	Sown       calendar.Day  `json:"sown"`
	ReadyBy    *calendar.Day `json:"ready_by,omitempty"`
	Closed     bool          `json:"closed"`
	Cells      int           `json:"cells"`
	Waiting    int           `json:"waiting"`
	Sprouted   int           `json:"sprouted"`
	Standing   int           `json:"standing"`
	Taken      int           `json:"taken"`
	HandedOver int           `json:"handed_over" jsonschema_description:"plants given away, sold or planted elsewhere"`
	Grams      float64       `json:"harvested_g"`
	Readiness  string        `json:"readiness,omitempty" jsonschema_description:"of those in trays: early, look, ready or late; absent when none are left there"`
	Why        string        `json:"why,omitempty"`
	Where      []spotOut     `json:"where"`
}

// spotOut is where plants or cells of a batch are.
type spotOut struct {
	Kind  string      `json:"kind" jsonschema:"enum=cell,enum=open,enum=port,enum=stand"`
	In    uuid.UUID   `json:"in" jsonschema_description:"the tray of a cell, the place of a port or a stand"`
	Name  string      `json:"name,omitempty" jsonschema_description:"of a cell or port, like A1"`
	State string      `json:"state,omitempty" jsonschema_description:"of a cell: sown, sprouted, thinned, empty or lost"`
	Cause batch.Cause `json:"cause,omitempty"`
	N     int         `json:"plants,omitempty" jsonschema_description:"plants in one place, or in a section of an open tray: how many"`
	Waits int         `json:"waits,omitempty" jsonschema_description:"of a section of an open tray: seeds that may still come up in it"`
	Pot   string      `json:"pot,omitempty"`
}

// spotIn names plants: a cell or port by its name, or so many of a stand.
type spotIn struct {
	Kind string    `json:"kind" jsonschema:"enum=cell,enum=open,enum=port,enum=stand" jsonschema_description:"open: so many of a section of an open tray"`
	In   uuid.UUID `json:"in"`
	Name string    `json:"name,omitempty"`
	N    int       `json:"plants,omitempty"`
	Pot  string    `json:"pot,omitempty" jsonschema_description:"of plants in pots: the id of their size of pot"`
}

func spots(e *field.Errors, at string, list []spotIn) (out []batch.Spot) {
	for i, x := range list {
		s := batch.Spot{Kind: batch.SpotKind(x.Kind), In: x.In.String(), N: x.N, Pot: x.Pot}
		if x.Name != "" {
			cell, err := tray.Parse(x.Name)
			if err != nil {
				e.Tell(fmt.Sprintf("%s.%d.name", at, i), say.Why(err))
			}
			s.Row, s.Col = cell.Row, cell.Col
		}
		out = append(out, s)
	}
	return out
}

func cells(e *field.Errors, at string, names []string) (out []tray.Cell) {
	for i, x := range names {
		cell, err := tray.Parse(x)
		if err != nil {
			e.Tell(fmt.Sprintf("%s.%d", at, i), say.Why(err))
		}
		out = append(out, cell)
	}
	return out
}

func lineOut(l batches.Line) batchOut {
	b := batchOut{
		ID: l.ID, Code: l.Code, Crop: l.Crop.ID, Variety: l.Variety, Purpose: l.Purpose, Wanted: l.Wanted, Sown: l.Sown, Cells: l.State.Sown,
		Sprouted: l.State.Sprouted, Taken: l.State.Taken, HandedOver: l.State.HandedOver(), Grams: l.State.Grams, Where: []spotOut{},
	}
	if l.Verdict.Why != nil {
		b.Why = l.Verdict.Why.String()
	}
	for _, s := range l.Where {
		b.Where = append(b.Where, spotOut{Kind: s.Kind, In: s.Place, N: s.Plants})
		b.Waiting, b.Standing = b.Waiting+s.Waiting, b.Standing+s.Plants
		if s.Kind == "cell" {
			b.Readiness = readiness(string(l.Verdict.Word))
		}
	}
	return b
}

func readiness(word string) string {
	if word == "" {
		return "early"
	}
	return word
}

func wholeOut(x batches.Batch) batchOut {
	b := batchOut{
		ID: x.ID, Code: x.Code, Crop: x.Crop.ID, Variety: x.Variety, Purpose: x.Purpose, Wanted: x.Wanted, Sown: x.Sown, Closed: x.Closed,
		Cells: x.State.Sown, Sprouted: x.State.Sprouted, Taken: x.State.Taken, HandedOver: x.State.HandedOver(), Grams: x.State.Grams, Standing: x.State.Standing(),
		Where: []spotOut{},
	}
	if x.State.InTrays() > 0 || x.State.Waiting() > 0 {
		b.Readiness = readiness(string(x.Verdict.Word))
	}
	if x.ReadyBy != nil {
		day := calendar.Of(*x.ReadyBy)
		b.ReadyBy = &day
	}
	if x.Verdict.Why != nil {
		b.Why = x.Verdict.Why.String()
	}
	for _, c := range x.Cells {
		b.Waiting += c.Waiting()
		at := spotOut{Kind: "cell", In: c.TrayID, Name: tray.Cell{Row: c.Row, Col: c.Col}.Name(), State: string(c.State), Cause: c.Cause}
		if c.Open {
			at.Kind, at.N, at.Waits = "open", c.Plants, c.Waiting()
		}
		b.Where = append(b.Where, at)
	}
	for _, p := range x.Ports {
		b.Where = append(b.Where, spotOut{Kind: "port", In: p.PlaceID, Name: tray.Cell{Row: p.Tier, Col: p.Col}.Name()})
	}
	for _, s := range x.Stands {
		b.Where = append(b.Where, spotOut{Kind: "stand", In: s.PlaceID, N: s.Plants, Pot: s.PotID})
	}
	return b
}

type sowIn struct {
	done
	Lot          uuid.UUID     `json:"lot"`
	Tray         uuid.UUID     `json:"tray"`
	Cells        []string      `json:"cells"`
	SeedsPerCell int           `json:"seeds_per_cell"`
	Wanted       int           `json:"wanted"`
	Purpose      string        `json:"purpose,omitempty"`
	ReadyBy      *calendar.Day `json:"ready_by,omitempty"`
	Planned      *uuid.UUID    `json:"planned,omitempty"`
	Hands        []string      `json:"hands,omitempty" jsonschema_description:"crews or initials, who share the cells in this order"`
}

type adoptIn struct {
	ID      uuid.UUID    `json:"id"`
	Crop    string       `json:"crop"`
	Variety string       `json:"variety"`
	Purpose string       `json:"purpose,omitempty"`
	Since   calendar.Day `json:"since" jsonschema_description:"since about when it has been growing"`
	Plants  int          `json:"plants,omitempty"`
	Place   uuid.UUID    `json:"place,omitzero"`
	Ports   []string     `json:"ports,omitempty" jsonschema_description:"if left out: the free ones, from the bottom"`
	Tray    uuid.UUID    `json:"tray,omitzero" jsonschema_description:"instead of a place"`
	Cells   []string     `json:"cells,omitempty"`
	Start   string       `json:"start,omitempty" jsonschema:"enum=,enum=bought,enum=struck,enum=divided,enum=planted,enum=pegged"`
	Signs   []batch.Sign `json:"signs,omitempty" jsonschema_description:"what was wrong with a delivery"`
	Dead    int          `json:"dead,omitempty" jsonschema_description:"dead on arrival, besides those that are alive"`
	Sure    bool         `json:"sure,omitempty"`
}

type markIn struct {
	Tray  uuid.UUID       `json:"tray"`
	Cell  string          `json:"cell"`
	State batch.CellState `json:"state" jsonschema:"enum=sown,enum=sprouted,enum=thinned,enum=empty,enum=lost"`
	Was   batch.CellState `json:"was,omitempty" jsonschema_description:"what the cell showed; it tells two people's marks apart"`
	Cause batch.Cause     `json:"cause,omitempty"`
	N     int             `json:"n,omitempty" jsonschema_description:"of a section of an open tray: the plants that grow in it now"`
	Over  bool            `json:"over,omitempty" jsonschema_description:"of a section of an open tray: no more will come up in it"`
}

type countIn struct {
	done
	Tray  *uuid.UUID `json:"tray,omitempty" jsonschema_description:"of a count that saw no change, which has no marks: the tray that was counted"`
	Marks []markIn   `json:"marks,omitempty"`
	Whole bool       `json:"whole,omitempty" jsonschema_description:"the whole tray was looked at: its other batches were counted too, without a change"`
}

type lookIn struct {
	done
	Leaves   int     `json:"leaves"`
	HeightCM float64 `json:"height_cm,omitempty"`
	Roots    string  `json:"roots,omitempty" jsonschema:"enum=few,enum=hold,enum=round,enum=brown"`
}

type lossIn struct {
	done
	From  []spotIn    `json:"from"`
	Cause batch.Cause `json:"cause"`
}

type handOverIn struct {
	done
	From []spotIn  `json:"from"`
	Way  batch.Way `json:"way"`
}

type moveIn struct {
	done
	From     []spotIn    `json:"from"`
	To       uuid.UUID   `json:"to"`
	Ports    []string    `json:"ports,omitempty"`
	Fill     bool        `json:"fill,omitempty" jsonschema_description:"if left out: the free ports, from the bottom"`
	Lost     []spotIn    `json:"lost,omitempty"`
	Cause    batch.Cause `json:"cause,omitempty"`
	RampDays int         `json:"ramp_days,omitempty"`
	Pot      uuid.UUID   `json:"pot,omitzero" jsonschema_description:"into pots of this size"`
	Mix      uuid.UUID   `json:"mix,omitzero" jsonschema_description:"they are filled with"`
	Sure     bool        `json:"sure,omitempty"`
}

type harvestIn struct {
	done
	Grams float64    `json:"grams"`
	Place *uuid.UUID `json:"place,omitempty"`
	From  []spotIn   `json:"from,omitempty" jsonschema_description:"plants taken whole; none when only cut"`
	Sure  bool       `json:"sure,omitempty"`
}

// onBatch reads an act on the batch of the path, and answers with the batch as it is then.
func onBatch[T any](act func(c *call, id uuid.UUID, in T) error) func(*call) (any, error) {
	return onThing(act, func(c *call, id uuid.UUID) (any, error) {
		b, err := batches.Get(c.ctx, c.Store, c.w, id)
		return wholeOrNone(b, err)
	})
}

func batchOperations() []operation {
	post, get := http.MethodPost, http.MethodGet
	return []operation{
		{Method: get, Path: "/batches", Summary: "List the batches that are growing", Query: paging, Out: listOut[batchOut]{}, Do: func(c *call) (any, error) {
			o, err := batches.ReadOverview(c.ctx, c.Store, c.w)
			if err != nil {
				return nil, err
			}
			var list []batchOut
			for _, l := range o.Lines {
				list = append(list, lineOut(l))
			}
			return page(c, list, func(b batchOut) string { return b.ID.String() })
		}},
		{Method: get, Path: "/batches/:id", Summary: "Read one batch, cell by cell", Out: batchOut{}, Do: func(c *call) (any, error) {
			id, err := c.id("id")
			if err != nil {
				return nil, err
			}
			b, err := batches.Get(c.ctx, c.Store, c.w, id)
			return wholeOrNone(b, err)
		}},
		{Method: post, Path: "/batches", Summary: "Sow: begin a batch", In: sowIn{}, Out: batchOut{}, Status: http.StatusCreated, Do: sow},
		{
			Method: post, Path: "/batches/adopted", Summary: "Enter what is growing already",
			In: adoptIn{}, Out: batchOut{}, Status: http.StatusCreated, Do: adopt,
		},
		{Method: post, Path: "/batches/:id/counts", Summary: "Write down a count: what was seen in cells", In: countIn{}, Out: batchOut{}, Do: onBatch(count)},
		{
			Method: post, Path: "/batches/:id/looks", Summary: "Write down true leaves and height", In: lookIn{}, Out: batchOut{},
			Do: onBatch(func(c *call, id uuid.UUID, in lookIn) error {
				return batches.Look(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, batches.Looks{Leaves: in.Leaves, HeightCM: in.HeightCM, Roots: in.Roots})
			}),
		},
		{
			Method: post, Path: "/batches/:id/losses", Summary: "Write down losses", In: lossIn{}, Out: batchOut{},
			Do: onBatch(func(c *call, id uuid.UUID, in lossIn) error {
				var e field.Errors
				from := spots(&e, "from", in.From)
				if err := e.Err(); err != nil {
					return err
				}
				return batches.Lose(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, from, in.Cause)
			}),
		},
		{
			Method: post, Path: "/batches/:id/handovers", Summary: "Write down plants that others grow now: given away, sold, planted elsewhere; no losses",
			In: handOverIn{}, Out: batchOut{},
			Do: onBatch(func(c *call, id uuid.UUID, in handOverIn) error {
				var e field.Errors
				from := spots(&e, "from", in.From)
				if err := e.Err(); err != nil {
					return err
				}
				return batches.HandOver(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, from, in.Way)
			}),
		},
		{Method: post, Path: "/batches/:id/moves", Summary: "Move plants to a place", In: moveIn{}, Out: batchOut{}, Do: onBatch(move)},
		{Method: post, Path: "/batches/:id/harvests", Summary: "Write down a harvest, with its weight", In: harvestIn{}, Out: batchOut{}, Do: onBatch(cut)},
		{
			Method: post, Path: "/batches/:id/close", Summary: "Close a batch of which nothing is growing any more", In: done{}, Out: batchOut{},
			Do: onBatch(func(c *call, id uuid.UUID, in done) error {
				return batches.Close(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At})
			}),
		},
		{Method: post, Path: "/trays/:id/wash", Summary: "Wash the cells of a tray that failed, and free them", In: done{}, Do: func(c *call) (any, error) {
			tray, err := c.id("id")
			if err != nil {
				return nil, err
			}
			var in done
			if err := c.read(&in); err != nil {
				return nil, err
			}
			return nil, trays.Wash(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: tray, At: in.At})
		}},
	}
}

func wholeOrNone(b batches.Batch, err error) (any, error) {
	if err != nil {
		return nil, err
	}
	return wholeOut(b), nil
}

func sow(c *call) (any, error) {
	var in sowIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	var e field.Errors
	list := cells(&e, "cells", in.Cells)
	if err := e.Err(); err != nil {
		return nil, err
	}
	out, err := sowing.Sow(c.ctx, c.Store, c.w, sowing.SowRequest{
		ID: in.ID, Lot: in.Lot, Wanted: in.Wanted, ReadyBy: in.ReadyBy, Purpose: in.Purpose, SeedsPerCell: in.SeedsPerCell,
		Tray: in.Tray, Cells: list, Planned: in.Planned, At: in.At, Hands: in.Hands,
	})
	if err != nil {
		return nil, err
	}
	b, err := batches.Get(c.ctx, c.Store, c.w, out.Batch)
	return wholeOrNone(b, err)
}

func adopt(c *call) (any, error) {
	var in adoptIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	var e field.Errors
	r := sowing.AdoptRequest{
		ID: in.ID, Crop: in.Crop, Variety: in.Variety, Purpose: in.Purpose, Since: in.Since, Plants: in.Plants, Place: in.Place,
		Ports: cells(&e, "ports", in.Ports), Tray: in.Tray, Cells: cells(&e, "cells", in.Cells),
		Start: in.Start, Signs: in.Signs, Dead: in.Dead, Sure: in.Sure,
	}
	if err := e.Err(); err != nil {
		return nil, err
	}
	out, err := sowing.Adopt(c.ctx, c.Store, c.w, r)
	if err != nil {
		return nil, err
	}
	b, err := batches.Get(c.ctx, c.Store, c.w, out.Batch)
	return wholeOrNone(b, err)
}

func count(c *call, _ uuid.UUID, in countIn) error {
	var e field.Errors
	r := trays.CountRequest{ID: in.ID, At: in.At, Whole: in.Whole}
	for i, m := range in.Marks {
		cell, err := tray.Parse(m.Cell)
		if err != nil {
			e.Tell(fmt.Sprintf("marks.%d.cell", i), say.Why(err))
		}
		e.Require(i == 0 || m.Tray == in.Marks[0].Tray, fmt.Sprintf("marks.%d.tray", i), "is a different tray; count one tray at a time")
		r.Tray = m.Tray
		r.Marks = append(r.Marks, batch.Mark{In: m.Tray.String(), Row: cell.Row, Col: cell.Col, State: m.State, Cause: m.Cause, Was: m.Was, N: m.N, Over: m.Over})
	}
	if len(in.Marks) == 0 && in.Tray != nil {
		r.Tray = *in.Tray
	} else {
		e.Require(len(in.Marks) > 0, "marks", "needs at least one, or name the tray in which nothing has changed")
	}
	if err := e.Err(); err != nil {
		return err
	}
	return trays.Count(c.ctx, c.Store, c.w, r)
}

func move(c *call, id uuid.UUID, in moveIn) error {
	var e field.Errors
	r := site.MoveRequest{
		ID: in.ID, Batch: id, From: spots(&e, "from", in.From), To: in.To, Ports: cells(&e, "ports", in.Ports), Fill: in.Fill,
		Lost: spots(&e, "lost", in.Lost), Cause: in.Cause, RampDays: in.RampDays, Pot: in.Pot, Mix: in.Mix, Sure: in.Sure, At: in.At,
	}
	if err := e.Err(); err != nil {
		return err
	}
	return site.Move(c.ctx, c.Store, c.w, r)
}

func cut(c *call, id uuid.UUID, in harvestIn) error {
	var e field.Errors
	r := harvest.Request{ID: in.ID, Batch: id, Place: in.Place, Grams: in.Grams, From: spots(&e, "from", in.From), At: in.At, Sure: in.Sure}
	if err := e.Err(); err != nil {
		return err
	}
	return harvest.Weigh(c.ctx, c.Store, c.w, r)
}
