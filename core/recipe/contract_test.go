package recipe_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "recipe", "reservoir-adjust", "spoon")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "recipe", "reservoir-adjust", "spoon")
}
