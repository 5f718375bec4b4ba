package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/internal/ledger"
	"ulpa/internal/notebook"
	"ulpa/internal/trail"
)

type dayLines struct {
	Day   string
	Lines []entryView
}

type notebookView struct {
	Days     []dayLines
	Find     string
	About    string
	Older    string
	CSV      string
	Form     form
	Batch    string
	Place    string
	Tank     string
	Filtered bool
}

func (notebookView) Title() string { return "Notebook" }

// filterOf reads what the address asks for: b, p or r for an id, q for text.
func filterOf(c *gin.Context) notebook.Filter {
	id := func(name string) *uuid.UUID {
		v, err := uuid.Parse(c.Query(name))
		if err != nil {
			return nil
		}
		return &v
	}
	f := notebook.Filter{Batch: id("b"), Place: id("p"), Reservoir: id("r"), Find: c.Query("q")}
	if t, err := time.Parse(time.RFC3339Nano, c.Query("before")); err == nil {
		f.Before = &t
		f.BeforeSeq, _ = strconv.ParseInt(c.Query("seq"), 10, 64)
	}
	return f
}

func (s *Server) notebookPage(c *gin.Context) error {
	_, w := s.me(c)
	return s.showNotebook(c, http.StatusOK, blankForm(w.Prefs))
}

func (s *Server) showNotebook(c *gin.Context, status int, f form) error {
	ctx, w := s.me(c)
	filter := filterOf(c)
	lines, err := notebook.Read(ctx, s.store, w, filter)
	if err != nil {
		return err
	}
	v := notebookView{Find: filter.Find, Form: f, Batch: c.Query("b"), Place: c.Query("p"), Tank: c.Query("r")}
	v.Filtered = v.Batch+v.Place+v.Tank+v.Find != ""
	for _, l := range lines {
		x := lineOf(l, w)
		if n := len(v.Days); n == 0 || v.Days[n-1].Day != x.Day {
			v.Days = append(v.Days, dayLines{Day: x.Day})
		}
		d := &v.Days[len(v.Days)-1]
		d.Lines = append(d.Lines, x)
		switch {
		case v.Batch != "":
			v.About = x.Code
		case v.Tank != "" || v.Place != "":
			v.About = x.Place
		}
	}
	q := url.Values{}
	for _, k := range []string{"b", "p", "r", "q"} {
		if c.Query(k) != "" {
			q.Set(k, c.Query(k))
		}
	}
	v.CSV = "/notebook.csv?" + q.Encode()
	if len(lines) == 40 {
		last := lines[39]
		q.Set("before", last.HappenedAt.Format(time.RFC3339Nano))
		q.Set("seq", strconv.FormatInt(last.Seq, 10))
		v.Older = "/notebook?" + q.Encode()
	}
	s.render(c, status, "notebook", "Notebook", v)
	return nil
}

func (s *Server) notebookCSV(c *gin.Context) error {
	ctx, w := s.me(c)
	to, done, ok := s.export(c, w)
	if !ok {
		return nil
	}
	defer done()
	if err := trail.Note(ctx, s.store, w, "Took out the notebook as a file"); err != nil {
		return err
	}
	c.Header("Content-Type", "text/csv; charset=utf-8")
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="notebook-%s.csv"`, w.Day(s.store.Now())))
	if err := notebook.CSV(ctx, s.store, w, filterOf(c), to); err != nil {
		s.log.Error("export", "request", c.GetString(requestID), "error", err)
	}
	return nil
}

func (s *Server) addNote(c *gin.Context) error {
	ctx, w := s.me(c)
	f := readForm(c, w.Prefs)
	r := notebook.NoteRequest{ID: f.ID("id"), Text: f.Get("text")}
	for name, to := range map[string]**uuid.UUID{"b": &r.Batch, "p": &r.Place, "r": &r.Reservoir} {
		if id, err := uuid.Parse(f.Get(name)); err == nil {
			*to = &id
		}
	}
	err := notebook.Note(ctx, s.store, w, r)
	return s.settle(c, f, err, func(status int) error { return s.showNotebook(c, status, f) },
		func() outcome { return outcome{"Note kept.", r.ID, localPath(f.Get("back"))} })
}

type correctView struct {
	Path, Was, Back string
	Form            form
	Inputs          []inputView
	Rest            []string
}

func (correctView) Title() string { return "Put right" }

func (s *Server) correctPage(c *gin.Context) error { return s.showCorrect(c, http.StatusOK, nil) }

func (s *Server) showCorrect(c *gin.Context, status int, typed *form) error {
	ctx, w := s.me(c)
	id, err := pathID(c)
	if err != nil {
		return err
	}
	e, err := notebook.Entry(ctx, s.store, w, id)
	if err != nil {
		return err
	}
	v := correctView{Path: "/entries/" + id.String() + "/correct", Was: ledger.Sentence(w.Prefs, e.Kind, e.Data), Back: "/notebook"}
	if typed != nil {
		v.Form = *typed
	} else if v.Form, err = refill(e.Kind, e.Data, w.Prefs); err != nil {
		return err
	}
	v.Inputs, v.Rest = v.Form.Inputs(e.Kind), v.Form.Rest(v.Form.Own(e.Kind)...)
	s.render(c, status, "correct", "Notebook", v)
	return nil
}

func (s *Server) correct(c *gin.Context) error {
	ctx, w := s.me(c)
	entry, err := pathID(c)
	if err != nil {
		return err
	}
	f := readForm(c, w.Prefs)
	w.Prefs = f.prefs
	e, err := notebook.Entry(ctx, s.store, w, entry)
	if err != nil {
		return err
	}
	was, err := ledger.ValuesOf(e.Kind, e.Data)
	if err != nil {
		return err
	}
	values := f.typed(e.Kind, was)
	id := f.ID("id")
	if !f.Any() {
		err = notebook.Correct(ctx, s.store, w, id, entry, values)
	}
	return s.settle(c, f, err, func(status int) error { return s.showCorrect(c, status, &f) },
		func() outcome { return outcome{"Put right. The notebook keeps both.", id, localPath(f.Get("back"))} })
}
