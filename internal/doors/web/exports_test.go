package web_test

import (
	"bufio"
	"fmt"
	"net"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
)

// A crew that asks for the notebook on twelve connections and reads none of them holds
// one of them, and nothing of the database: everybody else is answered.
func TestFilesThatNobodyReadsHoldNothing(t *testing.T) {
	h := newHouse(t)
	owner, err := pgx.Connect(t.Context(), h.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	// More than any buffer on the way takes in.
	_, err = owner.Exec(t.Context(), `INSERT INTO entry (school_id, id, kind, happened_at, written_at, person_id, data)
		SELECT $1, gen_random_uuid(), 'note', now() - n * interval '1 minute', now(), $2, jsonb_build_object('text', repeat('x',
			3900)) FROM generate_series(1, 5000) n`, h.ines.School, h.ines.Person)
	require.NoError(t, err)
	far := h.School(t, "far")
	h.Person(t, far, who.Coordinator, "ben")
	ben := h.adult(t, demo.Person{Login: "ben@" + far.String()[30:] + ".example", Secret: "long enough a secret"})

	crew := h.crew(t)
	at, err := url.Parse(h.server.URL)
	require.NoError(t, err)
	cookie := ""
	for _, c := range crew.c.Jar.Cookies(at) {
		cookie += c.Name + "=" + c.Value + "; "
	}
	var asked []net.Conn
	for range 12 {
		conn, err := net.Dial("tcp", at.Host)
		require.NoError(t, err)
		t.Cleanup(func() { _ = conn.Close() })
		_, err = fmt.Fprintf(conn, "GET /notebook.csv HTTP/1.1\r\nHost: %s\r\nCookie: %s\r\n\r\n", at.Host, cookie)
		require.NoError(t, err)
		require.NoError(t, conn.SetReadDeadline(time.Now().Add(20*time.Second)))
		asked = append(asked, conn)
	}
	codes := map[string]int{}
	for _, conn := range asked {
		line, err := bufio.NewReaderSize(conn, 16).ReadString('\n') // and no further
		require.NoError(t, err)
		codes[strings.TrimSpace(line)]++
	}
	require.Equal(t, map[string]int{"HTTP/1.1 200 OK": 1, "HTTP/1.1 429 Too Many Requests": 11}, codes)
	require.Eventually(t, func() bool {
		var open int
		require.NoError(
			t,
			owner.QueryRow(t.Context(), "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND usename = 'ulpa_app' AND xact_start IS NOT NULL").
				Scan(&open),
		)
		return open == 0
	}, 10*time.Second, 50*time.Millisecond, "a transaction stays open while nobody reads")
	for _, path := range []string{"/", "/notebook.csv"} {
		res, _ := ben.get(path)
		require.Equal(t, http.StatusOK, res.StatusCode, path)
	}
	// Another of the same school takes the whole file meanwhile.
	res, body := h.adult(t, demo.People[0]).get("/notebook.csv")
	require.Equal(t, http.StatusOK, res.StatusCode)
	require.Greater(t, strings.Count(body, "\n"), 5000)
}
