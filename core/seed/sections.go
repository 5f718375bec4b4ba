package seed

import (
	"math"

	"ulpa/core/say"
	"ulpa/core/unit"
)

// How seed is spread in an open tray that seedlings are pricked out of: a seed has about a square
// centimetre, for closer they damp off and their roots cannot be told apart; and a flat or a tub is
// filled about 5 cm deep where nobody said how deep it is.
const (
	seedCM2   = 1.0
	filledCM  = 5.0
	crowdedAt = 1.5 // times as many
)

// Room is how many seeds, and seedlings until they are pricked out, one section of an open tray has room
// for; 0 where its volume is not known.
func Room(millilitres, deepCM float64) int {
	return int(math.Floor(millilitres / filled(deepCM) / seedCM2))
}

func filled(deepCM float64) float64 {
	if deepCM > 0 {
		return deepCM
	}
	return filledCM
}

// InSections shares seeds out among the sections of an open tray, each of which holds so many
// millilitres (0: not known) and is so many centimetres deep (0: not known). It answers how many go into
// each, and what to say of it.
func InSections(seeds, sections int, millilitres, deepCM float64) (each int, says []say.Text) {
	each = (seeds + sections - 1) / sections
	says = append(says, say.Words("All in one section."))
	if sections > 1 {
		says[0] = say.T("In %d sections: %d seeds in each.", sections, each)
	}
	room, deep := Room(millilitres, deepCM), say.Of(filled(deepCM), unit.Centimetre)
	if room < 1 {
		return each, says
	}
	if float64(each) > crowdedAt*float64(room) {
		says = append(says, say.T("That is crowded: a section filled %s deep has room for about %d seeds, one to a square centimetre. Sow in more sections, "+
			"or prick out as soon as the seed leaves are open.", deep, room))
	} else {
		says = append(says, say.T("A section filled %s deep has room for about %d seeds, one to a square centimetre.", deep, room))
	}
	return each, append(says, say.Words("Sow in rows a finger apart: rows are easier to count, to thin and to prick out than seed that is scattered."))
}
