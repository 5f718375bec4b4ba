package climate

import (
	"math"
	"time"
)

// How far the warmest month lies above the mean of the year, K, and which day of the year is the
// warmest in the north: usual of temperate places, where nobody said more.
const (
	monthSwing = 7.0
	warmestDay = 205.0
)

// MonthSwing is by how many K a day is usually warmer than the mean of its year.
func MonthSwing(at time.Time, south bool) float64 {
	turn := warmestDay
	if south {
		turn -= 365.25 / 2
	}
	return monthSwing * math.Cos(2*math.Pi*(float64(at.YearDay())-turn)/365.25)
}
