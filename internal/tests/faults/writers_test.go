package faults_test

import (
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/httptrace"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"ulpa/core/tray"
	"ulpa/internal/doors/demo"
)

// school is what the writers see of the school when a round begins. It grows
// stale while they write: what is no longer so is refused, as it should be.
type school struct {
	trays   []spot // Row and Col are how many
	cells   []spot // in trays
	ports   []spot
	stands  []spot
	places  []spot // to move to; Row and Col are tiers and columns
	tanks   []string
	lots    []string
	batches []string
}

type spot struct {
	In, Batch, State string
	Row, Col         int
}

func (s spot) name() string { return tray.Cell{Row: s.Row, Col: s.Col}.Name() }

func look(ctx context.Context, url string) (s school, err error) {
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return s, err
	}
	defer conn.Close(ctx)
	spots := func(q string) []spot {
		rows, e := conn.Query(ctx, q)
		if e != nil {
			err = errors.Join(err, e)
			return nil
		}
		out, e := pgx.CollectRows(rows, pgx.RowToStructByPos[spot])
		err = errors.Join(err, e)
		return out
	}
	s.trays = spots("SELECT id::text, '', '', rows, columns FROM tray")
	s.cells = spots("SELECT tray_id::text, batch_id::text, state, row, col FROM cell")
	s.ports = spots("SELECT place_id::text, batch_id::text, '', tier, col FROM port")
	s.stands = spots("SELECT place_id::text, batch_id::text, '', plants, 0 FROM stand")
	s.places = spots("SELECT id::text, '', kind, tiers, columns FROM place WHERE kind NOT IN ('bench', 'shelf')")
	for _, x := range spots("SELECT id::text, '', '', 0, 0 FROM tank") {
		s.tanks = append(s.tanks, x.In)
	}
	for _, x := range spots("SELECT id::text, '', '', 0, 0 FROM seed_lot") {
		s.lots = append(s.lots, x.In)
	}
	for _, x := range spots("SELECT id::text, '', '', 0, 0 FROM batch WHERE NOT closed") {
		s.batches = append(s.batches, x.In)
	}
	return s, err
}

// writer is one tablet with somebody at it.
type writer struct {
	*rig
	n      int
	x      *rand.Rand
	client *http.Client
	cookie string
	skew   time.Duration // how wrong its clock is
	rough  bool          // its connection fails now and then
	kept   []record
	refuse []record
}

// record is something that was sent, and what it should have left.
type record struct{ kind, id, sent string }

func newWriter(r *rig, n int, seed uint64) *writer {
	x := rand.New(rand.NewPCG(seed, uint64(n)))
	w := &writer{rig: r, n: n, x: x, rough: true, skew: time.Duration(x.IntN(20*365*24)-10*365*24) * time.Hour}
	w.client = &http.Client{
		Transport:     &http.Transport{},
		Timeout:       40 * time.Second,
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
	}
	return w
}

func (w *writer) signIn(p demo.Person, crew string) error {
	path, form := "/sign-in", url.Values{"login": {p.Login}, "password": {p.Secret}}
	if crew != "" {
		path, form = "/sign-in/crew", url.Values{"school": {demo.School.Slug}, "crew": {crew}, "pin": {p.Secret}}
	}
	res, err := w.client.PostForm("http://"+w.address+path, form)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	for _, c := range res.Cookies() {
		if c.Name == "ulpa" && res.StatusCode == http.StatusSeeOther {
			w.cookie = c.Name + "=" + c.Value
			return nil
		}
	}
	return fmt.Errorf("%s was not let in: %d", p.Name, res.StatusCode)
}

// id is a UUIDv7 by this tablet's own clock.
func (w *writer) id() string {
	var b [16]byte
	binary.BigEndian.PutUint64(b[:8], uint64(time.Now().Add(w.skew).UnixMilli())<<16)
	for i := 6; i < 16; i++ {
		b[i] = byte(w.x.UintN(256))
	}
	b[6], b[8] = b[6]&0x0f|0x70, b[8]&0x3f|0x80
	return uuid.UUID(b).String()
}

