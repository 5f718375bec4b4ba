// Package pages is rafts as people see and keep them: the water with its boards, what is
// to be done, what comes in which week, and what was harvested from a board.
package pages

import (
	"embed"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/raft"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/rafts"
	"ulpa/internal/work/site"
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
		{On: "GET /rafts/:id", Answer: p.page, Ask: "/rafts/{raft}"},
		{On: "GET /rafts/:id/boards/:board", Answer: p.history, Ask: "/rafts/{raft}/boards/1"},
		{On: "POST /rafts/:id/boards", Answer: p.move, Ask: "/rafts/{raft}/boards", Send: []string{"order", "2 3 4 1", "scrubbed", "1"}},
		{On: "POST /rafts/:id/plant", Answer: p.plant, Ask: "/rafts/{raft}/plant", Send: []string{"batch", "{batch}", "board", "2", "plants", "1"}},
		{On: "POST /rafts/:id/harvest", Answer: p.harvest, Ask: "/rafts/{raft}/harvest", Send: []string{"batch", "{batch}", "board", "1", "grams", "100"}},
	}
}

func (s Pages) page(c *gin.Context) error {
	_, w := s.Me(c)
	return s.show(c, http.StatusOK, face.BlankForm(w.Prefs))
}

// acted answers one of the page's forms.
func (s Pages) acted(c *gin.Context, says say.Words, do func(*face.Form, ledger.Act) error) error {
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	if !f.Any() {
		err = do(f, act)
	}
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T(says), Undo: act.ID, To: "/rafts/" + act.On.String()}
	})
}

func (s Pages) move(c *gin.Context) error {
	ctx, w := s.Me(c)
	return s.acted(c, "Written down: this is how the boards float now.", func(f *face.Form, act ledger.Act) error {
		q := site.BoardsRequest{ID: act.ID, Place: act.On, At: act.At}
		q.Order, q.Was, q.Scrubbed = numbersIn(f, "order"), numbersIn(f, "was"), numbersIn(f, "scrubbed")
		if f.Any() {
			return nil
		}
		return site.MoveBoards(ctx, s.Store, w, q)
	})
}

// numbersIn reads numbers of boards, as 4 1 2 3 or 4, 1, 2, 3.
func numbersIn(f *face.Form, name string) (out []int) {
	for _, word := range strings.FieldsFunc(strings.Join(f.Values[name], " "), func(r rune) bool { return r == ' ' || r == ',' || r == ';' }) {
		n, err := strconv.Atoi(word)
		if err != nil || n < 1 || n > raft.MostBoards {
			f.Wrong(name, "enter board numbers, such as 4 1 2 3")
			return nil
		}
		out = append(out, n)
	}
	return out
}

// of reads which batch a form is about.
func of(f *face.Form) uuid.UUID {
	id, err := uuid.Parse(f.Get("batch"))
	if err != nil {
		f.Wrong("batch", "choose whose plants")
	}
	return id
}

func (s Pages) plant(c *gin.Context) error {
	ctx, w := s.Me(c)
	return s.acted(c, "Planted. Keep the cubes wet and the leaves dry; check that every root reaches the water.", func(f *face.Form, act ledger.Act) error {
		q := rafts.PlantRequest{ID: act.ID, Place: act.On, Batch: of(f), Board: f.Int("board", 0), Plants: f.Int("plants", 0), At: act.At}
		q.Apart = f.Get("apart") != ""
		if f.Any() {
			return nil
		}
		return store.Missing(rafts.Plant(ctx, s.Store, w, q), "batch", "is not there any more")
	})
}

func (s Pages) harvest(c *gin.Context) error {
	ctx, w := s.Me(c)
	return s.acted(c, "Harvest saved.", func(f *face.Form, act ledger.Act) error {
		q := rafts.HarvestRequest{ID: act.ID, Place: act.On, Batch: of(f), Board: f.Int("board", 0), Grams: f.Amount("grams", unit.Gram), At: act.At}
		q.Sure = f.Get("sure") != ""
		if f.Any() {
			return nil
		}
		return store.Missing(rafts.Harvest(ctx, s.Store, w, q), "batch", "is not there any more")
	})
}

func (s Pages) history(c *gin.Context) error {
	ctx, w := s.Me(c)
	place, err := face.PathID(c)
	if err != nil {
		return err
	}
	n, err := strconv.Atoi(c.Param("board"))
	if err != nil {
		return store.ErrNotFound
	}
	b, err := rafts.BoardOf(ctx, s.Store, w, place, n)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "board", "Places", boardPageOf(b, w))
	return nil
}
