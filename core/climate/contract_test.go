package climate_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "air", "daylight", "site-night", "et0", "transplant-day")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "air", "daylight", "site-night", "et0", "transplant-day")
}
