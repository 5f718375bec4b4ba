// Package crop is the catalogue: what is known of the kinds of plants that
// schools grow. Values are from general horticultural literature; a school's
// own rule goes before them.
package crop

import (
	"cmp"
	"slices"

	"ulpa/core/ready"
)

// Tender says how much cold a crop bears.
type Tender string

// Hardy bears frost once hardened, HalfHardy a touch of it, TenderCrop none.
const (
	Hardy      Tender = "hardy"
	HalfHardy  Tender = "half-hardy"
	TenderCrop Tender = "tender"
)

// Crop is one kind of plant. Temperatures °C, conductivities mS/cm, days counted from sowing.
type Crop struct {
	ID          string
	Name        string
	Letters     string // the batch code's three letters
	Family      string
	Tender      Tender
	SafeC       float64 // lowest night it stands unharmed once hardened
	GerminateAs string  // whose row of the germination table serves; another crop's name marks a likeness, not a measurement
	Survival    float64 // usual share of sprouted cells that end in a usable plant
	SeedsCell   int     // usual seeds in a cell
	Clump       bool    // seeds of a cell are meant to stay together
	Ready       ready.Rule
	NurseryDays int // usual days from sowing to moving on
	HarvestDays int // usual days from sowing to the first harvest
	Cuts        bool
	PHLow       float64
	PHHigh      float64
	ECLow       float64
	ECHigh      float64
	Hazard      string // parts that are not food, irritants
}

func rule(leaves, age, hold int) ready.Rule {
	return ready.Rule{Leaves: leaves, AgeDays: age, HoldDays: hold}
}

const tomatoLeaves = "Leaves and stems are not food."

var catalogue = []Crop{
	{"aubergine", "Aubergine", "AUB", "nightshade", TenderCrop, 10, "aubergine", 0.9, 1, false, rule(4, 42, 10), 49, 130, false, 5.5, 6.5, 1.8, 3.0, tomatoLeaves},
	{"basil", "Basil", "BAS", "mint", TenderCrop, 10, "basil", 0.92, 3, true, rule(3, 28, 8), 28, 50, true, 5.5, 6.5, 1.0, 1.6, ""},
	{"bean", "French bean", "BEA", "legume", TenderCrop, 5, "bean", 0.92, 1, false, rule(2, 18, 5), 18, 65, true, 5.5, 6.5, 1.2, 2.0, "Raw beans are not food: boil them."},
	{"beet", "Beetroot", "BEE", "amaranth", Hardy, -2, "beet", 0.95, 3, true, rule(3, 30, 10), 30, 80, false, 6.0, 7.0, 1.2, 2.0, ""},
	{"cabbage", "Cabbage", "CAB", "cabbage", Hardy, -4, "cabbage", 0.95, 1, false, rule(4, 32, 10), 35, 100, false, 6.0, 7.0, 1.4, 2.2, ""},
	{"chard", "Leaf chard", "CHD", "amaranth", Hardy, -3, "beet", 0.95, 2, false, rule(3, 26, 10), 28, 55, true, 5.8, 6.8, 1.0, 1.8, ""},
	{"chives", "Chives", "CHV", "onion", Hardy, -8, "chives", 0.95, 6, true, rule(3, 40, 20), 42, 75, true, 5.8, 6.5, 1.0, 1.6, ""},
	{"coriander", "Coriander", "COR", "carrot", Hardy, -2, "parsley", 0.92, 3, true, rule(3, 28, 6), 28, 50, true, 5.8, 6.5, 1.0, 1.6, ""},
	{"cucumber", "Cucumber", "CUC", "cucumber", TenderCrop, 10, "cucumber", 0.93, 1, false, rule(3, 21, 5), 24, 60, true, 5.5, 6.3, 1.7, 2.5, ""},
	{"kale", "Kale", "KAL", "cabbage", Hardy, -6, "cabbage", 0.95, 1, false, rule(4, 30, 10), 32, 55, true, 5.8, 6.8, 1.2, 2.0, ""},
	{"lettuce", "Lettuce", "LET", "daisy", HalfHardy, -1, "lettuce", 0.95, 1, false, rule(4, 24, 7), 24, 50, false, 5.5, 6.3, 0.8, 1.6, ""},
	{"marigold", "French marigold", "MAR", "daisy", TenderCrop, 3, "marigold", 0.93, 1, false, rule(4, 35, 12), 38, 70, false, 5.8, 6.8, 1.0, 1.8, "The sap can irritate skin."},
	{"onion", "Onion", "ONI", "onion", Hardy, -6, "onion", 0.95, 5, true, rule(2, 45, 15), 50, 150, false, 6.0, 7.0, 1.2, 1.8, ""},
	{"pakchoi", "Pak choi", "PAK", "cabbage", HalfHardy, -1, "turnip", 0.95, 1, false, rule(4, 20, 6), 21, 42, false, 5.8, 6.5, 1.2, 1.8, ""},
	{"parsley", "Parsley", "PAR", "carrot", Hardy, -5, "parsley", 0.92, 3, true, rule(3, 42, 14), 42, 75, true, 5.5, 6.3, 0.9, 1.6, ""},
	{"pea", "Pea", "PEA", "legume", Hardy, -3, "pea", 0.95, 2, false, rule(2, 18, 6), 20, 75, true, 6.0, 7.0, 0.9, 1.8, ""},
	{"pepper", "Sweet pepper", "PEP", "nightshade", TenderCrop, 10, "pepper", 0.9, 1, false, rule(5, 49, 12), 56, 130, true, 5.8, 6.3, 1.8, 2.8, tomatoLeaves},
	{"radish", "Radish", "RAD", "cabbage", Hardy, -2, "radish", 0.97, 3, true, rule(2, 14, 4), 14, 28, false, 6.0, 7.0, 1.2, 2.0, ""},
	{"rocket", "Rocket", "ROC", "cabbage", Hardy, -3, "radish", 0.96, 4, true, rule(3, 18, 6), 20, 38, true, 5.8, 6.5, 1.0, 1.8, ""},
	{"spinach", "Spinach", "SPI", "amaranth", Hardy, -5, "spinach", 0.92, 2, false, rule(3, 24, 7), 24, 45, true, 5.8, 6.8, 1.2, 2.0, ""},
	{"tomato", "Tomato", "TOM", "nightshade", TenderCrop, 8, "tomato", 0.95, 1, false, rule(5, 38, 10), 42, 115, true, 5.5, 6.3, 1.8, 3.0, tomatoLeaves},
}

// All is the catalogue in the order of the crops' names.
func All() []Crop {
	all := slices.Clone(catalogue)
	slices.SortFunc(all, func(a, b Crop) int { return cmp.Compare(a.Name, b.Name) })
	return all
}

// Find is the crop with that id, and whether there is one.
func Find(id string) (Crop, bool) {
	i := slices.IndexFunc(catalogue, func(c Crop) bool { return c.ID == id })
	if i < 0 {
		return Crop{}, false
	}
	return catalogue[i], true
}