// send posts until there is an answer that says what became of it.
func (w *writer) send(kind, path string, form url.Values) {
	rec := record{kind, form.Get("id"), path + " " + form.Encode()}
	for started := time.Now(); ; {
		status, to, body, err := w.maybeTwice(kind, path, form)
		switch {
		case err != nil, status == http.StatusServiceUnavailable, status == http.StatusInsufficientStorage:
		case status == http.StatusSeeOther && strings.HasPrefix(to, "/sign-in"):
			w.note("%s %s: signed out", kind, path)
			return
		case status < 400:
			w.kept = append(w.kept, rec)
			w.maybeChanged(kind, path, form)
			return
		case status < 500:
			w.refuse = append(w.refuse, rec)
			return
		default:
			w.note("%s %s %v answered %d: %.300s", kind, path, form, status, body)
		}
		if time.Since(started) > 90*time.Second {
			w.note("%s %s found nobody for 90 seconds: %v", kind, path, err)
			return
		}
		time.Sleep(time.Duration(10+w.x.IntN(150)) * time.Millisecond)
	}
}

// maybeTwice posts once, or at the same moment on two connections, of which one that is
// kept counts.
func (w *writer) maybeTwice(kind, path string, form url.Values) (status int, to, body string, err error) {
	if w.x.IntN(12) != 0 {
		return w.once(path, form, w.cut())
	}
	w.say("sent twice at once")
	var status2 int
	var to2, body2 string
	var err2 error
	other := make(chan struct{})
	cut := w.cut()
	go func() {
		defer close(other)
		status2, to2, body2, err2 = w.once(path, form, nil)
	}()
	status, to, body, err = w.once(path, form, cut)
	<-other
	kept := func(status int, err error) bool { return err == nil && status < 400 }
	refused := err == nil && status >= 400 && status < 500 || err2 == nil && status2 >= 400 && status2 < 500
	if !kept(status, err) && kept(status2, err2) {
		status, to, body, err = status2, to2, body2, err2
	}
	if refused && kept(status, err) {
		// It was refused by what somebody else had done, and kept a moment later when that
		// was gone: then it is kept, and is not refused again.
		if third, _, says, err := w.once(path, form, nil); err == nil && third >= 400 && third < 500 {
			w.note("%s %s %v was kept when sent twice at once, and refused then: %d: %.300s", kind, path, form, third, says)
		}
	}
	return status, to, body, err
}

// maybeChanged sends another note under the id of one that was kept: it is refused.
func (w *writer) maybeChanged(kind, path string, form url.Values) {
	if kind != "note" || w.x.IntN(8) != 0 {
		return
	}
	w.say("changed after it was kept")
	other := url.Values{}
	for name, v := range form {
		other[name] = v
	}
	other.Set("text", form.Get("text")+", or not")
	if status, to, _, err := w.once(path, other, nil); err == nil && status < 400 && !strings.HasPrefix(to, "/sign-in") {
		w.note("%s changed under the same id was answered %d", path, status)
	}
}

// cut is how the connection of the next request breaks; nil when it does not.
func (w *writer) cut() func(context.Context, context.CancelFunc) context.Context {
	n := w.x.IntN(100)
	if !w.rough || n >= 8 {
		return nil
	}
	wait := time.Duration(w.x.IntN(15_000)) * time.Microsecond
	if n < 5 {
		w.say("answer lost")
		return func(ctx context.Context, cut context.CancelFunc) context.Context {
			return httptrace.WithClientTrace(ctx, &httptrace.ClientTrace{WroteRequest: func(httptrace.WroteRequestInfo) { time.AfterFunc(wait, cut) }})
		}
	}
	w.say("connection cut")
	return func(ctx context.Context, cut context.CancelFunc) context.Context {
		time.AfterFunc(wait, cut)
		return ctx
	}
}

