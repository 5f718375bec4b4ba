package pages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/base/trail"
	"ulpa/internal/doors/face"
)

// trailLine is something that was changed, and by whom.
type trailLine struct{ At, Person, Says string }

// trailView is a page of the trail.
type trailView struct {
	Lines         []trailLine
	Before, Older string // days; empty on the newest page and on the last
}

func (trailView) Title() say.Text { return say.T("The log of changes") }

// trailPage shows the coordinator who signed in or tried to, changed settings and took files out.
func (s Pages) trailPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	var v trailView
	var before *calendar.Day
	if day, err := calendar.ParseDay(c.Query("before")); err == nil {
		before, v.Before = &day, w.Prefs.Say(day.Short())
	}
	page, err := trail.Read(ctx, s.Store, w, before)
	if err != nil {
		return err
	}
	for _, l := range page.Lines {
		at, says := w.Prefs.Say(w.Day(l.Last).Short())+", "+face.Clock(l.Last, w), w.Prefs.Say(l.Says)
		if l.Times > 1 {
			says = w.Prefs.T("%s, %d times since %s", says, l.Times, face.Clock(l.First, w))
		}
		v.Lines = append(v.Lines, trailLine{at, l.Person, says})
	}
	if page.More != nil {
		v.Older = page.More.String()
	}
	s.Render(c, http.StatusOK, "trail", "", v)
	return nil
}
