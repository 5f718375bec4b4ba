package batches

import (
	"cmp"
	"context"
	"errors"
	"maps"
	"slices"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/work/site"
)

// What is written down of a batch in its trays, and of its end.
var (
	Sowed = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Sow), Act: true, Gone: seedBack, Says: func(a batch.Act) say.Text {
		if a.Open {
			return say.T("Sowed %s of an open tray, %s in each", say.Plural(len(a.Cells), "section"), say.Plural(a.SeedsPerCell, "seed"))
		}
		return say.T("Sowed %s, %s in each", say.Plural(len(a.Cells), "cell"), say.Plural(a.SeedsPerCell, "seed"))
	}})
	Adopted = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Adopt), Act: true, Gone: seedBack, Says: adoptWords})
	Counted = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Count), Act: true, Says: func(a batch.Act) say.Text {
		return countWords(a)
	}})
	Looked = ledger.Declare(ledger.Kind[batch.Act]{
		Name: string(batch.Look), Act: true, Says: lookWords, Right: ledger.RightAct,
		Fields: []ledger.Field[batch.Act]{
			ledger.Number("leaves", "True leaves on most", func(a *batch.Act) *int { return &a.Leaves }).Hinted("Do not count the first pair."),
			ledger.Amount("height", "Height", unit.Centimetre, func(a *batch.Act) *float64 { return &a.HeightCM }),
			ledger.PickOf("roots", "Roots of one that was knocked out", rootStates(), func(a *batch.Act) *string { return &a.Roots }),
		},
	})
	LostSome = ledger.Declare(ledger.Kind[batch.Act]{
		Name: string(batch.Lose), Act: true, Right: ledger.RightAct,
		Says: func(a batch.Act) say.Text {
			return say.T("Lost %s: %s", say.Plural(batch.PlantsIn(a.From), "plant"), a.Cause.Name())
		},
		Fields: []ledger.Field[batch.Act]{ledger.PickOf("cause", "To what", site.Causes(), func(a *batch.Act) *string { return (*string)(&a.Cause) })},
	})
	HandedOver = ledger.Declare(ledger.Kind[batch.Act]{
		Name: string(batch.HandOver), Act: true, Right: ledger.RightAct,
		Says: func(a batch.Act) say.Text {
			return say.T("Handed over %s: %s", say.Plural(batch.PlantsIn(a.From), "plant"), a.Way.Name())
		},
		Fields: []ledger.Field[batch.Act]{ledger.PickOf("way", "Where they went", ways(), func(a *batch.Act) *string { return (*string)(&a.Way) })},
	})
	Washed = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Wash), Act: true, Says: func(a batch.Act) say.Text {
		return say.T("Washed %s that had failed: free again", say.Plural(len(a.Cells), "cell"))
	}})
	Shifted = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Shift), Act: true, Says: func(a batch.Act) say.Text {
		if a.Extra {
			return say.T("Thinned out %s of %s and planted them: %s", say.Plural(batch.PlantsIn(a.From), "seedling"), cellNames(a.From), cellNames(a.To))
		}
		return say.T("Put %s into other cells: %s to %s", say.Plural(batch.PlantsIn(a.From), "plant"), cellNames(a.From), cellNames(a.To))
	}})
	Tended = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Tend), Act: true, Says: func(a batch.Act) say.Text {
		var did []say.Text
		for _, t := range batch.Tendings {
			if slices.Contains(a.Did, t.ID) {
				did = append(did, t.Name)
			}
		}
		if slices.ContainsFunc(batch.Tendings, func(t batch.Tending) bool { return t.Plants && slices.Contains(a.Did, t.ID) }) {
			return say.T("Tended: %s", say.List(did...))
		}
		return say.T("Sprouts: %s", say.List(did...))
	}})
	Closed = ledger.Declare(
		ledger.Kind[batch.Act]{Name: string(batch.Close), Act: true, Says: func(batch.Act) say.Text { return say.T("Closed the batch") }},
	)
)

// cellNames are the names of cells, runs of them joined.
func cellNames(spots []batch.Spot) say.Text {
	var cells []tray.Cell
	for _, s := range spots {
		cells = append(cells, tray.Cell{Row: s.Row, Col: s.Col})
	}
	return say.Name(tray.Format(cells))
}

// begunAs is how so many plants of a batch began that was not sown here.
var begunAs = map[string]say.Words{
	batch.AsItStood: "Entered %s as they were",
	batch.Delivered: "%s were delivered",
	batch.Struck:    "Took cuttings of %s",
	batch.Divided:   "Divided into %s",
	batch.Planted:   "Planted %s",
	batch.Pegged:    "Pegged down %s",
	batch.FromTest:  "Pricked out %s of a seed test",
}

func adoptWords(a batch.Act) say.Text {
	n := batch.PlantsIn(a.To)
	what := say.Plural(n, "plant")
	switch a.Start {
	case batch.Struck:
		what = say.Plural(n, "cutting")
	case batch.Pegged:
		what = say.Plural(n, "runner")
	case batch.FromTest:
		what = say.Plural(n, "seedling")
	case batch.Soaked:
		return say.T("Soaked %s of seed, for %s", say.Of(a.SeedG, unit.Gram), say.Plural(n, "vessel"))
	}
	says := say.T(begunAs[a.Start], what)
	if a.Dead > 0 {
		says = say.T("%s, and %d dead", says, a.Dead)
	}
	var signs []say.Text
	for _, x := range a.Signs {
		signs = append(signs, x.Name())
	}
	if signs != nil {
		return say.T("%s: %s", says, say.Join(", ", signs...))
	}
	return says
}

