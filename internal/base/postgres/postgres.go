// Package postgres runs a private PostgreSQL server on loopback with Debian's
// programs: for the demo and for the tests.
package postgres

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Install is the command that brings what is missing on Debian.
const Install = "apt-get install -y --no-install-recommends postgresql"

// The server's own superuser, whom nothing but this package and tests uses; the owner
// of databases, who is none; and the application's role.
const root, owner, app = "ulpa_root", "ulpa_owner", "ulpa_app"

// Server is a private server: where its files are and how to reach it.
type Server struct {
	dir, bin           string
	port               int
	password, rootWord string
}

// FindPrograms returns the folder with the newest installed server programs.
func FindPrograms() (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/postgres")
	if len(found) == 0 {
		return "", errors.New("PostgreSQL's server programs are not installed; run: " + Install)
	}
	version := func(p string) int {
		n, _ := strconv.Atoi(strings.Split(p, "/")[4])
		return n
	}
	newest := slices.MaxFunc(found, func(a, b string) int { return version(a) - version(b) })
	return filepath.Dir(newest), nil
}

// Home is a folder the server can use for a checkout's data: dir itself, or,
// when PostgreSQL's own user could not get there, one under /var/tmp.
func Home(dir string) string {
	if os.Geteuid() != 0 {
		return dir
	}
	for p := filepath.Dir(dir); ; p = filepath.Dir(p) {
		if st, err := os.Stat(p); err == nil && st.Mode().Perm()&0o001 == 0 {
			return "/var/tmp/ulpa" + strings.ReplaceAll(dir, "/", "-")
		}
		if p == "/" {
			return dir
		}
	}
}

// Make lays out the files of a server in dir, unless they are there: what takes
// longest of the first start.
func Make(ctx context.Context, dir string) error {
	_, err := made(ctx, dir)
	return err
}

func made(ctx context.Context, dir string) (*Server, error) {
	bin, err := FindPrograms()
	if err != nil {
		return nil, err
	}
	s := &Server{dir: dir, bin: bin}
	return s, s.prepare(ctx)
}

// Start brings up the server whose files are in dir, making them the first
// time, and taking over one that an earlier process left running. It listens
// where it did before, if nobody else does now. Made-up data can be made again,
// so speed comes before durability; settings ("name=value") say otherwise.
func Start(ctx context.Context, dir string, settings ...string) (*Server, error) {
	s, err := made(ctx, dir)
	if err != nil {
		return nil, err
	}
	for name, word := range map[string]*string{"password": &s.password, "root": &s.rootWord} {
		b, err := os.ReadFile(s.path(name))
		if err != nil {
			return nil, err
		}
		*word = strings.TrimSpace(string(b))
	}
	if s.adopt() {
		return s, s.roles(ctx)
	}
	if s.port, err = s.choosePort(); err != nil {
		return nil, err
	}
	sockets, err := s.socketFolder()
	if err != nil {
		return nil, err
	}
	opts := fmt.Sprintf(
		"-c listen_addresses=127.0.0.1 -p %d -k %s -c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=60",
		s.port,
		sockets,
	)
	for _, x := range settings {
		opts += " -c " + x
	}
	if err := s.run(ctx, "pg_ctl", "-D", s.path("data"), "-s", "-w", "-l", s.path("log"), "-o", opts, "start"); err != nil {
		log, _ := os.ReadFile(s.path("log"))
		return nil, fmt.Errorf("%w\n%s", err, log[max(0, len(log)-2000):])
	}
	return s, s.roles(ctx)
}

