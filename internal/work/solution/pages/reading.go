package pages

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/chemistry"
	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/solution"
)

// What is written down of a tank from its page: a reading, or what was added.

// readingOf reads a reading in the form's units.
func readingOf(f *face.Form, act ledger.Act) solution.ReadingRequest {
	r := solution.ReadingRequest{
		ID: act.ID, Tank: act.On, Reading: face.Entered(f, solution.Read), DepthCM: f.Number("depth", unit.Centimetre),
		Sure: f.Get("sure") != "", At: act.At, Card: readColour(f),
	}
	switch with := f.Get("with"); {
	case r.Reading.PH == nil:
	case with == tank.ByCard || with == tank.ByCardAtLamp:
		r.Reading.With = with
	case with != "" && with != "pen":
		r.Reading.Meter = with
	}
	return r
}

func (s Pages) readTank(c *gin.Context) error {
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	ctx, w := s.Me(c)
	r, kept := readingOf(f, act), say.T("Reading saved.")
	if !f.Any() {
		if err = solution.LogReading(ctx, s.Store, w, r); err == nil && r.Card != nil {
			kept, err = s.seen(ctx, w, *r.Card)
		}
	}
	return s.settle(c, f, err, face.Outcome{Says: kept, Undo: act.ID, To: "/tanks/" + act.On.String()},
		func(status int, asked solution.Asked) error {
			return s.showTank(c, status, refused{reading: f, asked: asked})
		})
}

// readColour is the colour that was seen on a card; nil: none was.
func readColour(f *face.Form) *solution.Colour {
	card, low, _ := strings.Cut(f.Get("card"), " ")
	if card == "" {
		return nil
	}
	var c solution.Colour
	var err error
	if c.Card, err = uuid.Parse(card); err != nil {
		f.Wrong("card", "choose two neighbouring fields")
	}
	c.Low, _ = strconv.ParseFloat(low, 64)
	c.Near, _ = strconv.ParseFloat(f.Get("near"), 64)
	c.Lamp = f.Get("lamp") != ""
	return &c
}

// seen says what a card came to, and what that is good enough for.
func (s Pages) seen(ctx context.Context, w who.Who, colour solution.Colour) (say.Text, error) {
	m, err := meters.Get(ctx, s.Store, w, colour.Card)
	if err != nil {
		return nil, err
	}
	x, err := colour.Judge(m.Fields())
	return say.T("Reading saved: pH %.1f ± %.1f, %s.", x.PH, x.Error, gauge.GoodFor(x.Error)), err
}

// settle answers what was written about a tank: what is doubtful is asked about on its page.
func (s Pages) settle(c *gin.Context, f *face.Form, err error, done face.Outcome, show func(status int, asked solution.Asked) error) error {
	var asked solution.Asked
	if errors.As(err, &asked) {
		return show(http.StatusUnprocessableEntity, asked)
	}
	return s.Settle(c, f, err, func(status int) error { return show(status, nil) }, func() face.Outcome { return done })
}

// readTreatment reads what was added in the form's units.
func readTreatment(f *face.Form) tank.Treatment {
	t := face.Entered(f, solution.Treated)
	if t.Amount > 0 {
		t.Agent = chemistry.Agent(f.Get("agent"))
	}
	return t
}

func (s Pages) treatTank(c *gin.Context) error {
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	ctx, w := s.Me(c)
	r := solution.TreatRequest{ID: act.ID, Tank: act.On, Done: readTreatment(f), Sure: f.Get("sure") != "", At: act.At}
	if !f.Any() {
		err = solution.Treat(ctx, s.Store, w, r)
	}
	done := face.Outcome{Says: say.T("Written down. What comes next is under What to do."), Undo: r.ID, To: "/tanks/" + act.On.String()}
	return s.settle(c, f, err, done, func(status int, asked solution.Asked) error {
		return s.showTank(c, status, refused{treatment: f, asked: asked})
	})
}
