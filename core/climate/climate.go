// Package climate is what air, light and frost mean for plants. Temperatures
// are °C, pressures kPa, radiation MJ/m² a day, light mol/m² a day.
//
//	air, err := climate.OfAir(24, 60, -1) // °C, % humidity, the leaf a degree cooler
package climate
