package pages

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/table"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/seeds"
)

// fileView is a file of packets: asked for, then looked at line by line.
type fileView struct {
	Form    *face.Form
	Text    string
	Head    []string
	Columns []columnView
	Lines   []lineView
	Says    string
	May     bool // every line can be kept
	Own     []string
}

func (fileView) Title() say.Text { return say.T("Packets from a file") }

// columnView is which column of the file says something.
type columnView struct {
	ID, Name, Error string
	Needed          bool
	At              int
}

// lineView is a line of a file of packets, with what is wrong with it.
type lineView struct {
	Number                int
	Crop, Variety, Packet string
	Says                  string
	Wrong                 bool
}

func (s Pages) fileForm(c *gin.Context) error {
	_, w := s.Me(c)
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "seedfile", "Nursery", fileView{Form: face.BlankForm(w.Prefs)})
	return nil
}

// readFile looks at a file, again with other columns, or keeps it.
func (s Pages) readFile(c *gin.Context) error {
	ctx, w := s.Me(c)
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	f, text, err := face.ReadFile(c, w.Prefs, seeds.MostFile)
	if err != nil {
		return err
	}
	v := fileView{Form: f, Text: text}
	if len(text) > seeds.MostFile {
		f.Wrong("text", "is larger than 256 kB")
		return s.showFile(c, http.StatusUnprocessableEntity, v)
	}
	t, err := table.Read(text)
	if err != nil {
		if !f.Refuse(err) {
			return err
		}
		return s.showFile(c, http.StatusUnprocessableEntity, v)
	}
	chosen := seeds.Guess(t)
	if f.Get("crop") != "" {
		for _, col := range seeds.Columns {
			if n, err := strconv.Atoi(f.Get(col.ID)); err == nil {
				chosen[col.ID] = n
			}
		}
	}
	v.Head = t.Head
	lines, err := seeds.Look(ctx, s.Store, w, t, chosen)
	if err != nil && !f.Refuse(err) {
		return err
	}
	v.fill(lines, chosen, w.Prefs)
	if f.Get("keep") == "" || f.Any() || !v.May {
		status := http.StatusOK
		if f.Get("keep") != "" {
			status = http.StatusUnprocessableEntity
		}
		return s.showFile(c, status, v)
	}
	added, err := seeds.Take(ctx, s.Store, w, f.ID("id"), t, chosen)
	return s.Settle(c, f, err, func(status int) error { return s.showFile(c, status, v) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Saved: %s added.", say.Plural(added, "packet")), To: "/seeds"}
	})
}

func (s Pages) showFile(c *gin.Context, status int, v fileView) error {
	v.Own = v.Form.Rest("text", "crop", "variety", "packed")
	s.Render(c, status, "seedfile", "Nursery", v)
	return nil
}

// fill shows the columns as they are chosen, and the lines as they are understood.
func (v *fileView) fill(lines []seeds.Line, chosen seeds.Chosen, r say.Reader) {
	for _, col := range seeds.Columns {
		v.Columns = append(v.Columns, columnView{ID: col.ID, Name: r.Say(col.Name), Needed: col.Needed, At: chosen[col.ID], Error: v.Form.Error(col.ID)})
	}
	wrong, known := 0, 0
	for _, l := range lines {
		x := lineView{Number: l.Number, Crop: r.Say(l.Crop), Variety: l.Packet.Variety, Packet: l.Packet.Name, Says: r.T("is added")}
		switch {
		case l.Wrong != nil:
			x.Says, x.Wrong = r.Say(l.Wrong), true
			wrong++
		case l.Known:
			x.Says = r.T("is there already: left as it is")
			known++
		}
		v.Lines = append(v.Lines, x)
	}
	fresh := len(lines) - wrong - known
	v.May = wrong == 0 && fresh > 0
	switch {
	case wrong > 0:
		v.Says = r.T("%s cannot be read. Choose other columns or correct the file: nothing is saved until every line can be read.", say.Plural(wrong, "line"))
	case len(lines) > 0 && fresh == 0:
		v.Says = r.T("All of them are there already.")
	default:
		v.Says = r.T("%s will be added.", say.Plural(fresh, "packet"))
	}
}
