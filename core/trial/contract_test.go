package trial_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "compare", "trial-draw")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "compare", "trial-draw")
}
