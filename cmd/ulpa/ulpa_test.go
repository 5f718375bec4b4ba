package main

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/core/calc"
	"ulpa/internal/doors/demo"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/upkeep"
)

// program is the binary that was built for the tests (ULPA_BIN), or this test's
// own, which TestMain lets stand in for it.
func program() string {
	if bin := os.Getenv("ULPA_BIN"); bin != "" {
		return bin
	}
	return os.Args[0]
}

// TestMain lets the test binary stand in for the program, so that flags, exit
// codes and signals are the real ones.
func TestMain(m *testing.M) {
	if os.Getenv("ULPA_AS_PROGRAM") != "" {
		main()
		return
	}
	os.Exit(m.Run())
}

func ulpa(t *testing.T, env []string, stdin string, args ...string) (out, errs string, code int) {
	t.Helper()
	cmd := exec.Command(program(), args...)
	cmd.Env = append(append(os.Environ(), "ULPA_AS_PROGRAM=1"), env...)
	cmd.Stdin = strings.NewReader(stdin)
	var o, e bytes.Buffer
	cmd.Stdout, cmd.Stderr = &o, &e
	err := cmd.Run()
	if err != nil {
		var exit *exec.ExitError
		require.ErrorAs(t, err, &exit)
	}
	return o.String(), e.String(), cmd.ProcessState.ExitCode()
}

func TestCalc(t *testing.T) {
	list, _, code := ulpa(t, nil, "", "calc")
	require.Zero(t, code)
	for _, k := range calc.All {
		require.Contains(t, list, k.Name+" ")
	}
	out, errs, code := ulpa(t, nil, `{"temperature_c": 22, "humidity_percent": 75}`, "calc", "air")
	require.Zero(t, code)
	require.Empty(t, errs)
	require.Contains(t, out, `"dew_point_c":17.3645`)
	for _, c := range []struct {
		args []string
		in   string
		says string
	}{
		{[]string{"calc", "air"}, `{"temperature_c": 22}`, "humidity_percent: is missing: give a number\n"},
		{[]string{"calc", "air"}, `warm`, "body: is not JSON: give one object like the example\n"},
		{[]string{"calc", "air"}, ``, "body: is not JSON: give one object like the example\n"},
		{[]string{"calc", "soup"}, `{}`, "name: soup is not a calculator; `ulpa calc` lists them\n"},
	} {
		out, errs, code := ulpa(t, nil, c.in, c.args...)
		require.Equal(t, 2, code, c.in)
		require.Empty(t, out)
		require.Equal(t, c.says, errs, "one line: the field, and what it takes")
	}
}

