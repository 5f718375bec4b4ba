// Package view says what stands in places, for every page that shows some.
package view

import (
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/site"
)

// PlaceStand is a batch where it stands.
type PlaceStand struct {
	Code, Path string
	Crop, Says string
	Tint       int
}

// StandsOf are the batches of a place, as pages list them: the first most, and where the
// rest can be read.
func StandsOf(p say.Reader, list []site.Standing, most int, all string) face.CutList[PlaceStand] {
	n := -1
	return face.CutAs(list, most, all, func(x site.Standing) PlaceStand {
		says := say.Plural(x.Plants, "plant")
		switch {
		case x.Plants == 0 && x.Undecided > 0:
			says = say.T("%s sown", say.Plural(x.Undecided, "cell"))
		case x.Undecided > 0:
			says = say.T("%s, %d sown", says, x.Undecided)
		}
		n++
		return PlaceStand{x.Code, "/batches/" + x.Batch.String(), p.Say(x.Crop.Name), p.Say(says), n % 6}
	})
}
