// Package pages is finding, as people see it.
package pages

import (
	"embed"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/words"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/find"
	"ulpa/internal/doors/help"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{Views: views, Routes: routes}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{{On: "GET /find", Line: bound.Finding, LineFor: "q", Answer: p.find, Ask: "/find?q=tower"}}
}

// findView is what was found, by kind.
type findView struct {
	Query  string
	Groups []groupView
	More   string // to the notebook's own search
}

// groupView is what was found of one sort.
type groupView struct {
	Name say.Words
	Hits []hitView
}

// hitView is something that was found.
type hitView struct{ Name, Says, Path string }

func (findView) Title() say.Text { return say.T("Find") }

// kinds are the headings, in order, and where each thing is.
var kinds = []struct {
	kind find.Kind
	name say.Words
}{
	{find.Batch, "Batches"},
	{find.Place, "Places"},
	{find.Tray, "Trays"},
	{find.Tank, "Tanks"},
	{find.Lot, "Seed packets"},
	{find.Crop, "Crops"},
	{find.Sum, "Bench calculators"},
}

func (s Pages) find(c *gin.Context) error {
	ctx, w := s.Me(c)
	v := findView{Query: strings.TrimSpace(c.Query("q"))}
	ways := words.Askings(v.Query)
	asked := func(says string) bool { return v.Query != "" && words.Has(says, ways) }
	hits, err := find.Everything(ctx, s.Store, w, v.Query)
	if err != nil {
		return err
	}
	for _, k := range kinds {
		g := groupView{Name: k.name}
		for _, h := range hits {
			if h.Kind == k.kind {
				g.Hits = append(g.Hits, hitView{w.Prefs.Say(h.Name), w.Prefs.Say(h.Says), h.Path()})
			}
		}
		if g.Hits != nil {
			v.Groups = append(v.Groups, g)
		}
	}
	pages := groupView{Name: "Pages"}
	for _, l := range s.Pages(w) {
		if says := w.Prefs.Say(l.Name); asked(says) {
			pages.Hits = append(pages.Hits, hitView{Name: says, Path: l.Path})
		}
	}
	if pages.Hits != nil {
		v.Groups = append(v.Groups, pages)
	}
	helped := groupView{Name: "Help"}
	for _, c := range help.Chapters {
		for _, t := range c.Topics {
			if says := w.Prefs.Say(t.Ask); asked(says) {
				helped.Hits = append(helped.Hits, hitView{Name: says, Path: "/help#h-" + t.ID})
			}
		}
	}
	if helped.Hits != nil {
		v.Groups = append(v.Groups, helped)
	}
	notebook := "/notebook?q=" + url.QueryEscape(v.Query)
	written := groupView{Name: "Written down"}
	for _, h := range hits {
		if h.Kind == find.Entry {
			written.Hits = append(written.Hits, hitView{w.Prefs.Say(h.Name), w.Prefs.Say(h.Says), notebook})
		}
	}
	if written.Hits != nil {
		v.Groups, v.More = append(v.Groups, written), notebook
	}
	s.Render(c, http.StatusOK, "find", "", v)
	return nil
}
