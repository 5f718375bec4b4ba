// Package view shows lines of the notebook, for every page about something.
package view

import (
	"context"
	"time"

	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/pictures"
)

// EntryView is an entry as it is read in a list.
type EntryView struct {
	ID, Day, At, Person string
	Says                string
	Code, CodePath      string
	Place, PlacePath    string
	Corrected, Corrects bool
	Late                string // written down much later than it happened
	MayUndo, MayFix     bool
	Picture             string // the page of what was photographed
}

// LineOf is a line of the notebook as pages show it.
func LineOf(l notebook.Line, w who.Who) EntryView {
	v := EntryView{
		ID: l.ID.String(), Day: w.Prefs.Say(w.Day(l.HappenedAt).Long()), At: face.Clock(l.HappenedAt, w), Person: l.Person, Says: w.Prefs.Say(l.Says),
		Corrected: l.Corrected, Corrects: l.Corrects != nil && l.Kind != ledger.Void.Name, MayUndo: l.May, MayFix: l.May && len(ledger.InputsOf(l.Kind)) > 0,
	}
	if t := l.About.A(ledger.ABatch); t != nil {
		v.Code, v.CodePath = t.Name, PathOf(*t)
	}
	for _, kind := range []ledger.ThingKind{ledger.ATank, ledger.AFish, ledger.APlace, ledger.ATray, ledger.ALot, ledger.AWater} {
		if t := l.About.A(kind); t != nil {
			v.Place, v.PlacePath = t.Name, PathOf(*t)
			break
		}
	}
	if l.Kind == pictures.Taken.Name && !l.Corrected {
		if p, err := pictures.Of(l.Data); err == nil {
			v.Picture = "/pictures/" + p.Picture.String()
		}
	}
	if l.WrittenAt.Sub(l.HappenedAt) > time.Hour {
		v.Late = w.Prefs.T("written %s %s", w.Day(l.WrittenAt).Short(), face.Clock(l.WrittenAt, w))
	}
	return v
}

// paths are where things have a page of their own.
var paths = map[ledger.ThingKind]string{
	ledger.ABatch: "/batches/", ledger.APlace: "/places/", ledger.ATank: "/tanks/", ledger.ATray: "/trays/",
	ledger.AWater: "/waters/", ledger.AMeter: "/meters/", ledger.AFish: "/fish/",
}

// PathOf is the page of a thing; "" where it has none.
func PathOf(t ledger.Thing) string {
	if at, ok := paths[t.Kind]; ok {
		return at + t.ID.String()
	}
	return ""
}

// LinesAbout are the latest lines about something, as its page shows them.
func LinesAbout(ctx context.Context, s *store.Store, w who.Who, f notebook.Filter) (out []EntryView, err error) {
	lines, err := notebook.Read(ctx, s, w, f)
	for _, l := range lines {
		out = append(out, LineOf(l, w))
	}
	return out, err
}
