// Package faults_test drives the real program through what goes wrong: killed
// servers, a killed database, cut connections, lost answers, wrong clocks and
// people who change the same cells, and looks afterwards whether every record
// that was acknowledged is there exactly once.
package faults_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/internal/base/postgres"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/work/upkeep"
)

// rig is a PostgreSQL server that keeps what it acknowledges, the program on it,
// and a log of what was done to them.
type rig struct {
	t       *testing.T
	dir     string
	bin     string
	address string
	pg      *postgres.Server
	process *exec.Cmd
	exited  chan struct{}
	output  *os.File
	school  uuid.UUID

	mu     sync.Mutex
	log    *json.Encoder
	counts map[string]int
	wrong  []string
	slow   time.Duration // the longest until pages came back
}

func newRig(t *testing.T) *rig {
	dir, err := os.MkdirTemp("/tmp", "ulpa-faults-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	r := &rig{t: t, dir: dir, counts: map[string]int{}}
	path := os.Getenv("ULPA_FAULTS_LOG")
	if path == "" {
		path = filepath.Join(t.TempDir(), "faults.jsonl")
	}
	log, err := os.Create(path)
	require.NoError(t, err)
	r.log = json.NewEncoder(log)
	r.output, err = os.Create(filepath.Join(dir, "server.log"))
	require.NoError(t, err)
	r.bin = filepath.Join(dir, "ulpa")
	build := exec.Command("go", "build", "-tags", "nomsgpack", "-o", r.bin, "ulpa/cmd/ulpa")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	said, err := build.CombinedOutput()
	require.NoError(t, err, string(said))
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "pg"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "pg", "port"), []byte(ownPort(t)), 0o644))
	r.startPostgres()
	r.fill()
	r.address = "127.0.0.1:" + ownPort(t)
	r.startServer()
	t.Cleanup(func() {
		r.stopServer(syscall.SIGTERM)
		_ = r.pg.Stop()
		log.Close()
		r.output.Close()
		if t.Failed() {
			t.Logf("what was done: %s; the server's files: %s", path, dir)
		} else {
			os.RemoveAll(dir)
		}
	})
	return r
}

// ownPort is a port that nobody is given by chance while its server is dead: it
// lies below those that outgoing connections get.
func ownPort(t *testing.T) string {
	for range 100 {
		port := strconv.Itoa(20_000 + rand.IntN(10_000))
		if l, err := net.Listen("tcp", "127.0.0.1:"+port); err == nil {
			require.NoError(t, l.Close())
			return port
		}
	}
	t.Fatal("no free port")
	return ""
}

// say writes down what was done.
func (r *rig) say(what string, more ...any) {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.counts[what]++
	_ = r.log.Encode(map[string]any{"at": time.Now().Format("15:04:05.000"), "what": what, "more": fmt.Sprint(more...)})
}

// note adds to what is wrong.
func (r *rig) note(format string, args ...any) {
	r.say("WRONG", fmt.Sprintf(format, args...))
	r.mu.Lock()
	defer r.mu.Unlock()
	r.wrong = append(r.wrong, fmt.Sprintf(format, args...))
}

// fill makes the demo's school, standing on yesterday.
func (r *rig) fill() {
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, r.pg.URL("postgres"))
	require.NoError(r.t, err)
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, "CREATE DATABASE ulpa")
	require.NoError(r.t, err)
	require.NoError(r.t, upkeep.Migrate(ctx, r.owner(), r.pg.Password()))
	r.school, err = store.EnsureSchool(ctx, r.owner(), demo.School)
	require.NoError(r.t, err)
	clock := &demo.Clock{}
	s, err := store.Open(ctx, r.pg.AppURL("ulpa"), clock.Now)
	require.NoError(r.t, err)
	defer s.Close()
	require.NoError(r.t, demo.Load(ctx, s, clock, r.school, calendar.Of(time.Now().AddDate(0, 0, -1))))
}

func (r *rig) owner() string { return r.pg.URL("ulpa") }

func (r *rig) startPostgres() {
	var err error
	until := time.Now().Add(30 * time.Second)
	for {
		// After a kill the old server's children may still hold its memory.
		if r.pg, err = postgres.Start(context.Background(), filepath.Join(r.dir, "pg"), "synchronous_commit=on", "restart_after_crash=on"); err == nil {
			break
		}
		if time.Now().After(until) {
			require.NoError(r.t, err)
		}
		time.Sleep(50 * time.Millisecond)
	}
}

func (r *rig) postmaster() int {
	b, err := os.ReadFile(filepath.Join(r.dir, "pg", "data", "postmaster.pid"))
	if err != nil {
		return 0
	}
	first, _, _ := strings.Cut(string(b), "\n")
	pid, _ := strconv.Atoi(first)
	return pid
}

func childrenOf(parent int) (out []int) {
	stats, _ := filepath.Glob("/proc/[0-9]*/stat")
	for _, path := range stats {
		b, _ := os.ReadFile(path) // 123 (name) S PARENT ...
		_, after, ok := strings.Cut(string(b), ") ")
		if f := strings.Fields(after); ok && len(f) > 1 && f[1] == strconv.Itoa(parent) {
			pid, _ := strconv.Atoi(filepath.Base(filepath.Dir(path)))
			out = append(out, pid)
		}
	}
	return out
}

