package fish_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "fish", "ammonia")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "fish", "ammonia")
}
