package growth_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "grow")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "grow")
}
