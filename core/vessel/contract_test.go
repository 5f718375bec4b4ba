package vessel_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "vessel", "jar", "runs-dry", "pots")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "vessel", "jar", "runs-dry", "pots")
}
