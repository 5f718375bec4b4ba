// Package pages is pictures, as people take and see them.
package pages

import (
	"embed"
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/picture"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	notebookview "ulpa/internal/work/notebook/view"
	"ulpa/internal/work/pictures"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{Views: views, Routes: routes}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "POST /pictures", Line: bound.Pictures, Answer: p.add, Send: []string{"note", "x"}},
		{On: "GET /pictures/:id", Answer: p.page, Ask: "/pictures/{picture}"},
		{On: "GET /pictures/:id/large", Answer: p.large, Ask: "/pictures/{picture}/large"},
		{On: "GET /pictures/:id/small", Answer: p.small, Ask: "/pictures/{picture}/small"},
	}
}

// pictureView is a picture with what was written beside it.
type pictureView struct {
	Path, Entry, Note string
	When              string
	About             string
	AboutPath         string
	Width, Height     int
	MayUndo           bool
}

func (v pictureView) Title() say.Text {
	if v.Note == "" {
		return say.T("A picture")
	}
	return say.Name(v.Note)
}

func (s Pages) page(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	e, p, err := pictures.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := pictureView{
		Path: "/pictures/" + id.String(), Entry: e.ID.String(), Note: p.Note, Width: p.Width, Height: p.Height, AboutPath: "/notebook",
		When:    w.Prefs.T("%s, %s · %s", w.Day(e.HappenedAt).Long(), face.Clock(e.HappenedAt, w), say.Name(e.Person)),
		MayUndo: e.PersonID == w.Person || w.May(who.Correct),
	}
	for _, t := range e.About {
		if at := notebookview.PathOf(t); at != "" {
			v.About, v.AboutPath = t.Name, at
		}
	}
	s.Render(c, http.StatusOK, "picture", "Notebook", v)
	return nil
}

func (s Pages) large(c *gin.Context) error { return s.file(c, false) }
func (s Pages) small(c *gin.Context) error { return s.file(c, true) }

// file sends a picture, which the browser keeps for an hour: one page shows many of them.
func (s Pages) file(c *gin.Context, small bool) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	b, err := pictures.Read(ctx, s.Store, w, id, small)
	if err != nil {
		return err
	}
	c.Header("Cache-Control", "private, max-age=3600")
	c.Data(http.StatusOK, "image/jpeg", b)
	return nil
}

// addView shows the form again with what was refused.
type addView struct {
	face.PictureForm
	Rest []string
}

func (addView) Title() say.Text { return say.T("A picture") }

func (s Pages) add(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, file, err := face.ReadBytes(c, w.Prefs, picture.MostBytes)
	if err != nil {
		return err
	}
	n := pictures.New{ID: f.ID("id"), File: file, Note: f.Text("note"), At: f.When(w, s.Store.Now())}
	n.About = f.About()
	if !f.Any() {
		err = pictures.Add(ctx, s.Store, w, n)
		err = store.Missing(err, "about", "is not there any more")
	}
	return s.Settle(c, f, err, func(status int) error {
		form := face.PictureForm{Form: f, About: f.Get("about"), Back: face.LocalPath(f.Get("back"))}
		s.Render(c, status, "addpicture", "Notebook", addView{form, f.Rest("file", "note")})
		return nil
	}, func() face.Outcome {
		return face.Outcome{Says: say.T("Picture saved."), Undo: n.ID, To: face.LocalPath(f.Get("back"))}
	})
}
