package tank

import (
	"math"
	"time"

	"gonum.org/v1/gonum/stat/distuv"
)

// Course is what is known of how a tank runs by itself: since when its figures have, and
// what it did from one reading to the next, beside what had been forecast.
type Course struct {
	PHAt      *time.Time `json:"ph_at,omitempty"`    // when the pH was read, if nothing went in since
	PHError   float64    `json:"ph_error,omitempty"` // how far that reading may be out
	ECAt      *time.Time `json:"ec_at,omitempty"`    // when the strength was read, or worked out as something went in
	ECLevelL  float64    `json:"ec_level_l,omitempty"`
	Stretches []Stretch  `json:"stretches,omitempty"` // the last few, oldest first
}

// Stretch is the time from when a figure was known to when it was read again.
type Stretch struct {
	To    time.Time `json:"to"`
	Level *Found    `json:"level,omitempty"` // litres
	PH    *Found    `json:"ph,omitempty"`
	EC    *Found    `json:"ec,omitempty"` // mS/cm
	Dosed bool      `json:"dosed,omitempty"`
}

// Found is a figure as it was at first, as it was forecast with its standard error, and as
// it was then found.
type Found struct {
	Days     float64 `json:"days"`
	Was      float64 `json:"was"`
	Foretold float64 `json:"foretold"`
	Error    float64 `json:"error"`
	Read     float64 `json:"read"`
	Out      float64 `json:"out,omitempty"`    // of a pH: how far the two readings may be out together
	WasL     float64 `json:"was_l,omitempty"`  // of a strength: the litres that had it
	ReadL    float64 `json:"read_l,omitempty"` // and those that then had
}

// Off is how many standard errors what was found lies off what was forecast.
func (f Found) Off() float64 { return (f.Read - f.Foretold) / math.Max(f.Error, 1e-9) }

// Guess is a figure as it is forecast, with its standard error.
type Guess struct{ Mean, Error float64 }

// Outside is the chance that it lies below or above a band.
func (g Guess) Outside(low, high float64) float64 {
	n := distuv.Normal{Mu: g.Mean, Sigma: math.Max(g.Error, 1e-9)}
	return n.CDF(low) + n.Survival(high)
}

// Above is the chance that it lies above a figure.
func (g Guess) Above(high float64) float64 {
	return distuv.Normal{Mu: g.Mean, Sigma: math.Max(g.Error, 1e-9)}.Survival(high)
}

// Range holds nine of ten such figures.
func (g Guess) Range() (low, high float64) {
	const z = 1.645
	return g.Mean - z*g.Error, g.Mean + z*g.Error
}

// Outlook is where a tank's figures will be; nil: they are not known now.
type Outlook struct{ Level, PH, EC *Guess }

// Starting values, until a tank's own readings tell: how a pH creeps a day as plants take
// nitrate and carbon dioxide leaves, and which share of the salts in the water they drink
// plants take.
const (
	creepMean = 0.02
	creepSD   = 0.05
	eatsMean  = 0.7
	eatsSD    = 0.4

	stickError   = 0.02 // of the fill line, of a level
	mostStretch  = 12
	shortStretch = 0.5 // days; what changes in less is the error of the readings
)

// belief is a mean with its standard deviation, that readings make surer.
type belief struct{ mean, sd float64 }

func (b *belief) hear(value, sd float64) {
	old, heard := 1/(b.sd*b.sd), 1/(sd*sd)
	b.mean = (b.mean*old + value*heard) / (old + heard)
	b.sd = 1 / math.Sqrt(old+heard)
}

// creep is how the pH moves a day by itself.
func (s *State) creep() belief {
	b := belief{creepMean, creepSD}
	for _, x := range s.Course.Stretches {
		if f := x.PH; f != nil && !x.Dosed {
			b.hear((f.Read-f.Was)/f.Days, f.Out/f.Days)
		}
	}
	return b
}

// eats is which share of the salts that came with what they drank the plants took.
func (s *State) eats() belief {
	b := belief{eatsMean, eatsSD}
	for _, x := range s.Course.Stretches {
		f := x.EC
		if f == nil {
			continue
		}
		drunk := f.WasL - f.ReadL
		if drunk <= stickError*f.WasL || f.Was <= 0 {
			continue
		}
		share := (f.Was*f.WasL - f.Read*f.ReadL) / (f.Was * drunk)
		b.hear(share, ECError*math.Hypot(f.WasL, f.ReadL)/(f.Was*drunk)+0.1)
	}
	return b
}

// Creep is how much the pH of a tank rises a day by itself, and how surely that is known:
// as is usual, and by its own readings.
func (s State) Creep() (mean, sd float64) {
	b := s.creep()
	return b.mean, b.sd
}

// Eats is the share of the salts in the water they drank that its plants took, and how
// surely that is known.
func (s State) Eats() (mean, sd float64) {
	b := s.eats()
	return b.mean, b.sd
}

// Foretell is where a tank's figures will be at a time when nobody touches it.
func (s *State) Foretell(spec Spec, plants int, at time.Time) (o Outlook) {
	days := func(since *time.Time) float64 {
		if since == nil {
			return 0
		}
		return max(0, at.Sub(*since).Hours()/24)
	}
	from := at
	if s.LevelAt != nil && s.LevelAt.Before(at) {
		from = *s.LevelAt
	}
	drinks := s.UsesBetween(spec, plants, from, at)
	if s.LevelL != nil {
		mean, sd := drinks.Over(days(s.LevelAt))
		o.Level = &Guess{max(0, *s.LevelL-mean), math.Hypot(sd, stickError*spec.FillToL)}
	}
	if s.PH != nil && s.Course.PHAt != nil {
		d, b := days(s.Course.PHAt), s.creep()
		o.PH = &Guess{*s.PH + b.mean*d, math.Hypot(s.Course.PHError, b.sd*d)}
	}
	if s.ECMS != nil && s.Course.ECAt != nil && s.Course.ECLevelL > 0 {
		drunk, sd := drinks.Over(days(s.Course.ECAt))
		o.EC = s.strength(s.Course.ECLevelL, min(drunk, 0.9*s.Course.ECLevelL), sd)
	}
	return o
}

