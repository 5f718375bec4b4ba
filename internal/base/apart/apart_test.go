package apart_test

import (
	"bytes"
	"context"
	"errors"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/internal/base/apart"
)

// trial does what is asked of it, good or bad.
var trial = apart.Declare("trial", apart.Limits{Memory: 200 << 20, Seconds: 1, Answer: 1 << 20}, func(in []byte) ([]byte, error) {
	switch string(in) {
	case "spin":
		for n := 0; ; n++ {
			_ = n
		}
	case "sleep":
		time.Sleep(time.Hour)
	case "hoard":
		all := map[int][]byte{}
		for {
			all[len(all)] = bytes.Repeat([]byte{1}, 10<<20)
		}
	case "talk":
		return make([]byte, 2<<20), nil
	case "panic":
		panic("as it was asked")
	case "refuse":
		return nil, errors.New("no")
	case "look":
		return []byte(os.Getenv("PATH") + os.Getenv("ULPA_DATABASE_URL")), nil
	}
	return bytes.ToUpper(in), nil
})

// What is asked apart is answered; whatever goes wrong there ends there, soon, and is told from
// a refusal and from a machine that was busy; and it sees nothing of this process's settings.
func TestWhatGoesWrongApartEndsThere(t *testing.T) {
	t.Setenv("ULPA_DATABASE_URL", "postgres://secret")
	out, err := trial.Run(t.Context(), []byte("hello"))
	require.NoError(t, err)
	require.Equal(t, "HELLO", string(out))
	out, err = trial.Run(t.Context(), []byte("look"))
	require.NoError(t, err)
	require.Empty(t, out)
	_, err = trial.Run(t.Context(), []byte("refuse"))
	require.ErrorIs(t, err, apart.ErrRefused)
	for _, bad := range []string{"spin", "hoard", "talk", "panic"} {
		_, err := trial.Run(t.Context(), []byte(bad))
		require.ErrorIs(t, err, apart.ErrEnded, bad)
	}
	ctx, done := context.WithTimeout(t.Context(), 300*time.Millisecond)
	defer done()
	_, err = trial.Run(ctx, []byte("sleep"))
	require.ErrorIs(t, err, apart.ErrLate)
	gone, leave := context.WithCancel(t.Context())
	time.AfterFunc(100*time.Millisecond, leave)
	_, err = trial.Run(gone, []byte("sleep"))
	require.ErrorIs(t, err, context.Canceled)
}
