package house_test

import (
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
	"ulpa/internal/work/season"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

// Each verb that stores a record, with the content chosen by a number.
func (f fixture) senders(t *testing.T) map[string]func(id uuid.UUID, n int) error {
	b := f.sow(t, "A1-B6")
	require.NoError(t, f.mark(t, f.crew, "A1-B6", batch.Sprouted, batch.Sown))
	require.NoError(t, f.mark(t, f.crew, "B5-B6", batch.Lost, batch.Sprouted))
	washed := f.Clock.Now()
	other := f.sow(t, "C1-C3")
	vat := f.tank(t)
	walk, err := round.Today(ctx, f.Store, f.crew)
	require.NoError(t, err)
	due := ""
	for _, s := range walk.Stops {
		for _, x := range s.Tasks {
			due = x.Key.String()
		}
	}
	require.NotEmpty(t, due)
	note := uuid.New()
	require.NoError(t, notebook.Note(ctx, f.Store, f.ines, notebook.NoteRequest{ID: note, Text: "before"}))
	cellAt := func(n int) []batch.Spot {
		return []batch.Spot{{Kind: batch.InCell, In: f.tray.String(), Row: 0, Col: n % 6}}
	}
	return map[string]func(uuid.UUID, int) error{
		"reading": func(id uuid.UUID, n int) error {
			ph := 5.8 + float64(n)/10
			return solution.LogReading(ctx, f.Store, f.crew, solution.ReadingRequest{ID: id, Tank: vat, Reading: tank.Reading{PH: &ph}})
		},
		"treat": func(id uuid.UUID, n int) error {
			return solution.Treat(ctx, f.Store, f.ines, solution.TreatRequest{ID: id, Tank: vat, Done: tank.Treatment{WaterL: 1 + float64(n)}})
		},
		"note": func(id uuid.UUID, n int) error {
			return notebook.Note(ctx, f.Store, f.crew, notebook.NoteRequest{ID: id, Text: "note " + string(rune('a'+n))})
		},
		"tick": func(id uuid.UUID, n int) error {
			_, err := round.Tick(ctx, f.Store, f.crew, round.TickRequest{ID: id, Task: due, Skip: n%2 == 1, Unwritten: n%2 == 0})
			return err
		},
		"look": func(id uuid.UUID, n int) error {
			return batches.Look(ctx, f.Store, f.crew, ledger.Act{ID: id, On: b}, batches.Looks{Leaves: 2 + n, HeightCM: 5})
		},
		"lose": func(id uuid.UUID, n int) error {
			return batches.Lose(ctx, f.Store, f.crew, ledger.Act{ID: id, On: b}, cellAt(n), "eaten")
		},
		"move": func(id uuid.UUID, n int) error {
			return site.Move(ctx, f.Store, f.crew, site.MoveRequest{ID: id, Batch: b, To: f.tower, From: cellAt(2 + n), Ports: []tray.Cell{{Row: n}}})
		},
		"harvest": func(id uuid.UUID, n int) error {
			return harvest.Weigh(ctx, f.Store, f.crew, harvest.Request{ID: id, Batch: b, Grams: 10 + float64(n), From: cellAt(4 + n)})
		},
		"count": func(id uuid.UUID, n int) error {
			return trays.Count(
				ctx,
				f.Store,
				f.crew,
				trays.CountRequest{ID: id, Tray: f.tray, Marks: []batch.Mark{{Row: 2, Col: n, State: batch.Sprouted, Was: batch.Sown}}},
			)
		},
		"sow": func(id uuid.UUID, n int) error {
			_, err := sowing.Sow(
				ctx,
				f.Store,
				f.ines,
				sowing.SowRequest{ID: id, Lot: f.lot, Wanted: 2 + n, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: 3, Col: n}}},
			)
			return err
		},
		"undo": func(id uuid.UUID, n int) error {
			return notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: id, On: note})
		},
		"correct": func(id uuid.UUID, n int) error {
			return notebook.Correct(ctx, f.Store, f.ines, ledger.Act{ID: id, On: note}, map[string]any{"text": "after " + string(rune('a'+n))})
		},
		"wash": func(id uuid.UUID, n int) error {
			at := time.Time{}
			if n == 0 {
				at = washed
			}
			return trays.Wash(ctx, f.Store, f.crew, ledger.Act{ID: id, On: f.tray, At: at})
		},
		"close": func(id uuid.UUID, n int) error {
			return batches.Close(ctx, f.Store, f.ines, ledger.Act{ID: id, On: other})
		},
	}
}

func (f fixture) entries(t *testing.T) int {
	return read(t, f.DB, f.ines, func(tx *store.Tx) (n int, err error) {
		return n, tx.Conn().QueryRow(ctx, "SELECT count(*) FROM entry").Scan(&n)
	})
}

// A record whose answer got lost is stored once however often it is sent; another content
// under its id, or another kind of record, is refused and says what was kept.
func TestAnIdIsOneRecord(t *testing.T) {
	t.Parallel()
	for name := range newFixture(t).senders(t) {
		t.Run(name, func(t *testing.T) {
			f := newFixture(t)
			senders := f.senders(t)
			id, send := uuid.New(), senders[name]
			before := f.entries(t)
			require.NoError(t, send(id, 0))
			kept := f.entries(t) - before
			require.Positive(t, kept)
			require.NoError(t, send(id, 0), "sent again")
			if name != "undo" && name != "close" { // which say nothing that could be another
				require.ErrorContains(t, send(id, 1), "sent: Already saved")
			}
			for other, send := range senders {
				if other != name {
					require.ErrorContains(t, send(id, 0), "sent: Already saved", "%s under the id of a %s", other, name)
				}
			}
			require.Equal(t, before+kept, f.entries(t))
		})
	}
	f := newFixture(t)
	p := season.Planned{ID: uuid.New(), Crop: "lettuce", Wanted: 9, SowOn: calendar.Date(2027, 3, 20), ReadyBy: calendar.Date(2027, 5, 20)}
	require.NoError(t, season.Plan(ctx, f.Store, f.ines, p))
	require.NoError(t, season.Plan(ctx, f.Store, f.ines, p))
	p.Wanted = 10
	require.ErrorContains(t, season.Plan(ctx, f.Store, f.ines, p), "9 wanted")
}

// The same record sent several times at the same moment is kept once, and nobody is
// refused.
func TestAnIdSentAtOnce(t *testing.T) {
	t.Parallel()
	for name := range newFixture(t).senders(t) {
		t.Run(name, func(t *testing.T) {
			f := newFixture(t)
			send, id, begin := f.senders(t)[name], uuid.New(), make(chan struct{})
			var all sync.WaitGroup
			for range 6 {
				all.Go(func() {
					<-begin
					if err := send(id, 0); err != nil {
						t.Error(err)
					}
				})
			}
			close(begin)
			all.Wait()
			inStep(t, f.DB, f.ines)
		})
	}
}
