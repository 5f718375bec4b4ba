package rotation_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/crop"
	"ulpa/core/rotation"
)

// What is said of two neighbours is said of both, harm goes first, and each carries how well it is known.
func TestNeighboursAreJudgedBothWays(t *testing.T) {
	find := func(id string) crop.Crop {
		c, ok := crop.Find(id)
		require.True(t, ok, id)
		return c
	}
	all := crop.All()
	for _, c := range all {
		list := rotation.NeighboursOf(c, all)
		good := false
		for _, n := range list {
			require.NotEqual(t, c.ID, n.With.ID)
			require.NotEmpty(t, n.Why)
			require.NotEmpty(t, n.Evidence)
			require.False(t, good && !n.Helps, "%s: harm first", c.ID)
			good = good || n.Helps
			if n.With.Family == c.Family && c.Family != "" {
				require.False(t, n.Helps, "%s beside %s", c.ID, n.With.ID)
				back := rotation.NeighboursOf(n.With, []crop.Crop{c})
				require.Len(t, back, 1)
				require.False(t, back[0].Helps)
			}
		}
	}
	is := func(a, b string) (out []bool) {
		for _, n := range rotation.NeighboursOf(find(a), []crop.Crop{find(b)}) {
			out = append(out, n.Helps)
		}
		return out
	}
	require.Equal(t, []bool{false}, is("tomato", "pepper"))
	require.Equal(t, []bool{true}, is("carrot", "onion"))
	for _, pair := range [][2]string{{"foxglove", "kale"}, {"kale", "foxglove"}} {
		list := rotation.NeighboursOf(find(pair[0]), []crop.Crop{find(pair[1])})
		require.Len(t, list, 1)
		require.Contains(t, list[0].Why.String(), "Foxglove beside food", "it is the poisonous one that is named")
	}
	require.Empty(t, is("lettuce", "beet"))
	require.Empty(t, rotation.NeighboursOf(find("kale"), []crop.Crop{find("kale")}), "beside its own kind nothing is said")
}
