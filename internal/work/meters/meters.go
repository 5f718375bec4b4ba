// Package meters is the pens, kits and cards that readings are made with: what each is worth
// by its last calibration, and when it is due.
//
//	list, err := meters.All(ctx, store, who)
//	pen, err := meters.Calibrate(ctx, store, who, id, list[0].ID, meters.Buffers{Points: points}, time.Time{})
package meters

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/gauge"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// Setup is a meter as it is set up.
type Setup struct {
	ID      uuid.UUID       `json:"id"`
	Name    string          `json:"name"`
	Kind    gauge.MeterKind `json:"kind"`
	Place   uuid.UUID       `json:"place"`           // where it is kept
	DueDays int             `json:"due_days"`        // after which it is calibrated again; 0: nobody asks
	Steps   string          `json:"steps,omitempty"` // of a colour card: the pH of its fields, as typed
	Retired bool            `json:"retired,omitempty"`
}

// Fields are the pH of the fields of a colour card, in order; none: nobody described them.
func (s Setup) Fields() []float64 {
	list, err := gauge.Steps(s.Steps)
	if err != nil || s.Kind != gauge.Card {
		return nil
	}
	return list
}

// Sorts of meters, and what they are called.
var sorts = []ledger.Option{
	{Value: string(gauge.Both), Name: say.Words("pen for pH and conductivity")},
	{Value: string(gauge.PHOnly), Name: say.Words("pH pen")},
	{Value: string(gauge.ECOnly), Name: say.Words("conductivity pen")},
	{Value: string(gauge.Drops), Name: say.Words("drop kit")},
	{Value: string(gauge.Card), Name: say.Words("colour card")},
	{Value: string(gauge.Thermo), Name: say.Words("thermometer")},
	{Value: string(gauge.Dip), Name: say.Words("dip stick")},
}

// SortName is what a sort of meter is called.
func SortName(k gauge.MeterKind) say.Text {
	for _, s := range sorts {
		if s.Value == string(k) {
			return s.Name
		}
	}
	return say.Name(string(k))
}

// Kind is how meters are set up.
var Kind = &things.Kind[Setup]{
	Name: "meters", One: "meter##thing", Add: "Add a meter", Title: "Meters",
	About: "Pens, drop kits, cards and thermometers. A pen is put into its buffers on its own page; the round asks for it.",
	May:   who.Settings,
	Fields: []ledger.Field[Setup]{
		ledger.Short("name", "Name", func(s *Setup) *string { return &s.Name }),
		ledger.PickOf("kind", "What it is", sorts, func(s *Setup) *string { return (*string)(&s.Kind) }),
		ledger.PickID("place", "Stored at", func(s *Setup) *uuid.UUID { return &s.Place }),
		ledger.Number("due_days", "Calibrated again after so many days", func(s *Setup) *int { return &s.DueDays }).Hinted("0: the round does not ask."),
		ledger.Short("steps", "The fields of the card", func(s *Setup) *string { return &s.Steps }).Where("kind", string(gauge.Card)).
			Hinted("The pH of each field, with a space between: 5 5.5 6. A colour is then read as between two of them."),
	},
	ID:      func(s *Setup) *uuid.UUID { return &s.ID },
	Retired: func(s *Setup) *bool { return &s.Retired },
	Blank:   func() Setup { return Setup{Kind: gauge.Both, DueDays: 14} },
	Pick:    site.PickPlace,
	All: func(ctx context.Context, tx *store.Tx) (out []Setup, err error) {
		rows, err := tx.AllMeters(ctx)
		for _, r := range rows {
			out = append(out, Setup{r.ID, r.Name, gauge.MeterKind(r.Kind), r.PlaceID, r.DueDays, r.Steps, r.Retired})
		}
		return out, err
	},
	Label: func(s Setup) string { return s.Name },
	Page:  func(s Setup) string { return "/meters/" + s.ID.String() },
	Says:  func(s Setup) say.Text { return SortName(s.Kind) },
	Check: func(ctx context.Context, tx *store.Tx, _, s *Setup) error {
		var e field.Errors
		s.Name = name.Take(&e, "name", s.Name, 60)
		known := false
		for _, x := range sorts {
			known = known || x.Value == string(s.Kind)
		}
		e.Require(known, "kind", "must be one of these")
		e.Require(s.DueDays >= 0 && s.DueDays <= 400, "due_days", "must be 0 to 400")
		if s.Kind != gauge.Card {
			s.Steps = ""
		} else if s.Steps != "" {
			_, err := gauge.Steps(s.Steps)
			e.Join(err)
		}
		if _, err := site.GetPlace(ctx, tx, s.Place); err != nil {
			e.Add("place", "choose a place")
		}
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *Setup, s Setup) error {
		return tx.PutMeter(ctx, db.PutMeterParams{
			SchoolID: tx.Who.School, ID: s.ID, Name: s.Name, Kind: string(s.Kind), PlaceID: s.Place, DueDays: s.DueDays, Retired: s.Retired, Steps: s.Steps,
		})
	},
	Drop: func(ctx context.Context, tx *store.Tx, s Setup) error {
		if err := tx.DropMeter(ctx, s.ID); err != nil {
			return err
		}
		return tx.DropThing(ctx, s.ID)
	},
	Alters: func(ctx context.Context, tx *store.Tx, s Setup) (out []say.Text, err error) {
		m, err := read(ctx, tx, []Setup{s})
		if err == nil && len(m[0].History) > 0 {
			out = append(out, say.T("%s are in the notebook.", say.Plural(len(m[0].History), "calibration")))
		}
		return out, err
	},
}

