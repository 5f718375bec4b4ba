package season

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/plan"
	"ulpa/core/round"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
)

// Planned is a sowing that is meant to happen.
type Planned struct {
	ID      uuid.UUID
	Crop    string
	Wanted  int
	SowOn   calendar.Day
	ReadyBy calendar.Day
	OfGoal  bool // the season has it, for a goal
}

// Plan writes down a sowing to come; written twice it is one.
func Plan(ctx context.Context, s *store.Store, w who.Who, p Planned) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	var e field.Errors
	e.Require(p.Wanted >= 1 && p.Wanted <= 100_000, "wanted", "must be 1 to 100,000 plants")
	e.Require(p.SowOn > 0, "sow_on", "must be a date")
	e.Require(p.ReadyBy >= p.SowOn, "ready_by", "is before the day to sow")
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		book, err := crops.Load(ctx, tx)
		if err != nil {
			return err
		}
		e.Require(book.Has(p.Crop), "crop", "choose a crop")
		if err := e.Err(); err != nil {
			return err
		}
		n, err := tx.AddPlanned(
			ctx,
			db.AddPlannedParams{SchoolID: w.School, ID: p.ID, Crop: p.Crop, Wanted: p.Wanted, SowOn: p.SowOn.UTC(), ReadyBy: p.ReadyBy.UTC()},
		)
		if err != nil || n > 0 {
			return err
		}
		r, err := tx.GetPlanned(ctx, p.ID)
		if err == nil && plannedOf(r) != p {
			return field.Refuse(
				"sent",
				"is planned already: %s, %d wanted, to be sown on %s. What you typed now is different; send it again to plan it as well",
				r.Crop,
				r.Wanted,
				calendar.Of(r.SowOn).Long(),
			)
		}
		return err
	})
}

// Plans reads the sowings that are still to come, the soonest first.
func Plans(ctx context.Context, s *store.Store, w who.Who) (out []Planned, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = Ahead(ctx, tx)
		return err
	})
	return out, err
}

// Ahead reads the sowings that are still to come, the soonest first.
func Ahead(ctx context.Context, tx *store.Tx) ([]Planned, error) {
	rows, err := tx.ListPlanned(ctx)
	out := make([]Planned, len(rows))
	for i, r := range rows {
		out[i] = plannedOf(r)
	}
	return out, err
}

func plannedOf(r db.Planned) Planned {
	return Planned{r.ID, r.Crop, r.Wanted, calendar.Of(r.SowOn), calendar.Of(r.ReadyBy), r.GoalID != nil}
}

// VarietyOf is the variety that the goal of a planned sowing asks for; "": any will do.
func VarietyOf(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (variety string, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		list, err := tx.VarietyPlanned(ctx, id)
		for _, v := range list {
			variety = v
		}
		return err
	})
	return variety, err
}

// GetPlanned reads one of them.
func GetPlanned(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (p Planned, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		r, err := tx.GetPlanned(ctx, id)
		p = plannedOf(r)
		return err
	})
	return p, err
}

// Drop takes a sowing that will not happen off the list. One that was kept for a goal is not
// planned any more, and the season says so.
func Drop(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.DropPlanned(ctx, id); err != nil {
			return err
		}
		return tx.SettlePlanned(ctx, db.SettlePlannedParams{ID: id})
	})
}

// PlannedMoves is what the season has for a batch that is open: the move out of its tray, and how it
// goes outside; nil where it is not planned.
type PlannedMoves struct {
	Move    *round.PlannedMove
	Outward *round.Outward
}

// MovesPlanned are the moves that the season has for open batches.
func MovesPlanned(ctx context.Context, tx *store.Tx) (map[uuid.UUID]PlannedMoves, error) {
	const past = 30 // days for which a plan that is over is still spoken of
	rows, err := tx.PlannedMoves(ctx, (tx.Who.Day(tx.Now) - past).UTC())
	out := map[uuid.UUID]PlannedMoves{}
	for _, r := range rows {
		var moves []plan.Placed
		if err := json.Unmarshal(r.Moves, &moves); err != nil {
			return nil, err
		}
		if r.BatchID == nil {
			continue
		}
		x := PlannedMoves{}
		if len(moves) > 1 {
			x.Move = &round.PlannedMove{Day: moves[1].Day, To: moves[1].Place, Goal: r.Goal}
		}
		for _, m := range moves {
			if m.Stage == plan.StageHarden {
				x.Outward = &round.Outward{Harden: m.Day, Frame: m.Place, Goal: r.Goal}
			}
		}
		if plan.GoesOut(r.Kind, r.Harvest) && x.Outward != nil {
			x.Outward.Out = calendar.Of(r.ReadyBy)
		}
		out[*r.BatchID] = x
	}
	return out, err
}
