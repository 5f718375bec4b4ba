package tank

import (
	"math"
	"time"
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
