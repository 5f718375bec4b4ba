package web

import (
	"context"
	"time"

	"github.com/google/uuid"

	"ulpa/internal/ledger"
	"ulpa/internal/notebook"
	"ulpa/internal/store"
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
		Corrected: l.Corrected, Corrects: l.Corrects != nil && l.Kind != ledger.Void.Name, MayUndo: l.May, MayFix: l.May && len(ledger.InputsOf(l.Kind)) > 0,
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

// linesAbout are the latest lines about something, as its page shows them.
func linesAbout(ctx context.Context, s *store.Store, w who.Who, f notebook.Filter) (out []entryView, err error) {
	lines, err := notebook.Read(ctx, s, w, f)
	for _, l := range lines {
		out = append(out, lineOf(l, w))
	}
	return out, err
}
