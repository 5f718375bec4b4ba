package api

import (
	"net/http"
	"time"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/working"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/mixing"
	"ulpa/internal/work/solution"
)

type waterOut struct {
	Tank   uuid.UUID  `json:"tank"`
	Name   string     `json:"name"`
	ReadAt *time.Time `json:"read_at,omitempty"`
	PH     *float64   `json:"ph,omitempty"`
	ECMS   *float64   `json:"ec_ms_cm,omitempty"`
	TempC  *float64   `json:"temperature_c,omitempty"`
	LevelL *float64   `json:"level_l,omitempty" jsonschema_description:"when it was last read, or worked out as something was added"`
	NowL   *float64   `json:"level_now_l,omitempty" jsonschema_description:"with what plants have drunk since"`
	Needs  bool       `json:"needs" jsonschema_description:"something is to be done"`
	Now    bool       `json:"now" jsonschema_description:"and it costs something to wait"`
	Adult  bool       `json:"adult_only" jsonschema_description:"what is advised is for an adult"`
}

type adviceOut struct {
	waterOut
	Acts     []actOut       `json:"acts"`
	Why      []string       `json:"why"`
	Cautions []string       `json:"cautions"`
	Plan     treatmentOut   `json:"plan" jsonschema_description:"how much of what is advised"`
	Working  []working.Step `json:"working"`
	Ahead    outlookOut     `json:"when_somebody_is_back" jsonschema_description:"if nothing is done"`
	Change   changeOut      `json:"change"`
	Doses    []doseOut      `json:"doses" jsonschema_description:"the last ones: forecast and result"`
}

type guessOut struct {
	Mean  float64 `json:"mean"`
	Error float64 `json:"error" jsonschema_description:"standard error"`
}

type outlookOut struct {
	At     time.Time `json:"at"`
	LevelL *guessOut `json:"level_l,omitempty"`
	PH     *guessOut `json:"ph,omitempty"`
	ECMS   *guessOut `json:"ec_ms_cm,omitempty"`
}

type changeOut struct {
	Times    float64  `json:"times" jsonschema_description:"salts that plants do not take up, as a multiple of those in the source water"`
	Replaced float64  `json:"topped_up_over" jsonschema_description:"how many times since all of it was changed"`
	Sodium   *float64 `json:"na_mg_l,omitempty"`
	Chloride *float64 `json:"cl_mg_l,omitempty"`
	Due      bool     `json:"due"`
	Share    float64  `json:"drain_share"`
	Why      string   `json:"why,omitempty"`
}

type doseOut struct {
	At         time.Time `json:"at"`
	Agent      string    `json:"agent"`
	Amount     float64   `json:"amount"`
	Unit       string    `json:"unit"`
	Was        float64   `json:"ph_before"`
	Low        float64   `json:"foretold_low" jsonschema_description:"nine times in ten"`
	High       float64   `json:"foretold_high"`
	Found      float64   `json:"ph_found"`
	Alkalinity float64   `json:"alkalinity_mg_l" jsonschema_description:"as it was estimated, as CaCO3"`
}

// actOut is one thing to do: read, drain, water and so on.
type actOut struct {
	Do     string  `json:"do"`
	Amount float64 `json:"amount"`
	Unit   string  `json:"unit,omitempty"`
	What   string  `json:"what,omitempty"`
}

type treatmentOut struct {
	DrainL  float64 `json:"drain_l"`
	WaterL  float64 `json:"water_l"`
	StockML float64 `json:"stock_ml" jsonschema_description:"of each part"`
	Spoons  float64 `json:"spoons,omitempty" jsonschema_description:"level teaspoons of a powder, where that is the feed"`
	Agent   string  `json:"agent,omitempty"`
	Amount  float64 `json:"amount" jsonschema_description:"of the acid or alkali on the shelf, in unit"`
	Unit    string  `json:"unit,omitempty"`
}

