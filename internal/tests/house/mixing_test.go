package house_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/recipe"
	"ulpa/core/water"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/mixing"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/waters"
)

// A sheet counts with what the water brings; what was weighed leaves the shelf, once, and comes
// back with an entry that is undone; a crew weighs no dry salts, and a slip of the comma is
// asked about.
func TestAMixedSolutionLeavesTheShelf(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	shelf, err := mixing.GetShelf(ctx, d.Store, ines)
	require.NoError(t, err)
	require.Len(t, shelf.Recipes, 3)
	of := func(name string) (id uuid.UUID) {
		for _, r := range shelf.Recipes {
			if r.Name == name {
				id = r.ID
			}
		}
		for _, w := range shelf.Waters {
			if w.Name == name {
				id = w.ID
			}
		}
		return id
	}
	q := mixing.Question{Recipe: of("Leaf crops"), Water: of("School tap"), Litres: 60}
	grams := func(q mixing.Question) map[string]float64 {
		x, err := mixing.Work(ctx, d.Store, ines, q)
		require.NoError(t, err)
		out := map[string]float64{}
		for _, l := range x.Lines {
			out[l.Salt.Name] = l.Grams
			if l.Salt.Spoons > 0 {
				require.InDelta(t, l.Grams, l.Spoons*l.Salt.SpoonG(), 1e-6)
			}
		}
		require.Less(t, x.Off["N"], 5.0)
		return out
	}
	hard := grams(q)
	rain := q
	rain.Water = of("Rain butt")
	require.Greater(t, grams(rain)["Calcium nitrate"], hard["Calcium nitrate"], "rain brings no calcium")
	stock := q
	stock.Litres, stock.Ratio = 2, 100
	x, err := mixing.Work(ctx, d.Store, ines, stock)
	require.NoError(t, err)
	for _, l := range x.Lines {
		switch l.Salt.Name {
		case "Calcium nitrate":
			require.Equal(t, "A", l.Bottle)
		case "Epsom salt", "Monopotassium phosphate":
			require.Equal(t, "B", l.Bottle)
		}
	}
	left := func(name string) float64 {
		s, err := mixing.GetShelf(ctx, d.Store, ines)
		require.NoError(t, err)
		for _, x := range s.Salts {
			if x.Name == name {
				return *x.GramsLeft
			}
		}
		return -1
	}
	before := left("Potassium nitrate")
	var potassium uuid.UUID
	for _, s := range shelf.Salts {
		if s.Name == "Potassium nitrate" {
			potassium = s.ID
		}
	}
	done := mixing.Done{ID: uuid.New(), Question: q, Grams: map[uuid.UUID]float64{potassium: hard["Potassium nitrate"] + 1}}
	require.ErrorIs(t, mixing.Mix(ctx, d.Store, d.Person(t, ines.School, who.Crew, "Wherry"), done), who.ErrNotAllowed)
	for range 2 {
		require.NoError(t, mixing.Mix(ctx, d.Store, ines, done))
	}
	require.InDelta(t, before-hard["Potassium nitrate"]-1, left("Potassium nitrate"), 1e-6)
	slip := done
	slip.ID, slip.Grams = uuid.New(), map[uuid.UUID]float64{potassium: 10 * hard["Potassium nitrate"]}
	refusedAt(t, "g-"+potassium.String(), mixing.Mix(ctx, d.Store, ines, slip))
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: done.ID}))
	require.InDelta(t, before, left("Potassium nitrate"), 1e-6)
	// A new analysis is what the next sheet counts with.
	soft := water.Analysis{By: water.Report, Values: map[string]float64{"ca": 20}}
	require.NoError(t, waters.Analyse(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: q.Water}, soft))
	require.Greater(t, grams(q)["Calcium nitrate"], hard["Calcium nitrate"])
}

// What a form leaves empty is gone, and a recipe or a mix of nothing is refused; a program's
// figures under names that nobody knows are refused too.
func TestAFormThatIsEmptiedIsNotFilledAgain(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	shelf, err := mixing.GetShelf(ctx, d.Store, ines)
	require.NoError(t, err)
	r := shelf.Recipes[0]
	change := func(to func(el string) *float64) error {
		was := things.Tag(r)
		return mixing.RecipeKind.Change(ctx, d.Store, ines, r.ID, was, false, func(values map[string]any) map[string]any {
			for _, el := range recipe.Targets {
				values[el] = to(el)
			}
			return values
		})
	}
	refusedAt(t, "N", change(func(string) *float64 { return nil }))
	kept := r.Targets["K"]
	require.NoError(t, change(func(el string) *float64 {
		if el == "K" {
			return &kept
		}
		return nil
	}))
	after, err := mixing.RecipeKind.Get(ctx, d.Store, ines, r.ID)
	require.NoError(t, err)
	require.Equal(t, map[string]float64{"K": kept}, after.Targets)
	after.Targets["Xe"] = 1
	_, err = mixing.RecipeKind.Put(ctx, d.Store, ines, after, things.Tag(after))
	refusedAt(t, "Xe", err)
	mix := mixing.Salt{ID: uuid.New(), Name: "One bag", Label: recipe.Label{"NO3_N": 60, "K2O": 50}}
	_, err = mixing.SaltKind.Put(ctx, d.Store, ines, mix, things.New)
	refusedAt(t, "NO3_N", err)
}
