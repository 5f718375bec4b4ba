package gauge

// MeterKind is a sort of meter that a school has.
type MeterKind string

// What meters read.
const (
	PHOnly MeterKind = "ph"
	ECOnly MeterKind = "ec"
	Both   MeterKind = "both" // one pen for both
	Drops  MeterKind = "drops"
	Card   MeterKind = "card"
	Thermo MeterKind = "thermometer"
	Dip    MeterKind = "dip"
)

// ReadsPH tells whether a meter reads pH.
func (k MeterKind) ReadsPH() bool { return k == PHOnly || k == Both || k == Drops || k == Card }

// Calibrated tells whether it is calibrated in buffers or a standard.
func (k MeterKind) Calibrated() bool { return k == PHOnly || k == ECOnly || k == Both }

// A pen of which nothing is known counts as calibrated so many weeks ago; one that is worn out
// is worth no more than a card.
const (
	unknownWeeks = 8
	mostWeeks    = 26
	dropsError   = 0.2
)

// PHWorth is the standard error of a pH that a meter reads, by what its last calibration said,
// so many weeks ago; an empty verdict is a meter that nobody calibrated.
func PHWorth(k MeterKind, verdict string, weeks float64) float64 {
	switch {
	case k == Drops:
		return dropsError
	case k == Card:
		return CardError
	case verdict == "":
		weeks = unknownWeeks
	case verdict == Repeat || verdict == Replace:
		return CardError
	}
	return PenError + PenPerWeek*min(mostWeeks, max(0, weeks))
}