type readingIn struct {
	done
	PH      *float64 `json:"ph,omitempty"`
	ECMS    *float64 `json:"ec_ms_cm,omitempty"`
	TempC   *float64 `json:"temperature_c,omitempty"`
	LevelL  *float64 `json:"level_l,omitempty"`
	RootsCM *float64 `json:"roots_cm,omitempty" jsonschema_description:"of a jar: how far roots hang below the net pot"`
	DepthCM *float64 `json:"depth_cm,omitempty" jsonschema_description:"read on a stick, instead of the level, where the tank’s shape is entered"`
	With    string   `json:"with,omitempty"`
	Meter   string   `json:"meter,omitempty" jsonschema_description:"the id of the meter that the pH was read with"`
	Card    *cardIn  `json:"card,omitempty" jsonschema_description:"a colour that was seen on a card of the school's, instead of the pH"`
	Sure    bool     `json:"sure,omitempty"`
}

type stockLevelOut struct {
	ID     uuid.UUID `json:"id"`
	Name   string    `json:"name"`
	HoldsL float64   `json:"holds_l" jsonschema_description:"each of the two"`
	LeftL  *float64  `json:"left_l,omitempty" jsonschema_description:"in each; if left out: nothing was mixed yet"`
	LDay   float64   `json:"litres_day"`
	Days   *float64  `json:"days_left,omitempty"`
}

func stockLevels(c *call) (any, error) {
	all, err := mixing.Levels(c.ctx, c.Store, c.w)
	if err != nil {
		return nil, err
	}
	var out []stockLevelOut
	for _, l := range all {
		x := stockLevelOut{ID: l.ID, Name: l.Name, HoldsL: l.HoldsL, LDay: l.LDay, Days: l.Days}
		if l.Known {
			x.LeftL = &l.LeftL
		}
		out = append(out, x)
	}
	return page(c, out, func(x stockLevelOut) string { return x.ID.String() })
}

type cardIn struct {
	Meter uuid.UUID `json:"meter" jsonschema_description:"the card"`
	gauge.Seen
}

type treatmentIn struct {
	done
	DrainL  float64         `json:"drain_l,omitempty"`
	WaterL  float64         `json:"water_l,omitempty"`
	StockML float64         `json:"stock_ml,omitempty"`
	Spoons  float64         `json:"spoons,omitempty"`
	Agent   chemistry.Agent `json:"agent,omitempty"`
	Amount  float64         `json:"amount,omitempty"`
	Sure    bool            `json:"sure,omitempty"`
}

type treatmentsIn struct {
	Treatments []tankTreatmentIn `json:"treatments" jsonschema_description:"all are saved, or none of them; 1 to 100"`
}

type tankTreatmentIn struct {
	Tank uuid.UUID `json:"tank"`
	treatmentIn
}

// pastOut is something that was read of a tank, or done to it.
type pastOut struct {
	ID        uuid.UUID     `json:"id"`
	At        time.Time     `json:"at"`
	Reading   *readOut      `json:"reading,omitempty"`
	Treatment *treatmentOut `json:"treatment,omitempty"`
}

type readOut struct {
	PH      *float64 `json:"ph,omitempty"`
	ECMS    *float64 `json:"ec_ms_cm,omitempty"`
	TempC   *float64 `json:"temperature_c,omitempty"`
	LevelL  *float64 `json:"level_l,omitempty"`
	RootsCM *float64 `json:"roots_cm,omitempty"`
}

func treatmentOf(t tank.Treatment) treatmentOut {
	return treatmentOut{t.DrainL, t.WaterL, t.StockML, t.Spoons, string(t.Agent), t.Amount, t.Unit}
}

func waterOf(t ledger.Tank, a tank.Advice, now time.Time) waterOut {
	s := t.State
	out := waterOut{t.ID, t.Name, s.ReadAt, s.PH, s.ECMS, s.TempC, s.LevelL, nil, a.Needs, a.Now, a.Adult}
	if s.LevelL != nil {
		out.NowL = new(s.LevelOn(t.Spec, now))
	}
	return out
}

