package irrigation_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "bed-water", "emitters")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "bed-water", "emitters")
}
