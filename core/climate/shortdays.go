package climate

import "ulpa/core/calendar"

// growingHours is the length of a day below which plants outdoors hardly grow, however hardy: a rule
// of thumb of winter growers.
const growingHours = 10

// ShortDays is the first day from one on when days are too short for plants to grow outdoors; false
// where they never are within a year, or the latitude is none.
func ShortDays(latitudeDeg float64, from calendar.Day) (calendar.Day, bool) {
	for d := from; d < from+366; d++ {
		l, err := OfDay(LightInput{LatitudeDeg: latitudeDeg, Day: d})
		if err != nil {
			return 0, false
		}
		if l.DayLengthH < growingHours {
			return d, true
		}
	}
	return 0, false
}
