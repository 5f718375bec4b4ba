package tank

import (
	"math"
	"slices"
	"time"

	"ulpa/core/chemistry"
)

// State is what a tank holds as far as anybody knows: as it was read, and as it is
// worked out since from what was done.
type State struct {
	V          int                `json:"v"` // the StateVersion that made it
	LevelL     *float64           `json:"level_l,omitempty"`
	PH         *float64           `json:"ph,omitempty"`
	ECMS       *float64           `json:"ec_ms,omitempty"`
	TempC      *float64           `json:"temp_c,omitempty"`
	RootsCM    *float64           `json:"roots_cm,omitempty"`   // of a jar, as they were seen
	RootsAt    *time.Time         `json:"roots_at,omitempty"`   // when that was
	Hung       *Hung              `json:"hung,omitempty"`       // since then, as the level says
	Alkalinity *float64           `json:"alkalinity,omitempty"` // mg/L as CaCO3, by balance
	Brought    map[string]float64 `json:"brought,omitempty"`    // mg/L that doses have brought, by element
	ReadAt     *time.Time         `json:"read_at,omitempty"`
	LevelAt    *time.Time         `json:"level_at,omitempty"`
	TreatedAt  *time.Time         `json:"treated_at,omitempty"` // not yet followed by a reading
	DosedAt    *time.Time         `json:"dosed_at,omitempty"`   // acid or base, not yet followed by a pH reading
	Plants     *int               `json:"plants,omitempty"`     // when it was last read
	Water      Spell              `json:"water"`
	Before     *Spell             `json:"before,omitempty"` // the spell before, of much the same water
	Shown      []Shown            `json:"shown,omitempty"`  // bottles whose doses have been read
	Thirst     Record             `json:"thirst"`
	Course     Course             `json:"course"`
	Piled      Piled              `json:"piled"`
	Weather    Weather            `json:"-"` // beside its record, where an advice is asked
}

// StateVersion changes when the same facts come to another state. One that was kept by
// an older version is made anew from the facts.
const StateVersion = 6

// Spell is a stretch in which one water was read and dosed.
type Spell struct {
	Begun      *time.Time `json:"begun,omitempty"`      // when water last went in
	Fresh      float64    `json:"fresh,omitempty"`      // share of the tank that was drawn then
	Alkalinity float64    `json:"alkalinity,omitempty"` // by balance then
	Brought    float64    `json:"brought,omitempty"`    // mg/L of phosphorus from doses before
	Events     []Dated    `json:"events,omitempty"`
}

// Dated is a reading or a dose with its time.
type Dated struct {
	At     time.Time          `json:"at"`
	PH     float64            `json:"ph,omitempty"`
	Error  float64            `json:"error,omitempty"`
	Dose   *chemistry.Product `json:"dose,omitempty"`
	Amount float64            `json:"amount,omitempty"`
}

// Shown is a product of the shelf, and when a dose of it was last read.
type Shown struct {
	Product chemistry.Product `json:"product"`
	At      time.Time         `json:"at"`
}

// show notes the products that a spell which ends has shown at work.
func (s *State) show(w Spell) {
	if !w.dosed() {
		return
	}
	s.Shown = slices.Clone(s.Shown)
	at := w.Events[len(w.Events)-1].At
	for _, e := range w.Events {
		if e.Dose == nil {
			continue
		}
		s.Shown = slices.DeleteFunc(s.Shown, func(x Shown) bool { return x.Product == *e.Dose })
		s.Shown = append(s.Shown, Shown{*e.Dose, at})
	}
}

const (
	shownDays    = 21.0 // so long a bottle that was shown at work counts as the one on the shelf
	spellHours   = 8.0  // after so long without a reading or a dose a new spell begins
	settledHours = 20.0 // after so long fresh water has come to balance with its air
	freshFrom    = 0.1  // a share of fresh water that counts
	much         = 0.3  // a share of fresh water after which what was learned is forgotten
	mostEvents   = 60
)

// heard adds a reading of pH to the spell, or begins another.
func (s *State) heard(ph, err float64, at time.Time) {
	w := &s.Water
	if n := len(w.Events); n > 0 && (at.Sub(w.Events[n-1].At).Hours() > spellHours || n >= mostEvents) {
		if w.dosed() {
			old := *w
			s.Before = &old
			s.show(old)
		}
		w.Events = nil
		w.Brought = s.Brought["P"]
	}
	w.Events = append(w.Events, Dated{At: at, PH: ph, Error: err})
}

// dosed tells whether the spell has a dose with a reading after it: something to learn from.
func (w Spell) dosed() bool {
	dosed := false
	for _, e := range w.Events {
		if e.Dose == nil && dosed {
			return true
		}
		dosed = dosed || e.Dose != nil
	}
	return false
}

