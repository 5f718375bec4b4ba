package web_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

// busy is a school with years behind it, served, and its coordinator signed in.
type busy struct {
	face   *face.Face
	pool   *pgxpool.Pool // as the application, for the floors
	cookie string
	paths  [][2]string // name and path of each page
}

// newBusy grows a school of ULPA_BENCH_YEARS (1), or takes the demo at ULPA_BENCH_URL.
func newBusy(b testing.TB) *busy {
	d := testdb.DB{AppURL: os.Getenv("ULPA_BENCH_URL"), Clock: &demo.Clock{}}
	if d.AppURL == "" {
		d = testdb.Demo(b)
		years, _ := strconv.Atoi(os.Getenv("ULPA_BENCH_YEARS"))
		started := time.Now()
		require.NoError(b, demo.Grow(b.Context(), d.OwnerURL, d.Ines(b).School, demo.Day, demo.Busy(max(1, years))))
		fmt.Printf("# %d years grown in %.0f s\n", max(1, years), time.Since(started).Seconds())
	} else {
		var err error
		d.Clock.Set(time.Date(2027, 3, 18, 10, 5, 0, 0, time.UTC))
		d.Store, err = store.Open(b.Context(), d.AppURL, d.Clock.Now)
		require.NoError(b, err)
	}
	x := &busy{}
	answers, err := web.New(face.Config{Store: d.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	require.NoError(b, err)
	x.face = answers
	cfg, err := pgxpool.ParseConfig(d.AppURL)
	require.NoError(b, err)
	store.Tune(cfg) // the floors ask as the pages do
	x.pool, err = pgxpool.NewWithConfig(b.Context(), cfg)
	require.NoError(b, err)
	b.Cleanup(x.pool.Close)
	w := httptest.NewRecorder()
	r := httptest.NewRequest(http.MethodPost, "/sign-in", strings.NewReader("login="+demo.People[0].Login+"&password="+demo.People[0].Secret))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	x.face.ServeHTTP(w, r)
	require.Equal(b, http.StatusSeeOther, w.Code)
	for _, c := range w.Result().Cookies() {
		x.cookie += c.Name + "=" + c.Value + "; "
	}
	ines := d.Ines(b)
	id := func(q string) (id string) {
		require.NoError(b, d.Store.Read(b.Context(), ines, func(tx *store.Tx) error { return tx.Conn().QueryRow(b.Context(), q).Scan(&id) }))
		return id
	}
	tank := id("SELECT id::text FROM tank ORDER BY position DESC, name DESC LIMIT 1")
	x.paths = [][2]string{
		{"round", "/"},
		{"nursery", "/nursery"},
		{"tray", "/trays/" + id("SELECT tray_id::text FROM tray_part ORDER BY used DESC, 1 LIMIT 1")},
		{"batch", "/batches/" + id("SELECT id::text FROM batch WHERE NOT closed ORDER BY sown_at, id LIMIT 1")},
		{"tower", "/places/" + id("SELECT id::text FROM place WHERE kind = 'tower' ORDER BY walk_order LIMIT 1")},
		{"tank", "/tanks/" + tank},
		{"tank, five years", "/tanks/" + tank + "?days=1827"},
		{"notebook", "/notebook"},
		{"notebook, searched", "/notebook?q=aphids"},
		{"notebook, searched in vain", "/notebook?q=mandrake"},
		{"harvest", "/harvest"},
		{"places", "/places"},
	}
	return x
}

// ask asks for a page without a network.
func (x *busy) ask(ctx context.Context, path string) *httptest.ResponseRecorder {
	w := httptest.NewRecorder()
	r := httptest.NewRequest(http.MethodGet, path, nil).WithContext(ctx)
	r.Header.Set("Cookie", x.cookie)
	x.face.ServeHTTP(w, r)
	return w
}

type statement struct {
	sql  string
	args []any
}

// floors are what a page cannot be faster than: the same bytes from a bare
// handler, its statements alone, and its statements and its template.
func (x *busy) floors(b testing.TB, path string) (sent, asked, drawn func() error) {
	var statements []statement
	var draw func(io.Writer) error
	x.face.OnDraw(func(again func(io.Writer) error) { draw = again })
	answer := x.ask(store.Watch(b.Context(), func(sql string, args []any) { statements = append(statements, statement{sql, args}) }), path)
	x.face.OnDraw(nil)
	require.Equal(b, http.StatusOK, answer.Code)
	gin.SetMode(gin.ReleaseMode)
	g := gin.New()
	g.GET("/*any", func(c *gin.Context) { c.Data(http.StatusOK, "text/html; charset=utf-8", answer.Body.Bytes()) })
	sent = func() error {
		g.ServeHTTP(httptest.NewRecorder(), httptest.NewRequest(http.MethodGet, "/page", nil))
		return nil
	}
	asked = func() error {
		c, err := x.pool.Acquire(context.Background())
		if err != nil {
			return err
		}
		defer c.Release()
		for _, s := range statements {
			if strings.HasPrefix(s.sql, "BEGIN") { // two commands in one
				if _, err := c.Exec(context.Background(), s.sql); err != nil {
					return err
				}
				continue
			}
			rows, err := c.Query(context.Background(), s.sql, s.args...)
			if err != nil {
				return err
			}
			for rows.Next() {
				if _, err := rows.Values(); err != nil {
					return err
				}
			}
			if rows.Close(); rows.Err() != nil {
				return rows.Err()
			}
		}
		return nil
	}
	drawn = func() error {
		if err := asked(); err != nil {
			return err
		}
		var buf bytes.Buffer
		if err := draw(&buf); err != nil {
			return err
		}
		g := httptest.NewRecorder()
		_, err := g.Write(buf.Bytes())
		return err
	}
	return sent, asked, drawn
}

// perSecond is how often f can be done in a second by everybody at once.
func perSecond(b testing.TB, f func() error) float64 {
	const long = time.Second
	var mu sync.Mutex
	var all int
	var wg sync.WaitGroup
	started := time.Now()
	for range 2 * runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			n := 0
			for ; time.Since(started) < long; n++ {
				if err := f(); err != nil {
					b.Error(err)
					return
				}
			}
			mu.Lock()
			all += n
			mu.Unlock()
		})
	}
	wg.Wait()
	return float64(all) / time.Since(started).Seconds()
}