// roles makes the owner, who may make databases and roles and end their connections, and
// the application's role.
func (s *Server) roles(ctx context.Context) error {
	conn, err := pgx.Connect(ctx, s.RootURL("postgres"))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	for _, q := range []string{
		"CREATE ROLE " + owner + " LOGIN CREATEDB CREATEROLE PASSWORD '" + s.password + "'",
		"CREATE ROLE " + app + " LOGIN PASSWORD '" + s.password + "'",
		"GRANT " + app + " TO " + owner + " WITH ADMIN OPTION",
		"GRANT pg_signal_backend TO " + owner,
	} {
		var pg *pgconn.PgError
		if _, err := conn.Exec(ctx, q); err != nil && !(errors.As(err, &pg) && pg.Code == "42710") { // it is there
			return err
		}
	}
	return nil
}

func (s *Server) path(name string) string { return filepath.Join(s.dir, name) }

// madeMark is the file that says that the data folder is whole; its name changes when
// what is made does.
const madeMark = "made-2"

// prepare makes the data folder once. A half-made one, from a process that was
// killed, is made anew.
func (s *Server) prepare(ctx context.Context) error {
	if _, err := os.Stat(s.path(madeMark)); err == nil {
		return nil
	}
	if s.adopt() { // of an earlier make
		if err := s.Stop(); err != nil {
			return err
		}
	}
	if err := os.RemoveAll(s.path("data")); err != nil {
		return err
	}
	if err := os.MkdirAll(s.dir, 0o755); err != nil { // #nosec G301 -- PostgreSQL's own user must get in
		return err
	}
	for _, name := range []string{"password", "root"} {
		if err := os.WriteFile(s.path(name), []byte(rand.Text()), 0o600); err != nil {
			return err
		}
	}
	if err := s.hand(s.dir, s.path("root")); err != nil {
		return err
	}
	if err := s.run(ctx, "initdb", "-D", s.path("data"), "-U", root, "-A", "scram-sha-256", "--pwfile", s.path("root"),
		"-E", "UTF8", "--locale=C.UTF-8", "--no-sync"); err != nil {
		return err
	}
	return os.WriteFile(s.path(madeMark), nil, 0o600)
}

// hand gives files to PostgreSQL's own user, which it insists on under root.
func (s *Server) hand(paths ...string) error {
	if os.Geteuid() != 0 {
		return nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return fmt.Errorf("PostgreSQL's user is missing; run: %s", Install)
	}
	uid, _ := strconv.Atoi(u.Uid)
	gid, _ := strconv.Atoi(u.Gid)
	for _, p := range paths {
		if err := os.Chown(p, uid, gid); err != nil {
			return err
		}
	}
	return nil
}

// socketFolder is short whatever the checkout's path: sockets' paths are limited.
// One that a server left behind when it was killed serves again.
func (s *Server) socketFolder() (string, error) {
	if last, err := os.ReadFile(s.path("sockets")); err == nil && strings.HasPrefix(string(last), "/tmp/ulpa-pg-") {
		if _, err := os.Stat(string(last)); err == nil { // #nosec G703 -- written by us, and begins as ours do
			return string(last), nil
		}
	}
	dir, err := os.MkdirTemp("/tmp", "ulpa-pg-")
	if err != nil {
		return "", err
	}
	if err := os.WriteFile(s.path("sockets"), []byte(dir), 0o600); err != nil {
		return "", err
	}
	return dir, s.hand(dir)
}

// adopt finds a server that is already running on these files.
func (s *Server) adopt() bool {
	b, err := os.ReadFile(s.path("data/postmaster.pid"))
	if err != nil {
		return false
	}
	lines := strings.Split(string(b), "\n")
	if len(lines) < 8 || strings.TrimSpace(lines[7]) != "ready" {
		return false
	}
	pid, _ := strconv.Atoi(strings.TrimSpace(lines[0]))
	cmd, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", pid))
	if err != nil || !strings.Contains(string(cmd), "postgres") || syscall.Kill(pid, 0) != nil {
		return false
	}
	s.port, err = strconv.Atoi(lines[3])
	return err == nil
}