// Read takes a reading into the state.
func (s *State) Read(spec Spec, r Reading, at time.Time) {
	s.V = StateVersion
	s.find(spec, r, at)
	if r.Plants != nil {
		s.Plants = r.Plants
	}
	if r.LevelL != nil {
		s.Thirst.read(*r.LevelL, s.Plants, at)
		s.LevelL, s.LevelAt = r.LevelL, &at
	}
	if r.PH != nil {
		s.PH, s.DosedAt = r.PH, nil
		s.heard(*r.PH, r.PHError(), at)
	}
	if r.ECMS != nil {
		s.ECMS = r.ECMS
	}
	if r.TempC != nil {
		s.TempC = r.TempC
	}
	s.hung(spec, r, at)
	if s.Alkalinity == nil {
		a := spec.WaterAlkalinity
		s.Alkalinity = &a
	}
	s.Course.began(s, spec, r, at)
	s.Piled.read(s)
	s.ReadAt, s.TreatedAt = &at, nil
}

// Treat takes what was added into the state and works out where the tank then stands.
// Volumes mix linearly; alkalinity follows the water in and the acid out.
func (s *State) Treat(spec Spec, t Treatment, at time.Time) {
	s.V = StateVersion
	level := s.LevelOn(spec, at)
	if s.LevelL == nil {
		level = levelBefore(spec, t)
	}
	keep := max(0, level-t.DrainL)
	total := keep + t.WaterL
	s.Piled.treat(level, t, at)
	s.Thirst.pour(t.WaterL-t.DrainL, keep, total, at)
	if total > 0 && (t.WaterL > 0 || t.FedML() > 0) {
		s.mix(spec, keep, t, at)
	}
	s.LevelL = &total
	s.LevelAt, s.TreatedAt = &at, &at
	if s.Course.PHAt = nil; s.ECMS != nil {
		s.Course.ECAt, s.Course.ECLevelL = &at, total
	}
	if t.Amount > 0 && total > 0 {
		s.dose(spec, t, total, at)
	}
}

// levelBefore is how much was in a tank whose level nobody has written down, L: nothing before
// its first fill, which is half of it or more and drains nothing; otherwise as much as makes what
// was poured end at its line, and never more than that.
func levelBefore(spec Spec, t Treatment) float64 {
	if t.DrainL == 0 && t.WaterL >= spec.FillToL/2 {
		return 0
	}
	return min(spec.FillToL, max(0, spec.FillToL+t.DrainL-t.WaterL))
}

// mix pours water and stock in.
func (s *State) mix(spec Spec, keep float64, t Treatment, at time.Time) {
	total := keep + t.WaterL
	fresh := t.WaterL / total
	old := s.alkalinity(spec, at)
	if s.PH != nil && t.WaterL > 0 {
		ph := s.mixPH(spec, keep, t.WaterL, at)
		s.PH = &ph
	}
	alkalinity := old*(1-fresh) + spec.WaterAlkalinity*fresh
	s.Alkalinity = &alkalinity
	if s.ECMS != nil {
		ec := *s.ECMS*(1-fresh) + spec.WaterEC*fresh + t.FedML()/total*spec.Rise()
		s.ECMS = &ec
	}
	thin := map[string]float64{}
	for el, v := range s.Brought {
		thin[el] = v * (1 - fresh)
	}
	s.Brought = thin
	share := fresh
	if s.Water.unsettled(at) {
		share += s.Water.Fresh * (1 - fresh)
	}
	if s.Water.dosed() {
		before := s.Water
		s.Before = &before
		s.show(before)
	}
	if s.Before != nil && fresh > much {
		s.Before = nil
	}
	begun := s.Water.Begun
	if t.WaterL > 0 {
		begun = &at
	}
	s.Water = Spell{Begun: begun, Fresh: share, Alkalinity: alkalinity, Brought: thin["P"]}
}

// dose stirs acid or base in. A dose into water that has not been read, or not for
// hours, tells nothing: the spell begins with the reading after it.
func (s *State) dose(spec Spec, t Treatment, total float64, at time.Time) {
	p := spec.Shelf(t.Agent)
	w := &s.Water
	if n := len(w.Events); n > 0 && at.Sub(w.Events[n-1].At).Hours() <= spellHours && n < mostEvents {
		w.Events = append(w.Events, Dated{At: at, Dose: &p, Amount: t.Amount})
	} else {
		w.Events = nil
	}
	if s.PH != nil {
		in := s.phInput(spec, p, total, at)
		if after, err := chemistry.PHAfter(in, t.Amount); err == nil {
			alk := chemistry.AlkalinityAfter(in, t.Amount, after)
			s.PH, s.Alkalinity = &after, &alk
		}
	}
	f := chemistry.Agents[p.Agent]
	if f.Brings != "" {
		brought := map[string]float64{f.Brings: t.Amount / p.PerMolL(total) * f.BringsG * 1000}
		for el, v := range s.Brought {
			brought[el] += v
		}
		s.Brought = brought
	}
	s.DosedAt = &at // from here on the alkalinity is the one worked out
}