// steady asks a hundred times a second over a real connection, whatever the
// answers take, and tells the middle and the ninety-ninth percentile.
func (x *busy) steady(b testing.TB, path string) (median, p99 time.Duration) {
	s := httptest.NewServer(x.face)
	defer s.Close()
	client := &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 100}}
	const n = 300
	took := make([]time.Duration, n)
	var wg sync.WaitGroup
	tick := time.NewTicker(10 * time.Millisecond)
	defer tick.Stop()
	for i := range n {
		<-tick.C
		wg.Go(func() {
			r, _ := http.NewRequest(http.MethodGet, s.URL+path, nil)
			r.Header.Set("Cookie", x.cookie)
			started := time.Now()
			res, err := client.Do(r)
			if err != nil {
				b.Error(err)
				return
			}
			_, _ = io.Copy(io.Discard, res.Body)
			_ = res.Body.Close()
			took[i] = time.Since(started)
		})
	}
	wg.Wait()
	slices.Sort(took)
	return took[n/2], took[n*99/100]
}

// BenchmarkPages prints a table of the pages over a busy school beside their
// floors: requests a second, the share of the last floor, and times at a steady
// hundred a second. Run it once (-benchtime 1x): each figure takes its own time.
func BenchmarkPages(b *testing.B) {
	x := newBusy(b)
	fmt.Printf(
		"| page | bytes | page /s | bytes alone /s | SQL alone /s | SQL and template /s | share | median ms | p99 ms |\n|---|---|---|---|---|---|---|---|---|\n",
	)
	ms := func(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }
	for _, p := range x.paths {
		first := x.ask(b.Context(), p[1])
		require.Equal(b, http.StatusOK, first.Code)
		sent, asked, drawn := x.floors(b, p[1])
		page := perSecond(b, func() error {
			if got := x.ask(context.Background(), p[1]); got.Code != http.StatusOK {
				return fmt.Errorf("%s: %d", p[1], got.Code)
			}
			return nil
		})
		f1, f2, f3 := perSecond(b, sent), perSecond(b, asked), perSecond(b, drawn)
		median, p99 := x.steady(b, p[1])
		fmt.Printf("| %s | %d | %.0f | %.0f | %.0f | %.0f | %.2f | %.1f | %.1f |\n", p[0], first.Body.Len(), page, f1, f2, f3, page/f3, ms(median), ms(p99))
	}
}

// BenchmarkPage is one page at a time, for a profile.
func BenchmarkPage(b *testing.B) {
	x := newBusy(b)
	for _, p := range x.paths {
		b.Run(p[0], func(b *testing.B) {
			for b.Loop() {
				x.ask(b.Context(), p[1])
			}
		})
	}
}
