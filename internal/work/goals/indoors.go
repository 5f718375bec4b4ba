package goals

import (
	"context"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
)

// Begun is when a crop that the school has seed of is begun indoors.
type Begun struct {
	Crop      crop.Crop
	Varieties []string
	plan.Indoors
	Today plan.Indoors // if it is sown today, where its best day is past
	Told  bool         // a date could be found; else nobody has entered frost
	Kept  bool         // it stays under cover here: no day outside is safe
}

// Late tells whether it is not worth sowing any more this year.
func (b Begun) Late(today calendar.Day) bool { return b.Until != 0 && b.Until < today }

// soon is for how many days after its best day a crop is best started still, and half as many before.
const soon = 21

// Past tells whether the best day is past.
func (b Begun) Past(today calendar.Day) bool { return today-b.Sow > soon }

// Due tells whether now is the time to start it.
func (b Begun) Due(today calendar.Day) bool {
	return b.Told && !b.Crop.InPlace && !b.Past(today) && today-b.Sow >= -soon/2
}

// IndoorTable is when to begin what indoors, for everything that grows outside and that there is seed
// of: by this year's frost and calendar, the soonest first, what is too late last.
func IndoorTable(ctx context.Context, s *store.Store, w who.Who) (out []Begun, today calendar.Day, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		today = w.Day(tx.Now)
		st, err := season.GetStation(ctx, tx)
		if err != nil {
			return err
		}
		school, err := season.Calendar(ctx, tx)
		if err != nil {
			return err
		}
		shelf, err := seeds.Read(ctx, tx)
		if err != nil {
			return err
		}
		frosts := cold.FrostsOf(st.Nights, st.Rule, w.South())
		at := map[string]int{}
		for _, l := range shelf.Lots {
			c := l.Crop
			if l.Setup.Retired || l.SeedsLeft != nil && *l.SeedsLeft == 0 || !c.Suits("bed") || c.Sprout() || c.Autumn || !c.FromSeed() {
				continue
			}
			i, known := at[c.ID]
			if !known {
				i, at[c.ID] = len(out), len(out)
				out = append(out, begun(c, frosts, school, today, w))
			}
			if !slices.Contains(out[i].Varieties, l.Variety) {
				out[i].Varieties = append(out[i].Varieties, l.Variety)
			}
		}
		return nil
	})
	slices.SortStableFunc(out, func(a, b Begun) int {
		rank := func(x Begun) int {
			switch {
			case x.Kept || !x.Told:
				return 2
			case x.Late(today):
				return 1
			}
			return 0
		}
		if d := rank(a) - rank(b); d != 0 {
			return d
		}
		return int(a.Sow - b.Sow)
	})
	return out, today, err
}

// begun is when a crop is begun for this year's spring; once it is too late for that, for the next one.
func begun(c crop.Crop, frosts cold.Frosts, school calendar.School, today calendar.Day, w who.Who) Begun {
	b := Begun{Crop: c, Kept: frosts.NeverOut(c)}
	if b.Kept {
		return b
	}
	near := frosts.Spring(today)
	for range 2 {
		safe, ok := frosts.Safe(c, near)
		if !ok {
			return b
		}
		in, chilled := frosts.InBy(c, near+180)
		if !chilled && w.Latitude != nil { // frost does it no harm, but the days are short
			in, chilled = climate.ShortDays(*w.Latitude, near+60)
		}
		if !chilled {
			in = near + 180
		}
		b.Indoors, b.Told = plan.StartIndoors(c, safe, in, school), true
		if b.Today = b.SownOn(max(today, b.Sow), c, school); !b.Late(today) {
			return b
		}
		near += 365
	}
	return b
}