// Stop shuts the server down cleanly; one that has not ended after five seconds is ended at once,
// and one that does not hear that is ended by force: it puts itself right when it starts again.
func (s *Server) Stop() error {
	stop := func(how, seconds string) error {
		return s.run(context.Background(), "pg_ctl", "-D", s.path("data"), "-s", "-w", "-t", seconds, "-m", how, "stop")
	}
	err := stop("fast", "5")
	if err != nil {
		err = stop("immediate", "2")
	}
	if err != nil {
		err = s.kill()
	}
	if dir, e := os.ReadFile(s.path("sockets")); e == nil && strings.HasPrefix(string(dir), "/tmp/ulpa-pg-") {
		err = errors.Join(err, os.RemoveAll(string(dir))) // #nosec G703 -- written by us, and begins as ours do
	}
	return err
}

// kill ends the server without asking it, and waits until it is gone.
func (s *Server) kill() error {
	b, err := os.ReadFile(s.path("data/postmaster.pid"))
	if errors.Is(err, os.ErrNotExist) {
		return nil // it has ended after all
	}
	if err != nil {
		return err
	}
	first, _, _ := strings.Cut(string(b), "\n")
	pid, err := strconv.Atoi(strings.TrimSpace(first))
	if err != nil {
		return err
	}
	if err := syscall.Kill(pid, syscall.SIGKILL); err != nil && !errors.Is(err, syscall.ESRCH) {
		return err
	}
	for range 50 {
		if errors.Is(syscall.Kill(pid, 0), syscall.ESRCH) {
			return nil
		}
		time.Sleep(100 * time.Millisecond)
	}
	return fmt.Errorf("the database's server (process %d) does not end", pid)
}

// URL to a database as the owner of everything.
func (s *Server) URL(database string) string { return s.url(owner, s.password, database) }

// RootURL to a database as the server's superuser.
func (s *Server) RootURL(database string) string { return s.url(root, s.rootWord, database) }

// AppURL to a database as the application's role, whose password the server shares.
func (s *Server) AppURL(database string) string { return s.url(app, s.password, database) }

// Password of the application's role on this private server.
func (s *Server) Password() string { return s.password }

func (s *Server) url(user, password, database string) string {
	return fmt.Sprintf("postgres://%s:%s@127.0.0.1:%d/%s?sslmode=disable", user, password, s.port, database)
}

// run calls one of the server's programs, as the postgres user under root.
func (s *Server) run(ctx context.Context, program string, args ...string) error {
	name, argv := filepath.Join(s.bin, program), args
	if os.Geteuid() == 0 {
		name, argv = "runuser", append([]string{"-u", "postgres", "--", name}, args...)
	}
	cmd := exec.CommandContext(ctx, name, argv...) // #nosec G204 -- PostgreSQL's own programs
	cmd.Dir = "/"
	// The server outlives this call: it must not hold our pipes open.
	out, err := os.CreateTemp("", "ulpa-")
	if err != nil {
		return err
	}
	defer os.Remove(out.Name())
	defer out.Close()
	cmd.Stdout, cmd.Stderr = out, out
	// Ctrl-C goes to the whole terminal group; the server stops when we say so.
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if err := cmd.Run(); err != nil {
		said, _ := os.ReadFile(out.Name())
		return fmt.Errorf("%s: %w\n%s", program, err, said)
	}
	return nil
}

// choosePort is the port of last time, or else a free one.
func (s *Server) choosePort() (int, error) {
	last, _ := os.ReadFile(s.path("port"))
	l, err := net.Listen("tcp", "127.0.0.1:"+string(last))
	if len(last) == 0 || err != nil {
		l, err = net.Listen("tcp", "127.0.0.1:0")
	}
	if err != nil {
		return 0, err
	}
	defer l.Close()
	port := l.Addr().(*net.TCPAddr).Port
	return port, os.WriteFile(s.path("port"), []byte(strconv.Itoa(port)), 0o600) // #nosec G703 -- the folder is whoever started it says
}
