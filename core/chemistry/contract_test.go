package chemistry_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "ph-adjust", "learn-dose", "conductivity", "ammonia", "oxygen", "dechlorinate", "indoor-water")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "ph-adjust", "learn-dose", "conductivity", "ammonia", "oxygen", "dechlorinate", "indoor-water")
}
