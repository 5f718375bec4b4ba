package api

import (
	"fmt"
	"net/http"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/water"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/people"
	"ulpa/internal/work/season"
	"ulpa/internal/work/waters"
)

// frostOut is what a school knows of frost, and how it deals with it.
type frostOut struct {
	frostRule
	Station string `json:"station"`
	Nights  int    `json:"nights" jsonschema_description:"of the station’s record"`
}

type frostRule struct {
	Way       string  `json:"way" jsonschema:"enum=risk,enum=chart" jsonschema_description:"by the station’s nights, or by weeks from the usual last frost"`
	Risk      float64 `json:"risk" jsonschema_description:"share of springs in which plants may be harmed, 0.01 to 0.5"`
	LastFrost string  `json:"last_frost" jsonschema_description:"its usual day, as 04-28; empty: unknown"`
	Leeway    int     `json:"leeway_weeks" jsonschema_description:"by which the chart may be left, 0 to 4"`
}

type stationIn struct {
	Name   string        `json:"name"`
	Nights []stationNite `json:"nights" jsonschema_description:"in order of days; they replace those that were there"`
}

type stationNite struct {
	Day calendar.Day `json:"day"`
	C   float64      `json:"lowest_c"`
}

// cropOut is a crop as the school knows it.
type cropOut struct {
	ID     string            `json:"id"`
	Name   string            `json:"name"`
	Kind   string            `json:"kind"`
	Out    *calendar.Day     `json:"plant_out_from,omitempty" jsonschema_description:"this spring, by the school’s frosts; if left out: unknown, or at any time"`
	Values map[string]string `json:"values" jsonschema_description:"all of its values as the catalogue writes them, in metric units"`
	Own    []string          `json:"changed" jsonschema_description:"names of the values that the school has changed"`
}

type cropIn struct {
	Values map[string]string `json:"values" jsonschema_description:"those to change; the catalogue’s own value takes a change back"`
}

type analysisIn struct {
	done
	By     string             `json:"by" jsonschema:"enum=report,enum=drops,enum=strip,enum=jar,enum=meter"`
	Values map[string]float64 `json:"values" jsonschema_description:"ec: mS/cm; ph; alkalinity, hardness: mg/L as CaCO3; ca, mg, na, cl, k and others: mg/L"`
}

type calibrationIn struct {
	done
	meters.Buffers
}

type calibrationOut struct {
	Slope    float64 `json:"slope_percent,omitempty"`
	OffsetMV float64 `json:"offset_mv,omitempty"`
	PH       string  `json:"ph_verdict,omitempty"`
	Factor   float64 `json:"ec_factor,omitempty"`
	EC       string  `json:"ec_verdict,omitempty"`
}

func setupOperations() []operation {
	get, post, put := http.MethodGet, http.MethodPost, http.MethodPut
	return []operation{
		{Method: get, Path: "/settings", Summary: "Read what the school is called, where it is and how long it works", Out: people.SchoolFacts{}, Do: readSettings},
		{Method: put, Path: "/settings", Summary: "Save what the school is called, where it is and how long it works", In: people.SchoolFacts{}, Do: putSettings},
		{Method: get, Path: "/frost", Summary: "Read the weather station and how the school deals with frost", Out: frostOut{}, Do: readFrost},
		{Method: put, Path: "/frost", Summary: "Choose how the school deals with frost", In: frostRule{}, Out: frostOut{}, Do: func(c *call) (any, error) {
			var in frostRule
			if err := c.read(&in); err != nil {
				return nil, err
			}
			if err := season.SetFrostRule(c.ctx, c.Store, c.w, cold.Rule{Way: in.Way, Risk: in.Risk, LastFrost: in.LastFrost, Leeway: in.Leeway}); err != nil {
				return nil, err
			}
			return readFrost(c)
		}},
		{Method: put, Path: "/frost/station", Summary: "Save the nights of the nearest weather station", In: stationIn{}, Out: frostOut{}, Do: putStation},
		{Method: get, Path: "/crops", Summary: "List the crops: the catalogue’s and the school’s own", Query: paging, Out: listOut[cropOut]{}, Do: listCrops},
		{Method: get, Path: "/crops/:id", Summary: "Read one crop with its days, rules and all its values", Out: cropOut{}, Do: readCrop},
		{Method: put, Path: "/crops/:id", Summary: "Change values of a crop for this school", In: cropIn{}, Out: cropOut{}, Do: func(c *call) (any, error) {
			var in cropIn
			if err := c.read(&in); err != nil {
				return nil, err
			}
			if err := crops.Set(c.ctx, c.Store, c.w, c.gin.Param("id"), in.Values); err != nil {
				return nil, err
			}
			return readCrop(c)
		}},
		{Method: post, Path: "/waters/:id/analyses", Summary: "Write down what was measured of a water", In: analysisIn{}, Do: func(c *call) (any, error) {
			id, err := c.id("id")
			if err != nil {
				return nil, err
			}
			var in analysisIn
			if err := c.read(&in); err != nil {
				return nil, err
			}
			return nil, waters.Analyse(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, water.Analysis{By: in.By, Values: in.Values})
		}},
		{
			Method: post, Path: "/meters/:id/calibrations", Summary: "Write down what a meter showed in its buffers",
			In: calibrationIn{}, Out: calibrationOut{}, Do: calibrate,
		},
	}
}