func adviceOf(t ledger.Tank, a tank.Advice, now time.Time) adviceOut {
	out := adviceOut{
		waterOut: waterOf(t, a, now), Acts: []actOut{}, Why: said(a.Why), Cautions: said(a.Cautions), Plan: treatmentOf(a.Plan), Working: a.Steps,
		Doses: []doseOut{},
	}
	for _, x := range a.Acts {
		act := actOut{Do: x.Do, Amount: x.Amount, Unit: x.Unit}
		if x.What != nil {
			act.What = x.What.String()
		}
		out.Acts = append(out.Acts, act)
	}
	if out.Working == nil {
		out.Working = []working.Step{}
	}
	return out
}

// pageOf is an advice with how the tank runs by itself.
func pageOf(p solution.Page) adviceOut {
	out, c := adviceOf(p.Tank, p.Advice, p.Now), p.Changing
	guess := func(g *tank.Guess) *guessOut {
		if g == nil {
			return nil
		}
		return &guessOut{g.Mean, g.Error}
	}
	out.Ahead = outlookOut{p.Next.At, guess(p.Outlook.Level), guess(p.Outlook.PH), guess(p.Outlook.EC)}
	out.Change = changeOut{c.Times, c.Replaced, c.Sodium, c.Chloride, c.Due, c.Share, ""}
	if c.Why != nil {
		out.Change.Why = c.Why.String()
	}
	for _, d := range p.Doses {
		out.Doses = append(out.Doses, doseOut{
			d.At, string(d.Product.Agent), d.Amount, d.Product.Unit(), d.Was, d.Foretold.P5, d.Foretold.P95, d.Found, d.Alkalinity.P50,
		})
	}
	return out
}

type monthOut struct {
	Month     calendar.Day `json:"month" jsonschema_description:"its first day"`
	DrunkL    float64      `json:"drunk_l"`
	PouredL   float64      `json:"poured_l"`
	DrainedL  float64      `json:"drained_l"`
	UnsaidL   float64      `json:"unwritten_l" jsonschema_description:"that must have been added without being written down"`
	Pours     int          `json:"pours"`
	Over      int          `json:"over_roots" jsonschema_description:"pours that were too high for hanging roots"`
	Dry       int          `json:"dry" jsonschema_description:"readings at or below where it counts as dry"`
	LowestCM  *float64     `json:"lowest_cm,omitempty"`
	HighestCM *float64     `json:"highest_cm,omitempty"`
	RootsCM   *float64     `json:"roots_cm,omitempty"`
}

// months are those of a jar; of a tank with a pump there are none.
func months(c *call, id uuid.UUID) (any, error) {
	out := []monthOut{}
	p, err := solution.Get(c.ctx, c.Store, c.w, id)
	if err != nil || p.Strip == nil {
		return out, err
	}
	for _, m := range p.Strip.Months {
		x := monthOut{
			Month: c.w.Day(m.Begins), DrunkL: m.Drunk, PouredL: m.Poured, DrainedL: m.Drained, UnsaidL: m.Unwritten, Pours: m.Pours, Over: m.Over, Dry: m.Dry,
			RootsCM: m.RootsCM,
		}
		if m.HighestCM >= m.LowestCM {
			x.LowestCM, x.HighestCM = &m.LowestCM, &m.HighestCM
		}
		out = append(out, x)
	}
	return out, nil
}

func said(list []say.Text) []string {
	out := []string{}
	for _, t := range list {
		out = append(out, t.String())
	}
	return out
}

