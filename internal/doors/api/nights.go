package api

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/work/season"
)

type nightOut struct {
	Day   calendar.Day `json:"day"`
	MinC  float64      `json:"forecast_c"`
	SiteC *float64     `json:"here_c,omitempty"`
}

type nightIn struct {
	MinC  *float64 `json:"forecast_c,omitempty"`
	SiteC *float64 `json:"here_c,omitempty" jsonschema_description:"what was measured at the school"`
}

type nightsIn struct {
	Nights []nightOn `json:"nights"`
}

type nightOn struct {
	Day calendar.Day `json:"day"`
	nightIn
}

func putNight(c *call) (any, error) {
	day, err := calendar.ParseDay(c.gin.Param("day"))
	if err != nil {
		return nil, field.Errors{{Field: "day", Message: say.Why(err)}}
	}
	var in nightIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	err = writeNights(c, []nightOn{{day, in}})
	return nil, renamed(err, func(name string) string { return strings.TrimPrefix(name, "nights.0.") })
}

func putNights(c *call) (any, error) {
	var in nightsIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	return nil, writeNights(c, in.Nights)
}

func writeNights(c *call, nights []nightOn) error {
	var all []season.NightSaid
	for i, n := range nights {
		if n.MinC == nil && n.SiteC == nil {
			return field.Refuse(fmt.Sprintf("nights.%d.forecast_c", i), "enter the lowest temperature forecast")
		}
		all = append(all, season.NightSaid{Day: n.Day, Forecast: n.MinC, Here: n.SiteC})
	}
	called := strings.NewReplacer(".min", ".forecast_c", ".site", ".here_c")
	return renamed(season.PutNights(c.ctx, c.Store, c.w, all), func(name string) string { return "nights." + called.Replace(name) })
}

// renamed gives the fields of an error the names by which they were sent.
func renamed(err error, name func(string) string) error {
	var refused field.Errors
	if !errors.As(err, &refused) {
		return err
	}
	out := slices.Clone(refused)
	for i := range out {
		out[i].Field = name(out[i].Field)
	}
	return out
}
