package harden_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) { calctest.Hold(t, "harden-ramp") }

func TestFiguresEndWhereTheySay(t *testing.T) { calctest.Edges(t, "harden-ramp") }