// The example in --help runs as printed.
func TestHelpShowsAnExampleThatRuns(t *testing.T) {
	bin := t.TempDir()
	require.NoError(t, os.Symlink(must(filepath.Abs(program())), filepath.Join(bin, "ulpa")))
	for _, k := range calc.All {
		help, _, code := ulpa(t, nil, "", "calc", k.Name, "--help")
		require.Zero(t, code)
		for _, f := range k.Fields {
			require.Contains(t, help, f.Name)
		}
		var line string
		for _, l := range strings.Split(help, "\n") {
			if strings.HasPrefix(l, "  echo ") {
				line = l
			}
		}
		cmd := exec.Command("sh", "-c", line)
		cmd.Env = append(os.Environ(), "ULPA_AS_PROGRAM=1", "PATH="+bin+":"+os.Getenv("PATH"))
		out, err := cmd.Output()
		require.NoError(t, err, line)
		require.True(t, strings.HasPrefix(string(out), "{"), k.Name)
	}
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

// A school from nothing: migrate, the first coordinator, serve, sign in, import
// a log, and a shutdown that lets the request in flight finish.
func TestASchoolFromNothing(t *testing.T) {
	d := testdb.Empty(t)
	env := []string{"ULPA_OWNER_URL=" + d.OwnerURL, "ULPA_DATABASE_URL=" + d.AppURL, "ULPA_SECRET=a secret long enough"}
	var errs string
	var code int
	testdb.Alone(t, func() error {
		_, errs, code = ulpa(t, env, "", "migrate")
		return nil
	})
	require.Zero(t, code, errs)
	add := []string{
		"user",
		"add",
		"--school",
		"saltmarsh",
		"--school-name",
		"Saltmarsh School",
		"--zone",
		"Europe/London",
		"--name",
		"Orla Fenn",
		"--login",
		"Orla@saltmarsh.example",
	}
	_, errs, code = ulpa(t, env, "", add...)
	require.Zero(t, code, errs)
	_, errs, code = ulpa(t, env, "", add...)
	require.Equal(t, 1, code)
	require.Contains(t, errs, "is there already")
	_, errs, code = ulpa(t, env, "", "user", "add", "--school", "saltmarsh", "--kind", "crew", "--name", "Yawl", "--secret", "12")
	require.Equal(t, 1, code)
	require.Contains(t, errs, "PIN of 4 to 8 digits")
	_, errs, code = ulpa(t, env, "", "school", "add", "--school", "Salt Marsh", "--school-name", "Another", "--zone", "Europe/Nowhere")
	require.Equal(t, 1, code)
	require.Contains(t, errs, "zone: must be a time zone")
	out, errs, code := ulpa(t, env, "", "school", "add", "--school", "inland", "--school-name", "Inland", "--latitude", "50", "--longitude", "7")
	require.Zero(t, code, errs)
	require.Contains(t, out, "ulpa user add --school inland")
	_, errs, code = ulpa(t, env, "", "school", "add", "--school", "inland", "--school-name", "Inland")
	require.Equal(t, 1, code, errs)
	// The last coordinator who forgot the password comes back by a code, or by another.
	out, errs, code = ulpa(t, append(env, "ULPA_SECRET="), "", "user", "reset", "--login", "orla@saltmarsh.example", "--end-proof")
	require.Zero(t, code, errs)
	require.Regexp(t, `[A-Z0-9]{4}-[A-Z0-9]{4}-[A-Z0-9]{4}`, out)
	_, errs, code = ulpa(t, append(env, "ULPA_OWNER_URL="+d.AppURL), "", "user", "reset", "--login", "orla@saltmarsh.example")
	require.Equal(t, 1, code)
	require.Contains(t, errs, "not that of the owner")
	_, errs, code = ulpa(t, env, "", "user", "reset", "--login", "orla@saltmarsh.example")
	require.Zero(t, code, errs)
	out, errs, code = ulpa(t, env, "", "key", "add", "--school", "saltmarsh", "--name", "Logger", "--scope", "measure")
	require.Zero(t, code, errs)
	require.Regexp(t, `^ulpa_[a-z2-7]+\n$`, out)

	log := filepath.Join(t.TempDir(), "log.csv")
	require.NoError(t, os.WriteFile(log, []byte("time,series,value,unit\n2026-11-20 10:00,air,19.5,°C\n2026-11-20 11:00,air,195,°C\n"), 0o600))
	_, errs, code = ulpa(t, env, "", "import", "readings", log, "--as", "orla@saltmarsh.example")
	require.Equal(t, 1, code)
	require.Contains(t, errs, "log.csv:3: value: 195 °C cannot be")
	require.NoError(t, os.WriteFile(log, []byte("time,series,value,unit\n2026-11-20 10:00,air,19.5,°C\n"), 0o600))
	for _, says := range []string{"1 readings, 1 of them new", "1 readings, 0 of them new"} {
		out, errs, code := ulpa(t, env, "", "import", "readings", log, "--as", "orla@saltmarsh.example")
		require.Zero(t, code, errs)
		require.Contains(t, out, says)
	}
	serveAndStop(t, movedByBackup(t, env))
}

// movedByBackup takes the school into an empty database and says where that is.
func movedByBackup(t *testing.T, env []string) []string {
	file := filepath.Join(t.TempDir(), "school.dump")
	out, errs, code := ulpa(t, env, "", "backup", file)
	require.Zero(t, code, errs)
	require.Contains(t, out, "kB")
	_, errs, code = ulpa(t, env, "", "restore", file)
	require.Equal(t, 1, code)
	require.Contains(t, errs, "the database is not empty")
	owner, app, password := testdb.Bare(t)
	there := []string{"ULPA_OWNER_URL=" + owner, "ULPA_DATABASE_URL=" + app, "ULPA_APP_PASSWORD=" + password}
	_, errs, code = ulpa(t, there, "", "restore", file+".gone")
	require.Equal(t, 1, code)
	require.Contains(t, errs, "no such file")
	testdb.Alone(t, func() error {
		_, errs, code = ulpa(t, there, "", "restore", file)
		return nil
	})
	require.Zero(t, code, errs)
	return there
}

func serveAndStop(t *testing.T, env []string) {
	port := freePort(t)
	cmd := exec.Command(program(), "serve", "--listen", "127.0.0.1:"+port, "--insecure-cookies")
	cmd.Env = append(append(os.Environ(), "ULPA_AS_PROGRAM=1"), env...)
	require.NoError(t, cmd.Start())
	base := "http://127.0.0.1:" + port
	require.Eventually(t, func() bool {
		res, err := http.Get(base + "/readyz")
		if err != nil {
			return false
		}
		res.Body.Close()
		return res.StatusCode == http.StatusOK
	}, 10*time.Second, 20*time.Millisecond)
	client := &http.Client{Jar: must(cookiejar.New(nil))}
	res, err := client.PostForm(base+"/sign-in", url.Values{"login": {"orla@saltmarsh.example"}, "password": {"a secret long enough"}})
	require.NoError(t, err)
	body := string(must(io.ReadAll(res.Body)))
	res.Body.Close()
	require.Contains(t, body, "There is no place on the round yet", "an empty school says what to do first")

	// A body that arrives slowly: the shutdown waits for it.
	r, w := io.Pipe()
	answered := make(chan int, 1)
	go func() {
		res, err := client.Post(base+"/api/v1/calc/air", "application/json", r)
		if err != nil {
			answered <- 0
			return
		}
		res.Body.Close()
		answered <- res.StatusCode
	}()
	_, err = io.WriteString(w, `{"temperature_c": 22, `)
	require.NoError(t, err)
	time.Sleep(200 * time.Millisecond)
	require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
	time.Sleep(200 * time.Millisecond)
	_, err = io.WriteString(w, `"humidity_percent": 75}`)
	require.NoError(t, err)
	require.NoError(t, w.Close())
	require.Equal(t, http.StatusOK, <-answered, "the request in flight is answered")
	require.NoError(t, cmd.Wait(), "and then the server ends cleanly")
}

func freePort(t *testing.T) string {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	return fmt.Sprint(l.Addr().(*net.TCPAddr).Port)
}

func TestServeRefusesWhatItCannotTrust(t *testing.T) {
	d := testdb.Empty(t)
	_, errs, code := ulpa(t, []string{"ULPA_DATABASE_URL="}, "", "serve")
	require.Equal(t, 1, code)
	require.Contains(t, errs, "give the address of the database")
	_, errs, code = ulpa(t, nil, "", "serve", "--database-url", d.OwnerURL)
	require.Equal(t, 1, code)
	require.Contains(t, errs, "could see every school's data")
}

// Migrating a database that is up to date changes nothing.
func TestMigrationsRunTwice(t *testing.T) {
	d := testdb.Empty(t)
	tables := func() (n int) {
		conn, err := pgx.Connect(context.Background(), d.OwnerURL)
		require.NoError(t, err)
		defer conn.Close(context.Background())
		require.NoError(t, conn.QueryRow(context.Background(), "SELECT count(*) FROM pg_tables WHERE schemaname = 'public'").Scan(&n))
		return n
	}
	before := tables()
	testdb.Alone(t, func() error {
		return upkeep.Migrate(context.Background(), d.OwnerURL, os.Getenv("ULPA_TEST_APP_PASSWORD"))
	})
	require.Equal(t, before, tables())
}

// From the start of the process to the answer; the floor is the same process
// saying its calculators' names.
func BenchmarkCalcStart(b *testing.B) {
	for _, c := range [][]string{{"calc"}, {"calc", "air"}, {"calc", "recipe"}} {
		example := ""
		if k, ok := calc.Find(c[len(c)-1]); ok {
			example = k.Example
		}
		b.Run(strings.Join(c, " "), func(b *testing.B) {
			for b.Loop() {
				cmd := exec.Command(program(), c...)
				cmd.Env, cmd.Stdin = append(os.Environ(), "ULPA_AS_PROGRAM=1"), strings.NewReader(example)
				if out, err := cmd.CombinedOutput(); err != nil {
					b.Fatal(err, string(out))
				}
			}
		})
	}
}

// BenchmarkServe prints how long the program takes until it is ready, and its
// memory at rest and after ten thousand requests. Run it once (-benchtime 1x).
func BenchmarkServe(b *testing.B) {
	d := testdb.Demo(b)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(b, err)
	address := l.Addr().String()
	require.NoError(b, l.Close())
	cmd := exec.Command(program(), "serve", "--database-url", d.AppURL, "--listen", address, "--insecure-cookies")
	cmd.Env = append(os.Environ(), "ULPA_AS_PROGRAM=1")
	began := time.Now()
	require.NoError(b, cmd.Start())
	defer func() { _ = cmd.Process.Signal(syscall.SIGTERM); _ = cmd.Wait() }()
	for {
		if res, err := http.Get("http://" + address + "/readyz"); err == nil {
			require.NoError(b, res.Body.Close())
			break
		}
		time.Sleep(time.Millisecond)
	}
	ready := time.Since(began)
	memory := func() string {
		b, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", cmd.Process.Pid))
		_, after, _ := strings.Cut(string(b), "VmRSS:")
		line, _, _ := strings.Cut(after, "\n")
		return strings.TrimSpace(line)
	}
	rest := memory()
	jar, _ := cookiejar.New(nil)
	client := &http.Client{Jar: jar}
	res, err := client.PostForm("http://"+address+"/sign-in", url.Values{"login": {demo.People[0].Login}, "password": {demo.People[0].Secret}})
	require.NoError(b, err)
	require.NoError(b, res.Body.Close())
	pages := []string{"/", "/nursery", "/tanks", "/notebook", "/places"}
	for i := range 10_000 {
		res, err := client.Get("http://" + address + pages[i%len(pages)])
		require.NoError(b, err)
		_, _ = io.Copy(io.Discard, res.Body)
		require.NoError(b, res.Body.Close())
		require.Equal(b, http.StatusOK, res.StatusCode)
	}
	fmt.Printf("# ready after %d ms; %s at rest, %s after 10,000 requests\n", ready.Milliseconds(), rest, memory())
}
