// Package solution is what people do at a tank: read it, ask what to do, and
// write down what they added.
//
//	err := solution.LogReading(ctx, store, who, solution.ReadingRequest{ID: id, Tank: tank, Reading: reading})
//	page, err := solution.Get(ctx, store, who, tank)
//	page.Advice // what to do now
package solution

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/water"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/season"
	"ulpa/internal/work/site"
	"ulpa/internal/work/waters"
)

// Asked is the answer to a reading that hardly can be: nothing has been stored
// until the person says again that it is so.
type Asked []tank.Doubt

// Error lists the questions.
func (a Asked) Error() string { return a.Why().String() }

// Why is the questions, as people read them.
func (a Asked) Why() say.Text {
	var parts []say.Text
	for _, d := range a {
		parts = append(parts, d.Message())
	}
	return say.Join(" ", parts...)
}

// Asks tells that it is a field.Question.
func (Asked) Asks() bool { return true }

var _ field.Question = Asked(nil)

// ReadingRequest is what somebody read at a tank. Sure says that doubtful
// figures were looked at twice.
type ReadingRequest struct {
	ID      uuid.UUID
	Tank    uuid.UUID
	Reading tank.Reading
	DepthCM *float64  `json:",omitempty"` // read on a stick, instead of the level
	Card    *Colour   `json:",omitempty"` // seen on a card, instead of the pH
	Sure    bool      `json:"-"`
	At      time.Time // zero: now
}

// Colour is what was seen on a colour card of the school's.
type Colour struct {
	Card uuid.UUID // the meter
	gauge.Seen
}

// LogReading stores a reading, and tells what had been expected. It asks about
// doubtful figures (Asked) and refuses impossible ones.
func LogReading(ctx context.Context, s *store.Store, w who.Who, r ReadingRequest) error {
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	x := r.Reading
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "solution.LogReading", What: r}, func(tx *store.Tx) error {
		t, err := ledger.LockTank(ctx, tx, r.Tank)
		if err != nil {
			return err
		}
		at := cmp.Or(r.At, tx.Now)
		if r.DepthCM != nil {
			if x.LevelL != nil {
				return field.Refuse("depth", "replaces the level: enter only one of them")
			}
			litres, err := t.Spec.AtDepth(*r.DepthCM)
			if err != nil {
				return err
			}
			x.LevelL = &litres
		}
		if r.Card != nil {
			if x.PH != nil {
				return field.Refuse("card", "replaces the pH: enter only one of them")
			}
			seen, err := meters.OnCard(ctx, tx, r.Card.Card, r.Card.Seen)
			if err != nil {
				return err
			}
			x.PH, x.Meter, x.With = &seen.PH, r.Card.Card.String(), tank.ByCard
			if r.Card.Lamp {
				x.With = tank.ByCardAtLamp
			}
			x.PHErr = seen.Error
		} else if x.PHErr = 0; x.Meter != "" { // what a meter is worth is never taken from whoever sends
			if x.PHErr, err = meters.PHErrorOf(ctx, tx, x.Meter, tx.Who.Day(at)); err != nil {
				return err
			}
		}
		if err := x.Check(t.Spec, at); err != nil {
			return err
		}
		doubts := tank.Doubts(t.Spec, t.State, x, at)
		if len(doubts) > 0 && !r.Sure {
			return Asked(doubts)
		}
		drinkers, err := site.Drinkers(ctx, tx, []ledger.Tank{t})
		if err != nil {
			return err
		}
		n := drinkers[t.ID]
		x.Plants = &n
		_, err = ledger.OnTank(ctx, tx, t, ledger.Fact{ID: r.ID, Kind: Read.Name, HappenedAt: r.At, Data: x})
		return err
	})
}

// TreatRequest is what was really added to a tank.
type TreatRequest struct {
	ID   uuid.UUID
	Tank uuid.UUID
	Done tank.Treatment
	Sure bool      `json:"-"`
	At   time.Time // zero: now
}

// Treat stores what was added. Acid and alkali only in an adult's name. It asks about
// amounts far beyond what was advised, or beyond what the tank can take (Asked).
func Treat(ctx context.Context, s *store.Store, w who.Who, r TreatRequest) error {
	if err := w.Must(r.needs()); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "solution.Treat", What: r}, func(tx *store.Tx) error { return treat(ctx, tx, r) })
}

// mostAtOnce is how many tanks are treated in one go.
const mostAtOnce = 100