// Buffers is what a pen showed in its buffers, its standards, or both.
type Buffers struct {
	Points        []gauge.Point    `json:"points,omitempty"` // that show a pH
	SettleSeconds float64          `json:"settle_seconds,omitempty"`
	Standards     []gauge.Standard `json:"standards,omitempty"`
	Compensated   bool             `json:"compensated,omitempty"`
}

// Calibration is that with what it came to.
type Calibration struct {
	Buffers
	Slope    float64 `json:"slope_percent,omitempty"`
	OffsetMV float64 `json:"offset_mv,omitempty"`
	PH       string  `json:"ph,omitempty"` // the verdict
	Factor   float64 `json:"factor,omitempty"`
	EC       string  `json:"ec,omitempty"`
}

const calibration = "calibration"

// Calibrated is a meter put into its buffers.
var Calibrated = ledger.Declare(ledger.Kind[Calibration]{Name: calibration, Says: func(c Calibration) say.Text {
	var parts []say.Text
	if c.PH != "" {
		parts = append(parts, say.T("pH slope %.0f\u00a0%%, offset %.0f mV, %s", c.Slope, c.OffsetMV, VerdictWord(c.PH)))
	}
	if c.EC != "" {
		parts = append(parts, say.T("conductivity factor %.3g, %s", c.Factor, VerdictWord(c.EC)))
	}
	return say.T("Calibrated: %s", say.Join("; ", parts...))
}})

// VerdictWord is a verdict on a pen in a word.
func VerdictWord(v string) say.Words {
	return map[string]say.Words{
		gauge.Repeat: "to be done again", gauge.Replace: "worn out", gauge.Clean: "to be cleaned", gauge.Good: "good##pen", gauge.Adjust: "to be set",
	}[v]
}

// reckon says what buffers come to; refused by field.
func (b Buffers) reckon() (c Calibration, err error) {
	c.Buffers = b
	if len(b.Points) > 0 {
		p, err := gauge.CalibratePen(gauge.PenInput{Points: b.Points, ShowsPH: true, SettleSeconds: b.SettleSeconds})
		if err != nil {
			return c, err
		}
		c.Slope, c.OffsetMV, c.PH = p.SlopePercent, p.OffsetMV, p.Verdict
	}
	if len(b.Standards) > 0 {
		p, err := gauge.CalibrateEC(gauge.ECPenInput{Standards: b.Standards, Compensated: b.Compensated, PerC: gauge.UsualPerC})
		if err != nil {
			return c, err
		}
		c.Factor, c.EC = p.Factor, p.Verdict
	}
	if len(b.Points)+len(b.Standards) == 0 {
		return c, field.Refuse("points", "enter what it showed in two buffers, or in a standard")
	}
	return c, nil
}

// Meter is a meter with its calibrations.
type Meter struct {
	Setup
	PlaceName string
	History   []Dated // in the order of time
	Due       calendar.Day
}

// Dated is a calibration with its day.
type Dated struct {
	On calendar.Day
	Calibration
}

