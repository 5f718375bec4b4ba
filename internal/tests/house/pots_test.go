package house_test

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/potting"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/things"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/round"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

// Plants go from pot to pot and from place to place in whatever order: each stands in one pot,
// a pot holds one plant, what was left is to be washed, and the mix that went is what pots take.
func TestPotsAddUp(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	small := site.PotSetup{ID: uuid.New(), Name: "Small", TopCM: 9, BottomCM: 6, HeightCM: 9, Owned: 30, Days: 20}
	large := site.PotSetup{ID: uuid.New(), Name: "Large", TopCM: 13, BottomCM: 9, HeightCM: 12, Owned: 12, Days: 40}
	mix := site.MixSetup{ID: uuid.New(), Name: "Mix", Litres: 60, BagL: 40}
	for _, p := range []site.PotSetup{small, large} {
		_, err := site.PotKind.Put(ctx, f.Store, f.ines, p, things.New)
		require.NoError(t, err)
	}
	_, err := site.MixKind.Put(ctx, f.Store, f.ines, mix, things.New)
	require.NoError(t, err)
	frame := site.PlaceSetup{ID: uuid.New(), Name: "A frame", Kind: "frame", TemperatureC: new(9.0)}
	require.NoError(t, site.AddPlace(ctx, f.Store, f.ines, frame))
	out, err := sowing.Adopt(ctx, f.Store, f.ines, sowing.AdoptRequest{
		ID: uuid.New(), Crop: "lettuce", Variety: "Bought", Since: f.ines.Day(f.Clock.Now()), Plants: 24, Place: f.bench, Start: batch.Delivered,
	})
	require.NoError(t, err)
	get := func() batches.Batch {
		b, err := batches.Get(ctx, f.Store, f.ines, out.Batch)
		require.NoError(t, err)
		return b
	}
	r := rand.New(rand.NewPCG(3, 4))
	took, kept := 0.0, 0
	for range 60 {
		f.Clock.Stand(f.Clock.Now().Add(time.Hour))
		b := get()
		if len(b.Stands) == 0 {
			break
		}
		from := b.Stands[r.IntN(len(b.Stands))]
		n := 1 + r.IntN(from.Plants)
		spot := batch.Spot{Kind: batch.InStand, In: from.PlaceID.String(), Pot: from.PotID, N: n}
		req := site.MoveRequest{ID: uuid.New(), Batch: b.ID, From: []batch.Spot{spot}, To: f.bench, Sure: true}
		switch r.IntN(5) {
		case 0:
			req.To = frame.ID
		case 1:
			require.NoError(t, batches.Lose(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: b.ID}, []batch.Spot{{Kind: batch.InStand, In: spot.In, N: 1}}, "eaten"))
			continue
		default:
			req.Pot, req.Mix = []uuid.UUID{small.ID, large.ID}[r.IntN(2)], mix.ID
		}
		with, err := site.ReadPotting(ctx, f.Store, f.ines)
		require.NoError(t, err)
		pot, potted := with.Pot(req.Pot.String())
		switch err := site.Move(ctx, f.Store, f.ines, req); {
		case potted && n > pot.Free():
			refusedAt(t, "pot", err)
		case potted && from.PotID == req.Pot.String() && from.PlaceID == req.To:
			refusedAt(t, "pot", err)
		case err == nil:
			kept++
			if potted {
				one, err := potting.Fill(pot.Pot(), n, potting.Mix{})
				require.NoError(t, err)
				took += one.MixL
			}
		}
		inPots := map[string]int{}
		for _, x := range get().Stands {
			inPots[x.PotID] += x.Plants
		}
		with, err = site.ReadPotting(ctx, f.Store, f.ines)
		require.NoError(t, err)
		for _, p := range with.Pots {
			require.LessOrEqual(t, inPots[p.ID.String()]+p.Free(), p.Owned)
			require.Equal(t, max(0, p.Owned-inPots[p.ID.String()]-p.Dirty), p.Free(), p.Name)
		}
		require.InDelta(t, max(0, 60-took), with.Mixes[0].Litres, 1e-6)
		if took > 60 {
			break
		}
	}
	require.Greater(t, kept, 10)
	inStep(t, f.DB, f.ines)
}

// Days in a pot only say when to look; roots that hold ask for the next pot, and potted on
// nothing is known of them any more. A wrong potting that is undone was none.
func TestAPotIsLeftWhenItsRootsHold(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	pot := site.PotSetup{ID: uuid.New(), Name: "Small", TopCM: 9, BottomCM: 6, HeightCM: 9, Owned: 30, Days: 20}
	_, err := site.PotKind.Put(ctx, f.Store, f.ines, pot, things.New)
	require.NoError(t, err)
	b := f.sow(t, "A1-A4")
	require.NoError(t, trays.Count(ctx, f.Store, f.ines, trays.CountRequest{ID: uuid.New(), Tray: f.tray, Marks: []batch.Mark{
		{Row: 0, Col: 0, State: batch.Sprouted}, {Row: 0, Col: 1, State: batch.Sprouted},
	}}))
	cell := func(col int) batch.Spot { return batch.Spot{Kind: batch.InCell, In: f.tray.String(), Col: col} }
	require.NoError(t, site.Move(ctx, f.Store, f.ines, site.MoveRequest{
		ID: uuid.New(), Batch: b, From: []batch.Spot{cell(0), cell(1)}, To: f.bench, Pot: pot.ID,
	}))
	asks := func() (out []string) {
		walk, err := round.Today(ctx, f.Store, f.ines)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, task := range stop.Tasks {
				if task.Of == b.String() && (task.Kind.Name == "pot" || task.Kind.Name == "look") {
					out = append(out, task.Kind.Name)
				}
			}
		}
		return out
	}
	look := func(roots string) {
		require.NoError(t, batches.Look(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: b}, batches.Looks{Leaves: 5, Roots: roots}))
	}
	later := func(days int) { f.Clock.Stand(f.Clock.Now().AddDate(0, 0, days)) }
	later(10)
	require.Empty(t, asks())
	later(11)
	require.Equal(t, []string{"look"}, asks())
	look("few")
	require.Empty(t, asks())
	later(7)
	look("hold")
	require.Equal(t, []string{"pot"}, asks())
	_, err = sowing.Adopt(ctx, f.Store, f.ines, sowing.AdoptRequest{
		ID: uuid.New(), Crop: "lettuce", Variety: "x", Since: f.ines.Day(f.Clock.Now()), Plants: 1, Place: f.bench, Start: batch.Soaked,
	})
	require.Error(t, err, "sprouts have a door of their own")
	inStep(t, f.DB, f.ines)
}