// TreatAll stores what was added to several tanks: all of it, or nothing. What is wrong names the
// one it is about, from 0.
func TreatAll(ctx context.Context, s *store.Store, w who.Who, all []TreatRequest) error {
	if len(all) == 0 || len(all) > mostAtOnce {
		return field.Refuse("treatments", "must be 1 to %d", mostAtOnce)
	}
	order := make([]int, len(all)) // two who send the same tanks do not wait for each other
	for i, r := range all {
		if err := w.Must(r.needs()); err != nil {
			return err
		}
		if r.ID == uuid.Nil {
			return field.Refuse(fmt.Sprintf("treatments.%d.id", i), "is missing; load the page again")
		}
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return bytes.Compare(all[a].Tank[:], all[b].Tank[:]) })
	return ledger.Once(ctx, s, w, ledger.Sent{ID: all[0].ID, Verb: "solution.TreatAll", What: all}, func(tx *store.Tx) error {
		for _, i := range order {
			if err := treat(ctx, tx, all[i]); err != nil {
				return under(fmt.Sprintf("treatments.%d", i), err)
			}
		}
		return nil
	})
}

// under says of an error about which of several things it is.
func under(name string, err error) error {
	var asked Asked
	if !errors.As(err, &asked) {
		return field.Under(name, err)
	}
	out := make(Asked, 0, len(asked))
	for _, d := range asked {
		d.Field = name + "." + d.Field
		out = append(out, d)
	}
	return out
}

func (r TreatRequest) needs() who.Ability {
	if r.Done.Amount > 0 {
		return who.Dose
	}
	return who.Record
}

func treat(ctx context.Context, tx *store.Tx, r TreatRequest) error {
	t, err := ledger.LockTank(ctx, tx, r.Tank)
	if err != nil {
		return err
	}
	at := cmp.Or(r.At, tx.Now)
	if err := r.Done.Check(t.Spec, t.State, at); err != nil {
		return err
	}
	if !r.Sure {
		if err := ask(ctx, tx, t, r.Done, at); err != nil {
			return err
		}
	}
	_, err = ledger.OnTank(ctx, tx, t, ledger.Fact{ID: r.ID, Kind: Treated.Name, HappenedAt: r.At, Data: t.Spec.Measured(r.Done)})
	return err
}

// ask looks at an addition before it is kept.
func ask(ctx context.Context, tx *store.Tx, t ledger.Tank, done tank.Treatment, at time.Time) error {
	stand, err := Stand(ctx, tx, []ledger.Tank{t})
	if err != nil {
		return err
	}
	next, err := NextVisit(ctx, tx)
	if err != nil {
		return err
	}
	advised := tank.Advise(stand[0], next, at).Plan
	if doubts := tank.DoubtsOfTreatment(stand[0], advised, done, at); len(doubts) > 0 {
		return Asked(doubts)
	}
	return nil
}

// Page is a tank with its past, its advice and who stands over it.
type Page struct {
	Tank   ledger.Tank
	Place  site.Place
	Past   []ledger.Past
	Advice tank.Advice
	Stand  tank.Tank
	Plants []site.Standing
	Span   Span
	Meter  []Point // from imported logs, by the span's step
	Now    time.Time
	Strip  *tank.Strip // of a jar: its months
	Stays  []site.Stay // of a jar: who lived in it, the oldest first

	Next     tank.Visit   // when somebody is next there
	Outlook  tank.Outlook // what it will have come to then
	Changing tank.Changing
	Doses    []DoseFound // what was forecast of the last ones beside what was found
	Together int         // so many of its last readings of pH count together
}

// Get reads a tank with its last four weeks.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (p Page, err error) {
	return ReadSpan(ctx, s, w, id, Spans[0])
}

// folded is what a tank's page rests on that only changes when somebody writes.
type folded struct {
	tank   ledger.Tank
	past   []ledger.Past
	place  site.Place
	plants []site.Standing
	stand  tank.Tank
	school calendar.School
	water  water.Facts
	doses  []DoseFound
	stays  []site.Stay
}

// ReadSpan reads a tank with a longer past.
func ReadSpan(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, span Span) (p Page, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		p, err = read(ctx, tx, id, span)
		return err
	})
	return p, err
}

