// Package pages is the shelf of seed, as people see it.
package pages

import (
	"embed"
	"io"
	"strconv"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/seeds"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{Views: views, Routes: routes, Settings: sections}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /seeds", Answer: p.shelf},
		{On: "GET /seeds.csv", Line: bound.Exports, Answer: p.file},
		{On: "GET /seeds/file", Answer: p.fileForm},
		{On: "POST /seeds/file", Line: bound.Files, Answer: p.readFile, Send: []string{"text", "Crop,Variety,Packed in\nLettuce,Ebb,20x6"}},
		{On: "GET /seeds/:id", Answer: p.packet, Ask: "/seeds/{lot}"},
		{On: "POST /seeds/:id/test", Answer: p.begin, Ask: "/seeds/{lot}/test", Send: []string{"seeds", "1", "on", "paper", "light", "light"}},
		{On: "POST /seeds/:id/seen", Answer: p.seen, Ask: "/seeds/{lot}/seen", Send: []string{"test", "{new}", "came", "1"}},
		{On: "POST /seeds/:id/recount", Answer: p.recount, Ask: "/seeds/{lot}/recount", Send: []string{"seeds", "-4"}},
		{On: "POST /seeds/:id/merge", Answer: p.merge, Ask: "/seeds/{lot}/merge", Send: []string{"into", "{new}"}},
		{On: "POST /seeds/:id/reshelve", Answer: p.reshelve, Ask: "/seeds/{lot}/reshelve"},
		{On: "POST /seeds/:id/finish", Answer: p.finish, Ask: "/seeds/{lot}/finish", Send: []string{"why", "because"}},
	}
}

// sections are the packets of seed and what they are of.
func sections(*face.Server) []face.Section {
	return []face.Section{
		{Name: "lots", Title: seeds.LotKind.Title, About: seeds.LotKind.About, Sort: seeds.LotKind, May: who.Plan},
		{Name: "varieties", Title: seeds.VarietyKind.Title, About: seeds.VarietyKind.About, Sort: seeds.VarietyKind, May: who.Plan},
	}
}

// adviceWords are what to do with a packet, short and with its reason.
var adviceWords = map[string]struct {
	Word, Why say.Words
	Urgent    bool
}{
	"first": {"sow first", "It is the oldest of its kind that is still good.", false},
	"test":  {"test it", "It is past half its life, and nobody has tested it for a year.", true},
	"throw": {"throw away", "Hardly anything germinates from it any more.", true},
	"buy":   {"get some", "It is empty, and there is no other of its kind.", true},
}

// settle shows the packet again, or says what was kept.
func (s Pages) settle(c *gin.Context, f *face.Form, err error, says say.Text, undo *face.Back) error {
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: says, Back: undo, To: "/seeds/" + c.Param("id")}
	})
}

func (s Pages) begin(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	r := seeds.NewTest{ID: act.ID, Lot: act.On, Begun: seeds.Begun{Seeds: f.Int("seeds", 0), On: f.Get("on"), Light: f.Get("light")}, At: act.At}
	if f.Get("place") != "" {
		place := f.ID("place")
		r.Place = &place
	}
	if !f.Any() {
		err = seeds.BeginTest(ctx, s.Store, w, r)
	}
	return s.settle(c, f, err, say.T("The test has begun. The round asks for its counts."), face.UndoThen(act.ID, "/seeds/"+act.On.String()))
}

func (s Pages) seen(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	r := seeds.SawTest{
		ID: act.ID, Lot: act.On, Test: f.ID("test"), Came: f.Int("came", -1), Bad: f.Int("bad", 0), Over: f.Get("over") != "", At: act.At,
	}
	if !f.Any() {
		err = seeds.CountTest(ctx, s.Store, w, r)
	}
	says := say.T("Counted.")
	if r.Over {
		says = say.T("Counted, and the test is over. Sowings from this packet now use its result.")
	}
	return s.settle(c, f, err, says, face.UndoThen(act.ID, "/seeds/"+act.On.String()))
}

// heldOf is what a packet holds, as typed: by number or by weight.
func heldOf(f *face.Form) (seeds *int, grams *float64) {
	if f.Text("seeds") != "" {
		n := f.Int("seeds", 0)
		seeds = &n
	}
	return seeds, f.Number("grams", "g")
}

func (s Pages) recount(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	n, grams := heldOf(f)
	undo, err := s.countedBefore(c, id, "/recount")
	if err != nil {
		return err
	}
	if !f.Any() {
		err = seeds.Recount(ctx, s.Store, w, id, n, grams)
	}
	return s.settle(c, f, err, say.T("Saved: that many are in it now."), undo)
}

func (s Pages) merge(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	into := f.ID("into")
	if !f.Any() {
		err = seeds.Merge(ctx, s.Store, w, seeds.Pouring{From: id, Into: into})
	}
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Poured together. This packet holds both from now on."), To: "/seeds/" + into.String()}
	})
}

func (s Pages) finish(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	undo, err := s.countedBefore(c, id, "/reshelve")
	if err != nil {
		return err
	}
	err = seeds.Finish(ctx, s.Store, w, id, f.Get("why"))
	return s.settle(c, f, err, say.T("It is off the shelf. What was sown from it stays in the records."), undo)
}

// reshelve puts a packet back on the shelf.
func (s Pages) reshelve(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	held, grams := heldOf(f)
	if !f.Any() {
		err = seeds.Reshelve(ctx, s.Store, w, id, held, grams)
	}
	return s.settle(c, f, err, say.T("It is on the shelf again."), nil)
}

// countedBefore is the form that gives a packet the seeds that are in it now.
func (s Pages) countedBefore(c *gin.Context, id uuid.UUID, act string) (*face.Back, error) {
	ctx, w := s.Me(c)
	v, err := seeds.LotKind.Get(ctx, s.Store, w, id)
	undo := face.BackTo("/seeds/" + id.String() + act)
	switch {
	case v.Seeds != nil:
		undo.Fields.Set("seeds", strconv.Itoa(*v.Seeds))
	case v.Grams != nil:
		undo.Fields.Set("grams", w.Prefs.Decimal("%g", *v.Grams))
	case act == "/recount": // nobody had counted them
		return nil, err
	}
	return undo, err
}

func (s Pages) file(c *gin.Context) error {
	ctx, w := s.Me(c)
	shelf, err := seeds.OnShelf(ctx, s.Store, w)
	if err != nil {
		return err
	}
	return s.Send(c, face.File{Type: face.CSV, Name: "seed.csv"}, func(to io.Writer) error { return shelf.WriteCSV(to, w) })
}
