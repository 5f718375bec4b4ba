package web_test

import (
	"bytes"
	"io"
	"log/slog"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

// nasty are values that forms do not expect.
var nasty = []string{
	"", " ", "0", "-1", "1e309", "-1e-400", "NaN", "Infinity", "0x1p-2", "1,5", "1.5.5", "99999999999999999999", "-9223372036854775808",
	"A1", "A1-ZZ99", "A1-A1,A1", "Z9-A1", "'; DROP TABLE entry; --", "\" onmouseover=\"x", "<script>alert(1)</script>", "{{.}}",
	"%00", "\x00", "\xff\xfe", "😀😀😀",
	"../../etc/passwd", "2027-02-30", "0001-01-01", "9999-12-31", "12027-01-01", "=1+1", "true", "null", "[]", "{}", "Be\u200bnch", "\u202eLayout",
	"\u3164", "cell:", "port::::", "metric/ms", "us/ppm9",
	strings.Repeat("9", 400), strings.Repeat("long ", 2000), strings.Repeat("A1,", 900),
}

// logged keeps what the server logs.
type logged struct {
	sync.Mutex
	bytes.Buffer
}

func (l *logged) Write(b []byte) (int, error) {
	l.Lock()
	defer l.Unlock()
	return l.Buffer.Write(b)
}

// Whatever is asked for, nobody gets a 500 and nothing panics. ULPA_HOSTILE
// says how many requests; ULPA_SEED which.
func TestHostileRequestsBreakNothing(t *testing.T) {
	t.Parallel()
	many, seed := 500, uint64(1)
	if n, err := strconv.Atoi(os.Getenv("ULPA_HOSTILE")); err == nil {
		many = n
	}
	if n, err := strconv.ParseUint(os.Getenv("ULPA_SEED"), 10, 64); err == nil {
		seed = n
	}
	d := testdb.Demo(t)
	log := &logged{}
	face, err := web.New(face.Config{Store: d.Store, Log: slog.New(slog.NewTextHandler(log, &slog.HandlerOptions{Level: slog.LevelError}))})
	require.NoError(t, err)
	server := httptest.NewServer(face)
	t.Cleanup(server.Close)
	h := house{d, server, face.Routes, d.Ines(t)}
	x, people := h.things(t), []browser{h.browser(t), h.crew(t), h.adult(t, demo.People[1]), h.adult(t, demo.People[0])}
	samples := h.samples(t, x)
	r := rand.New(rand.NewPCG(seed, 7))
	ids := []string{uuid.NewString(), "nonsense", "%2e%2e", ""}
	for _, id := range x {
		ids = append(ids, id)
	}
	any := func(list []string) string { return list[r.IntN(len(list))] }
	for i := range many {
		route := any(face.Routes)
		if strings.Contains(route, "sign-out") {
			continue
		}
		method, path, _ := strings.Cut(route, " ")
		if r.IntN(3) == 0 {
			for _, name := range []string{":id", ":name", ":what", "*file"} {
				path = strings.ReplaceAll(path, name, any(ids))
			}
		} else {
			path = samples[route].Ask
		}
		form := url.Values{"id": {uuid.NewString()}, "units": {any(nasty)}}
		known := samples[route].Send
		for n := 0; n+1 < len(known); n += 2 {
			if form.Set(known[n], known[n+1]); r.IntN(2) == 0 {
				form.Set(known[n], any(nasty))
			}
		}
		for range r.IntN(6) {
			form.Set(any([]string{
				"id", "lot", "tray", "wanted", "cells", "sprouted", "empty", "lost", "cause", "ports", "to", "from", "from_cell_" + x["tray"], "plants", "where",
				"ph", "ec", "level", "temp",
				"drain", "water", "stock", "amount", "agent", "text", "at", "q", "about", "kind", "before", "stop", "planned", "for", "system",
				"counts.0.day", "seen", "days", "ramp",
			}), any(append(ids, nasty...)))
		}
		body := form.Encode()
		if r.IntN(20) == 0 {
			body = any(nasty) // not even a form
		}
		if method == http.MethodGet {
			path, body = path+"?"+body, ""
		}
		if method == http.MethodGet && r.IntN(10) == 0 {
			method = http.MethodHead
		}
		req, err := http.NewRequest(method, h.server.URL+path, strings.NewReader(body))
		if err != nil {
			continue // not even an address
		}
		if req.Header.Set("Content-Type", "application/x-www-form-urlencoded"); r.IntN(15) == 0 {
			req.Header.Set("Content-Type", "multipart/form-data; boundary=x")
		}
		res, err := people[r.IntN(len(people))].c.Do(req)
		require.NoError(t, err)
		_, _ = io.Copy(io.Discard, res.Body)
		_ = res.Body.Close()
		require.Less(t, res.StatusCode, 500, "request %d of seed %d: %s %s %s\n%s", i, seed, method, path, body, log)
	}
	require.Empty(t, log.String())
}

// Whatever lists of cells a visit to a tray sends, it is kept whole or refused, and
// the books hold.
func FuzzVisit(f *testing.F) {
	h := newHouse(f)
	b, x := h.adult(f, demo.People[0]), h.things(f)
	f.Add("B11:empty A1:sprouted", "B11", "A1-A3", "", "B9-B10", "", "eaten")
	f.Add("A1:sown", "A1-F12", "A1 A1", "Z99", "A1-", "F12-A1,;", "\x00")
	f.Fuzz(func(t *testing.T, seen, sprouted, thinned, empty, lost, sown, cause string) {
		b, id := browser{t, b.base, b.c}, uuid.NewString()
		res, body := b.post(
			"/trays/"+x["tray"]+"/count",
			"id",
			id,
			"seen",
			seen,
			"sprouted",
			sprouted,
			"thinned",
			thinned,
			"empty",
			empty,
			"lost",
			lost,
			"sown",
			sown,
			"cause",
			cause,
		)
		require.Less(t, res.StatusCode, 500, body)
		require.NoError(t, h.Store.InSchool(t.Context(), h.ines, func(tx *store.Tx) error {
			_, err := tx.GetEntry(t.Context(), uuid.MustParse(id))
			require.Equal(t, res.StatusCode == http.StatusSeeOther, err == nil)
			if err != nil {
				return nil
			}
			wrong, err := ledger.Audit(t.Context(), tx)
			require.Empty(t, wrong)
			return err
		}))
	})
}
