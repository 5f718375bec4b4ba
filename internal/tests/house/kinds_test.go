package house_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/chemistry"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/trays"
)

// What core folds is declared, and what is declared says something; what is not is an
// error at every door.
func TestKindsAreDeclaredOnce(t *testing.T) {
	t.Parallel()
	for a := range batch.Kinds() {
		require.Contains(t, ledger.Kinds(), string(a), "core folds it, and no area declares it")
		require.NotContains(t, ledger.Sentence(string(a), []byte(`{}`)).String(), "another release")
	}
	require.Panics(t, func() { ledger.Declare(ledger.Kind[ledger.Note]{Name: "note"}) })
	f := newFixture(t)
	b := f.sow(t, "A1-A3")
	owner, err := pgx.Connect(ctx, f.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(ctx)
	err = f.Store.InSchool(ctx, f.ines, func(tx *store.Tx) error {
		_, err := ledger.Write(ctx, tx, ledger.Fact{ID: uuid.New(), Kind: "water_slide", Data: ledger.Note{}})
		return err
	})
	require.ErrorAs(t, err, new(ledger.ErrUnknownKind))
	require.ErrorContains(t, f.Store.InSchool(ctx, f.ines, func(tx *store.Tx) error {
		_, err := ledger.Write(ctx, tx, ledger.Fact{ID: uuid.New(), Kind: "note", Data: batch.Act{}})
		return err
	}), "cannot hold")
	// One that is stored all the same is not passed over.
	_, err = owner.Exec(ctx, `WITH e AS (INSERT INTO entry (school_id, id, kind, happened_at, written_at, person_id)
		VALUES ($1, $2, 'water_slide', now(), now(), $3) RETURNING school_id, id, happened_at, seq)
		INSERT INTO about (school_id, entry_id, thing_id, happened_at, seq, kind) SELECT school_id, id, $4, happened_at, seq, 'water_slide' FROM e`,
		f.ines.School, uuid.New(), f.ines.Person, b)
	require.NoError(t, err)
	require.ErrorAs(t, batches.Look(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: b}, batches.Looks{Leaves: 2, HeightCM: 0}), new(ledger.ErrUnknownKind))
	require.ErrorAs(t, f.Store.Read(ctx, f.ines, func(tx *store.Tx) error { _, err := ledger.Audit(ctx, tx); return err }), new(ledger.ErrUnknownKind))
}

