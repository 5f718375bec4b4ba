package trays

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/site"
)

// Gap is cells of a tray that are kept free for a sowing to come.
type Gap struct {
	ID, Tray uuid.UUID
	Called   string // the tray
	Place    uuid.UUID
	Cells    []tray.Cell
	Crop     crop.Crop
	On       calendar.Day
}

// Gaps are all of them, the nearest day first.
func Gaps(ctx context.Context, tx *store.Tx) (out []Gap, err error) {
	rows, err := tx.TrayGaps(ctx)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		cells, err := tray.ParseList(r.Cells, 40, 40)
		if err != nil {
			return nil, err
		}
		out = append(out, Gap{ID: r.ID, Tray: r.TrayID, Called: r.Tray, Place: r.PlaceID, Cells: cells, Crop: book.Find(r.Crop), On: calendar.Of(r.OnDay)})
	}
	return out, nil
}

func gapsOf(ctx context.Context, tx *store.Tx, trayID uuid.UUID) ([]Gap, error) {
	all, err := Gaps(ctx, tx)
	return slices.DeleteFunc(all, func(g Gap) bool { return g.Tray != trayID }), err
}

// Keep is cells of a tray to be kept free.
type Keep struct {
	ID, Tray uuid.UUID
	Cells    []tray.Cell
	Crop     string
	On       calendar.Day
}

// KeepGap keeps free cells of a tray for a sowing on a day; the round asks for it then.
func KeepGap(ctx context.Context, s *store.Store, w who.Who, k Keep) error {
	if err := w.Must(who.Sow); err != nil {
		return err
	}
	var e field.Errors
	today := w.Day(s.Now())
	e.Require(len(k.Cells) > 0, "cells", "choose the cells on the tray, or type them")
	e.Require(k.On >= today && k.On <= today+400, "on", "must be a day from today on")
	e.Require(k.ID != uuid.Nil, "id", "is missing; load the page again")
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		book, err := crops.Load(ctx, tx)
		if err != nil {
			return err
		}
		e.Require(book.Has(k.Crop), "crop", "choose a crop")
		t, err := site.GetTray(ctx, tx, k.Tray)
		if err != nil {
			return store.Missing(err, "tray", "choose a tray")
		}
		used, err := tx.CellsOfTray(ctx, t.ID)
		if err != nil {
			return err
		}
		gaps, err := gapsOf(ctx, tx, t.ID)
		if err != nil {
			return err
		}
		if i := slices.IndexFunc(gaps, func(g Gap) bool { return g.ID == k.ID }); i >= 0 {
			// Sent twice; of its cells some may have been sown since.
			e.Require(gaps[i].Crop.ID == k.Crop && gaps[i].On == k.On, "id", "is missing; load the page again")
			return e.Err()
		}
		for _, c := range k.Cells {
			e.Require(c.Row >= 0 && c.Row < t.Rows && c.Col >= 0 && c.Col < t.Columns, "cells", "%s is outside this tray", c.Name())
			e.Require(!slices.ContainsFunc(used, func(u db.CellsOfTrayRow) bool { return u.Row == c.Row && u.Col == c.Col }), "cells", "%s is in use", c.Name())
			e.Require(!slices.ContainsFunc(gaps, func(g Gap) bool { return slices.Contains(g.Cells, c) }), "cells", "%s is saved already", c.Name())
		}
		if err := e.Err(); err != nil {
			return err
		}
		if err := tx.PutTrayGap(ctx, db.PutTrayGapParams{
			SchoolID: w.School, ID: k.ID, TrayID: t.ID, Cells: tray.Format(k.Cells), Crop: k.Crop, OnDay: k.On.UTC(),
		}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Reserved %s of %s for %s", say.Plural(len(k.Cells), "cell"), say.Name(t.Name), book.Find(k.Crop).Name)
	})
}

// DropGap keeps them no longer.
func DropGap(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) error {
	if err := w.Must(who.Sow); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		all, err := Gaps(ctx, tx)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(all, func(g Gap) bool { return g.ID == id }) {
			return store.ErrNotFound
		}
		if err := tx.DropTrayGap(ctx, id); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Gave up a reserved gap in a tray")
	})
}

// FillGaps takes cells that were sown out of what is kept, and says which of them were.
func FillGaps(ctx context.Context, tx *store.Tx, trayID uuid.UUID, sown []tray.Cell) (filled []batch.Reserved, err error) {
	gaps, err := gapsOf(ctx, tx, trayID)
	if err != nil {
		return nil, err
	}
	for _, g := range gaps {
		left := slices.DeleteFunc(slices.Clone(g.Cells), func(c tray.Cell) bool { return slices.Contains(sown, c) })
		if len(left) < len(g.Cells) {
			taken := slices.DeleteFunc(slices.Clone(g.Cells), func(c tray.Cell) bool { return slices.Contains(left, c) })
			filled = append(filled, batch.Reserved{ID: g.ID.String(), Crop: g.Crop.ID, On: g.On, Cells: tray.Format(taken)})
		}
		switch {
		case len(left) == 0:
			err = tx.DropTrayGap(ctx, g.ID)
		case len(left) < len(g.Cells):
			err = tx.PutTrayGap(ctx, db.PutTrayGapParams{
				SchoolID: tx.Who.School, ID: g.ID, TrayID: g.Tray, Cells: tray.Format(left), Crop: g.Crop.ID, OnDay: g.On.UTC(),
			})
		}
		if err != nil {
			return nil, err
		}
	}
	return filled, nil
}
