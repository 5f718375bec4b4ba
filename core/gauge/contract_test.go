package gauge_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "combine", "calibrate", "drift")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "combine", "calibrate", "drift")
}