// unsettled tells whether the spell's fresh water still holds the gas it came with.
func (w Spell) unsettled(at time.Time) bool {
	return w.Begun != nil && w.Fresh >= freshFrom && at.Sub(*w.Begun).Hours() < settledHours
}

// alkalinity is the best single figure for it, mg/L: by balance while fresh water is
// in, and else by what the air of such a tank holds at the pH it stands at.
func (s *State) alkalinity(spec Spec, at time.Time) float64 {
	if s.PH == nil || s.Water.unsettled(at) || s.DosedAt != nil {
		if s.Alkalinity != nil {
			return *s.Alkalinity
		}
		return spec.WaterAlkalinity
	}
	low, high := spec.co2()
	m := chemistry.NewMedium(s.ec(spec), s.temp())
	return min(math.Sqrt(m.InAir(*s.PH, low)*m.InAir(*s.PH, high)), max(spec.WaterAlkalinity, 1))
}

// co2 bounds the carbon dioxide of the air over such a tank, ppm.
func (s Spec) co2() (low, high float64) {
	if s.Passive {
		return chemistry.JarCO2Low, chemistry.JarCO2High
	}
	return chemistry.TowerCO2Low, chemistry.TowerCO2High
}

func (s *State) ec(spec Spec) float64 {
	if s.ECMS != nil {
		return min(max(*s.ECMS, 0), 20)
	}
	return spec.ECTarget
}

func (s *State) temp() float64 {
	if s.TempC != nil {
		return min(max(*s.TempC, 0), 50)
	}
	return 20
}

// phInput is what PHAdjust and PHAfter take of the tank as it stands.
func (s *State) phInput(spec Spec, p chemistry.Product, volumeL float64, at time.Time) chemistry.PHInput {
	return chemistry.PHInput{
		VolumeL: volumeL, PHNow: *s.PH, PHTarget: spec.PHTarget, PhosphorusMgL: spec.PhosphorusMgL + s.Brought["P"],
		ECMScm: s.ec(spec), TemperatureC: s.temp(), Agent: p.Agent, StrengthPercent: p.StrengthPercent, DensityGML: p.DensityGML,
		AlkalinityMgLCaCO3: s.alkalinity(spec, at),
	}
}

// DoseInput is what bringing a tank to its target pH is worked out from, with the
// product of its shelf that leads there; false while pH or level are not known.
func (s State) DoseInput(spec Spec, at time.Time) (chemistry.PHInput, bool) {
	if s.PH == nil || s.LevelL == nil {
		return chemistry.PHInput{}, false
	}
	p := spec.Acid
	if *s.PH < spec.PHTarget {
		p = spec.Base
	}
	return s.phInput(spec, p, s.LevelOn(spec, at), at), true
}

// tapPH is what hard tap water usually stands at.
const tapPH = 7.6

// mixPH is the pH once water from the tap has been mixed in: charges and carbon
// add up, each with its share of the volume.
func (s *State) mixPH(spec Spec, keepL, waterL float64, at time.Time) float64 {
	old := s.phInput(spec, spec.Acid, keepL+waterL, at)
	m, x, sid := old.Start()
	tap := old
	tap.PHNow, tap.AlkalinityMgLCaCO3, tap.PhosphorusMgL = tapPH, spec.WaterAlkalinity, 0
	_, y, tapSID := tap.Start()
	blend := func(a, b float64) float64 { return (a*keepL + b*waterL) / (keepL + waterL) }
	return m.PhAt(blend(sid, tapSID), chemistry.Makeup{Carbon: blend(x.Carbon, y.Carbon), Phosphate: blend(x.Phosphate, y.Phosphate)}, *s.PH)
}

// clone is a copy whose figures can be written through.
func (s State) clone() State {
	dup := func(p *float64) *float64 {
		if p == nil {
			return nil
		}
		v := *p
		return &v
	}
	s.LevelL, s.PH, s.ECMS, s.TempC, s.Alkalinity = dup(s.LevelL), dup(s.PH), dup(s.ECMS), dup(s.TempC), dup(s.Alkalinity)
	s.Water.Events = append([]Dated(nil), s.Water.Events...)
	s.Thirst.Intervals = append([]Interval(nil), s.Thirst.Intervals...)
	s.Course.Stretches = append([]Stretch(nil), s.Course.Stretches...)
	return s
}
