package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/batch"
	core "ulpa/core/solution"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
	"ulpa/internal/notebook"
	"ulpa/internal/store/db"
	"ulpa/internal/trail"
	"ulpa/internal/who"
)

// entryView is an entry as it is read in a list.
type entryView struct {
	ID, Day, At, Person string
	Says                string
	Code, CodePath      string
	Place, PlacePath    string
	Corrected, Corrects bool
	Late                string // written down much later than it happened
	MayUndo, MayFix     bool
}

func lineOf(l notebook.Line, w who.Who) entryView {
	v := entryView{
		ID: l.ID.String(), Day: w.Day(l.HappenedAt).Long(), At: clock(l.HappenedAt, w), Person: l.Person, Says: l.Says, Code: l.Code,
		Corrected: l.Corrected, Corrects: l.Corrects != nil && l.Kind != ledger.KindVoid, MayUndo: l.May, MayFix: l.May && notebook.CanCorrect(l.Kind),
	}
	if l.BatchID != nil {
		v.CodePath = "/batches/" + l.BatchID.String()
	}
	switch {
	case l.ReservoirID != nil:
		v.Place, v.PlacePath = l.Reservoir, "/solution/"+l.ReservoirID.String()
	case l.PlaceID != nil:
		v.Place, v.PlacePath = l.Place, "/places/"+l.PlaceID.String()
	}
	if l.WrittenAt.Sub(l.HappenedAt) > time.Hour {
		v.Late = "written " + w.Day(l.WrittenAt).Short() + " " + clock(l.WrittenAt, w)
	}
	return v
}

func notebookFilter(what string, id uuid.UUID) notebook.Filter {
	f := notebook.Filter{Most: 8}
	switch what {
	case "place":
		f.Place = &id
	case "reservoir":
		f.Reservoir = &id
	}
	return f
}

func (s *Server) linesAbout(c *gin.Context, w who.Who, f notebook.Filter) (out []entryView, err error) {
	lines, err := notebook.Read(c.Request.Context(), s.store, w, f)
	for _, l := range lines {
		out = append(out, lineOf(l, w))
	}
	return out, err
}

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

func (s *Server) notebookPage(c *gin.Context) {
	_, w := s.me(c)
	s.showNotebook(c, http.StatusOK, blankForm(w.Prefs))
}