func (r *rig) startServer() {
	cmd := exec.Command(r.bin, "serve", "--database-url", r.pg.AppURL("ulpa"), "--listen", r.address, "--insecure-cookies")
	cmd.Stdout, cmd.Stderr = r.output, r.output
	require.NoError(r.t, cmd.Start())
	exited := make(chan struct{})
	go func() { _ = cmd.Wait(); close(exited) }()
	r.process, r.exited = cmd, exited
	until := time.Now().Add(20 * time.Second)
	for time.Now().Before(until) {
		res, err := http.Get("http://" + r.address + "/healthz")
		if err == nil {
			res.Body.Close()
			return
		}
		time.Sleep(5 * time.Millisecond)
	}
	r.t.Fatal("the server did not start")
}

func (r *rig) stopServer(sig syscall.Signal) {
	_ = r.process.Process.Signal(sig)
	<-r.exited
}

// stopPostgres asks the database to stop, and kills it when it does not: one that is asked
// the moment it has started now and then never hears of it.
func (r *rig) stopPostgres() {
	pid := r.postmaster()
	_ = syscall.Kill(pid, syscall.SIGINT)
	for began := time.Now(); syscall.Kill(pid, 0) == nil; time.Sleep(5 * time.Millisecond) {
		if time.Since(began) > 10*time.Second {
			r.say("database killed that did not stop")
			_ = syscall.Kill(pid, syscall.SIGKILL)
		}
	}
}

// fault is something that goes wrong, and how often it is chosen.
type fault struct {
	name   string
	weight int
	do     func(*rig, *rand.Rand)
}

var faults = []fault{
	{"server killed with -9", 3, func(r *rig, _ *rand.Rand) { r.stopServer(syscall.SIGKILL); r.startServer() }},
	{"server stopped and started", 1, func(r *rig, _ *rand.Rand) { r.stopServer(syscall.SIGTERM); r.startServer() }},
	{"database killed with -9", 2, func(r *rig, x *rand.Rand) {
		r.withoutDatabase(x, func() { _ = syscall.Kill(r.postmaster(), syscall.SIGKILL) })
	}},
	{"database restarted", 1, func(r *rig, x *rand.Rand) {
		r.withoutDatabase(x, r.stopPostgres)
	}},
	{"a backend killed with -9", 3, func(r *rig, _ *rand.Rand) {
		r.sql(
			"SELECT pid FROM pg_stat_activity WHERE usename = 'ulpa_app' ORDER BY random() LIMIT 1",
			func(pid int) { _ = syscall.Kill(pid, syscall.SIGKILL) },
		)
	}},
	{"all connections to the database cut", 6, func(r *rig, _ *rand.Rand) {
		r.sql("SELECT count(pg_terminate_backend(pid))::int FROM pg_stat_activity WHERE usename = 'ulpa_app'", func(int) {})
	}},
}

func choose(x *rand.Rand) fault {
	all := 0
	for _, f := range faults {
		all += f.weight
	}
	n := x.IntN(all)
	i := slices.IndexFunc(faults, func(f fault) bool { n -= f.weight; return n < 0 })
	return faults[i]
}

// sql asks the database as its owner, who may be cut off too.
func (r *rig) sql(q string, each func(int)) {
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, r.owner())
	if err != nil {
		return
	}
	defer conn.Close(ctx)
	var n int
	if conn.QueryRow(ctx, q).Scan(&n) == nil {
		each(n)
	}
}

// withoutDatabase takes the database away for up to a second, sees what the
// program says meanwhile, and how soon it is back.
func (r *rig) withoutDatabase(x *rand.Rand, stop func()) {
	children := childrenOf(r.postmaster())
	stop()
	// A killed server's children answer until they notice that they are orphans.
	for began := time.Now(); len(children) > 0 && time.Since(began) < 10*time.Second; time.Sleep(5 * time.Millisecond) {
		children = slices.DeleteFunc(children, func(pid int) bool { return syscall.Kill(pid, 0) != nil })
	}
	until := time.Now().Add(time.Duration(100+x.IntN(900)) * time.Millisecond)
	for first := true; first || time.Now().Before(until); first = false {
		if status, _ := r.get("/readyz"); status != http.StatusServiceUnavailable {
			r.note("/readyz answered %d while the database was away", status)
		}
		status, body := r.get("/sign-in?school=ferrywharf")
		if status != http.StatusServiceUnavailable || !strings.Contains(body, "Nothing you typed is lost") {
			r.note("a page answered %d while the database was away: %.200s", status, body)
		}
		time.Sleep(20 * time.Millisecond)
	}
	r.startPostgres()
	back := time.Now()
	for time.Since(back) < 30*time.Second {
		if status, _ := r.get("/readyz"); status == http.StatusOK {
			if status, _ := r.get("/sign-in?school=ferrywharf"); status == http.StatusOK {
				break
			}
		}
		time.Sleep(2 * time.Millisecond)
	}
	r.mu.Lock()
	r.slow = max(r.slow, time.Since(back))
	r.mu.Unlock()
}

func (r *rig) get(path string) (int, string) {
	res, err := http.Get("http://" + r.address + path)
	if err != nil {
		return 0, err.Error()
	}
	defer res.Body.Close()
	body, _ := io.ReadAll(res.Body)
	return res.StatusCode, string(body)
}