// once posts once; its connection may break before, while or after it is heard.
func (w *writer) once(
	path string,
	form url.Values,
	breaks func(context.Context, context.CancelFunc) context.Context,
) (status int, to, body string, err error) {
	ctx, cut := context.WithCancel(context.Background())
	defer cut()
	if breaks != nil {
		ctx = breaks(ctx, cut)
	}
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, "http://"+w.address+path, strings.NewReader(form.Encode()))
	if err != nil {
		return 0, "", "", err
	}
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	req.Header.Set("Cookie", w.cookie)
	res, err := w.client.Do(req)
	if err != nil {
		return 0, "", "", err
	}
	defer res.Body.Close()
	read, err := io.ReadAll(res.Body)
	return res.StatusCode, res.Header.Get("Location"), string(read), err
}

func pick[T any](w *writer, list []T) (x T) {
	if len(list) > 0 {
		x = list[w.x.IntN(len(list))]
	}
	return x
}

// act does one of the things that people do, as their pages would post it.
func (w *writer) act(s school) {
	id := w.id()
	form := func(pairs ...string) url.Values {
		f := url.Values{"id": {id}, "units": {"metric/ms"}}
		for i := 0; i+1 < len(pairs); i += 2 {
			f.Set(pairs[i], pairs[i+1])
		}
		return f
	}
	figure := func(from, to float64) string { return strconv.FormatFloat(from+w.x.Float64()*(to-from), 'f', 2, 64) }
	cell, port, stand, place, tank := pick(w, s.cells), pick(w, s.ports), pick(w, s.stands), pick(w, s.places), pick(w, s.tanks)
	switch n := w.x.IntN(100); {
	case n < 30 && cell.In != "": // a few cells of a tray, that somebody else may be counting too
		f := form(pick(w, []string{"sprouted", "sprouted", "thinned", "empty", "lost", "sown"}), cell.name(), "cause", "eaten")
		if w.x.IntN(2) == 0 {
			f.Set("seen", cell.name()+":"+cell.State)
		}
		w.send("count", "/trays/"+cell.In+"/count", f)
	case n < 45 && cell.In != "":
		f := form("to", place.In, "from_cell_"+cell.In, cell.name(), "cause", "broken")
		if place.Row > 0 {
			f.Set("ports", spot{Row: w.x.IntN(place.Row), Col: w.x.IntN(place.Col)}.name())
		}
		w.send("act", "/batches/"+cell.Batch+"/move", f)
	case n < 60:
		w.send("act", "/tanks/"+tank+"/read", form("ph", figure(5, 7), "ec", figure(1, 2), "temp", figure(15, 24), "level", figure(2, 6), "sure", "1"))
	case n < 70:
		w.send("act", "/tanks/"+tank+"/treat", form(pick(w, []string{"water", "drain", "stock"}), figure(0.1, 1)))
	case n < 76 && stand.In != "":
		w.send("act", "/batches/"+stand.Batch+"/lose", form("where", "stand:"+stand.In, "plants", "1", "cause", "eaten"))
	case n < 84:
		w.send(
			"act",
			"/batches/"+port.Batch+"/harvest",
			form("grams", figure(5, 90), "where", "port:"+port.In, "plants", "1", "how", pick(w, []string{"cut", "whole"})),
		)
	case n < 88:
		w.send("act", "/batches/"+pick(w, s.batches)+"/look", form("leaves", strconv.Itoa(w.x.IntN(9)), "height", figure(1, 20)))
	case n < 92 && len(w.kept) > 0:
		if mine := pick(w, w.kept); mine.kind == "act" {
			w.send("undo", "/entries/"+mine.id+"/undo", form("back", "/"))
		}
	case n < 95:
		any := pick(w, s.trays) // also an empty one, or in an hour nothing is left to count
		w.send(
			"sow",
			"/sow",
			form("lot", pick(w, s.lots), "tray", any.In, "wanted", "2", "seeds", "1", "cells", spot{Row: w.x.IntN(any.Row), Col: w.x.IntN(any.Col)}.name()),
		)
	default:
		w.send("note", "/notebook", form("text", "note "+id))
	}
}
