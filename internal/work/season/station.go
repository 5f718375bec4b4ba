package season

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/cold"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// Station is the nearest weather station: its nights, and how the school deals with frost.
type Station struct {
	Name   string
	Nights []climate.Minimum
	Rule   cold.Rule
}

// UsualFrost is how a school deals with frost where it has said nothing.
var UsualFrost = cold.Rule{Way: cold.ByRisk, Risk: 0.1, Leeway: 1}

// GetStation reads the station.
func GetStation(ctx context.Context, tx *store.Tx) (Station, error) {
	st := Station{Rule: UsualFrost}
	rows, err := tx.GetStation(ctx)
	for _, r := range rows {
		st.Name, st.Rule = r.Name, cold.Rule{Way: r.Way, Risk: r.Risk, LastFrost: r.LastFrost, Leeway: r.Leeway}
		var lows []*float64
		if err := json.Unmarshal(r.Minima, &lows); err != nil {
			return st, err
		}
		for i, c := range lows {
			if c != nil && r.FromDay != nil {
				st.Nights = append(st.Nights, climate.Minimum{Day: calendar.Of(*r.FromDay) + calendar.Day(i), C: *c})
			}
		}
	}
	return st, err
}

// Frosts works out the springs of the school's station; they hold until what they were read from changes.
func Frosts(ctx context.Context, tx *store.Tx) (cold.Frosts, error) {
	return store.Keep(ctx, tx, fmt.Sprint("frosts ", tx.Who.South()), func() (f cold.Frosts, err error) {
		st, err := GetStation(ctx, tx)
		if err == nil {
			f = cold.FrostsOf(st.Nights, st.Rule, tx.Who.South())
		}
		return f, err
	})
}

// LookAtFrost is the station with its springs.
func LookAtFrost(ctx context.Context, s *store.Store, w who.Who) (st Station, f cold.Frosts, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		if st, err = GetStation(ctx, tx); err == nil {
			f = cold.FrostsOf(st.Nights, st.Rule, w.South())
		}
		return err
	})
	return st, f, err
}

// PutStation writes down a station's nights in place of those that were there.
func PutStation(ctx context.Context, s *store.Store, w who.Who, called string, nights []climate.Minimum) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	var e field.Errors
	called = name.Line(&e, "name", called, 60)
	e.Require(len(nights) > 0, "text", "has no nights")
	if err := e.Err(); err != nil {
		return err
	}
	first, last := nights[0].Day, nights[len(nights)-1].Day
	e.Require(last-first <= 100*366, "day", "reaches over more than a hundred years")
	if err := e.Err(); err != nil {
		return err
	}
	lows := make([]*float64, last-first+1)
	for _, n := range nights {
		lows[n.Day-first] = &n.C
	}
	text, err := json.Marshal(lows)
	if err != nil {
		return err
	}
	from := first.UTC()
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.PutStation(ctx, db.PutStationParams{SchoolID: w.School, Name: called, FromDay: &from, Minima: text}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Read a weather station’s nights: %s", say.Plural(len(nights), "night"))
	})
}

// SetFrostRule sets how the school deals with frost.
func SetFrostRule(ctx context.Context, s *store.Store, w who.Who, r cold.Rule) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	var e field.Errors
	e.Require(slices.Contains([]string{cold.ByRisk, cold.ByChart}, r.Way), "way", "must be one of these")
	e.Require(r.Risk >= 0.01 && r.Risk <= 0.5, "risk", "must be 1 to 50 %")
	e.Require(r.Leeway >= 0 && r.Leeway <= 4, "leeway", "must be 0 to 4 weeks")
	if _, err := time.Parse("01-02", r.LastFrost); r.LastFrost != "" && err != nil {
		e.Add("last_frost", "must be a month and a day, like 04-28")
	}
	e.Require(r.Way != cold.ByChart || r.LastFrost != "", "last_frost", "the chart counts from the last frost; enter when that usually is")
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		err := tx.PutFrostRule(ctx, db.PutFrostRuleParams{SchoolID: w.School, Way: r.Way, Risk: r.Risk, LastFrost: r.LastFrost, Leeway: r.Leeway})
		if err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Choose how the school deals with frost")
	})
}
