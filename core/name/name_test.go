package name_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/name"
)

func TestNames(t *testing.T) {
	require.Equal(t, "Nord Kübel 3", name.Clean("  Nord\u00a0Ku\u0308bel\t3 "))
	for _, s := range []string{"Bench", "Ñandú’s tray №3", "温室", "تبّة", strings.Repeat("é", 40)} {
		require.Empty(t, name.Wrong(name.Clean(s), 40), s)
	}
	for _, s := range []string{
		"", strings.Repeat("é", 41), "Be\u200bnch", "Bench\u202e", "\u2066x", "\u3164", "\u2800", "\u115f", "a\ufe0f", "\ufeffx",
		"x\x00y", "\xff", "\u0301",
	} {
		require.NotEmpty(t, name.Wrong(name.Clean(s), 40), "%q", s)
	}
}

// Names that look the same are the same, in whatever alphabet each letter is written; a millionth
// is no thousandth.
func TestNamesThatLookAlike(t *testing.T) {
	for a, b := range map[string]string{"Tower": "Т\u043ewer", "COBA": "СОВА", "Kappa": "Κ\u03b1ppa", "ＴＲＡＹ": "tray", "wilt": "w\u0456lt"} {
		require.Equal(t, name.Key(a), name.Key(b), "%s and %s", a, b)
	}
	require.NotEqual(t, name.Key("µS pen"), name.Key("mS pen"))
	require.NotEqual(t, name.Key("Tray 1"), name.Key("Tray l"))
}