func lookWords(a batch.Act) say.Text {
	leaves := say.T("%d true leaves", a.Leaves)
	if a.Leaves == 1 {
		leaves = say.T("1 true leaf")
	}
	says := say.T("Looked: %s", leaves)
	if a.HeightCM > 0 {
		says = say.T("Looked: %s, %s tall", leaves, say.Of(a.HeightCM, unit.Centimetre))
	}
	for _, r := range batch.Roots {
		if r.ID == a.Roots {
			says = say.T("%s; roots: %s", says, r.Name)
		}
	}
	return says
}

// ways are how plants can be handed over.
func ways() (out []ledger.Option) {
	for _, x := range batch.Ways {
		out = append(out, ledger.Option{Value: string(x.ID), Name: x.Name})
	}
	return out
}

// rootStates are those to choose from, none among them.
func rootStates() []ledger.Option {
	out := []ledger.Option{{Value: "", Name: say.Words("not looked at")}}
	for _, r := range batch.Roots {
		out = append(out, ledger.Option{Value: r.ID, Name: r.Name})
	}
	return out
}

// countedAs is how many cells were found in a state.
var countedAs = map[batch.CellState]say.Words{
	batch.Sown: "%d had not come up after all", batch.Sprouted: "%d came up", batch.Thinned: "%d thinned", batch.Empty: "%d empty",
}

// rootedAs is the same of cuttings.
var rootedAs = map[batch.CellState]say.Words{batch.Sown: "%d had not rooted after all", batch.Sprouted: "%d rooted"}

func countWords(a batch.Act) say.Text {
	marks := a.Marks
	if len(marks) == 0 {
		return say.T("Counted: no change")
	}
	type found struct {
		state batch.CellState
		cause batch.Cause
	}
	by := map[found][]string{}
	var parts []say.Text
	for _, m := range marks {
		if m.Section {
			parts = append(parts, sectionWords(m))
			continue
		}
		f := found{m.State, ""}
		if m.State == batch.Lost {
			f.cause = m.Cause
		}
		by[f] = append(by[f], tray.Cell{Row: m.Row, Col: m.Col}.Name())
	}
	for _, f := range slices.SortedFunc(maps.Keys(by), func(a, b found) int {
		return cmp.Or(cmp.Compare(a.state, b.state), cmp.Compare(a.cause, b.cause))
	}) {
		cells := by[f]
		s := say.T(countedAs[f.state], len(cells))
		if words, own := rootedAs[f.state]; own && a.Start == batch.Struck {
			s = say.T(words, len(cells))
		}
		if f.state == batch.Lost {
			s = say.T("%d lost to %s", len(cells), f.cause.Name())
		}
		if len(cells) <= 8 {
			s = say.T("%s (%s)", s, strings.Join(cells, ", "))
		}
		parts = append(parts, s)
	}
	return say.T("Counted: %s", say.Join("; ", parts...))
}

// sectionWords is what was counted in a section of an open tray.
func sectionWords(m batch.Mark) say.Text {
	at := say.Name(tray.Cell{Row: m.Row, Col: m.Col}.Name())
	if m.Over {
		return say.T("%d growing in %s, no more will come up", m.N, at)
	}
	return say.T("%d growing in %s", m.N, at)
}

// seedBack puts seed back into its packet, and reserves again what was reserved, when what was
// sown is undone.
func seedBack(ctx context.Context, tx *store.Tx, a batch.Act) error {
	if err := reserveAgain(ctx, tx, a); err != nil {
		return err
	}
	if a.PacketSeeds == 0 {
		return nil
	}
	id, err := uuid.Parse(a.Packet)
	if err != nil {
		return err
	}
	return tx.UseSeed(ctx, db.UseSeedParams{ID: id, Seeds: -a.PacketSeeds})
}

func reserveAgain(ctx context.Context, tx *store.Tx, a batch.Act) error {
	if len(a.Reserved) == 0 {
		return nil
	}
	there, err := tx.TrayGaps(ctx)
	if err != nil {
		return err
	}
	trayID, err := uuid.Parse(a.Cells[0].In)
	for _, x := range a.Reserved {
		id, bad := uuid.Parse(x.ID)
		if err = errors.Join(err, bad); err != nil {
			return err
		}
		cells, err := tray.ParseList(x.Cells, 40, 40)
		if err != nil {
			return err
		}
		for _, g := range there {
			if g.ID == id { // the rest of them is reserved still
				rest, err := tray.ParseList(g.Cells, 40, 40)
				if err != nil {
					return err
				}
				cells = append(cells, rest...)
			}
		}
		if err := tx.PutTrayGap(ctx, db.PutTrayGapParams{
			SchoolID: tx.Who.School, ID: id, TrayID: trayID, Cells: tray.Format(cells), Crop: x.Crop, OnDay: x.On.UTC(),
		}); err != nil {
			return err
		}
	}
	return nil
}
