package web_test

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/doors/demo"
)

// Several people ask for every page at once, each in an order of their own, and write meanwhile.
// Nothing breaks, and whoever wrote sees it on the next page. The race detector watches this.
func TestManyAskForEverythingAtOnce(t *testing.T) {
	h := newHouse(t)
	x := h.things(t)
	var pages []string
	for _, r := range h.samples(t, x) {
		if strings.HasPrefix(r.On, "GET ") {
			pages = append(pages, r.Ask)
		}
	}
	slices.Sort(pages)
	require.Greater(t, len(pages), 100)
	program := h.browser(t)
	people := []browser{h.adult(t, demo.People[0]), h.adult(t, demo.People[1]), h.crew(t), program}
	var all sync.WaitGroup
	for n, b := range people {
		all.Go(func() {
			rng := rand.New(rand.NewPCG(uint64(n), 9)) // #nosec G404 -- an order
			for i, at := range rng.Perm(len(pages)) {
				status := b.asks(pages[at], b == program)
				full := status == http.StatusTooManyRequests || status == http.StatusServiceUnavailable // and says so
				if status >= http.StatusInternalServerError && !full {
					t.Errorf("%s: %d", pages[at], status)
				}
				if i%20 != 0 || b == program {
					continue
				}
				note := fmt.Sprintf("note %d of number %d", i, n)
				if res, body := b.post("/notebook", "id", uuid.NewString(), "text", note); res.StatusCode != http.StatusSeeOther {
					t.Errorf("%d: %s", res.StatusCode, said(body))
				}
				if _, body := b.get("/notebook"); !strings.Contains(body, note) {
					t.Errorf("%q is not on the next page", note)
				}
			}
		})
	}
	all.Wait()
}

// asks is the status of a page's answer, or of a program's.
func (b browser) asks(path string, program bool) int {
	req, err := http.NewRequest(http.MethodGet, b.base+path, strings.NewReader(url.Values{}.Encode()))
	if err != nil {
		b.t.Error(err)
		return 0
	}
	if program {
		req.Header.Set("Authorization", "Bearer "+demo.Key)
	}
	res, err := b.c.Do(req)
	if err != nil {
		b.t.Error(err)
		return 0
	}
	_ = res.Body.Close()
	return res.StatusCode
}
