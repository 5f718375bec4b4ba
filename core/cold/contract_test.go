package cold_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "frost")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "frost")
}