func readSettings(c *call) (any, error) {
	return people.FactsOf(c.ctx, c.Store, c.w)
}

func putSettings(c *call) (any, error) {
	var in people.SchoolFacts
	if err := c.read(&in); err != nil {
		return nil, err
	}
	return nil, people.SetSchool(c.ctx, c.Store, c.w, in)
}

func readFrost(c *call) (any, error) {
	st, _, err := season.LookAtFrost(c.ctx, c.Store, c.w)
	return frostOut{frostRule{st.Rule.Way, st.Rule.Risk, st.Rule.LastFrost, st.Rule.Leeway}, st.Name, len(st.Nights)}, err
}

func putStation(c *call) (any, error) {
	var in stationIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	var nights []climate.Minimum
	for i, n := range in.Nights {
		if i > 0 && n.Day <= in.Nights[i-1].Day {
			return nil, field.Refuse(fmt.Sprintf("nights.%d.day", i), "must be later than the day before it")
		}
		nights = append(nights, climate.Minimum{Day: n.Day, C: n.C})
	}
	if err := season.PutStation(c.ctx, c.Store, c.w, in.Name, nights); err != nil {
		return nil, err
	}
	return readFrost(c)
}

func listCrops(c *call) (any, error) {
	book, err := crops.Get(c.ctx, c.Store, c.w)
	if err != nil {
		return nil, err
	}
	_, frosts, err := season.LookAtFrost(c.ctx, c.Store, c.w)
	if err != nil {
		return nil, err
	}
	var list []cropOut
	for _, x := range book.All() {
		list = append(list, cropOf(c, x, frosts))
	}
	return page(c, list, func(x cropOut) string { return x.ID })
}

func readCrop(c *call) (any, error) {
	book, err := crops.Get(c.ctx, c.Store, c.w)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(book.All(), func(x crop.Crop) bool { return x.ID == c.gin.Param("id") })
	if i < 0 {
		return nil, store.ErrNotFound
	}
	_, frosts, err := season.LookAtFrost(c.ctx, c.Store, c.w)
	return cropOf(c, book.All()[i], frosts), err
}

func cropOf(c *call, x crop.Crop, frosts cold.Frosts) cropOut {
	usual, known := crop.Of(x.ID)
	out := cropOut{ID: x.ID, Name: c.w.Prefs.T(x.Name), Kind: x.Kind, Values: map[string]string{}, Own: []string{}}
	for _, k := range crop.Columns {
		if out.Values[k.Name] = k.Of(x); known && k.Of(x) != k.Of(usual) {
			out.Own = append(out.Own, k.Name)
		}
	}
	if day, ok := frosts.Safe(x, c.w.Day(c.Store.Now())); ok {
		out.Out = &day
	}
	return out
}

func calibrate(c *call) (any, error) {
	id, err := c.id("id")
	if err != nil {
		return nil, err
	}
	var in calibrationIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	x, err := meters.Calibrate(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, in.Buffers)
	return calibrationOut{x.Slope, x.OffsetMV, x.PH, x.Factor, x.EC}, err
}
