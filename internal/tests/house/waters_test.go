package house_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/water"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/things"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/site"
	"ulpa/internal/work/waters"
)

// A tank uses what was measured last of the water it is filled with, and with another
// water once it is filled with that; softened water is refused with why.
func TestATankKnowsItsWater(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	all, err := waters.All(ctx, d.Store, ines)
	require.NoError(t, err)
	require.Len(t, all, 2)
	rain, tap := all[0], all[1]
	require.Equal(t, []string{"Rain butt", "School tap"}, []string{rain.Name, tap.Name})
	require.NotEmpty(t, tap.Tanks)
	tank := func() site.TankSetup {
		list, err := site.TankKind.List(ctx, d.Store, ines)
		require.NoError(t, err)
		for _, n := range list {
			if n.ID == tap.Tanks[0].ID {
				return n
			}
		}
		t.Fatal("the tank is gone")
		return site.TankSetup{}
	}
	require.InDelta(t, 190, tank().Spec.WaterAlkalinity, 1e-9, "drops came after the report")
	a := water.Analysis{By: water.Drops, Values: map[string]float64{"alkalinity": 175}}
	id := uuid.New()
	for range 2 {
		require.NoError(t, waters.Analyse(ctx, d.Store, ines, ledger.Act{ID: id, On: tap.ID}, a))
	}
	require.InDelta(t, 175, tank().Spec.WaterAlkalinity, 1e-9)
	require.InDelta(t, 0.62, tank().Spec.WaterEC, 1e-9, "what was not measured stays")
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: id}))
	require.InDelta(t, 190, tank().Spec.WaterAlkalinity, 1e-9, "what was taken back was not measured")
	before := tank()
	now := before
	now.Water = rain.ID.String()
	_, err = site.TankKind.Put(ctx, d.Store, ines, now, things.Tag(before))
	require.NoError(t, err)
	require.InDelta(t, 18, tank().Spec.WaterAlkalinity, 1e-9)
	require.InDelta(t, 0.05, tank().Spec.WaterEC, 1e-9)
	_, err = waters.Kind.Put(ctx, d.Store, ines, waters.Setup{ID: uuid.New(), Name: "Cellar", Kind: "softened"}, things.New)
	require.ErrorContains(t, err, "sodium")
	lines, err := notebook.Read(ctx, d.Store, ines, notebook.Filter{About: &tap.ID})
	require.NoError(t, err)
	require.Contains(t, lines[1].Says.String(), "a drop kit: Alkalinity 175")
	inStep(t, d, ines)
}
