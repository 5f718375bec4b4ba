// Package find finds what a school has and what Ulpa knows, by a part of its name: batches,
// places, trays, tanks, packets, crops, bench sums and what was written down.
//
//	hits, err := find.Everything(ctx, store, who, "lett")
package find

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/calc"
	"ulpa/core/crop"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/memo"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
)

// Kind of what is found.
type Kind string

// What is found, in the order in which it is listed.
const (
	Batch Kind = "batch"
	Place Kind = "place"
	Tray  Kind = "tray"
	Tank  Kind = "tank"
	Lot   Kind = "lot"
	Crop  Kind = "crop"
	Sum   Kind = "sum"
	Entry Kind = "entry"
)

// Hit is something that was found.
type Hit struct {
	Kind Kind
	ID   uuid.UUID // of what the school has
	Key  string    // of a crop or a sum
	Name say.Text
	Says say.Text
}

// Of each kind so many at most are listed.
const most = 6

// finder gathers hits for what was asked: each way of asking it, by its words.
type finder struct {
	asked [][]string
	r     say.Reader
	hits  []Hit // by the words that were asked
	other []Hit // by other words for them
	n     map[Kind]int
}

// keys are what things are found by, in every language, by what is said of them in one.
var keys = memo.Memo[string, string]{Most: 20_000}

// add lists something when it has every word of one way of asking.
func (f *finder) add(h Hit) {
	if f.n[h.Kind] >= most {
		return
	}
	said := f.r.Say(h.Name) + " " + f.r.Say(h.Says)
	text := keys.Get(said, func() string { return name.Found(words.Everywhere(say.T("%s %s", h.Name, h.Says))) })
	for i, way := range f.asked {
		switch has := !slices.ContainsFunc(way, func(w string) bool { return !strings.Contains(text, w) }); {
		case has && i == 0:
			f.n[h.Kind]++
			f.hits = append(f.hits, h)
			return
		case has:
			f.other = append(f.other, h)
			return
		}
	}
}

// all are the hits: of each kind what has the words that were asked goes first.
func (f *finder) all() []Hit {
	for _, h := range f.other {
		if f.n[h.Kind] < most {
			f.n[h.Kind]++
			f.hits = append(f.hits, h)
		}
	}
	return f.hits
}

// Path is the page on which it is looked at; of an entry none.
func (h Hit) Path() string {
	switch h.Kind {
	case Batch:
		return "/batches/" + h.ID.String()
	case Place:
		return "/places/" + h.ID.String()
	case Tray:
		return "/trays/" + h.ID.String()
	case Tank:
		return "/tanks/" + h.ID.String()
	case Lot:
		return "/notebook?about=" + h.ID.String()
	case Crop:
		return crops.Path(h.Key)
	case Sum:
		return "/sums/" + h.Key
	}
	return ""
}

// Named is the thing of that kind and name; ok is false when there is none.
func Named(ctx context.Context, s *store.Store, w who.Who, kind Kind, called string) (h Hit, ok bool, err error) {
	hits, err := Everything(ctx, s, w, called)
	for _, h := range hits {
		if h.Kind == kind && w.Prefs.Say(h.Name) == called {
			return h, true, err
		}
	}
	return h, false, err
}

// Everything finds what has all the words that were asked, in the reader's language.
func Everything(ctx context.Context, s *store.Store, w who.Who, asked string) ([]Hit, error) {
	if strings.TrimSpace(asked) == "" {
		return nil, nil
	}
	f := finder{r: w.Prefs, n: map[Kind]int{}}
	for _, way := range words.Askings(asked) {
		f.asked = append(f.asked, strings.Fields(way))
	}
	o, err := batches.ReadOverview(ctx, s, w)
	if err != nil {
		return nil, err
	}
	for _, l := range o.Lines {
		f.add(Hit{Kind: Batch, ID: l.ID, Name: say.Name(l.Code), Says: say.T("%s %s", l.Crop.Name, say.Name(l.Variety))})
	}
	for _, p := range o.Closed {
		c, _ := crop.Of(p.Crop)
		f.add(Hit{Kind: Batch, ID: p.ID, Name: say.Name(p.Code), Says: say.T("%s %s, closed", c.Name, say.Name(p.Variety))})
	}
	places, err := site.All(ctx, s, w)
	if err != nil {
		return nil, err
	}
	for _, p := range places {
		f.add(Hit{Kind: Place, ID: p.ID, Name: say.Name(p.Name), Says: p.Words()})
	}
	for _, p := range places {
		for _, t := range p.Trays {
			f.add(Hit{Kind: Tray, ID: t.ID, Name: say.Name(t.Name), Says: say.T("in %s##place", say.Name(p.Name))})
		}
		for _, t := range p.Tanks {
			f.add(Hit{Kind: Tank, ID: t.ID, Name: say.Name(t.Name), Says: say.T("at %s##place", say.Name(p.Name))})
		}
	}
	shelf, err := sowing.GetShelf(ctx, s, w)
	if err != nil {
		return nil, err
	}
	for _, p := range shelf.Packets {
		c, _ := crop.Of(p.Crop)
		f.add(Hit{Kind: Lot, ID: p.ID, Name: say.Name(p.Name), Says: say.T("%s %s", c.Name, say.Name(p.Variety))})
	}
	book, err := crops.Get(ctx, s, w)
	if err != nil {
		return nil, err
	}
	for _, c := range book.All() {
		f.add(Hit{Kind: Crop, Key: c.ID, Name: c.Name, Says: c.Family})
	}
	for _, k := range calc.All {
		f.add(Hit{Kind: Sum, Key: k.Name, Name: k.Title, Says: k.Answers})
	}
	hits := f.all()
	lines, err := notebook.Read(ctx, s, w, notebook.Filter{Find: asked, Most: most})
	for _, l := range lines {
		hits = append(hits, Hit{Kind: Entry, ID: l.ID, Name: l.Says, Says: w.Day(l.HappenedAt).Short()})
	}
	return hits, err
}
