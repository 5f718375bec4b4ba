package pages

import (
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/trail"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/notebook"
	notebookview "ulpa/internal/work/notebook/view"
)

// dayLines are the entries of a day.
type dayLines struct {
	Day   string
	Lines []notebookview.EntryView
}

// notebookView is a page of the notebook, with its form.
type notebookView struct {
	Days     []dayLines
	Find     string
	About    string
	Older    string
	CSV      string
	Form     *face.Form
	Thing    string // the id of what it is about
	Filtered bool
	Picture  face.PictureForm
}

func (notebookView) Title() say.Text { return say.T("Notebook") }

// filterOf reads what the address asks for: about for a thing's id, q for text.
func filterOf(c *gin.Context) notebook.Filter {
	f := notebook.Filter{Find: c.Query("q")}
	if id, err := uuid.Parse(c.Query("about")); err == nil {
		f.About = &id
	}
	if t, err := time.Parse(time.RFC3339Nano, c.Query("before")); err == nil {
		f.Before = &t
		f.BeforeSeq, _ = strconv.ParseInt(c.Query("seq"), 10, 64)
	}
	return f
}

func (s Pages) notebookPage(c *gin.Context) error {
	_, w := s.Me(c)
	return s.showNotebook(c, http.StatusOK, face.BlankForm(w.Prefs))
}

func (s Pages) showNotebook(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	filter := filterOf(c)
	lines, err := notebook.Read(ctx, s.Store, w, filter)
	if err != nil {
		return err
	}
	v := notebookView{Find: filter.Find, Form: f, Filtered: filter.Find != "" || filter.About != nil}
	if filter.About != nil {
		t, err := notebook.Thing(ctx, s.Store, w, *filter.About)
		if err != nil {
			return err
		}
		v.Thing, v.About = t.ID.String(), t.Name
	}
	v.Picture = face.PictureForm{Form: face.BlankForm(w.Prefs), About: v.Thing, Back: c.Request.URL.RequestURI()}
	for _, l := range lines {
		x := notebookview.LineOf(l, w)
		if n := len(v.Days); n == 0 || v.Days[n-1].Day != x.Day {
			v.Days = append(v.Days, dayLines{Day: x.Day})
		}
		d := &v.Days[len(v.Days)-1]
		d.Lines = append(d.Lines, x)
	}
	q := url.Values{}
	for _, k := range []string{"about", "q"} {
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
	s.Render(c, status, "notebook", "Notebook", v)
	return nil
}

func (s Pages) notebookCSV(c *gin.Context) error {
	ctx, w := s.Me(c)
	if err := trail.Note(ctx, s.Store, w, "Downloaded the notebook as a file"); err != nil {
		return err
	}
	file := face.File{Type: face.CSV, Name: fmt.Sprintf("notebook-%s.csv", w.Day(s.Store.Now()))}
	return s.Send(c, file, func(to io.Writer) error { return notebook.CSV(ctx, s.Store, w, filterOf(c), to) })
}

func (s Pages) addNote(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	r := notebook.NoteRequest{ID: f.ID("id"), Text: f.Get("text"), At: f.When(w, s.Store.Now())}
	if about := f.About(); about != nil {
		r.About = []uuid.UUID{*about}
	} else if f.Error("about") != "" {
		return store.ErrNotFound
	}
	var err error
	if !f.Any() {
		err = notebook.Note(ctx, s.Store, w, r)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showNotebook(c, status, f) },
		func() face.Outcome {
			return face.Outcome{Says: say.T("Note saved."), Undo: r.ID, To: face.LocalPath(f.Get("back"))}
		})
}

// correctView is an entry that is corrected.
type correctView struct {
	Path, Was, Back string
	Form            *face.Form
	Inputs          []face.InputView
	Rest            []string
}

func (correctView) Title() say.Text { return say.T("Correct") }

func (s Pages) correctPage(c *gin.Context) error { return s.showCorrect(c, http.StatusOK, nil) }

func (s Pages) showCorrect(c *gin.Context, status int, typed *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	e, err := notebook.Entry(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := correctView{Path: "/entries/" + id.String() + "/correct", Was: w.Prefs.Say(ledger.Sentence(e.Kind, e.Data)), Back: "/notebook"}
	if typed != nil {
		v.Form = typed
	} else if v.Form, err = face.Refill(e.Kind, e.Data, w.Prefs); err != nil {
		return err
	}
	v.Inputs, v.Rest = v.Form.Inputs(e.Kind), v.Form.Rest(v.Form.Own(e.Kind)...)
	s.Render(c, status, "correct", "Notebook", v)
	return nil
}

func (s Pages) correct(c *gin.Context) error {
	ctx, w := s.Me(c)
	entry, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	w.Prefs = f.Prefs
	e, err := notebook.Entry(ctx, s.Store, w, entry)
	if err != nil {
		return err
	}
	was, err := ledger.ValuesOf(e.Kind, e.Data)
	if err != nil {
		return err
	}
	values := f.Typed(e.Kind, was)
	id := f.ID("id")
	if !f.Any() {
		err = notebook.Correct(ctx, s.Store, w, ledger.Act{ID: id, On: entry}, values)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showCorrect(c, status, f) },
		func() face.Outcome {
			return face.Outcome{Says: say.T("Corrected. The notebook keeps both."), Undo: id, To: face.LocalPath(f.Get("back"))}
		})
}