func read(ctx context.Context, tx *store.Tx, id uuid.UUID, span Span) (p Page, err error) {
	f, err := store.Keep(ctx, tx, "tank "+id.String()+tx.Minute(), func() (folded, error) { return fold(ctx, tx, id) })
	if err != nil {
		return p, err
	}
	p = Page{Tank: f.tank, Past: f.past, Place: f.place, Plants: f.plants, Stand: f.stand, Span: span, Now: tx.Now}
	p.Next, p.Doses = visit(f.school, tx), f.doses
	p.Advice = tank.Advise(f.stand, p.Next, tx.Now)
	p.Together = f.stand.State.Together()
	p.Outlook = f.stand.State.Foretell(f.tank.Spec, f.stand.Plants, p.Next.At)
	p.Changing = f.stand.State.Change(f.tank.Spec, f.water.Of("na"), f.water.Of("cl"), tx.Now)
	if f.tank.Spec.Passive {
		var planted []time.Time
		for _, l := range f.stays {
			planted = append(planted, l.From.At(0, 0, tx.Who.Zone))
		}
		strip := tank.StripOf(f.tank.Spec, events(f.past), planted, tx.Now, tx.Who.Zone)
		p.Strip, p.Stays = &strip, f.stays
	}
	p.Meter, err = trend(ctx, tx, id, span)
	return p, err
}

func fold(ctx context.Context, tx *store.Tx, id uuid.UUID) (f folded, err error) {
	own, err := store.Keep(ctx, tx, "tank itself "+id.String(), func() (f folded, err error) {
		if f.tank, f.past, err = ledger.FoldTank(ctx, tx, id); err == nil {
			f.doses, err = dosesFound(f.tank, f.past)
		}
		return f, err
	})
	if err != nil {
		return f, err
	}
	f.tank, f.past, f.doses = own.tank, own.past, own.doses
	place, err := site.Load(ctx, tx, f.tank.Place)
	if err != nil {
		return f, err
	}
	if f.place, f.plants = place.Place, place.ByBatch(); f.tank.Spec.Passive {
		f.plants = place.InPort(f.tank.Position)
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return f, err
	}
	for i, x := range f.plants {
		f.plants[i].Crop = book.Find(x.Crop.ID)
	}
	stand, err := Stand(ctx, tx, []ledger.Tank{f.tank})
	if err != nil {
		return f, err
	}
	f.stand = stand[0]
	if f.tank.Water != nil {
		w, err := waters.Read(ctx, tx, *f.tank.Water)
		if err != nil {
			return f, err
		}
		f.water = w.Facts
	}
	if f.school, err = season.Calendar(ctx, tx); err != nil || !f.tank.Spec.Passive {
		return f, err
	}
	f.stays, err = site.StaysAt(ctx, tx, place.Place, tx.Now.AddDate(-1, 0, 0), 1, func(s batch.Spot) int {
		if s.Kind == batch.InPort && s.In == place.ID.String() && place.PortNumber(s.Row, s.Col) == f.tank.Position {
			return 1
		}
		return 0
	})
	return f, err
}

// events are a tank's past as the core goes through it.
func events(past []ledger.Past) (out []tank.Event) {
	for _, x := range past {
		out = append(out, tank.Event{At: x.At, Reading: x.Reading, Treat: x.Treat})
	}
	return out
}

// Glance is one tank in the list, with its place and its advice.
type Glance struct {
	Tank   ledger.Tank
	Place  string
	Advice tank.Advice
}

// All lists every tank with what it needs. It holds until something that it was read from changes, for a
// minute at most.
func All(ctx context.Context, s *store.Store, w who.Who) (out []Glance, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = glances(ctx, tx)
		return err
	})
	return out, err
}

func glances(ctx context.Context, tx *store.Tx) ([]Glance, error) {
	return store.Keep(ctx, tx, "tanks "+tx.Minute(), func() ([]Glance, error) { return all(ctx, tx) })
}

func all(ctx context.Context, tx *store.Tx) (out []Glance, err error) {
	places, err := site.Places(ctx, tx)
	if err != nil {
		return nil, err
	}
	tanks, err := ledger.Tanks(ctx, tx)
	if err != nil {
		return nil, err
	}
	stand, err := Stand(ctx, tx, tanks)
	if err != nil {
		return nil, err
	}
	next, err := NextVisit(ctx, tx)
	for _, p := range places {
		for i, t := range tanks {
			if t.Place == p.ID {
				out = append(out, Glance{t, p.Name, tank.Advise(stand[i], next, tx.Now)})
			}
		}
	}
	return out, err
}
