package round

import (
	"context"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/round"
	"ulpa/core/tank"
	"ulpa/core/vessel"
	"ulpa/internal/nursery"
	"ulpa/internal/site"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// fares is what there is to fare while nobody is there: the walk's school, and the trays
// and pots that something stands in.
func fares(
	ctx context.Context,
	tx *store.Tx,
	school round.School,
	places []site.Place,
	lines []nursery.Line,
	parts []db.TraysOfBatchesRow,
) (in away.Input, err error) {
	in.School = school
	row, err := tx.GetSchool(ctx)
	if err != nil {
		return in, err
	}
	trays, err := site.Trays(ctx, tx)
	if err != nil {
		return in, err
	}
	sizes, err := site.PotKind.All(ctx, tx)
	if err != nil {
		return in, err
	}
	air := map[uuid.UUID]away.Air{}
	for _, p := range places {
		a := away.Air{TempC: p.TemperatureC, Humidity: p.Humidity}
		if row.Latitude != nil {
			a.LightMol = p.LightMol(*row.Latitude, school.Today)
		}
		air[p.ID] = a
	}
	for _, t := range trays {
		x := away.Tray{
			ID: t.ID.String(), Name: t.Name, Place: t.Place.String(), All: t.Cells(), CellML: t.CellML, Drains: t.Drains, Air: air[t.Place],
		}
		for _, p := range parts {
			if p.TrayID == t.ID {
				x.Cells += p.Waiting + p.Standing
				x.Up += p.Standing
			}
		}
		if x.Cells > 0 {
			in.Trays = append(in.Trays, x)
		}
	}
	for _, l := range lines {
		for _, x := range l.Potted {
			i := slices.IndexFunc(sizes, func(p site.PotSetup) bool { return p.ID == x.Size })
			if i < 0 {
				continue
			}
			filled, err := vessel.FillPots(vessel.PotsInput{Pot: sizes[i].Pot().Vessel(), Count: 1})
			if err != nil {
				continue // its measures say nothing
			}
			top := sizes[i].TopCM * sizes[i].TopCM
			if !sizes[i].Square {
				top *= math.Pi / 4
			}
			in.Pots = append(in.Pots, away.Pots{
				Batch: l.ID.String(), Code: l.Code, Pot: x.Pot, Place: x.Place.String(), Plants: x.Plants,
				PotML: 1000 * filled.PotL, TopCM2: top, Air: air[x.Place],
			})
		}
	}
	return in, nil
}

// spansAhead and spansBack are for how many days the stretches are told on which nobody is there.
const (
	spansAhead = 40
	spansBack  = 30
)

// Absence is how a school fares while nobody is there, and how it did before.
type Absence struct {
	away.Plan
	Coming []away.Span
	Past   []Came
	Now    time.Time
}

// Came is a stretch that is over, with what was foretold of it beside what was found.
type Came struct {
	away.Span
	Tanks []Found
}

// Found is a tank after such a stretch.
type Found struct {
	Tank, Name string
	tank.Stretch
}

// Away foretells the stretch that follows a day, or the next one when that is 0. A day that
// is followed by none is refused.
func Away(ctx context.Context, s *store.Store, w who.Who, from calendar.Day) (Absence, error) {
	walk, err := Today(ctx, s, w)
	if err != nil {
		return Absence{}, err
	}
	school := walk.fares.School
	out := Absence{Plan: walk.Away, Coming: away.Coming(school, spansAhead), Now: walk.Now}
	if from != 0 && from != walk.Away.From {
		i := slices.IndexFunc(out.Coming, func(x away.Span) bool { return x.From == from })
		if i < 0 {
			return out, field.Refuse("from", "takes the last day before some closed ones, of the next %d", spansAhead)
		}
		out.Plan = away.Foretell(walk.fares, out.Coming[i])
	}
	for _, span := range away.Past(school, spansBack) {
		came := Came{Span: span}
		for _, t := range school.Tanks {
			for _, x := range t.State.Course.Stretches {
				if x.Spans(span.Leave, span.Return) {
					came.Tanks = append(came.Tanks, Found{t.ID, t.Name, x})
				}
			}
		}
		if len(came.Tanks) > 0 {
			out.Past = append(out.Past, came)
		}
	}
	return out, nil
}
