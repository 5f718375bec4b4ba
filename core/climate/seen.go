package climate

import (
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Seen is what somebody read of the air and the light of a place; nil: was not read.
type Seen struct {
	TempC    *float64 `json:"temp_c,omitempty"`
	Humidity *float64 `json:"humidity,omitempty"` // %
	Hours    *float64 `json:"light_hours,omitempty"`
	Umol     *float64 `json:"umol,omitempty"` // µmol/m² and second, at the leaves
}

// Check refuses what hardly can be.
func (s Seen) Check() error {
	var e field.Errors
	e.Require(s.TempC != nil || s.Humidity != nil || s.Hours != nil || s.Umol != nil, "air_temp", "type at least one figure")
	e.Require(s.TempC == nil || *s.TempC >= -30 && *s.TempC <= 60, "air_temp", "must be %s to %s", say.Figure(-30, unit.Celsius), say.Of(60, unit.Celsius))
	e.Require(s.Humidity == nil || *s.Humidity >= 1 && *s.Humidity <= 100, "humidity", "must be 1 to 100 %%")
	e.Require(s.Hours == nil || *s.Hours >= 0 && *s.Hours <= 24, "light_hours", "must be 0 to 24 hours")
	e.Require(s.Umol == nil || *s.Umol >= 0 && *s.Umol <= 3000, "umol", "must be 0 to 3,000")
	return e.Err()
}

// Place is the air and the light of a place, as far as anybody knows.
type Place struct {
	TempC    float64
	Measured bool     // the temperature, by a meter
	Humidity *float64 // %; nil: nobody knows
	LightMol float64  // a usual day, mol/m²; 0: not known
	Hours    *float64 // of light, as somebody said
	Air      *Air     // what that is to a leaf; nil without a humidity
}

// Known is a place with what was read of it by hand, in the order of time: a meter goes
// before a hand, and light that was measured before light that is usual.
func (p Place) Known(seen []Seen) (Place, error) {
	metered := p.Humidity != nil
	var umol *float64
	for _, s := range seen {
		if s.TempC != nil && !p.Measured {
			p.TempC = *s.TempC
		}
		if s.Humidity != nil && !metered {
			p.Humidity = s.Humidity
		}
		if s.Hours != nil {
			p.Hours = s.Hours
		}
		if s.Umol != nil {
			umol = s.Umol
		}
	}
	if umol != nil && p.Hours != nil {
		p.LightMol = *umol * *p.Hours * 3600 / 1e6
	}
	if p.Humidity == nil {
		return p, nil
	}
	a, err := OfAir(p.TempC, *p.Humidity, 0)
	p.Air = &a
	return p, err
}
