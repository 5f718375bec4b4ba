package nursery

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
)

// What is written down of a batch in its trays, and of its end.
var (
	Sowed = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Sow), Act: true, Says: func(_ unit.Prefs, a batch.Act) string {
		return fmt.Sprintf("Sowed %s, %s in each", say.Plural(len(a.Cells), "cell"), say.Plural(a.SeedsPerCell, "seed"))
	}})
	Counted = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Count), Act: true, Says: func(_ unit.Prefs, a batch.Act) string {
		return countWords(a.Marks)
	}})
	Looked = ledger.Declare(ledger.Kind[batch.Act]{
		Name: string(batch.Look), Act: true, Says: lookWords, Right: ledger.RightAct,
		Fields: []ledger.Field[batch.Act]{
			ledger.Number("leaves", "True leaves on most", func(a *batch.Act) *int { return &a.Leaves }).Hinted("The first pair does not count."),
			ledger.Amount("height", "Height", unit.Centimetre, func(a *batch.Act) *float64 { return &a.HeightCM }),
		},
	})
	LostSome = ledger.Declare(ledger.Kind[batch.Act]{
		Name: string(batch.Lose), Act: true, Right: ledger.RightAct,
		Says: func(_ unit.Prefs, a batch.Act) string {
			return fmt.Sprintf("Lost %s: %s", say.Plural(batch.PlantsIn(a.From), "plant"), a.Cause)
		},
		Fields: []ledger.Field[batch.Act]{ledger.OneOf("cause", "To what", batch.Causes, func(a *batch.Act) *string { return &a.Cause })},
	})
	Closed = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Close), Act: true, Says: func(unit.Prefs, batch.Act) string { return "Closed the batch" }})
)

func lookWords(p unit.Prefs, a batch.Act) string {
	s := "Looked: " + strings.Replace(say.Plural(a.Leaves, "true leaf"), "leafs", "leaves", 1)
	if a.HeightCM > 0 {
		s += ", " + p.Format(a.HeightCM, unit.Centimetre) + " tall"
	}
	return s
}

func countWords(marks []batch.Mark) string {
	if len(marks) == 0 {
		return "Counted: no change"
	}
	by := map[string][]string{}
	for _, m := range marks {
		word := string(m.State)
		if m.State == batch.Sown {
			word = "not up after all"
		}
		if m.State == batch.Lost {
			word = "lost to " + m.Cause
		}
		by[word] = append(by[word], tray.Cell{Row: m.Row, Col: m.Col}.Name())
	}
	var parts []string
	for _, w := range slices.Sorted(maps.Keys(by)) {
		cells := by[w]
		s := fmt.Sprintf("%d %s", len(cells), w)
		if len(cells) <= 8 {
			s += " (" + strings.Join(cells, ", ") + ")"
		}
		parts = append(parts, s)
	}
	return "Counted: " + strings.Join(parts, "; ")
}
