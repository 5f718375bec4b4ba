package api_test

import (
	"fmt"
	"net/http"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/bound"
	"ulpa/internal/base/who"
	"ulpa/internal/work/people"
)

// A list goes on from where it was, although what was sent last, and others before it, have been
// deleted meanwhile: nothing that is still there is left out. What is no cursor is refused.
func TestAListGoesOn(t *testing.T) {
	p, _ := newProgram(t)
	p.doc = nil
	for n := range 12 {
		id := uuid.NewString()
		day := time.Date(2029, 1, 1+2*n, 0, 0, 0, 0, time.UTC).Format("2006-01-02")
		res := p.ask("PUT", "/closures/"+id, map[string]any{"id": id, "name": fmt.Sprint("C", n), "from": day, "to": day}, "If-None-Match", "*")
		require.Equal(t, 201, res.Code, res.Body.String())
	}
	all := p.list("/closures").Items
	for _, gone := range [][]int{{4}, {0, 4}, {0, 1, 2, 3, 4}, {3, 4, 7}} {
		first := p.list("/closures?limit=5")
		kept := map[any]bool{}
		for _, x := range first.Items {
			kept[x["id"]] = true
		}
		var back []map[string]any
		for i, x := range p.list("/closures").Items {
			if !slices.Contains(gone, i) {
				continue
			}
			at := "/closures/" + x["id"].(string)
			tag := p.ask("GET", at, nil).Header().Get("ETag")
			for header, value := range map[string]string{"If-None-Match": "*", "If-Match": `""`} {
				require.Equal(t, 428, p.ask("DELETE", at, nil, header, value).Code, "%s: %s is no word on what is deleted", header, value)
			}
			require.Equal(t, 204, p.ask("DELETE", at, nil, "If-Match", tag).Code)
			back = append(back, x)
		}
		for next := first.Next; next != nil; {
			page := p.list("/closures?limit=5&cursor=" + *next)
			for _, x := range page.Items {
				kept[x["id"]] = true
			}
			next = page.Next
		}
		for _, x := range p.list("/closures").Items {
			require.True(t, kept[x["id"]], "%v was left out when %v had gone", x["name"], gone)
		}
		for _, x := range back {
			require.Equal(t, 201, p.ask("PUT", "/closures/"+x["id"].(string), x, "If-None-Match", "*").Code)
		}
	}
	require.Len(t, p.list("/closures").Items, len(all))
	for _, odd := range []string{uuid.NewString(), "x", "1_2", "0_5_" + uuid.NewString(), "9_5_" + uuid.NewString(), "1_5_x", "-1_5_" + uuid.NewString()} {
		require.Equal(t, 422, p.ask("GET", "/closures?cursor="+odd, nil).Code, odd)
	}
}

// Acid is an adult's: a key doses only when it was made for that.
func TestAKeyDosesOnlyWhenItIsMadeForIt(t *testing.T) {
	p, d := newProgram(t)
	p.doc = nil
	tank := p.list("/tanks").Items[0]["id"].(string)
	for scope, want := range map[string]int{who.ScopeAll: http.StatusForbidden, who.ScopeDose: http.StatusCreated} {
		require.NoError(t, people.AddKey(t.Context(), d.Store, d.Ines(t), uuid.New(), "P "+scope, scope, "ulpa_"+scope))
		p.key = "ulpa_" + scope
		body := map[string]any{"id": uuid.NewString(), "agent": "phosphoric_acid", "amount": 0.1, "sure": true}
		res := p.ask("POST", "/tanks/"+tank+"/treatments", body)
		if want == http.StatusCreated {
			require.NotEqual(t, http.StatusForbidden, res.Code, res.Body.String())
			continue
		}
		require.Equal(t, want, res.Code, res.Body.String())
	}
}

// A database of another shape, and a line that is full, are said for what they are.
func TestAProgramIsToldToComeAgain(t *testing.T) {
	p, d := newProgram(t)
	var places []func()
	for {
		_, done, ok := bound.Plans.Try(t.Context(), bound.Asker{School: uuid.New()})
		if !ok {
			break
		}
		places = append(places, done)
	}
	patience := bound.Plans.Patience
	bound.Plans.Patience = 50 * time.Millisecond
	res := p.ask("GET", "/season", nil)
	bound.Plans.Patience = patience
	for _, done := range places {
		done()
	}
	require.Equal(t, http.StatusServiceUnavailable, res.Code)
	require.NotEmpty(t, res.Header().Get("Retry-After"))

	owner, err := pgx.Connect(t.Context(), d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	_, err = owner.Exec(t.Context(), "INSERT INTO goose_db_version (version_id, is_applied) VALUES (900, true)")
	require.NoError(t, err)
	res = p.ask("POST", "/entries", map[string]any{"id": uuid.NewString(), "text": "Slugs"})
	require.Equal(t, http.StatusServiceUnavailable, res.Code)
	require.NotEmpty(t, res.Header().Get("Retry-After"))
}