// longest is how many times as long as is usual a tank is left that runs as was forecast.
const longest = 2

// MayWait tells whether a tank whose usual time to be read has come can be left until the next visit.
func (t Tank) MayWait(now, next time.Time) bool {
	if t.State.ReadAt == nil {
		return false
	}
	days := now.Sub(*t.State.ReadAt).Hours() / 24
	usual := float64(t.Spec.ReadEveryDays)
	return days > usual-1 && days < longest*usual-1 && t.Steady(next)
}

// Steady tells whether a tank has run for so long as was forecast of it that nothing is to be
// expected of a reading before a time: it will be inside its range then, all but surely.
func (t Tank) Steady(until time.Time) bool {
	const (
		stretches = 4    // of its own, that have been as forecast
		off       = 2.5  // standard errors
		may       = 0.05 // chance to be out of range
	)
	if t.Spec.Passive || t.Fish != NoFish || len(t.State.Course.Stretches) < stretches {
		return false
	}
	for _, x := range t.State.Course.Stretches[len(t.State.Course.Stretches)-stretches:] {
		for _, f := range []*Found{x.Level, x.PH, x.EC} {
			if f != nil && math.Abs(f.Off()) > off {
				return false
			}
		}
	}
	o := t.State.Foretell(t.Spec, t.Plants, until)
	return o.PH != nil && o.EC != nil && o.Level != nil &&
		o.PH.Outside(t.Spec.PHLow, t.Spec.PHHigh) < may && o.EC.Outside(t.Spec.ECLow, t.Spec.ECHigh) < may &&
		o.Level.Above(t.Spec.DryBelowL+lowAt*(t.Spec.FillToL-t.Spec.DryBelowL)) > 1-may
}

// strength is that of what is left of so many litres when so many were drunk: salts that
// plants did not take stay behind.
func (s *State) strength(litres, drunk, sd float64) *Guess {
	b, ec := s.eats(), *s.ECMS
	left := litres - drunk
	mean := ec * (litres - b.mean*drunk) / left
	byShare := ec * drunk / left * b.sd
	byDrunk := ec * math.Abs(1-b.mean) * litres / (left * left) * sd
	return &Guess{max(0, mean), math.Sqrt(2*ECError*ECError + byShare*byShare + byDrunk*byDrunk)}
}

// find writes down what a reading says beside what was forecast, before it is taken in.
func (s *State) find(spec Spec, r Reading, at time.Time) {
	plants := 0
	if s.Plants != nil {
		plants = *s.Plants
	}
	o, x := s.Foretell(spec, plants, at), Stretch{To: at, Dosed: s.DosedAt != nil}
	found := func(g *Guess, since *time.Time, was, read *float64) *Found {
		if g == nil || since == nil || read == nil || was == nil {
			return nil
		}
		days := at.Sub(*since).Hours() / 24
		if days < shortStretch {
			return nil
		}
		return &Found{Days: days, Was: *was, Foretold: g.Mean, Error: g.Error, Read: *read}
	}
	x.Level = found(o.Level, s.LevelAt, s.LevelL, r.LevelL)
	if x.PH = found(o.PH, s.Course.PHAt, s.PH, r.PH); x.PH != nil {
		x.PH.Out = math.Hypot(s.Course.PHError, r.PHError())
		x.PH.Error = math.Hypot(x.PH.Error, r.PHError()) // what is found is read, too
	}
	if r.LevelL != nil && *r.LevelL > 0 && o.EC != nil {
		drunk := s.Course.ECLevelL - *r.LevelL
		if drunk >= 0 { // by the level that was found, it is surer
			o.EC = s.strength(s.Course.ECLevelL, min(drunk, 0.9*s.Course.ECLevelL), stickError*spec.FillToL)
		}
		if x.EC = found(o.EC, s.Course.ECAt, s.ECMS, r.ECMS); x.EC != nil {
			x.EC.WasL, x.EC.ReadL = s.Course.ECLevelL, *r.LevelL
		}
	}
	if x.Level == nil && x.PH == nil && x.EC == nil {
		return
	}
	list := append([]Stretch(nil), s.Course.Stretches...)
	list = append(list, x)
	s.Course.Stretches = list[max(0, len(list)-mostStretch):]
}

// began takes down from when on the figures of a reading run by themselves.
func (c *Course) began(s *State, spec Spec, r Reading, at time.Time) {
	if r.PH != nil {
		c.PHAt, c.PHError = &at, r.PHError()
	}
	if r.ECMS != nil && s.LevelL != nil {
		c.ECAt, c.ECLevelL = &at, s.LevelOn(spec, at)
	}
}

// Spans tells whether a figure ran by itself from before one time until after another.
func (x Stretch) Spans(from, until time.Time) bool {
	for _, f := range []*Found{x.Level, x.PH, x.EC} {
		if f != nil && !x.To.Before(until) && !x.To.Add(-time.Duration(f.Days*24*float64(time.Hour))).After(from) {
			return true
		}
	}
	return false
}
