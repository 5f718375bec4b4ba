package solution

import (
	"time"

	"ulpa/core/chemistry"
	"ulpa/core/gauge"
	"ulpa/core/tank"
	"ulpa/internal/base/ledger"
)

// DoseFound is a dose of acid or alkali: what was forecast of it, by what was known then,
// and what was read afterwards.
type DoseFound struct {
	At         time.Time
	Product    chemistry.Product
	Amount     float64
	Was, Found float64 // pH before it, and after
	Foretold   chemistry.Band
	Alkalinity chemistry.Band // mg/L as CaCO3, as it was thought to be
	Inside     bool           // what was found lies where nine of ten should
}

// fewDoses are looked back on.
const fewDoses = 6

// dosesFound replays a tank's past up to its last doses, each with what was known of the
// water then.
func dosesFound(t ledger.Tank, past []ledger.Past) (out []DoseFound, err error) {
	type waiting struct {
		state tank.State
		found DoseFound
	}
	var last []waiting
	var s tank.State
	var before *float64
	var dose DoseFound
	for _, x := range past {
		switch {
		case x.Treat != nil:
			if x.Treat.Amount > 0 && s.PH != nil {
				if s.DosedAt == nil {
					was := *s.PH
					before = &was
				}
				dose = DoseFound{At: x.At, Product: t.Spec.Shelf(x.Treat.Agent), Amount: x.Treat.Amount}
			}
			s.Treat(t.Spec, *x.Treat, x.At)
		case x.Reading != nil:
			if x.Reading.PH != nil && s.DosedAt != nil && before != nil && x.At.Sub(*s.DosedAt) < 24*time.Hour {
				dose.Was, dose.Found = *before, *x.Reading.PH
				last = append(last, waiting{s, dose})
				last = last[max(0, len(last)-fewDoses):]
			}
			s.Read(t.Spec, *x.Reading, x.At)
			if x.Reading.PH != nil {
				before = nil
			}
		}
	}
	for i := len(last) - 1; i >= 0; i-- {
		j, err := judge(ledger.Tank{Spec: t.Spec, State: last[i].state})
		if err != nil {
			return nil, err
		}
		if j.Dose == nil {
			continue
		}
		x := last[i].found
		x.Foretold, x.Alkalinity = j.Dose.PHNow, j.Dose.Alkalinity
		x.Inside = x.Found >= x.Foretold.P5-gauge.PenError && x.Found <= x.Foretold.P95+gauge.PenError // the band is of the water, not of the reading
		out = append(out, x)
	}
	return out, nil
}