// A tablet that was away sends yesterday's records today: they take their place by when
// they happened, in batches as in tanks, and everything comes to what it would have come
// to had they arrived in time.
func TestLateArrivalsTakeTheirPlace(t *testing.T) {
	t.Parallel()
	inTime, late := newFixture(t), newFixture(t)
	type step struct {
		at time.Duration
		do func(f fixture, b, vat uuid.UUID, at time.Time) error
	}
	num := func(v float64) *float64 { return &v }
	steps := []step{
		{1 * time.Hour, func(f fixture, b, _ uuid.UUID, at time.Time) error { return f.countAt(b, "A1-A6", batch.Sprouted, at) }},
		{2 * time.Hour, func(f fixture, _, vat uuid.UUID, at time.Time) error {
			return solution.LogReading(
				ctx,
				f.Store,
				f.crew,
				solution.ReadingRequest{ID: uuid.New(), Tank: vat, At: at, Sure: true, Reading: tank.Reading{PH: num(6.4), LevelL: num(50)}},
			)
		}},
		{3 * time.Hour, func(f fixture, b, _ uuid.UUID, at time.Time) error {
			return site.Move(
				ctx,
				f.Store,
				f.crew,
				site.MoveRequest{
					ID:    uuid.New(),
					Batch: b,
					To:    f.tower,
					At:    at,
					From:  []batch.Spot{{Kind: batch.InCell, In: f.tray.String(), Row: 0, Col: 0}},
					Ports: []tray.Cell{{Row: 0}},
				},
			)
		}},
		{4 * time.Hour, func(f fixture, _, vat uuid.UUID, at time.Time) error {
			return solution.Treat(ctx, f.Store, f.ines, solution.TreatRequest{ID: uuid.New(), Tank: vat, At: at, Sure: true, Done: tank.Treatment{WaterL: 4}})
		}},
		{5 * time.Hour, func(f fixture, b, _ uuid.UUID, at time.Time) error {
			return batches.Look(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: b, At: at}, batches.Looks{Leaves: 4, HeightCM: 7})
		}},
		{6 * time.Hour, func(f fixture, b, _ uuid.UUID, at time.Time) error { return f.countAt(b, "A5", batch.Lost, at) }},
	}
	run := func(f fixture, order []int) (state string) {
		b := f.sow(t, "A1-A6")
		began := f.Clock.Now()
		vat := f.tank(t)
		f.Clock.Stand(began.Add(24 * time.Hour))
		for _, i := range order {
			require.NoError(t, steps[i].do(f, b, vat, began.Add(steps[i].at)), "step %d of %v", i, order)
		}
		inStep(t, f.DB, f.ines)
		kept := read(t, f.DB, f.ines, func(tx *store.Tx) (out []string, err error) {
			var x, y string
			err = tx.Conn().
				QueryRow(ctx, "SELECT (SELECT state::text FROM batch WHERE id = $1), (SELECT (state -> 'ph')::text || (state -> 'level_l')::text FROM "+
					"tank WHERE id = $2)", b, vat).
				Scan(&x, &y)
			return []string{x, y}, err
		})
		return kept[0] + kept[1]
	}
	want := run(inTime, []int{0, 1, 2, 3, 4, 5})
	require.Equal(t, want, run(late, []int{0, 5, 4, 3, 2, 1}))
	// What cannot have happened then is refused, and so is what makes impossible what
	// followed: the plant that went to the tower was not lost the hour before.
	third := newFixture(t)
	b := third.sow(t, "A1-A6")
	began := third.Clock.Now()
	third.Clock.Stand(began.Add(24 * time.Hour))
	require.NoError(t, third.countAt(b, "A1-A6", batch.Sprouted, began.Add(time.Hour)))
	require.NoError(t, steps[2].do(third, b, uuid.Nil, began.Add(3*time.Hour)))
	require.ErrorContains(
		t,
		batches.Lose(
			ctx,
			third.Store,
			third.crew,
			ledger.Act{
				ID: uuid.New(),
				On: b, At: began.Add(2 * time.Hour),
			},
			[]batch.Spot{{Kind: batch.InCell, In: third.tray.String()}},
			"eaten",
		),
		"depends on this",
	)
	require.Error(t, steps[2].do(third, b, uuid.Nil, began.Add(30*time.Minute)), "nothing had come up yet")
	inStep(t, third.DB, third.ines)
	lines, err := notebook.Read(ctx, third.Store, third.ines, notebook.Filter{About: &b})
	require.NoError(t, err)
	require.Len(t, lines, 3, "what was refused is not there")
}

// countAt marks cells of a batch's tray at a moment.
func (f fixture) countAt(_ uuid.UUID, cells string, state batch.CellState, at time.Time) error {
	list, err := tray.ParseList(cells, 4, 6)
	if err != nil {
		return err
	}
	r := trays.CountRequest{ID: uuid.New(), Tray: f.tray, At: at}
	for _, c := range list {
		r.Marks = append(r.Marks, batch.Mark{Row: c.Row, Col: c.Col, State: state, Cause: "eaten"})
	}
	return trays.Count(ctx, f.Store, f.crew, r)
}

// plainSpec is a tank of which nothing more need be known.
var plainSpec = tank.Spec{
	CapacityL: 100, FillToL: 90, DryBelowL: 5, PHLow: 5, PHTarget: 6, PHHigh: 7, ECLow: 1, ECTarget: 2, ECHigh: 3, StockRise: 0.1,
	Acid: chemistry.Product{Agent: chemistry.CitricAcid, StrengthPercent: 99},
	Base: chemistry.Product{Agent: chemistry.PotassiumHydroxide, StrengthPercent: 99},
}

// tank is a tank at the tower.
func (f fixture) tank(t *testing.T) uuid.UUID {
	id := uuid.New()
	require.NoError(t, site.AddTank(ctx, f.Store, f.ines, site.TankSetup{ID: id, Place: f.tower, Name: "Vat", Spec: tank.Spec{
		CapacityL: 60, FillToL: 58, DryBelowL: 12, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.3, ECLow: 1.2, ECTarget: 1.5, ECHigh: 1.8, WaterEC: 0.5,
		WaterAlkalinity: 150, StockRise: 0.25, ReadEveryDays: 3,
		Acid: chemistry.Product{
			Agent:           chemistry.PhosphoricAcid,
			StrengthPercent: 30,
			DensityGML:      1.18,
		}, Base: chemistry.Product{Agent: chemistry.PotassiumBicarbonate, StrengthPercent: 99},
	}}))
	return id
}
