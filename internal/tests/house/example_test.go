package house_test

import (
	"fmt"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

// school is the made-up one for an example, which has no test to fail: it panics.
func school() (d testdb.DB, ines who.Who, end func()) {
	t := &inExample{}
	d = testdb.Demo(t)
	return d, d.Ines(t), t.end
}

// Somebody sows, counts what came up, and reads what the batch is now.
func Example_sow() {
	d, ines, end := school()
	defer end()
	shelf := must(sowing.GetShelf(ctx, d.Store, ines))
	lettuce, _ := shelf.Freshest("lettuce", "")
	at := shelf.Trays[0]
	for _, t := range shelf.Trays {
		if t.Used == 0 {
			at = t
		}
	}
	sown := must(sowing.Sow(ctx, d.Store, ines, sowing.SowRequest{
		ID: uuid.New(), Lot: lettuce.ID, Tray: at.ID, Cells: []tray.Cell{{Row: 0, Col: 0}, {Row: 0, Col: 1}}, Wanted: 2, SeedsPerCell: 2,
	}))
	marks := []batch.Mark{{Row: 0, Col: 0, State: batch.Sprouted}}
	err := trays.Count(ctx, d.Store, ines, trays.CountRequest{ID: uuid.New(), Tray: at.ID, Marks: marks})
	b := must(batches.Get(ctx, d.Store, ines, sown.Batch))
	fmt.Println(err, b.State.Sown, "sown,", b.State.Sprouted, "up:", b.Verdict.Word)
	// Output:
	// <nil> 2 sown, 1 up: early
}

// Plants leave a tray for a tower; what stands there is one more batch.
func Example_move() {
	d, ines, end := school()
	defer end()
	var b batches.Batch
	for _, l := range must(batches.ReadOverview(ctx, d.Store, ines)).Lines {
		if l.Code == "PAK-01" {
			b = must(batches.Get(ctx, d.Store, ines, l.ID))
		}
	}
	var tower site.Summary
	for _, p := range must(site.All(ctx, d.Store, ines)) {
		if p.Name == "South tower" {
			tower = p
		}
	}
	var from []batch.Spot
	for _, c := range b.Cells {
		if batch.CellState(c.State).Alive() && len(from) < 2 {
			from = append(from, batch.Spot{Kind: batch.InCell, In: c.TrayID.String(), Row: c.Row, Col: c.Col})
		}
	}
	err := site.Move(ctx, d.Store, ines, site.MoveRequest{ID: uuid.New(), Batch: b.ID, From: from, To: tower.ID, Fill: true})
	after := must(batches.Get(ctx, d.Store, ines, b.ID))
	fmt.Println(err, len(after.Ports)-len(b.Ports), "more in the tower")
	// Output:
	// <nil> 2 more in the tower
}

// A tank is read; its page says what to do.
func Example_reading() {
	d, ines, end := school()
	defer end()
	vat := must(solution.All(ctx, d.Store, ines))[0].Tank
	ph, level := vat.Spec.PHTarget, vat.Spec.FillToL
	err := solution.LogReading(ctx, d.Store, ines, solution.ReadingRequest{
		ID: uuid.New(), Tank: vat.ID, Reading: tank.Reading{PH: &ph, LevelL: &level}, Sure: true,
	})
	page := must(solution.Get(ctx, d.Store, ines, vat.ID))
	fmt.Println(err, page.Tank.Name, "needs something:", page.Advice.Needs)
	// Output:
	// <nil> Long table needs something: false
}

// What was cut is weighed, looked up in the notebook, and undone.
func Example_harvest() {
	d, ines, end := school()
	defer end()
	ready := must(harvest.ReadOverview(ctx, d.Store, ines)).Lines[0]
	id := uuid.New()
	err := harvest.Weigh(ctx, d.Store, ines, harvest.Request{ID: id, Batch: ready.ID, Grams: 120})
	fmt.Println(err, must(notebook.Read(ctx, d.Store, ines, notebook.Filter{About: &ready.ID}))[0].Says)
	err = notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: id})
	fmt.Println(err, must(notebook.Read(ctx, d.Store, ines, notebook.Filter{About: &ready.ID}))[0].Says)
	// Output:
	// <nil> Harvested 120 g, cut
	// <nil> Undid: Harvested 120 g, cut
}

// The day's walk is worked out, and a task of it ticked off.
func Example_round() {
	d, ines, end := school()
	defer end()
	walk := must(round.Today(ctx, d.Store, ines))
	task := walk.Stops[0].Tasks[0]
	_, err := round.Tick(ctx, d.Store, ines, round.TickRequest{ID: uuid.New(), Task: task.Key.String(), Unwritten: true})
	after := must(round.Today(ctx, d.Store, ines))
	fmt.Println(err, len(walk.Stops[0].Tasks)-len(after.Stops[0].Tasks), "less to do")
	// Output:
	// <nil> 1 less to do
}
