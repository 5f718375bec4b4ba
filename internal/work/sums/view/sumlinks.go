// Package view leads to sums that are filled in with what is known of a thing.
package view

import (
	"context"
	"net/url"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/season"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sums"
)

// SumLink is a sum that opens filled in with what is known here.
type SumLink struct {
	Name say.Words
	Path string
}

// linkFor is a sum filled in for something, which it then remembers.
func linkFor(name string, input map[string]any, w who.Who, of string) string {
	return sums.Link(name, input, w.Prefs) + "&for=" + url.QueryEscape(of)
}

// TankSums are the sums of a tank.
func TankSums(page solution.Page, w who.Who) []SumLink {
	spec, st := page.Tank.Spec, page.Tank.State
	of := "tank:" + page.Tank.ID.String()
	in := map[string]any{
		"capacity_l":      spec.CapacityL,
		"fill_to_l":       spec.FillToL,
		"ec_target_ms_cm": spec.ECTarget,
		"water_ec_ms_cm":  spec.WaterEC,
	}
	if rise := spec.Rise(); rise > 0 {
		in["stock_ms_cm_per_ml_l"] = rise
	}
	oxygen := map[string]any{"temperature_c": 20.0}
	if st.LevelL != nil {
		in["level_l"] = *st.LevelL
	}
	if st.ECMS != nil {
		in["ec_ms_cm"] = *st.ECMS
	}
	if st.TempC != nil {
		oxygen["temperature_c"] = *st.TempC
	}
	links := []SumLink{{"Drain, water, stock", linkFor("reservoir-adjust", in, w, of)}, {"Oxygen for its roots", linkFor("oxygen", oxygen, w, of)}}
	d, known := st.DoseInput(spec, page.Now)
	if !known || d.Agent == "" {
		return links
	}
	ph := map[string]any{
		"volume_l": d.VolumeL, "ph_now": d.PHNow, "ph_target": d.PHTarget, "alkalinity_mg_l_caco3": float64(int(d.AlkalinityMgLCaCO3*10+0.5)) / 10,
		"phosphorus_mg_l": d.PhosphorusMgL,
		"ec_ms_cm":        d.ECMScm, "temperature_c": d.TemperatureC, "agent": string(d.Agent), "strength_percent": d.StrengthPercent,
	}
	if d.DensityGML > 0 {
		ph["density_g_ml"] = d.DensityGML
	}
	return append(links, SumLink{"How much acid or alkali", linkFor("ph-adjust", ph, w, of)})
}

// BatchSums are the sums of how a batch comes up.
func BatchSums(b batches.Batch, w who.Who) []SumLink {
	of := "batch:" + b.ID.String()
	links := []SumLink{{"How long until they are up", linkFor("germination-time", map[string]any{"crop": crop.Kin(b.Crop.ID), "temperature_c": b.TempC}, w, of)}}
	var counts []any
	last, up := 0.0, 0
	for _, p := range b.Curve.Counts {
		if day := float64(int(p.Day*10+0.5)) / 10; day > last && p.Sprouted >= up {
			counts = append(counts, map[string]any{"day": day, "sprouted": p.Sprouted})
			last, up = day, p.Sprouted
		}
	}
	if len(counts) > 0 {
		links = append(links, SumLink{"What the counts say", linkFor("emergence", map[string]any{"sown": b.State.Sown, "counts": counts}, w, of)})
	}
	return links
}

// AgainSums are the sums of sowing a batch's crop once more.
func AgainSums(b batches.Batch, schedule string, w who.Who) []SumLink {
	g := b.Lot.Germination(b.Crop)
	known := map[string]any{"rate": g.Rate}
	if g.Tested > 0 {
		known = map[string]any{"tested": g.Tested, "sprouted": g.Sprouted}
	}
	rate := map[string]any{
		"plants_wanted":      b.Wanted,
		"cells_per_tray":     24,
		"survival":           b.Crop.Survival,
		"confidence":         0.9,
		"max_seeds_per_cell": max(3, b.Crop.SeedsCell),
		"germination":        known,
	}
	return []SumLink{{"How much to sow of it again", linkFor("seed-rate", rate, w, "batch:"+b.ID.String())}, {"When to sow it again", schedule}}
}

// ScheduleLink is the sum of when to sow a crop, with the school's own days.
func ScheduleLink(ctx context.Context, s *store.Store, w who.Who, x crop.Crop) (string, error) {
	var school calendar.School
	var today calendar.Day
	err := s.Read(ctx, w, func(tx *store.Tx) (err error) {
		today = w.Day(tx.Now)
		school, err = season.Calendar(ctx, tx)
		return err
	})
	stages := []any{map[string]any{"name": w.Prefs.T("nursery"), "days": x.NurseryDays, "hold_days": x.Ready.HoldDays}}
	if x.Growing.Days > 0 {
		stages = append(stages, map[string]any{"name": w.Prefs.T("growing on"), "days": x.Growing.Days, "hold_days": x.Growing.Hold})
	}
	stages = append(stages, map[string]any{"name": w.Prefs.T("to harvest"), "days": x.Cropping.Days, "hold_days": x.Cropping.Hold})
	closed := []any{}
	for _, cl := range school.Closures {
		if cl.To >= today {
			closed = append(closed, map[string]any{"from": cl.From.String(), "to": cl.To.String()})
		}
	}
	in := map[string]any{
		"ready_by":   (today + calendar.Day(x.HarvestDays()+21)).String(),
		"early_days": 7,
		"stages":     stages,
		"workdays":   []any{1, 2, 3, 4, 5},
		"closed":     closed,
	}
	return linkFor("back-schedule", in, w, "crop:"+x.ID), err
}
