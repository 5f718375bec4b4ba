package crop

import (
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"ulpa/core/say"
)

// known are plants that schools enter under a name of their own and that harm people, by what
// they are called in the languages of schools and in Latin: what they are stands at whatever is
// entered so, and not only what the most similar crop says.
type known struct {
	names  []string // as plain reads them
	like   string   // the catalogue's crop whose caution and food it has; "": its own
	food   string
	hazard say.Words
}

var knownPlants = []known{
	{names: []string{"foxglove", "digitalis", "dedalera"}, like: "foxglove"},
	{names: []string{"castor", "castor bean", "castor oil", "ricinus", "ricino", "higuerilla", "tartago"}, like: "castorbean"},
	{names: []string{"daffodil", "narcissus", "jonquil", "narciso"}, like: "daffodil"},
	{names: []string{"lily of the valley", "convallaria", "lirio de los valles", "muguete", "convalaria"}, like: "lilyofthevalley"},
	{names: []string{"lupin", "lupine", "lupinus", "altramuz", "lupino", "chocho", "tarwi"}, like: "lupin"},
	{names: []string{"oleander", "nerium", "adelfa", "laurel rosa"}, like: "oleander"},
	{names: []string{"yew", "taxus", "tejo"}, like: "yew"},
	{names: []string{"wallflower", "erysimum", "aleli"}, like: "wallflower"},
	{names: []string{"sweet pea", "lathyrus", "guisante de olor"}, like: "sweetpea"},
	{names: []string{"hyacinth", "hyacinthus", "jacinto"}, like: "hyacinth"},
	{names: []string{"tulip", "tulipa", "tulipan"}, like: "tulip"},
	{names: []string{"comfrey", "symphytum", "consuelda"}, like: "comfrey"},
	{names: []string{"peanut", "groundnut", "arachis", "cacahuete", "cacahuate", "mani"}, like: "peanut"},
	{
		names: []string{"monkshood", "aconite", "wolfsbane", "aconitum", "aconito"}, food: Poison,
		hazard: "Known by name, not food: every part is deadly, through the skin too. Not grown where pupils are.",
	},
	{
		names: []string{"angel’s trumpet", "angels trumpet", "datura", "brugmansia", "thorn apple", "estramonio", "toloache", "floripondio"}, food: Poison,
		hazard: "Known by name, not food: every part is deadly and confuses the mind. Not grown where pupils are; hands are washed.",
	},
	{
		names: []string{"deadly nightshade", "belladonna", "atropa", "belladona"}, food: Poison,
		hazard: "Known by name, not food: every part is deadly, the shiny black berries above all. Not grown where pupils are.",
	},
	{
		names: []string{"hemlock", "conium", "water dropwort", "cicuta"}, food: Poison,
		hazard: "Known by name, not food: every part is deadly. It looks like parsley and carrot. Gloves to pull it out; not on the compost.",
	},
	{
		names: []string{"laburnum", "golden rain", "lluvia de oro", "codeso"}, food: Poison,
		hazard: "Known by name, not food: every part is poisonous, the pods that look like peas above all.",
	},
	{
		names: []string{"autumn crocus", "colchicum", "meadow saffron", "colchico", "quitameriendas"}, food: Poison,
		hazard: "Known by name, not food: every part is deadly, and the leaves look like wild garlic.",
	},
	{
		names: []string{"snowdrop", "galanthus", "campanilla de invierno"}, food: Poison,
		hazard: "Known by name, not food: the bulb is poisonous and looks like a small onion.",
	},
	{
		names: []string{"cherry laurel", "prunus laurocerasus", "laurel cerezo", "lauroceraso"}, food: Poison,
		hazard: "Known by name, not food: leaves and seeds hold prussic acid. It is not the bay of the kitchen.",
	},
	{
		names: []string{"spurge", "euphorbia", "poinsettia", "lechetrezna", "euforbia"}, food: Poison,
		hazard: "Known by name, not food: the milky sap burns skin and eyes. Gloves and goggles.",
	},
	{
		names: []string{"larkspur", "delphinium", "espuela de caballero"}, food: Poison,
		hazard: "Known by name, not food: every part is poisonous, seeds and seedlings above all.",
	},
	{
		names: []string{"sesame", "sesamum", "sesamo", "ajonjoli"}, food: FoodPart,
		hazard: "Sesame is a strong food allergen: ask the school first, and say so when it is served. Dressed (coloured) seed is poison.",
	},
	{
		names: []string{"kidney bean", "phaseolus", "alubia", "judia", "frijol", "poroto", "habichuela"}, food: FoodPart,
		hazard: "Raw or half-cooked beans are poisonous: soaked, then boiled hard ten minutes. Never eaten as sprouts or shoots.",
	},
}

