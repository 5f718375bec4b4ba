package web_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
)

// A year on every goal is past; each can be read, with the batches that were sown for it.
func TestPastGoalsStayReadable(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	_, page := b.get("/season/past")
	var all, over int
	var code, name string
	count := func() {
		require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
			return tx.Conn().QueryRow(t.Context(), "SELECT count(*), count(*) FILTER (WHERE by_day < $1) FROM goal", h.ines.Day(h.Clock.Now()).UTC()).Scan(&all, &over)
		}))
	}
	count()
	require.Less(t, over, all)
	require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
		return tx.Conn().QueryRow(t.Context(),
			"SELECT b.code, g.name FROM planned p JOIN goal g ON g.id = p.goal_id JOIN batch b ON b.id = p.batch_id ORDER BY b.code LIMIT 1").Scan(&code, &name)
	}))
	require.NotContains(t, page, code)
	h.Clock.Set(h.Clock.Now().Add(400 * 24 * time.Hour))
	count()
	require.Equal(t, all, over)
	b = h.adult(t, demo.People[0])
	_, page = b.get("/season/past")
	require.Contains(t, page, code)
	require.Contains(t, page, name)
}
