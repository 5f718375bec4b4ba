package compost_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) { calctest.Hold(t, "compost") }

func TestFiguresEndWhereTheySay(t *testing.T) { calctest.Edges(t, "compost") }
