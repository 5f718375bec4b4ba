package seed_test

import (
	"testing"

	"ulpa/core/calc/calctest"
)

func TestContract(t *testing.T) {
	calctest.Hold(t, "germination-time", "emergence", "expected-count", "seed-age", "seed-rate", "order-plants")
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	calctest.Edges(t, "germination-time", "emergence", "expected-count", "seed-age", "seed-rate", "order-plants")
}