// noShoots are plants whose sprouts and shoots are never eaten.
var noShoots = []string{
	"kidney bean", "bean", "runner bean", "lima bean", "haricot", "alubia", "judia", "frijol", "poroto", "habichuela", "phaseolus",
	"tomato", "tomate", "jitomate", "potato", "patata", "papa", "aubergine", "eggplant", "berenjena", "pepper", "pimiento", "rhubarb", "ruibarbo",
	"nightshade", "sorghum", "sorgo", "quinoa", "castor", "ricino", "sweet pea", "lupin", "altramuz",
}

// grownShoots are names with one of those in them whose shoots are eaten.
var grownShoots = []string{"mung bean", "mungbean", "soya bean", "soybean", "soy bean", "adzuki bean", "azuki bean", "judia mungo", "frijol mungo"}

// plain is a name as names are compared: small letters without accents, words by single
// blanks, and blanks around.
func plain(name string) string {
	fold := func(r rune) rune {
		switch {
		case unicode.Is(unicode.Mn, r):
			return -1
		case unicode.IsLetter(r):
			return unicode.ToLower(r)
		}
		return ' '
	}
	return " " + strings.Join(strings.Fields(strings.Map(fold, norm.NFD.String(name))), " ") + " "
}

// speaksOf tells whether a plain name has another in it, as words of its own, plural or not.
func speaksOf(name, word string) bool {
	word = strings.TrimSuffix(plain(word), " ")
	for _, end := range []string{" ", "s ", "es "} {
		if strings.Contains(name, word+end) {
			return true
		}
	}
	return false
}

// cautioned is a crop of a school's own with what is known of plants that are called so.
func (c Crop) cautioned() Crop {
	name := plain(string(c.Name))
	for _, k := range knownPlants {
		if !slices.ContainsFunc(k.names, func(n string) bool { return speaksOf(name, n) }) {
			continue
		}
		food, hazard := k.food, k.hazard
		if like, ok := Find(k.like); ok {
			food, hazard = like.Food, like.Hazard
		}
		if Graver(food, c.Food) {
			c.Food = food
		}
		c.Hazard = hazard
		return c
	}
	return c
}

// Graver tells whether one kind of food is a graver caution than another.
func Graver(a, b string) bool {
	order := []string{Food, FoodPart, NoFood, Poison}
	return slices.Index(order, a) > slices.Index(order, b)
}

// EatenAsShoots tells whether the shoots or sprouts of what is called so may be eaten.
func EatenAsShoots(name string) bool {
	n := plain(name)
	if slices.ContainsFunc(grownShoots, func(w string) bool { return speaksOf(n, w) }) {
		return true
	}
	poison := slices.ContainsFunc(knownPlants, func(k known) bool {
		like, _ := Find(k.like)
		return (k.food == Poison || like.Food == Poison) && slices.ContainsFunc(k.names, func(w string) bool { return speaksOf(n, w) })
	})
	return !poison && !slices.ContainsFunc(noShoots, func(w string) bool { return speaksOf(n, w) })
}
