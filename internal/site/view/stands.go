// Package view says what stands in places, for every page that shows some.
package view

import (
	"fmt"

	"ulpa/core/say"
	"ulpa/internal/site"
)

// PlaceStand is a batch where it stands.
type PlaceStand struct {
	Code, Path, Crop, Says string
	Tint                   int
}

// StandsOf are the batches of a place, as pages list them.
func StandsOf(list []site.Standing) (out []PlaceStand) {
	for i, x := range list {
		says := say.Plural(x.Plants, "plant")
		switch {
		case x.Plants == 0 && x.Undecided > 0:
			says = say.Plural(x.Undecided, "cell") + " sown"
		case x.Undecided > 0:
			says += fmt.Sprintf(", %d sown", x.Undecided)
		}
		out = append(out, PlaceStand{x.Code, "/batches/" + x.Batch.String(), x.Crop.Name, says, i % 6})
	}
	return out
}