func (s *Server) showNotebook(c *gin.Context, status int, f form) {
	ctx, w := s.me(c)
	filter := filterOf(c)
	lines, err := notebook.Read(ctx, s.store, w, filter)
	if err != nil {
		s.fail(c, err)
		return
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
}

func (s *Server) notebookCSV(c *gin.Context) {
	ctx, w := s.me(c)
	to, done, ok := s.export(c, w)
	if !ok {
		return
	}
	defer done()
	if err := trail.Note(ctx, s.store, w, "Took out the notebook as a file"); err != nil {
		s.fail(c, err)
		return
	}
	c.Header("Content-Type", "text/csv; charset=utf-8")
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="notebook-%s.csv"`, w.Day(s.store.Now())))
	if err := notebook.CSV(ctx, s.store, w, filterOf(c), to); err != nil {
		s.log.Error("export", "request", c.GetString(requestID), "error", err)
	}
}

func (s *Server) addNote(c *gin.Context) {
	ctx, w := s.me(c)
	f := readForm(c, w.Prefs)
	r := notebook.NoteRequest{ID: f.ID("id"), Text: f.Get("text")}
	for name, to := range map[string]**uuid.UUID{"b": &r.Batch, "p": &r.Place, "r": &r.Reservoir} {
		if id, err := uuid.Parse(f.Get(name)); err == nil {
			*to = &id
		}
	}
	err := notebook.Note(ctx, s.store, w, r)
	if err != nil && f.Refuse(err) {
		s.showNotebook(c, http.StatusUnprocessableEntity, f)
		return
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	s.say(c, "Note kept.", r.ID)
	c.Redirect(http.StatusSeeOther, localPath(f.Get("back")))
}

type correctView struct {
	Path, Kind, Was, Back string
	Form                  form
	Causes                []string
	Rest                  []string
	Unit                  string
}

func (correctView) Title() string { return "Put right" }

func (s *Server) correctPage(c *gin.Context) { s.showCorrect(c, http.StatusOK, nil) }

func (s *Server) showCorrect(c *gin.Context, status int, typed *form) {
	ctx, w := s.me(c)
	id, err := pathID(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	e, err := notebook.Entry(ctx, s.store, w, id)
	if err != nil {
		s.fail(c, err)
		return
	}
	v := correctView{Path: "/entries/" + id.String() + "/correct", Kind: e.Kind, Was: ledger.Sentence(w.Prefs, e.Kind, e.Data), Causes: batch.Causes, Back: "/notebook"}
	v.Form = formOfEntry(e, w.Prefs)
	if typed != nil {
		v.Form = *typed
	}
	v.Rest = v.Form.Rest("ph", "ec", "temp", "level", "drain", "water", "stock", "amount", "text", "leaves", "height", "grams", "cause")
	s.render(c, status, "correct", "Notebook", v)
}

// formOfEntry fills a form with what an entry says, in the reader's units.
func formOfEntry(e db.GetEntryRow, p unit.Prefs) form {
	f := blankForm(p)
	set := func(name string, v *float64, u string) {
		if v != nil {
			f.values.Set(name, p.Figure(*v, u))
		}
	}
	some := func(name string, v float64, u string) { // nothing is what nobody typed
		if v != 0 {
			set(name, &v, u)
		}
	}
	switch e.Kind {
	case ledger.KindReading:
		var r core.Reading
		if json.Unmarshal(e.Data, &r) == nil {
			set("ph", r.PH, "pH")
			set("ec", r.ECMS, unit.MS)
			set("temp", r.TempC, unit.Celsius)
			set("level", r.LevelL, unit.Litre)
		}
	case ledger.KindTreat:
		var t core.Treatment
		if json.Unmarshal(e.Data, &t) == nil {
			some("drain", t.DrainL, unit.Litre)
			some("water", t.WaterL, unit.Litre)
			some("stock", t.StockML, unit.Millilitre)
			some("amount", t.Amount, "")
			f.values.Set("agent", string(t.Agent))
		}
	case ledger.KindNote:
		var n ledger.Note
		if json.Unmarshal(e.Data, &n) == nil {
			f.values.Set("text", n.Text)
		}
	default:
		var a batch.Act
		if json.Unmarshal(e.Data, &a) == nil {
			f.values.Set("leaves", strconv.Itoa(a.Leaves))
			some("height", a.HeightCM, unit.Centimetre)
			some("grams", a.Grams, unit.Gram)
			f.values.Set("cause", a.Cause)
		}
	}
	return f
}

func (s *Server) correct(c *gin.Context) {
	ctx, w := s.me(c)
	entry, err := pathID(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	f := readForm(c, w.Prefs)
	w.Prefs = f.prefs
	reading, treat := readReading(f), readTreatment(f)
	r := notebook.Right{
		Reading: &reading, Treat: &treat, Text: f.Get("text"), Leaves: f.Int("leaves", 0),
		HeightCM: f.Amount("height", unit.Centimetre), Grams: f.Amount("grams", unit.Gram), Cause: f.Get("cause"),
	}
	id := f.ID("id")
	if !f.Any() {
		err = notebook.Correct(ctx, s.store, w, id, entry, r)
	}
	if f.Any() || (err != nil && f.Refuse(err)) {
		s.showCorrect(c, http.StatusUnprocessableEntity, &f)
		return
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	s.say(c, "Put right. The notebook keeps both.", id)
	c.Redirect(http.StatusSeeOther, localPath(f.Get("back")))
}
