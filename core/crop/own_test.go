package crop_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/crop"
)

// A crop of a school's own is its kin under another name, with letters of its own.
func TestACropLikeAnother(t *testing.T) {
	for name, letters := range map[string]string{"Oak leaf": "OAK", "Épinard fraise": "EPI", "Yu": "YUN", "大根": "OWN", "-x'": "XWN"} {
		require.NoError(t, crop.CheckName(name))
		for _, kin := range crop.All() {
			id := crop.Like(kin.ID, name)
			c, ok := crop.Of(id)
			require.True(t, ok)
			require.Equal(t, []string{id, name, letters, kin.ID}, []string{c.ID, string(c.Name), c.Letters, crop.Kin(id)})
			c.ID, c.Name, c.Letters = kin.ID, kin.Name, kin.Letters
			require.Equal(t, kin, c, "in all else it is as its kin")
		}
	}
	for _, name := range []string{"", "a/b", "a~b", "a?b", "a%b", "a\nb"} {
		require.Error(t, crop.CheckName(name), name)
	}
	_, ok := crop.Of(crop.Like("tumbleweed", "Oak leaf"))
	require.False(t, ok)
}
