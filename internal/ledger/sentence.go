package ledger

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"sync"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/seed"
	"ulpa/core/solution"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/store"
)

// said holds sentences of entries. An entry never changes, so what it says to
// readers of the same units holds; when there are many, it begins anew.
var said struct {
	sync.Mutex
	by map[saidKey]string
}

type saidKey struct {
	school, entry uuid.UUID
	prefs         unit.Prefs
}

const mostSaid = 8192

// Said is the Sentence of an entry that is stored, in the reader's units.
func Said(tx *store.Tx, entry uuid.UUID, kind string, data []byte) string {
	key := saidKey{tx.Who.School, entry, tx.Who.Prefs}
	said.Lock()
	s, ok := said.by[key]
	said.Unlock()
	if ok {
		return s
	}
	s = Sentence(tx.Who.Prefs, kind, data)
	said.Lock()
	defer said.Unlock()
	if said.by == nil || len(said.by) >= mostSaid {
		said.by = map[saidKey]string{}
	}
	said.by[key] = s
	return s
}

// Sentence says in words what an entry holds, in the reader's units.
func Sentence(p unit.Prefs, kind string, data []byte) string {
	switch kind {
	case KindReading:
		return say(data, func(r solution.Reading) string { return readingWords(p, r) })
	case KindTreat:
		return say(data, func(t solution.Treatment) string { return treatWords(p, t) })
	case KindNote:
		return say(data, func(n Note) string { return n.Text })
	case KindVoid:
		return say(data, func(n Note) string { return "Took back: " + n.Text })
	case KindTick:
		return say(data, func(t Tick) string { return "Done: " + t.What })
	case KindSkip:
		return say(data, func(t Tick) string { return "Not today: " + t.What })
	}
	return say(data, func(a batch.Act) string { return actWords(p, a) })
}

func say[T any](data []byte, words func(T) string) string {
	var v T
	if err := json.Unmarshal(data, &v); err != nil {
		return "Unreadable entry"
	}
	return words(v)
}

func readingWords(p unit.Prefs, r solution.Reading) string {
	var parts []string
	add := func(v *float64, before, u string) {
		if v != nil {
			parts = append(parts, before+p.Format(*v, u))
		}
	}
	add(r.PH, "", "pH")
	add(r.ECMS, "", unit.MS)
	add(r.TempC, "", unit.Celsius)
	add(r.LevelL, "level ", unit.Litre)
	return "Read " + strings.Join(parts, ", ")
}

func treatWords(p unit.Prefs, t solution.Treatment) string {
	var parts []string
	add := func(v float64, u, what string) {
		if v > 0 {
			parts = append(parts, p.Format(v, u)+" "+what)
		}
	}
	add(t.DrainL, unit.Litre, "drained")
	add(t.WaterL, unit.Litre, "water")
	add(t.StockML, unit.Millilitre, "of each stock")
	if t.Amount > 0 {
		parts = append(parts, p.Format(t.Amount, t.Unit)+" of "+t.Agent.Words())
	}
	return "Added " + strings.Join(parts, ", ")
}

func actWords(p unit.Prefs, a batch.Act) string {
	switch a.Kind {
	case batch.Sow:
		return fmt.Sprintf("Sowed %s, %s in each", seed.Plural(len(a.Cells), "cell"), seed.Plural(a.SeedsPerCell, "seed"))
	case batch.Count:
		return countWords(a.Marks)
	case batch.Look:
		s := fmt.Sprintf("Looked: %s", seed.Plural(a.Leaves, "true leaf"))
		s = strings.Replace(s, "leafs", "leaves", 1)
		if a.HeightCM > 0 {
			s += ", " + p.Format(a.HeightCM, unit.Centimetre) + " tall"
		}
		return s
	case batch.Move:
		return "Moved " + seed.Plural(plants(a.To), "plant") + lostWords(a)
	case batch.Harden:
		return fmt.Sprintf("Began hardening %s over %d days", seed.Plural(plants(a.To), "plant"), a.RampDays) + lostWords(a)
	case batch.SetOut:
		return "Set out " + seed.Plural(plants(a.To), "plant") + lostWords(a)
	case batch.Lose:
		return fmt.Sprintf("Lost %s: %s", seed.Plural(plants(a.From), "plant"), a.Cause)
	case batch.Harvest:
		s := "Harvested " + p.Format(a.Grams, unit.Gram)
		if a.Whole {
			return s + ", " + seed.Plural(plants(a.From), "plant") + " whole"
		}
		return s + ", cut"
	case batch.Close:
		return "Closed the batch"
	}
	return string(a.Kind)
}

func plants(spots []batch.Spot) int {
	n := 0
	for _, s := range spots {
		n += s.Plants()
	}
	return n
}

func lostWords(a batch.Act) string {
	if len(a.Lost) == 0 {
		return ""
	}
	return fmt.Sprintf("; lost %d: %s", plants(a.Lost), a.Cause)
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
