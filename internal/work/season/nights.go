package season

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/cold"
	"ulpa/core/field"
	"ulpa/core/harden"
	"ulpa/core/round"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	walk "ulpa/internal/work/round"
)

const ahead = 14 // nights that are read from the forecast

// Cold reads the nights of the school: those that are forecast, those compared, and
// the station's record.
func Cold(ctx context.Context, tx *store.Tx) (s cold.Site, err error) {
	today := tx.Who.Day(tx.Now)
	rows, err := tx.ListNights(ctx, db.ListNightsParams{FromDay: today.UTC(), ToDay: (today + ahead - 1).UTC()})
	if err != nil {
		return s, err
	}
	for _, r := range rows {
		s.Ahead = append(s.Ahead, cold.Night{Day: calendar.Of(r.Day), MinC: r.MinC})
	}
	compared, err := tx.ComparedNights(ctx, today.UTC())
	if err != nil {
		return s, err
	}
	for _, r := range compared {
		s.Compared = append(s.Compared, climate.Pair{SiteC: r.SiteC, StationC: r.MinC})
	}
	record, err := tx.StationNights(ctx, today.UTC())
	for _, r := range record {
		s.Record = append(s.Record, cold.Night{Day: calendar.Of(r.Day), MinC: r.MinC})
	}
	return s, err
}

// Night is one that is written down: what was forecast, and what it came to here.
type Night struct {
	Day   calendar.Day
	MinC  float64
	SiteC *float64 // nil: nobody measured
}

// Nights reads the last two weeks of them and those ahead.
func Nights(ctx context.Context, s *store.Store, w who.Who) (out []Night, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		rows, err := tx.RecentNights(ctx, (w.Day(tx.Now) - 14).UTC())
		for _, r := range rows {
			out = append(out, Night{calendar.Of(r.Day), r.MinC, r.SiteC})
		}
		return err
	})
	return out, err
}

// ForgetNight deletes what was written down of a night.
func ForgetNight(ctx context.Context, s *store.Store, w who.Who, day calendar.Day) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.DropNight(ctx, day.UTC()); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Deleted the night of %s", day.Short())
	})
}

// PutNight writes down a night's forecast low, °C.
func PutNight(ctx context.Context, s *store.Store, w who.Who, n cold.Night) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error { return putNight(ctx, tx, n) })
}

// PutSiteNight writes down what a night that was forecast came to at the school, °C.
func PutSiteNight(ctx context.Context, s *store.Store, w who.Who, n cold.Night) error {
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error { return putSiteNight(ctx, tx, n) })
}

// NightSaid is what was forecast of a night and what it came to, °C; nil: nobody said.
type NightSaid struct {
	Day            calendar.Day
	Forecast, Here *float64
}

// PutNights writes several nights down: all of them, or nothing. What is wrong names the night,
// from 0, before the field.
func PutNights(ctx context.Context, s *store.Store, w who.Who, nights []NightSaid) error {
	for _, n := range nights {
		if n.Forecast != nil {
			if err := w.Must(who.Settings); err != nil {
				return err
			}
		}
	}
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		for i, n := range nights {
			if n.Forecast != nil {
				if err := field.Under(fmt.Sprint(i), putNight(ctx, tx, cold.Night{Day: n.Day, MinC: *n.Forecast})); err != nil {
					return err
				}
			}
			if n.Here != nil {
				if err := field.Under(fmt.Sprint(i), putSiteNight(ctx, tx, cold.Night{Day: n.Day, MinC: *n.Here})); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

func putNight(ctx context.Context, tx *store.Tx, n cold.Night) error {
	if n.MinC < -60 || n.MinC > 50 {
		return field.Refuse("min", "must be −60 to 50 °C")
	}
	return tx.PutNight(ctx, db.PutNightParams{SchoolID: tx.Who.School, Day: n.Day.UTC(), MinC: n.MinC})
}

func putSiteNight(ctx context.Context, tx *store.Tx, n cold.Night) error {
	if n.MinC < -60 || n.MinC > 50 {
		return field.Refuse("site", "must be −60 to 50 °C")
	}
	if n.Day > tx.Who.Day(tx.Now) {
		return field.Refuse("day", "is still to come")
	}
	known, err := tx.PutSiteNight(ctx, db.PutSiteNightParams{Day: n.Day.UTC(), SiteC: n.MinC})
	if err == nil && known == 0 {
		return field.Refuse("day", "has no forecast to compare with; write that down too")
	}
	return err
}

// Opened is on which days the frame was opened over each batch, by what was ticked off.
func Opened(ctx context.Context, tx *store.Tx) (map[uuid.UUID]map[calendar.Day]bool, error) {
	const longest = 200 // days back
	ticks, err := walk.Ticks(ctx, tx, round.OpenFrame, tx.Now.AddDate(0, 0, -longest))
	out := map[uuid.UUID]map[calendar.Day]bool{}
	for _, t := range ticks {
		b, err := uuid.Parse(t.Of)
		if err != nil {
			continue
		}
		if out[b] == nil {
			out[b] = map[calendar.Day]bool{}
		}
		out[b][t.Day] = true
	}
	return out, err
}

// Ramp is the hardening of a batch that was put into a frame, day by day; empty when
// none was begun.
func Ramp(ctx context.Context, s *store.Store, w who.Who, batchID uuid.UUID) (out []harden.Day, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		school, err := Calendar(ctx, tx)
		if err != nil {
			return err
		}
		done, err := Opened(ctx, tx)
		if err != nil {
			return err
		}
		plan := harden.Plan{School: school, DayHours: float64(w.DayEnds-w.DayBegins) / 60, Done: done[batchID]}
		facts, err := tx.FactsAbout(ctx, []uuid.UUID{batchID})
		for _, f := range facts {
			if f.Kind != string(batch.Harden) {
				continue
			}
			var a batch.Act
			if err := json.Unmarshal(f.Data, &a); err != nil {
				return err
			}
			if plan.Steps = a.RampDays; plan.Start == 0 {
				plan.Start = w.Day(f.HappenedAt)
			}
		}
		if plan.Start != 0 {
			out = plan.Ramp(w.Day(tx.Now))
		}
		return err
	})
	return out, err
}