func waterOperations() []operation {
	post, get := http.MethodPost, http.MethodGet
	return []operation{
		{
			Method: get, Path: "/water", Summary: "List every tank’s solution and whether it needs something", Query: paging, Out: listOut[waterOut]{},
			Do: func(c *call) (any, error) {
				all, err := solution.All(c.ctx, c.Store, c.w)
				if err != nil {
					return nil, err
				}
				var list []waterOut
				for _, g := range all {
					list = append(list, waterOf(g.Tank, g.Advice, c.Store.Now()))
				}
				return page(c, list, func(x waterOut) string { return x.Tank.String() })
			},
		},
		{Method: get, Path: "/stock-levels", Summary: "Read what is left in stock bottles", Query: paging, Out: listOut[stockLevelOut]{}, Do: stockLevels},
		{Method: get, Path: "/tanks/:id/advice", Summary: "Read the advice: what a tank’s solution needs, with its working", Out: adviceOut{}, Do: onTank(nil)},
		{
			Method: get, Path: "/tanks/:id/months",
			Summary: "Read the months of a jar: what was drunk, what was poured, and pours that were against the rule", Out: []monthOut{},
			Do: ofPlace(months),
		},
		{
			Method: get, Path: "/tanks/:id/past", Summary: "Read a tank’s readings and what was done to it, newest first", Query: paging, Out: listOut[pastOut]{},
			Do: past,
		},
		{
			Method: post, Path: "/tanks/:id/readings", Summary: "Write down a reading", In: readingIn{}, Out: adviceOut{},
			Do: onTank(func(c *call, id uuid.UUID) error {
				var in readingIn
				if err := c.read(&in); err != nil {
					return err
				}
				r := solution.ReadingRequest{
					ID: in.ID, Tank: id, At: in.At, Sure: in.Sure, DepthCM: in.DepthCM,
					Reading: tank.Reading{PH: in.PH, ECMS: in.ECMS, TempC: in.TempC, LevelL: in.LevelL, RootsCM: in.RootsCM, With: in.With, Meter: in.Meter},
				}
				if in.Card != nil {
					r.Card = &solution.Colour{Card: in.Card.Meter, Seen: in.Card.Seen}
				}
				return solution.LogReading(c.ctx, c.Store, c.w, r)
			}),
		},
		{
			Method: post, Path: "/tanks/:id/treatments", Summary: "Write down what was added or drained", In: treatmentIn{}, Out: adviceOut{},
			Do: onTank(func(c *call, id uuid.UUID) error {
				var in treatmentIn
				if err := c.read(&in); err != nil {
					return err
				}
				return solution.Treat(c.ctx, c.Store, c.w, in.request(id))
			}),
		},
		{Method: post, Path: "/treatments", Summary: "Write down what was added to several tanks or jars", In: treatmentsIn{}, Do: treatSeveral},
	}
}

func treatSeveral(c *call) (any, error) {
	var in treatmentsIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	var all []solution.TreatRequest
	for _, x := range in.Treatments {
		all = append(all, x.request(x.Tank))
	}
	return nil, solution.TreatAll(c.ctx, c.Store, c.w, all)
}

// request is what somebody says was added to a tank.
func (in treatmentIn) request(id uuid.UUID) solution.TreatRequest {
	return solution.TreatRequest{
		ID: in.ID, Tank: id, At: in.At, Sure: in.Sure,
		Done: tank.Treatment{DrainL: in.DrainL, WaterL: in.WaterL, StockML: in.StockML, Spoons: in.Spoons, Agent: in.Agent, Amount: in.Amount},
	}
}

// onTank does something to the tank of the path, and answers with what it needs then.
func onTank(act func(*call, uuid.UUID) error) func(*call) (any, error) {
	return func(c *call) (any, error) {
		id, err := c.id("id")
		if err != nil {
			return nil, err
		}
		if act != nil {
			if err := act(c, id); err != nil {
				return nil, err
			}
		}
		p, err := solution.Get(c.ctx, c.Store, c.w, id)
		if err != nil {
			return nil, err
		}
		return pageOf(p), nil
	}
}

func past(c *call) (any, error) {
	id, err := c.id("id")
	if err != nil {
		return nil, err
	}
	p, err := solution.Get(c.ctx, c.Store, c.w, id)
	if err != nil {
		return nil, err
	}
	var list []pastOut
	for i := len(p.Past) - 1; i >= 0; i-- {
		x := p.Past[i]
		out := pastOut{ID: x.ID, At: x.At}
		if r := x.Reading; r != nil {
			out.Reading = &readOut{r.PH, r.ECMS, r.TempC, r.LevelL, r.RootsCM}
		}
		if x.Treat != nil {
			t := treatmentOf(*x.Treat)
			out.Treatment = &t
		}
		list = append(list, out)
	}
	return page(c, list, func(x pastOut) string { return x.ID.String() })
}
