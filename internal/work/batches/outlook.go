package batches

import (
	"math"

	"ulpa/core/batch"
	"ulpa/core/crop"
	"ulpa/core/ready"
	"ulpa/core/seed"
	"ulpa/internal/base/memo"
)

// Lot is what is known of a packet: its label, its test, and its age when it was sown.
type Lot struct {
	Label    *float64
	Tested   *seed.Germination // nil: nobody did
	AgeYears int
}

// Germination trusts a lot's test before its label; without either it begins from what
// is usual of the crop.
func (l Lot) Germination(c crop.Crop) seed.Germination {
	switch {
	case l.Tested != nil:
		return *l.Tested
	case l.Label != nil:
		return seed.Germination{Rate: *l.Label}
	}
	return seed.Usually(c.UsualRate / 100)
}

// sowing is all that the outlook of a sowing hangs on.
type sowing struct {
	base, optimum, plateau, ceiling, thermal float64
	as, shares                               string
	germination                              seed.Germination
	worth                                    float64
	cells, perCell                           int
	tempC, day                               float64
	seen                                     int // −1: not counted
}

// expected holds what was worked out for sowings; each takes a millisecond or more.
var expected = memo.Memo[sowing, seed.Expected]{Most: 8192}

// seedbed is a sowing in its place.
type seedbed struct {
	crop           crop.Crop
	lot            Lot
	cells, perCell int
	tempC          float64
	crowd          bool // most of its plants stand in open trays
}

// bedOf is what a batch stands in, at a temperature.
func bedOf(c crop.Crop, lot Lot, s *batch.State, tempC float64) seedbed {
	return seedbed{crop: c, lot: lot, cells: s.Sown, perCell: s.Seeds / max(1, s.Sown), tempC: tempC, crowd: crowded(s)}
}

// crowded tells whether most plants of a batch stand in open trays.
func crowded(s *batch.State) bool { return 2*s.Crowd > s.Sprouted-s.Losses()-s.Taken-s.HandedOver() }

// rule is when its plants may go on.
func (b seedbed) rule() ready.Rule {
	if b.crowd {
		return ready.Pricking(b.crop.Ready)
	}
	return b.crop.Ready
}

// comesUp tells whether the crop can, at the temperature it stands in.
func (b seedbed) comesUp() bool { return seed.PaceOf(b.crop)(b.tempC) > 0 && b.cells > 0 }

// share of the good seed that comes at this temperature.
func (b seedbed) share() float64 { return b.crop.Shares.At(b.tempC) }

// on is what to expect a number of days after sowing, and what a count says then; seen
// is −1 when there is none.
func (b seedbed) on(day float64, seen int) seed.Expected {
	c := b.crop
	key := sowing{
		c.BaseC, c.OptimumC, c.PlateauC, c.CeilingC, c.ThermalCD, c.GerminateAs, c.Shares.String(), b.lot.Germination(c),
		seed.WorthOfLabel(b.lot.AgeYears, c.SeedYears), b.cells, b.perCell, b.tempC, math.Round(day*20) / 20, min(seen, b.cells),
	}
	return expected.Get(key, func() seed.Expected {
		in := seed.ExpectedInput{
			Cells: min(
				key.cells,
				10_000,
			), SeedsPerCell: max(1, key.perCell), Germination: key.germination, LabelWorth: key.worth, Pace: seed.PaceOf(c), Day: min(key.day, 400),
			TemperaturesC: []float64{
				key.tempC,
			}, Evenness: seed.UsualEvenness, TemperatureShare: b.share(), TemperatureErrorC: seed.TemperatureErrorC, TimeError: seed.TimeError,
		}
		if seen >= 0 {
			in.Seen = &key.seen
		}
		x, err := seed.Count(in)
		if err != nil {
			return seed.Expected{}
		}
		return x
	})
}

// daysToUp is when half were up, from sowing; 0 when nobody can tell.
func (b seedbed) daysToUp() float64 {
	if pace := seed.PaceOf(b.crop)(b.tempC); pace > 0 {
		return 1 / pace
	}
	return 0
}

// leafCD is the warmth that a leaf of a batch takes: by what was seen of it, and else
// by its crop's usual.
func (b seedbed) leafCD(seen ready.Seen, daysUp float64) float64 {
	if pace := ready.PaceOf(seen.Leaves, daysUp, b.tempC); pace > 0 {
		return pace
	}
	warm := b
	warm.tempC = 20
	return ready.PaceOfRule(b.crop.Ready, warm.daysToUp())
}
