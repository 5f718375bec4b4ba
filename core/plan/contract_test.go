package plan_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "back-schedule")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "back-schedule")
}
