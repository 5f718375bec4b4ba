package seasontrial

import (
	"net/http"

	"ulpa/core/sim"
	"ulpa/core/sim/play"
)

// station are the nights of the nearest station, of twelve earlier springs in the same climate.
func (u *Ulpa) station(x play.Scenario) error {
	first := x.From - 12*365
	w := sim.NewWeather(7, x.Climate, first, 12*365)
	var nights []some
	for d := first; d < x.From-1; d++ {
		nights = append(nights, some{"day": d, "lowest_c": w.LowC(d)})
	}
	return u.ask.do(http.MethodPut, "/frost/station", some{"name": "The nearest station", "nights": nights}, nil)
}

// setUp writes the school down, as a coordinator would on a first afternoon.
func (u *Ulpa) setUp(w *play.World) error {
	put := func(kind, name string, x some) {
		if u.err != nil {
			return
		}
		id := idOf(kind, name)
		x["id"], x["name"] = id, name
		u.err = u.ask.do(http.MethodPut, "/"+kind+"/"+id, x, nil)
	}
	place := func(name, kind string, order int, c float64, more some) {
		x := some{"kind": kind, "order": order, "tiers": 0, "columns": 0, "length_cm": 200, "width_cm": 80, "temperature_c": c}
		for k, v := range more {
			x[k] = v
		}
		put("places", name, x)
	}
	lamps := some{}
	if w.LampMol > 0 {
		lamps = some{"lamp_umol": w.LampMol / 16 / 3600 * 1e6, "lamp_hours": 16}
	}
	place(bench, "bench", 1, w.BenchC+1.5, lamps)
	house := func(tiers, columns int) some {
		x := some{"tiers": tiers, "columns": columns}
		if w.LampMol > 0 {
			x["lamp_umol"], x["lamp_hours"] = w.LampMol/2/16/3600*1e6, 16
		}
		return x
	}
	place(tower, "tower", 2, 18, house(w.TowerTiers, w.TowerColumn))
	place(raft, "raft", 3, 18, house(w.RaftRows, w.RaftColumns))
	place(jars, "jars", 4, 18, house(1, w.Scenario.Jars))
	place(frame, "frame", 5, 9, nil)
	place(bed, "bed", 6, 9, some{"length_cm": 1000, "width_cm": 120})
	for _, t := range w.Trays {
		put("trays", t.Name, some{
			"place": idOf("places", bench), "rows": w.Rows, "columns": w.Columns,
			"cell_ml": w.CellML, "drains": true, "kind": "cells", "medium": "compost",
		})
	}
	put("pots", "Litre pots", some{"top_cm": 13, "bottom_cm": 9.5, "height_cm": 11.5, "square": false, "owned": 300, "dirty": 0, "days": 42})
	for crop, l := range w.Lots {
		put("lots", crop, some{"crop": crop, "variety": "Any", "packed": 2026, "label_rate": l.Label, "seeds_left": 6000, "origin": "bought"})
	}
	spec := some{
		"capacity_l": 62, "fill_to_l": 57, "dry_below_l": 12, "water_ec": w.TapEC, "water_alkalinity": w.Alkalinity, "stock_rise": 0.23,
		"acid":   some{"agent": "phosphoric_acid", "strength_percent": 30, "density_g_ml": 1.18},
		"ph_low": 5.5, "ph_target": 5.9, "ph_high": 6.3, "ec_low": 1, "ec_target": 1.4, "ec_high": 1.9, "read_every_days": 3,
		"base": some{"agent": "potassium_bicarbonate", "strength_percent": 99}, "phosphorus_mg_l": 30, "stock_name": "A and B",
	}
	with := func(more some) some {
		x := some{}
		for _, m := range []some{spec, more} {
			for k, v := range m {
				x[k] = v
			}
		}
		return x
	}
	put("tanks", tower, some{"place": idOf("places", tower), "port": 0, "spec": spec})
	put("tanks", raft, some{"place": idOf("places", raft), "port": 0, "spec": with(some{"capacity_l": 220, "fill_to_l": 200, "dry_below_l": 110})})
	for i, j := range w.Jars {
		put("tanks", j.Name, some{"place": idOf("places", jars), "port": i + 1, "spec": with(some{
			"capacity_l": 3.8, "fill_to_l": 3.8 * j.PotCM / 17, "dry_below_l": 0.12 * 3.8, "passive": true, "filled": "foot", "height_cm": 17, "pot_foot_cm": j.PotCM,
		})})
	}
	for _, c := range w.Closed {
		put("closures", c.Name, some{"from": c.From, "to": c.To})
	}
	if u.err == nil {
		u.err = u.station(w.Scenario)
	}
	for i := range w.Wants {
		u.goal(&w.Wants[i], put)
	}
	return u.err
}

// goal writes down what is wanted.
func (u *Ulpa) goal(want *play.Want, put func(kind, name string, x some)) {
	x := some{"kind": "weekly", "crop": want.Crop, "wanted": want.Plants, "from": want.From, "by": want.By, "harvest": true, "missing": "should", "sure": 0.9}
	switch {
	case want.Weekly:
		x["wanted"], x["grams"], x["plant_g"] = 0, want.Grams*float64(want.Plants), want.Grams
		x["weekday"] = "4"
	default:
		x["kind"], x["harvest"], x["missing"] = "ready", false, "must"
	}
	put("goals", want.Name, x)
	u.wants[idOf("goals", want.Name)] = want
}

// The places of the school by their names.
const (
	bench = "Nursery bench"
	tower = "Tower"
	raft  = "Raft"
	jars  = "Jars"
	frame = "Cold frame"
	bed   = "Bed"
)
