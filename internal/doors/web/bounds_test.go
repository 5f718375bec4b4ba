package web_test

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"io"
	"log/slog"
	"mime/multipart"
	"net"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/bound"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

// sendFile posts a form with a file in it.
func (b browser) sendFile(path, name string, file []byte, pairs ...string) (*http.Response, string) {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	for i := 0; i+1 < len(pairs); i += 2 {
		require.NoError(b.t, form.WriteField(pairs[i], pairs[i+1]))
	}
	part, err := form.CreateFormFile("file", name)
	require.NoError(b.t, err)
	_, err = part.Write(file)
	require.NoError(b.t, err)
	require.NoError(b.t, form.Close())
	req, err := http.NewRequest(http.MethodPost, b.base+path, &body)
	require.NoError(b.t, err)
	req.Header.Set("Content-Type", form.FormDataContentType())
	res, err := b.c.Do(req)
	require.NoError(b.t, err)
	defer res.Body.Close()
	said, err := io.ReadAll(res.Body)
	require.NoError(b.t, err)
	return res, string(said)
}

var uploads = regexp.MustCompile(`<form [^>]*action="([^"]+)"[^>]*enctype="multipart/form-data"`)

// Whatever takes much has a place in a line when it begins, whichever route leads to it; and so
// has every route that takes a file or sends one.
func TestWhatTakesMuchHasAPlace(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	h, err := web.New(face.Config{Store: d.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	require.NoError(t, err)
	var mu sync.Mutex
	told, route := map[string][]string{}, ""
	server := httptest.NewUnstartedServer(h)
	server.Config.BaseContext = func(net.Listener) context.Context {
		return bound.Watch(context.Background(), func(what string, in *bound.Line) {
			mu.Lock()
			defer mu.Unlock()
			if told[route] = append(told[route], what); in == nil {
				t.Errorf("%s begins %s without a place in a line", route, what)
			}
		})
	}
	server.Start()
	t.Cleanup(server.Close)
	x := house{d, server, h.Routes, d.Ines(t)}
	owner, err := pgx.Connect(t.Context(), d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	b := x.adult(t, demo.People[0])
	samples := x.samples(t, x.things(t))
	takes := map[string]bool{}
	for on, r := range samples {
		method, path, _ := strings.Cut(on, " ")
		if path == "/sign-out" || path == "/sign-out/everywhere" {
			continue
		}
		_, err := owner.Exec(t.Context(), "UPDATE stamp SET mark = gen_random_uuid()") // nothing holds that was worked out before
		require.NoError(t, err)
		mu.Lock()
		route = on
		mu.Unlock()
		if method == http.MethodGet {
			res, page := b.get(r.Ask)
			for _, m := range uploads.FindAllStringSubmatch(page, -1) {
				takes[m[1]] = true
			}
			kind, _, _ := strings.Cut(res.Header.Get("Content-Type"), ";")
			if kind == "text/csv" || kind == "application/pdf" || kind == "text/calendar" && path != "/calendar/:file" {
				require.NotNil(t, r.Line, "%s sends a file", on)
			}
			continue
		}
		if method == http.MethodPost {
			_, _ = b.post(r.Ask, append([]string{"id", uuid.NewString()}, r.Send...)...)
			continue
		}
		_, _ = b.do(method, r.Ask, nil)
	}
	require.GreaterOrEqual(t, len(takes), 5)
	for path := range takes {
		require.NotNil(t, samples["POST "+path].Line, "%s takes a file", path)
	}
	for _, on := range []string{
		"GET /season", "GET /season/beds", "POST /season/calendar", "POST /pictures", "POST /season/frost", "POST /seeds/file", "POST /season/wish",
	} {
		require.NotEmpty(t, told[on], "%s takes much, and does not say so", on)
	}
}

// While all places are taken, and by whom, decides what is answered: come again soon, without
// anything of what was sent being read or kept; and nothing of the database is held by who waits.
func TestWhoFindsNoPlaceIsToldWhen(t *testing.T) {
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	var drawing bytes.Buffer
	require.NoError(t, png.Encode(&drawing, image.NewGray(image.Rect(0, 0, 60, 40))))
	patience := bound.Pictures.Patience
	bound.Pictures.Patience = 300 * time.Millisecond
	defer func() { bound.Pictures.Patience = patience }()
	fill := func(school uuid.UUID) (over func()) {
		var all []func()
		for {
			a := bound.Asker{School: school, Person: uuid.New()}
			if school == uuid.Nil {
				a.School = uuid.New()
			}
			_, done, ok := bound.Pictures.Try(t.Context(), a)
			if !ok {
				return func() {
					for _, done := range all {
						done()
					}
				}
			}
			all = append(all, done)
		}
	}
	send := func() (*http.Response, string) {
		return b.sendFile("/pictures", "x.png", drawing.Bytes(), "id", uuid.NewString(), "note", "a leaf")
	}
	for school, want := range map[uuid.UUID]int{
		uuid.Nil: http.StatusServiceUnavailable, h.ines.School: http.StatusTooManyRequests, uuid.New(): http.StatusSeeOther,
	} {
		over := fill(school)
		res, body := send()
		over()
		require.Equal(t, want, res.StatusCode, said(body))
		if want != http.StatusSeeOther {
			require.NotEmpty(t, res.Header.Get("Retry-After"))
			require.Contains(t, body, "send it again")
		}
		res, body = send()
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	}
	working, waiting := bound.Pictures.Busy()
	require.Zero(t, working+waiting)
}

// What is sent leaves no file behind: whether it is kept, refused, or nobody waits for it.
func TestFilesThatAreSentLeaveNothingBehind(t *testing.T) {
	folder := t.TempDir()
	t.Setenv("TMPDIR", folder)
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	large := func(line string, n int) []byte { return []byte("time,series,value,unit\n" + strings.Repeat(line, n)) }
	var rows strings.Builder
	for n := range 60_000 {
		fmt.Fprintf(&rows, "%s,Barrel pH,6.1,pH\n", h.Store.Now().Add(-time.Duration(n)*time.Minute).UTC().Format(time.RFC3339))
	}
	empty := func() {
		left, err := os.ReadDir(folder)
		require.NoError(t, err)
		require.Empty(t, left)
	}
	res, body := b.sendFile("/import", "log.csv", large(rows.String(), 1))
	require.Equal(t, http.StatusOK, res.StatusCode, said(body))
	empty()
	res, _ = b.sendFile("/import", "log.csv", large("soon,x,y,z\n", 300_000))
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	empty()
	for _, path := range []string{"/pictures", "/season/calendar", "/season/frost", "/seeds/file"} {
		res, _ = b.sendFile(path, "x", bytes.Repeat([]byte("x"), 3<<20), "id", uuid.NewString())
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, path)
		empty()
	}
	crew := h.crew(t)
	res, _ = crew.sendFile("/import", "log.csv", large("soon,x,y,z\n", 300_000))
	require.Equal(t, http.StatusForbidden, res.StatusCode)
	empty()
}

// A picture that would take everything is refused beside its field, and a good one is kept at the
// same time; one about a thing that is not there is not kept as if it were about nothing.
func TestPicturesThatTakeEverything(t *testing.T) {
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	gif := []byte("GIF89a\x01\x00\x01\x00\x80\x00\x00\x00\x00\x00\xff\xff\xff!\xf9\x04\x01\x00\x00\x00\x00,\x00\x00\x00\x00\x01\x00\x01\x00\x00\x02\x02D\x01\x00;")
	var wide, good bytes.Buffer
	require.NoError(t, png.Encode(&wide, image.NewGray(image.Rect(0, 0, 40_000_000, 1))))
	require.NoError(t, png.Encode(&good, image.NewGray(image.Rect(0, 0, 60, 40))))
	for says, file := range map[string][]byte{"must be a picture of up to 16384 pixels": wide.Bytes(), "must be a picture: JPEG, PNG or WebP": gif} {
		res, body := b.sendFile("/pictures", "x", file, "id", uuid.NewString())
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
		require.Contains(t, said(body), says)
	}
	for _, about := range []string{"somewhere", uuid.NewString()} {
		res, body := b.sendFile("/pictures", "x", good.Bytes(), "id", uuid.NewString(), "about", about)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, about)
		require.Contains(t, said(body), "is not there any more")
		res, _ = b.post("/notebook", "id", uuid.NewString(), "text", "Aphids", "about", about)
		require.Equal(t, http.StatusNotFound, res.StatusCode, about)
	}
}

// Twenty who ask for a thousand labels and go away keep nobody waiting, and hold nothing of the
// database while labels are drawn.
func TestLabelsThatNobodyWaitsFor(t *testing.T) {
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	_, page := b.get("/labels?sort=" + url.QueryEscape("packets"))
	of := regexp.MustCompile(`name="of" value="([0-9a-f-]+)"`).FindAllStringSubmatch(page, -1)
	require.NotEmpty(t, of)
	ask := url.Values{"sort": {"packets"}, "copies": {"40"}, "sheet": {"roll"}}
	for _, m := range of[:min(len(of), 18)] {
		ask.Add("of", m[1])
	}
	owner, err := pgx.Connect(t.Context(), h.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	var all sync.WaitGroup
	for range 20 {
		all.Go(func() {
			ctx, gone := context.WithTimeout(t.Context(), 150*time.Millisecond)
			defer gone()
			req, err := http.NewRequestWithContext(ctx, http.MethodGet, b.base+"/labels.pdf?"+ask.Encode(), nil)
			if err != nil {
				return
			}
			if res, err := b.c.Do(req); err == nil {
				_, _ = io.Copy(io.Discard, res.Body)
				_ = res.Body.Close()
			}
		})
	}
	all.Wait()
	far := h.School(t, "far")
	h.Person(t, far, who.Coordinator, "ben")
	ben := h.adult(t, demo.Person{Login: "ben@" + far.String()[30:] + ".example", Secret: "long enough a secret"})
	res, _ := ben.get("/")
	require.Equal(t, http.StatusOK, res.StatusCode)
	require.Eventually(t, func() bool {
		working, waiting := bound.Papers.Busy()
		return working+waiting == 0
	}, 5*time.Second, 10*time.Millisecond, "labels are drawn for nobody")
	res, body := b.get("/labels.pdf?" + ask.Encode())
	require.Equal(t, http.StatusOK, res.StatusCode)
	require.True(t, strings.HasSuffix(body, "%%EOF\n"))
}
