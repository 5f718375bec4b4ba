package house_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/gauge"
	"ulpa/core/tank"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
	"ulpa/internal/work/solution"
)

// A reading knows the pen it was made with: what a worn pen reads is doubted more than what a
// good one does, whoever sends what error; and the round asks for a pen that is due.
func TestAReadingKnowsItsMeter(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	all, err := meters.All(ctx, d.Store, ines)
	require.NoError(t, err)
	pen := map[string]meters.Meter{}
	for _, m := range all {
		pen[m.Name] = m
	}
	last, _ := pen["Old pen"].Last()
	require.Equal(t, gauge.Replace, last.PH)
	var vat uuid.UUID
	require.NoError(t, d.Store.Read(ctx, ines, func(tx *store.Tx) error {
		tanks, err := ledger.Tanks(ctx, tx)
		vat = tanks[0].ID
		return err
	}))
	errorOf := func(meter string) float64 {
		ph := 5.9
		r := solution.ReadingRequest{ID: uuid.New(), Tank: vat, Reading: tank.Reading{PH: &ph, Meter: meter, PHErr: 0.0001}, Sure: true}
		require.NoError(t, solution.LogReading(ctx, d.Store, ines, r))
		var got tank.Reading
		require.NoError(t, d.Store.Read(ctx, ines, func(tx *store.Tx) error {
			all, err := ledger.Tanks(ctx, tx)
			for _, x := range all {
				if e := x.State.Water.Events; x.ID == vat && len(e) > 0 {
					got.PHErr = e[len(e)-1].Error
				}
			}
			return err
		}))
		return got.PHErr
	}
	good, worn := errorOf(pen["Blue pen"].ID.String()), errorOf(pen["Old pen"].ID.String())
	require.InDelta(t, gauge.PenError+gauge.PenPerWeek*9/7, good, 1e-9)
	require.InDelta(t, gauge.CardError, worn, 1e-9)
	ph := 5.9
	err = solution.LogReading(ctx, d.Store, ines, solution.ReadingRequest{ID: uuid.New(), Tank: vat, Reading: tank.Reading{PH: &ph, Meter: uuid.NewString()}})
	refusedAt(t, "with", err)
	asked := func() (n int) {
		walk, err := round.Today(ctx, d.Store, ines)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, task := range stop.Tasks {
				if task.Kind.Name == "calibrate" {
					n++
				}
			}
		}
		return n
	}
	require.Equal(t, 1, asked(), "the old one")
	id := uuid.New()
	c, err := meters.Calibrate(ctx, d.Store, ines, ledger.Act{ID: id, On: pen["Old pen"].ID}, meters.Buffers{Points: []gauge.Point{
		{Buffer: "7.00", Shown: 7.02, TemperatureC: 20}, {Buffer: "4.01", Shown: 4.05, TemperatureC: 20},
	}})
	require.NoError(t, err)
	require.Equal(t, gauge.Good, c.PH)
	require.Zero(t, asked())
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: id}))
	require.Equal(t, 1, asked())
	_, err = meters.Calibrate(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: pen["Colour card"].ID}, c.Buffers)
	refusedAt(t, "points", err)
	inStep(t, d, ines)
}
