package pages

import (
	"errors"
	"mime/multipart"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/solution"
)

// importView is a meter's file that was looked at and not yet kept.
type importView struct {
	Preview *solution.Preview
	Series  []seriesView
	Rest    []string
}

// seriesView is a column of readings in a file.
type seriesView struct{ Name, Unit, Rows, Span, Says string }

func (importView) Title() say.Text { return say.T("Readings from a file") }

// ImportBody bounds a posted file with its form around it.
const ImportBody = solution.MaxFile + 1<<16

func (s Pages) importPage(c *gin.Context) error {
	s.Render(c, http.StatusOK, "import", "Solution", importView{})
	return nil
}

func (s Pages) importExamine(c *gin.Context) error {
	ctx, w := s.Me(c)
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	var file multipart.File
	var head *multipart.FileHeader
	err := c.Request.ParseMultipartForm(face.InMemory)
	if err == nil {
		file, head, err = c.Request.FormFile("file")
	}
	if err != nil {
		says := say.Words("choose a file")
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			says = "is larger than 64 MB; split it"
		}
		s.Render(c, http.StatusUnprocessableEntity, "import", "Solution", importView{Rest: []string{s.Reader(c).Say(says)}})
		return nil
	}
	defer file.Close()
	p, err := solution.Examine(ctx, s.Store, w, head.Filename, file)
	if err != nil {
		return err
	}
	v := importView{Preview: &p}
	for _, x := range p.Series {
		says := say.T("known")
		if x.New {
			says = say.T("new, belongs to no tank")
			if x.Tank != "" {
				says = say.T("new, belongs to %s", x.Tank)
			}
		}
		day := func(t time.Time) say.Text { return w.Day(t).Short() }
		v.Series = append(
			v.Series,
			seriesView{x.Name, x.Unit, w.Prefs.Say(say.Plural(x.Rows, "reading")), w.Prefs.T("%s to %s", day(x.From), day(x.To)), w.Prefs.Say(says)},
		)
	}
	status := http.StatusOK
	if len(p.Problems) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.Render(c, status, "import", "Solution", v)
	return nil
}

func (s Pages) importConfirm(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	done, err := solution.Confirm(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	return s.Lead(c, face.Outcome{Says: say.T("%s.", done.Say()), To: "/tanks"})
}