// Last is the latest calibration; ok is false for a meter that nobody calibrated.
func (m Meter) Last() (d Dated, ok bool) {
	if n := len(m.History); n > 0 {
		return m.History[n-1], true
	}
	return d, false
}

// PHError is the standard error of a pH that it reads on a day.
func (m Meter) PHError(today calendar.Day) float64 {
	last, ok := m.Last()
	if !ok || last.PH == "" {
		return gauge.PHWorth(m.Kind, "", 0)
	}
	return gauge.PHWorth(m.Kind, last.PH, float64(today-last.On)/7)
}

func read(ctx context.Context, tx *store.Tx, list []Setup) (out []Meter, err error) {
	var ids []uuid.UUID
	for _, s := range list {
		ids = append(ids, s.ID)
	}
	facts, err := tx.FactsAbout(ctx, ids)
	if err != nil {
		return nil, err
	}
	places, err := site.Places(ctx, tx)
	if err != nil {
		return nil, err
	}
	today := tx.Who.Day(tx.Now)
	for _, s := range list {
		m := Meter{Setup: s}
		for _, p := range places {
			if p.ID == s.Place {
				m.PlaceName = p.Name
			}
		}
		for _, f := range facts {
			if f.ThingID != s.ID || f.Kind != calibration {
				continue
			}
			d := Dated{On: tx.Who.Day(f.HappenedAt)}
			if err := json.Unmarshal(f.Data, &d.Calibration); err != nil {
				return nil, err
			}
			m.History = append(m.History, d)
		}
		if s.DueDays > 0 && s.Kind.Calibrated() {
			m.Due = today
			if last, ok := m.Last(); ok {
				m.Due = last.On + calendar.Day(s.DueDays)
			}
		}
		out = append(out, m)
	}
	return out, nil
}

var full = things.Full[Setup, Meter]{Kind: Kind, Read: read}

// Read lists the meters that are in use.
func Read(ctx context.Context, tx *store.Tx) ([]Meter, error) { return full.InUse(ctx, tx) }

// All is Read in a transaction of its own.
func All(ctx context.Context, s *store.Store, w who.Who) ([]Meter, error) { return full.All(ctx, s, w) }

// Get is one of them, a retired one too.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (Meter, error) {
	return full.Get(ctx, s, w, id)
}

// Calibrate records what a meter showed, and says what it is worth.
func Calibrate(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, b Buffers) (c Calibration, err error) {
	if err := w.Must(who.Measure); err != nil {
		return c, err
	}
	if c, err = b.reckon(); err != nil {
		return c, err
	}
	return c, ledger.Once(ctx, s, w, ledger.Sent{ID: act.ID, Verb: "meters.Calibrate", What: []any{act.On, b, act.At}}, func(tx *store.Tx) error {
		m, err := full.One(ctx, tx, act.On)
		if err != nil {
			return err
		}
		if !m.Kind.Calibrated() {
			return field.Refuse("points", "for pens only")
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{
			ID: act.ID, Kind: Calibrated.Name, HappenedAt: act.At, About: []uuid.UUID{act.On, m.Place}, Data: c, Names: m.Name,
		})
		return err
	})
}

// Worth is how far a pH read with a meter may be out today, as people read it.
func (m Meter) Worth(today calendar.Day) say.Text {
	return say.T("pH give or take %.2f", m.PHError(today))
}

// OnCard is the pH of a colour that was seen on a card of the school's.
func OnCard(ctx context.Context, tx *store.Tx, card uuid.UUID, c gauge.Seen) (gauge.Judged, error) {
	m, err := full.One(ctx, tx, card)
	if err != nil {
		return gauge.Judged{}, store.Missing(err, "card", "choose a card")
	}
	return c.Judge(m.Fields())
}

// PHErrorOf is the standard error of a pH that was read with a meter on a day.
func PHErrorOf(ctx context.Context, tx *store.Tx, meter string, day calendar.Day) (float64, error) {
	id, err := uuid.Parse(meter)
	if err != nil {
		return 0, field.Refuse("with", "choose a meter")
	}
	m, err := full.One(ctx, tx, id)
	if err != nil {
		return 0, store.Missing(err, "with", "choose a meter")
	}
	if !m.Kind.ReadsPH() {
		return 0, field.Refuse("with", "does not read pH")
	}
	return m.PHError(day), nil
}
