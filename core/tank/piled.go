package tank

import (
	"math"
	"time"

	"ulpa/core/say"
)

// Piled is what topping up leaves behind: plants drink the water and leave the sodium and
// the chloride that came with it. It is told as litres of the source water, whose unwanted
// salts are in the tank.
type Piled struct {
	TapL      float64    `json:"tap_l,omitempty"`
	Known     bool       `json:"known,omitempty"`      // since a first level
	PouredL   float64    `json:"poured_l,omitempty"`   // since it was last changed whole
	ChangedAt *time.Time `json:"changed_at,omitempty"` // when it last was
}

// whole is the share of a tank that a whole change drains.
const whole = 0.8

// read begins with a first level: what is in the tank then is taken for freshly made.
func (p *Piled) read(s *State) {
	if !p.Known && s.LevelL != nil {
		p.TapL, p.Known = *s.LevelL, true
	}
}

// treat takes what was drained out, and what was poured in.
func (p *Piled) treat(level float64, t Treatment, at time.Time) {
	if level > 0 {
		share := min(1, t.DrainL/level)
		if p.TapL *= 1 - share; share >= whole && t.WaterL > 0 {
			p.PouredL, p.ChangedAt = 0, &at
			p.TapL += t.WaterL
			return
		}
	}
	p.TapL += t.WaterL
	p.PouredL += t.WaterL
	p.Known = p.Known || t.WaterL > 0
}

// Times is how many times as strong as in the source water the salts are that nobody
// takes; 1 of a solution freshly made. They are taken to stay: the truth is a little less.
func (p Piled) Times(litres float64) float64 {
	if litres <= 0 || !p.Known {
		return 1
	}
	return math.Max(0, p.TapL/litres)
}

// Changing is whether, and why, the solution of a tank is to be changed.
type Changing struct {
	Times    float64  // as strong as in the source water, of what nobody takes
	Replaced float64  // how many times over it was topped up since it was changed whole
	Sodium   *float64 // mg/L in the tank, where its water's is known
	Chloride *float64
	Days     *float64 // since it was changed whole; nil: nobody wrote that it ever was
	Due      bool
	Share    float64 // of it to drain, and fill up again; 1: all of it
	Why      say.Text
}

// Limits of what piles up, mg/L, in a solution that is used again: starting values, for
// leaf crops; and how often it is topped up over at most.
const (
	mostSodium   = 70
	mostChloride = 140
	mostReplaced = 1
	leastKept    = 0.3  // of it: below, a whole change is less work than a part of one
	topsUp       = 0.95 // of it: above, filling it up thins it enough
)

// Change judges by what has built up, and by the calendar where the school goes by that.
// The source water's sodium and chloride are mg/L; nil: nobody has measured them.
func (s State) Change(spec Spec, sodium, chloride *float64, at time.Time) Changing {
	c := Changing{Times: 1}
	if s.LevelL == nil || !s.Piled.Known {
		return c
	}
	level := max(s.LevelOn(spec, at), 0.01*spec.FillToL)
	c.Times, c.Replaced = s.Piled.Times(level), s.Piled.PouredL/spec.FillToL
	keep := 1.0
	for _, x := range []struct {
		tap  *float64
		in   **float64
		most float64
		says say.Words
	}{{sodium, &c.Sodium, mostSodium, "Sodium has built up to about %s; above %s roots take up less water."}, {
		chloride, &c.Chloride, mostChloride, "Chloride has built up to about %s; above %s roots take up less water.",
	}} {
		if x.tap == nil {
			continue
		}
		v := *x.tap * c.Times
		if *x.in = &v; v > x.most && *x.tap < x.most {
			if k := s.Piled.keeps(level, spec.FillToL, x.most / *x.tap); k < topsUp && k < keep {
				c.Why, keep = say.T(x.says, say.Of(v, "mg/L"), say.Of(x.most, "mg/L")), k
			}
		}
	}
	if c.Sodium == nil && c.Chloride == nil && c.Replaced >= mostReplaced {
		c.Why, keep = say.T("It has been topped up by its whole volume once, and nobody has measured the sodium or chloride in the water: what builds "+
			"up is not known."), 0
	}
	if s.Piled.ChangedAt != nil {
		d := at.Sub(*s.Piled.ChangedAt).Hours() / 24
		if c.Days = &d; c.Why == nil && spec.ChangeDays > 0 && d >= float64(spec.ChangeDays) {
			c.Why, keep = say.T("It was changed %s ago, and here it is changed every %d.", say.Plural(int(d), "day"), spec.ChangeDays), 0
		}
	}
	if c.Due = c.Why != nil; c.Due {
		if c.Share = 1 - keep; keep < leastKept {
			c.Share = 1
		}
	}
	return c
}

// keeps is which share of a tank may stay, filled up again with its water, for no more
// than so many times what the water brings.
func (p Piled) keeps(level, fill, times float64) float64 {
	if p.TapL <= level {
		return 1
	}
	return min(1, max(0, fill*(times-1)/(p.TapL-level)))
}
