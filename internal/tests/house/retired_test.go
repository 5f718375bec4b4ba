package house_test

import (
	"sync"
	"sync/atomic"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/gauge"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/upkeep"
)

// What is retired is named by no new entry, whichever way it is named, but for a note; restored
// it is named again. What was written before can still be corrected.
func TestNothingNewNamesWhatIsRetired(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	s, w := f.Store, f.ines
	barrel, meter, free := uuid.New(), uuid.New(), uuid.New()
	require.NoError(t, site.AddTank(ctx, s, w, site.TankSetup{ID: barrel, Place: f.tower, Name: "Barrel", Spec: plainSpec}))
	_, err := meters.Kind.Put(ctx, s, w, meters.Setup{ID: meter, Name: "Pen", Kind: gauge.PHOnly, Place: f.bench}, "")
	require.NoError(t, err)
	require.NoError(t, site.AddTray(ctx, s, w, site.TraySetup{ID: free, Name: "T2", Place: f.bench, Rows: 4, Columns: 6, CellML: 40}))
	sow := func() error {
		cells, _ := tray.ParseList("A1", 4, 6)
		_, err := sowing.Sow(ctx, s, w, sowing.SowRequest{ID: uuid.New(), Lot: f.lot, Wanted: 1, SeedsPerCell: 1, Tray: free, Cells: cells})
		if err == nil { // the next time it is free again
			lines, err := notebook.Read(ctx, s, w, notebook.Filter{Most: 1})
			require.NoError(t, err)
			require.NoError(t, notebook.Undo(ctx, s, w, ledger.Act{ID: uuid.New(), On: lines[0].ID}))
		}
		return err
	}
	ph := 6.1
	read := func(with string) error {
		return solution.LogReading(ctx, s, w, solution.ReadingRequest{ID: uuid.New(), Tank: barrel, Reading: tank.Reading{PH: &ph, Meter: with}})
	}
	early := uuid.New()
	require.NoError(t, solution.LogReading(ctx, s, w, solution.ReadingRequest{ID: early, Tank: barrel, Reading: tank.Reading{PH: &ph}}))
	for name, x := range map[string]struct {
		retire func(bool) error
		acts   []func() error
		note   uuid.UUID
	}{
		"T2":     {func(r bool) error { return site.TrayKind.Retire(ctx, s, w, free, r) }, []func() error{sow}, free},
		"HF":     {func(r bool) error { return seeds.LotKind.Retire(ctx, s, w, f.lot, r) }, []func() error{sow}, f.lot},
		"Barrel": {func(r bool) error { return site.TankKind.Retire(ctx, s, w, barrel, r) }, []func() error{func() error { return read("") }}, barrel},
		"Pen":    {func(r bool) error { return meters.Kind.Retire(ctx, s, w, meter, r) }, []func() error{func() error { return read(meter.String()) }}, meter},
	} {
		for _, act := range x.acts {
			require.NoError(t, act(), name)
			require.NoError(t, x.retire(true), name)
			require.ErrorContains(t, act(), name+" is retired", name)
			require.NoError(t, notebook.Note(ctx, s, w, notebook.NoteRequest{ID: uuid.New(), Text: "gone", About: []uuid.UUID{x.note}}), name)
			if name == "Barrel" {
				require.NoError(t, notebook.Correct(ctx, s, w, ledger.Act{ID: uuid.New(), On: early}, map[string]any{"ph": new(6.3)}))
			}
			require.NoError(t, x.retire(false), name)
			require.NoError(t, act(), name)
		}
	}
	inStep(t, f.DB, w)
}

// Whoever retires a tray and whoever sows into it in the same moment: one of them is refused, and
// never stands a plant in what is retired.
func TestRetiringWhileOthersWrite(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	s, w := f.Store, f.ines
	var sown, retired atomic.Int64
	for range 30 {
		id := uuid.New()
		require.NoError(t, site.AddTray(ctx, s, w, site.TraySetup{ID: id, Name: "R " + id.String()[:8], Place: f.bench, Rows: 1, Columns: 2, CellML: 40}))
		var both sync.WaitGroup
		both.Go(func() {
			_, err := sowing.Sow(ctx, s, w, sowing.SowRequest{ID: uuid.New(), Lot: f.lot, Wanted: 1, SeedsPerCell: 1, Tray: id, Cells: []tray.Cell{{}}})
			if err == nil {
				sown.Add(1)
			}
		})
		both.Go(func() {
			if site.TrayKind.Retire(ctx, s, w, id, true) == nil {
				retired.Add(1)
			}
		})
		both.Wait()
	}
	require.EqualValues(t, 30, sown.Load()+retired.Load(), "exactly one of the two each time")
	read(t, f.DB, w, func(tx *store.Tx) (n int, err error) {
		err = tx.Conn().QueryRow(ctx, "SELECT count(*) FROM cell c JOIN tray t ON t.school_id = c.school_id AND t.id = c.tray_id WHERE t.retired").Scan(&n)
		require.Zero(t, n)
		return n, err
	})
}

// A database that was brought to this shape and whose rebuild was cut off is not served until the
// rebuild is finished; that is done by the same command again.
func TestARebuildThatWasCutOffIsFinished(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	whole := prints(t, d.OwnerURL)
	owner, err := pgx.Connect(ctx, d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(ctx)
	for _, q := range []string{
		"UPDATE rebuilt SET shape = shape - 1", "DELETE FROM cell WHERE state = '" + string(batch.Sprouted) + "'",
		"UPDATE entry SET words = 'Como Se Decía' WHERE kind = 'sow'",
	} {
		_, err = owner.Exec(ctx, q)
		require.NoError(t, err)
	}
	var shape store.ErrShape
	_, err = store.Open(ctx, d.AppURL, d.Clock.Now)
	require.ErrorAs(t, err, &shape)
	require.ErrorAs(t, d.Store.Fits(ctx), &shape)
	require.NoError(t, upkeep.Migrate(ctx, d.OwnerURL, ""))
	require.NoError(t, d.Store.Fits(ctx))
	again, err := store.Open(ctx, d.AppURL, d.Clock.Now)
	require.NoError(t, err)
	again.Close()
	require.Equal(t, whole["cell"], prints(t, d.OwnerURL)["cell"])
	for _, asked := range []string{"como se decia", "sowed", "sembró"} {
		found, err := notebook.Read(ctx, d.Store, w, notebook.Filter{Find: asked})
		require.NoError(t, err)
		require.NotEmpty(t, found, "what was written is found by what it was once, and by what it says today: %s", asked)
	}
	inStep(t, d, w)
}

// A restore that was ended leaves its database beside: the next says so, and drops it when told.
func TestARestoreThatWasEnded(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	file := t.TempDir() + "/x.dump"
	require.NoError(t, store.Backup(ctx, d.OwnerURL, file, ""))
	owner, _, password := testdb.Bare(t)
	conn, err := pgx.Connect(ctx, owner)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, "CREATE DATABASE "+pgx.Identifier{conn.Config().Database + "_restoring"}.Sanitize())
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))
	testdb.Alone(t, func() error {
		_, err := upkeep.Restore(ctx, owner, file, password, "", false)
		require.ErrorContains(t, err, "--again")
		_, err = upkeep.Restore(ctx, owner, file, password, "", true)
		return err
	})
	require.Equal(t, prints(t, d.OwnerURL), prints(t, owner))
}
