package seasontrial

import (
	"math"
	"time"

	"ulpa/core/sim"
	"ulpa/core/sim/play"
)

// tank is the pumped tank of a task; nil: it is about a jar.
func tankOf(w *play.World, id string) *sim.Tank {
	for name, t := range map[string]*sim.Tank{tower: w.TowerTank, raft: w.RaftTank} {
		if idOf("tanks", name) == id {
			return t
		}
	}
	return nil
}

func jarOf(w *play.World, id string) *sim.Jar {
	for _, j := range w.Jars {
		if idOf("tanks", j.Name) == id {
			return j
		}
	}
	return nil
}

// reading reads a tank and does what the answer says: a dose, then after it has mixed another
// reading, until nothing more is advised or the day's patience is over.
func (u *Ulpa) reading(w *play.World, t task, _ *play.Batch) {
	x := tankOf(w, t.Subject.ID)
	for range 4 {
		if x == nil {
			return
		}
		r, told := w.Read(x)
		if !told {
			return
		}
		to := func(v, step float64) float64 { return math.Round(v/step) * step }
		var a advice
		if !u.did(u.ask.post("/tanks/"+t.Subject.ID+"/readings", u.act(some{
			"ph": to(r.PH, 0.01), "ec_ms_cm": to(r.ECMS, 0.01), "level_l": to(r.L, 0.1), "temperature_c": 19, "with": "pen", "sure": true,
		}), &a)) || !u.pour(w, t.Subject.ID, a) && !a.again() {
			return
		}
		u.clock.Stand(u.clock.Now().Add(20 * time.Minute))
	}
}

type advice struct {
	Plan struct {
		DrainL  float64 `json:"drain_l"`
		WaterL  float64 `json:"water_l"`
		StockML float64 `json:"stock_ml"`
		Agent   string  `json:"agent"`
		Amount  float64 `json:"amount"`
		Unit    string  `json:"unit"`
	} `json:"plan"`
	Acts []struct{ Do string } `json:"acts"`
}

// again tells whether another reading is all that is advised.
func (a advice) again() bool { return len(a.Acts) > 0 && a.Acts[0].Do == "read" }

// What the bottle of acid and the bag of alkali hold: 30 % phosphoric acid of 1.18 g/mL, of which
// each mmol gives one meq down to pH 6, and potassium bicarbonate.
const acidMmolML, baseMmolG = 1180 * 0.3 / 97.99, 0.99 * 1000 / 100.12

// treat does what the advice says; a tank with a pump is read again once it has mixed.
func (u *Ulpa) treat(w *play.World, t task, _ *play.Batch) {
	var a advice
	if !u.did(u.ask.get("/tanks/"+t.Subject.ID+"/advice", &a)) {
		return
	}
	if u.pour(w, t.Subject.ID, a) && jarOf(w, t.Subject.ID) == nil && a.Plan.Amount > 0 {
		u.clock.Stand(u.clock.Now().Add(20 * time.Minute))
		u.reading(w, t, nil)
	}
}

// pour drains, pours, feeds and doses as advised, and writes it down; false where nothing is.
func (u *Ulpa) pour(w *play.World, id string, a advice) bool {
	p := a.Plan
	if p.WaterL == 0 && p.DrainL == 0 && p.StockML == 0 && p.Amount == 0 {
		return false
	}
	done := some{"drain_l": p.DrainL, "water_l": p.WaterL, "stock_ml": p.StockML, "sure": true}
	told := false
	if j := jarOf(w, id); j != nil {
		for _, b := range u.batches {
			if j.PlantIt != nil && j.PlantIt.Batch == b.Batch {
				w.Hear(b, "pour into its jar")
			}
		}
		ec := w.TapEC
		if p.WaterL > 0 {
			ec += p.StockML * 0.23 / p.WaterL
		}
		told = w.TopUp(j, p.WaterL, ec)
	} else if x := tankOf(w, id); x != nil {
		do := play.Treatment{DrainL: p.DrainL, WaterL: p.WaterL, StockML: p.StockML}
		switch p.Agent {
		case "phosphoric_acid":
			do.AcidMeq, do.PhosphateMmol = p.Amount*acidMmolML, p.Amount*acidMmolML
		case "potassium_bicarbonate":
			do.AcidMeq, do.CarbonMmol = -p.Amount*baseMmolG, p.Amount*baseMmolG
		}
		if p.Amount > 0 {
			done["agent"], done["amount"] = p.Agent, p.Amount
		}
		told = w.Treat(x, do)
	}
	return told && u.did(u.ask.post("/tanks/"+id+"/treatments", u.act(done), nil))
}

// dip looks at the levels of the jars of a place.
func (u *Ulpa) dip(w *play.World, _ task, _ *play.Batch) {
	for _, j := range w.Jars {
		if j.PlantIt == nil || j.PlantIt.Dead {
			continue
		}
		if did, _ := w.Takes(0.7, "dip", j.Name); did {
			u.did(u.ask.post("/tanks/"+idOf("tanks", j.Name)+"/readings", u.act(some{
				"level_l": math.Round(j.L*20) / 20, "roots_cm": math.Round(j.RootsCM()), "sure": true,
			}), nil))
		}
	}
}
