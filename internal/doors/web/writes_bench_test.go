package web_test

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

// atWork is a school whose pages are asked for while a program writes.
type atWork struct {
	client         *http.Client
	at             string
	pages          []string
	tanks, batches []string // that are read, and batches that are looked at
	wrote          int
}

func newAtWork(b *testing.B, size *demo.Size) *atWork {
	d := testdb.Demo(b)
	ines := d.Ines(b)
	if size != nil {
		require.NoError(b, demo.Grow(b.Context(), d.OwnerURL, ines.School, demo.Day, *size))
	}
	answers, err := web.New(face.Config{Store: d.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	require.NoError(b, err)
	server := httptest.NewServer(answers)
	b.Cleanup(server.Close)
	x := &atWork{at: server.URL, client: (house{d, server, answers.Routes, ines}).adult(b, demo.People[0]).c}
	x.client.Timeout, x.client.Transport = time.Minute, &http.Transport{MaxIdleConnsPerHost: 200}
	list := func(q string) (out []string) {
		require.NoError(b, d.Store.Read(b.Context(), ines, func(tx *store.Tx) error {
			return tx.Conn().QueryRow(b.Context(), "SELECT coalesce(array_agg(x::text), '{}') FROM ("+q+") q (x)").Scan(&out)
		}))
		return out
	}
	x.tanks = list("SELECT id FROM tank WHERE NOT retired ORDER BY id")
	x.batches = list("SELECT id FROM batch WHERE NOT closed ORDER BY sown_at DESC, id LIMIT 300")
	x.pages = []string{
		"/", "/season", "/season/beds", "/season/seed", "/nursery", "/trays", "/seeds", "/sow", "/places", "/tanks", "/harvest", "/away", "/notebook",
		"/waters", "/meters", "/mix", "/fish", "/crops", "/find?q=let", "/tanks/" + x.tanks[0], "/batches/" + x.batches[0], "/batches/" + x.batches[0] + "/move",
		"/trays/" + list("SELECT tray_id FROM tray_part ORDER BY used DESC, 1 LIMIT 1")[0],
	}
	for _, id := range list("SELECT id FROM place WHERE NOT retired ORDER BY walk_order") {
		x.pages = append(x.pages, "/places/"+id)
	}
	for _, page := range append(x.pages, x.pages...) {
		_, err := x.ask(page)
		require.NoError(b, err, page)
	}
	return x
}

func (x *atWork) do(r *http.Request) (took time.Duration, err error) {
	begun := time.Now()
	res, err := x.client.Do(r)
	if err != nil {
		return 0, err
	}
	_, _ = io.Copy(io.Discard, res.Body)
	_ = res.Body.Close()
	if res.StatusCode >= http.StatusMultipleChoices {
		err = fmt.Errorf("%s %s: %s", r.Method, r.URL.Path, res.Status)
	}
	return time.Since(begun), err
}

func (x *atWork) ask(page string) (time.Duration, error) {
	r, err := http.NewRequest(http.MethodGet, x.at+page, nil)
	if err != nil {
		return 0, err
	}
	return x.do(r)
}

// write writes a note, a reading or a look, in turn.
func (x *atWork) write() (time.Duration, error) {
	n := x.wrote
	x.wrote++
	path, what := "/entries", map[string]any{"text": fmt.Sprint("Written under load, ", n)}
	switch n % 3 {
	case 1:
		path, what = "/tanks/"+x.tanks[n/3%len(x.tanks)]+"/readings", map[string]any{"ph": 5.8 + float64(n%5)/20, "sure": true}
	case 2:
		path, what = "/batches/"+x.batches[n/3%len(x.batches)]+"/looks", map[string]any{"leaves": 3, "height_cm": 8}
	}
	what["id"] = uuid.NewString()
	body, err := json.Marshal(what)
	if err != nil {
		return 0, err
	}
	r, err := http.NewRequest(http.MethodPost, x.at+"/api/v1"+path, bytes.NewReader(body))
	if err != nil {
		return 0, err
	}
	r.Header.Set("Authorization", "Bearer "+demo.Key)
	r.Header.Set("Content-Type", "application/json")
	return x.do(r)
}

// load is what pages and writes took at a steady rate.
type load struct {
	mu      sync.Mutex
	pages   map[string][]time.Duration
	writes  []time.Duration
	failed  int
	because error
}

func (l *load) note(err error, f func()) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if f(); err != nil {
		l.failed, l.because = l.failed+1, err
	}
}

// run asks for all pages in turn, so many a second whatever the answers take, and writes beside.
func (x *atWork) run(pages, writes float64, long time.Duration) *load {
	l := &load{pages: map[string][]time.Duration{}}
	var wg sync.WaitGroup
	end := time.Now().Add(long)
	each := func(rate float64, f func(n int)) {
		tick := time.NewTicker(time.Duration(float64(time.Second) / rate))
		defer tick.Stop()
		for n := 0; time.Now().Before(end); n++ {
			<-tick.C
			f(n)
		}
	}
	if writes > 0 {
		wg.Go(func() {
			each(writes, func(int) {
				took, err := x.write()
				l.note(err, func() { l.writes = append(l.writes, took) })
			})
		})
	}
	each(pages, func(n int) {
		wg.Go(func() {
			page := x.pages[n%len(x.pages)]
			took, err := x.ask(page)
			l.note(err, func() { l.pages[page] = append(l.pages[page], took) })
		})
	})
	wg.Wait()
	return l
}

// of is a share of the times, in ms.
func of(all []time.Duration, share float64) float64 {
	if len(all) == 0 {
		return 0
	}
	slices.Sort(all)
	return float64(all[min(len(all)-1, int(share*float64(len(all))))].Microseconds()) / 1000
}

func (l *load) all() (out []time.Duration) {
	for _, took := range l.pages {
		out = append(out, took...)
	}
	return out
}

// slowest are the three pages whose slow answers are the slowest.
func (l *load) slowest() string {
	slow := func(page string) float64 { return of(l.pages[page], 0.9) }
	pages := slices.SortedFunc(maps.Keys(l.pages), func(a, b string) int { return cmp.Compare(slow(b), slow(a)) })
	var out []string
	for _, page := range pages[:3] {
		out = append(out, fmt.Sprintf("%s %.0f", page, slow(page)))
	}
	return strings.Join(out, ", ")
}

// BenchmarkWhileWriting prints what pages take while a program writes: in the demo, with five years
// behind it, and with 3,000 open batches; and by doubling how much the machine can do.
func BenchmarkWhileWriting(b *testing.B) {
	fiveYears := demo.Busy(5)
	district := fiveYears
	district.Batches, district.Open, district.Trays = 5000, 3000, 3000
	fmt.Println("| school | pages /s | writes /s | median ms | p99 ms | writes p99 | failed | slowest pages, their p90 |\n|---|---|---|---|---|---|---|---|")
	for _, school := range []struct {
		name string
		size *demo.Size
	}{{"the demo", nil}, {"five years", &fiveYears}, {"3,000 open", &district}} {
		b.Run(school.name, func(b *testing.B) {
			x := newAtWork(b, school.size)
			for b.Loop() {
				x.table(b, school.name)
			}
		})
	}
}

// table prints what pages and writes take alone, at a hundred pages a second, and at twice that
// until it is too much.
func (x *atWork) table(b *testing.B, school string) {
	row := func(pages, writes float64) (p99 float64, failed int) {
		l := x.run(pages, writes, 20*time.Second)
		all := l.all()
		p99 = of(all, 0.99)
		fmt.Printf("| %s | %g | %g | %.1f | %.1f | %.1f | %d | %s |\n", school, pages, writes, of(all, 0.5), p99, of(l.writes, 0.99), l.failed, l.slowest())
		if l.because != nil {
			fmt.Println("#", l.because)
		}
		return p99, l.failed
	}
	var first, writing []time.Duration
	for range 60 {
		took, err := x.write()
		require.NoError(b, err)
		after, err := x.ask("/")
		require.NoError(b, err)
		writing, first = append(writing, took), append(first, after)
	}
	fmt.Printf("# %s, nobody else there: a write %.1f ms, %.1f at p90; the first page after it %.1f, %.1f at p90\n",
		school, of(writing, 0.5), of(writing, 0.9), of(first, 0.5), of(first, 0.9))
	row(100, 0)
	for pages := 100.0; pages <= 1600; pages *= 2 {
		if p99, failed := row(pages, pages/20); p99 > 100 || failed > 0 {
			break
		}
	}
}
