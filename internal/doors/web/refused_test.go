package web_test

import (
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/doors/demo"
)

// What is refused on the screen stands in no book: acts that are kept are sent with a day long gone
// first, and every other form as its route's sample has it; what answers 4xx has written nothing.
func TestWhatIsRefusedWritesNothing(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b, x := h.adult(t, demo.People[0]), h.things(t)
	owner, err := pgx.Connect(t.Context(), h.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	written := func() (n int) {
		require.NoError(t, owner.QueryRow(t.Context(), "SELECT count(*) FROM entry").Scan(&n))
		return n
	}
	long := []string{"when", "1998-05-01T10:00", "sure", "1"}
	for _, act := range acts(t, x, owner) {
		before := written()
		res, _ := b.post(act.path, slices.Concat([]string{"id", uuid.NewString()}, act.pairs, long)...)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, act.path)
		require.Equal(t, before, written(), act.path)
		res, _ = b.post(act.path, slices.Concat([]string{"id", uuid.NewString()}, act.pairs)...)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, "%s: nothing but the day was wrong", act.path)
		require.Greater(t, written(), before, act.path)
	}
	refused := 0
	for on, r := range h.samples(t, x) {
		method, _, _ := strings.Cut(on, " ")
		if method != http.MethodPost || strings.Contains(on, "/api/") || strings.Contains(on, "sign-") || strings.Contains(on, "/clock") {
			continue
		}
		before := written()
		res, _ := b.post(r.Ask, slices.Concat([]string{"id", uuid.NewString()}, r.Send, long)...)
		if res.StatusCode >= 400 {
			refused++
			require.Equal(t, before, written(), on)
		}
	}
	require.Greater(t, refused, 40)
}
