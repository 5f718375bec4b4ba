package rotation

import (
	"ulpa/core/crop"
	"ulpa/core/say"
)

// NotShown is of what many say and no trial could show.
const NotShown say.Words = "often said, and not shown in trials"

// Neighbour is what a crop that stands in a bed means for one that is planted beside it.
type Neighbour struct {
	With     crop.Crop
	Helps    bool
	Why      say.Text
	Evidence say.Words
}

// tall is how much higher a neighbour is than a crop where it takes its sun, and from which height.
const (
	tall       = 1.5
	tallFromCM = 80
)

// NeighboursOf are the good and the bad neighbours of a crop among those that stand in a bed, what harms
// first. Shared pests and diseases of a family, insects that set fruit, and shade are well supported; the
// masking of a crop's smell by onions and the like is seen in some trials and not in others (Finch and
// Collier 2012, Entomologia Experimentalis et Applicata 142); that a legume feeds its neighbour while both grow is
// often said, and little of it was ever found.
func NeighboursOf(c crop.Crop, standing []crop.Crop) []Neighbour {
	var harm, help []Neighbour
	seen := map[string]bool{}
	for _, o := range standing {
		if o.ID == c.ID || seen[o.ID] {
			continue
		}
		seen[o.ID] = true
		if n, ok := harms(c, o); ok {
			harm = append(harm, n)
		} else if n, ok := helps(c, o); ok {
			help = append(help, n)
		}
	}
	return append(harm, help...)
}

func harms(c, o crop.Crop) (Neighbour, bool) {
	name := say.Lower(o.Name)
	switch {
	case o.Food == crop.Poison && c.Eaten():
		return Neighbour{o, false, say.T("%s beside food: somebody will pick the wrong leaf. Plant them apart.", o.Name), WellSupported}, true
	case c.Food == crop.Poison && o.Eaten():
		return Neighbour{o, false, say.T("%s beside food: somebody will pick the wrong leaf. Plant them apart.", c.Name), WellSupported}, true
	case o.Family != "" && o.Family == c.Family:
		return Neighbour{o, false, say.T("%s is of the same family: they share pests and diseases.", o.Name), WellSupported}, true
	case o.HeightCM >= tallFromCM && o.HeightCM > tall*c.HeightCM && SunOf(c) == "full":
		return Neighbour{o, false, say.T("%s grows tall: on the side away from the sun it takes no light from this.", o.Name), WellSupported}, true
	case c.HeightCM >= tallFromCM && c.HeightCM > tall*o.HeightCM && SunOf(o) == "full":
		return Neighbour{o, false, say.T("This grows taller than %s: plant it on the side away from the sun.", name), WellSupported}, true
	}
	return Neighbour{}, false
}

func helps(c, o crop.Crop) (Neighbour, bool) {
	name := say.Lower(o.Name)
	sets := func(x crop.Crop) bool { return x.Kind == "fruiting" || x.Kind == "legume" }
	smells := func(a, b crop.Crop) bool {
		return a.Family == "onion" && (b.Family == "carrot" || b.Family == "cabbage")
	}
	switch {
	case o.Kind == "flower" && sets(c):
		return Neighbour{o, true, say.T("%s brings the insects that set its fruit.", o.Name), WellSupported}, true
	case c.Kind == "flower" && sets(o):
		return Neighbour{o, true, say.T("It brings insects that set the fruit of %s.", name), WellSupported}, true
	case smells(o, c), smells(c, o):
		return Neighbour{o, true, say.T("With %s beside it, some pests find it less often.", name), SomeTrials}, true
	case o.HeightCM >= tallFromCM && o.HeightCM > tall*c.HeightCM && SunOf(c) == "part":
		return Neighbour{o, true, say.T("The shade of %s keeps it cooler in summer.", name), SomeTrials}, true
	case o.Kind == "legume" && c.Feeder == "heavy":
		return Neighbour{o, true, say.T("%s is said to feed its neighbours; it feeds what comes after it.", o.Name), NotShown}, true
	}
	return Neighbour{}, false
}
