package crop

import (
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Solution is a window of pH and mS/cm: what a tank is kept at, or what a crop wants.
type Solution struct{ PH, EC Range }

// Wants is the solution that suits the crop at an age, days from sowing.
func (c Crop) Wants(age int) Solution {
	switch {
	case age < c.NurseryDays:
		return Solution{c.PH.Seedling, c.EC.Seedling}
	case age < c.NurseryDays+c.Growing.Days:
		return Solution{c.PH.Growing, c.EC.Growing}
	}
	return Solution{c.PH.Cropping, c.EC.Cropping}
}

// apart tells whether two windows share nothing.
func (r Range) apart(o Range) bool { return r.High < o.Low || r.Low > o.High }

// Misses says where a solution is not what the crop wants at an age, in the reader's units.
func (c Crop) Misses(in Solution, age int) (says []say.Text) {
	name, w := say.Lower(c.Name), c.Wants(age)
	if w.EC.apart(in.EC) {
		says = append(
			says,
			say.T(
				"The strength is wrong for it: %s of that age wants %s to %s, and this tank is kept at %s to %s.",
				name,
				say.Figure(w.EC.Low, unit.MS),
				say.Of(w.EC.High, unit.MS),
				say.Figure(in.EC.Low, unit.MS),
				say.Of(in.EC.High, unit.MS),
			),
		)
	}
	if w.PH.apart(in.PH) {
		says = append(
			says,
			say.T(
				"The pH is wrong for it: %s of that age wants %.1f to %.1f, and this tank is kept at %.1f to %.1f.",
				name,
				w.PH.Low,
				w.PH.High,
				in.PH.Low,
				in.PH.High,
			),
		)
	}
	return says
}

// begun is what a crop is begun from, where that is not seed.
// begun is what a crop is begun from, many of it.
var begun = map[string]say.Words{
	"cutting": "cuttings",
	"set":     "sets",
	"clove":   "single cloves",
	"tuber":   "tubers",
	"crown":   "crowns",
	"bulb":    "bulbs",
}

// Seeds of which a thousand weigh less than dust, g, stick to a finger; large flat ones rot
// where they lie flat and water stands on them.
const (
	dust  = 1.2
	flat  = 20
	large = 150 // which mice come for
)

// handled is how a seed is taken and laid; "" for those that fingers hold well.
func (c Crop) handled() say.Words {
	switch {
	case !c.FromSeed() || c.Sprout() || c.SeedG <= 0:
		return ""
	case c.SeedG < dust:
		return "The seed is as fine as dust: sow it with a damp toothpick, or mix it with dry sand."
	case c.SeedG < 4*dust:
		return "The seed is small: use tweezers or a damp toothpick."
	case c.Family == "cucumber" && c.SeedG >= flat:
		return "Large and flat: set the seed on its edge, so that water runs off."
	case c.Kind == "legume" && c.SeedG >= large:
		return "Set each bean on its edge with the scar down: laid flat it lifts its skin and rots."
	}
	return ""
}

// AtSowing is what a person should know who sows so many, of a packet with or without a coat
// of clay around each.
func (c Crop) AtSowing(seeds int, pelleted bool) (says []say.Text) {
	add := func(w say.Words, args ...any) { says = append(says, say.T(w, args...)) }
	deep := say.Of(c.DepthCM, unit.Centimetre)
	switch {
	case !c.FromSeed():
		add("Start it from %s, one in each, %s deep.", begun[c.Start], deep)
	case c.DepthCM == 0 && c.Sprout():
		add("Press the soaked seed onto the mat; do not cover it.")
	case c.DepthCM == 0:
		add("Press it onto the surface and do not cover it: it needs light.")
	case c.Light == "light":
		add("Sow it %s deep, no deeper: it needs light. A dusting of vermiculite keeps it moist.", deep)
	case c.Light == "dark":
		add("Sow it %s deep and cover it well: it needs the dark.", deep)
	default:
		add("Sow it %s deep; cover it with vermiculite or sieved compost.", deep)
	}
	if how := c.handled(); pelleted && seeds > 0 {
		add("Pellets: one in each cell, by hand; keep them moist until they have split.")
	} else if how != "" && seeds > 0 {
		add(how)
	}
	if c.FromSeed() && !c.Sprout() && c.SeedG >= large {
		add("Mice eat such seed: keep the tray off the floor, or under wire mesh until it is up.")
	}
	if c.SowGM2 > 0 {
		add("Dry seed for a square metre of tray: %s.", say.Of(c.SowGM2, unit.Gram))
	} else if g := c.SeedG * float64(seeds) / 1000; c.FromSeed() && seeds > 0 && g >= 0.01 && !pelleted {
		add("%d seeds weigh about %s.", seeds, say.Of(g, unit.Gram))
	}
	if c.Clump && c.SeedsCell > 1 && !c.Sprout() {
		add("About %d to a cell, which stay together as a clump.", c.SeedsCell)
	}
	if w := c.Wants(0); !c.Sprout() && w.EC.High > 0 {
		add(
			"Feed seedlings from the first true leaf on: %s to %s, pH %.1f to %.1f.",
			say.Figure(w.EC.Low, unit.MS),
			say.Of(w.EC.High, unit.MS),
			w.PH.Low,
			w.PH.High,
		)
	}
	if c.InPlace {
		add("Sow it where it is to stay: it does not survive a move.")
	}
	if c.Hazard != "" {
		says = append(says, say.Words(c.Hazard))
	}
	return says
}

// AtMoving is what a person should know who moves it at an age into a system (tower, raft,
// jar, bed; "" where it only waits), with the solution it would share there, if any.
func (c Crop) AtMoving(system string, in *Solution, age int) (says []say.Text) {
	add := func(w say.Words, args ...any) { says = append(says, say.T(w, args...)) }
	if system != "" && !c.Suits(system) {
		add("%s does not suit a %s; it suits %s.", c.Name, Word("systems", system), say.Join(", ", Words("systems", c.Systems)...))
	}
	if in != nil {
		says = append(says, c.Misses(*in, age)...)
	}
	if c.InPlace {
		add("Sow it where it is to stay: it does not like its roots moved.")
	}
	switch c.Potting {
	case "deeper":
		add("Set it deeper than before, up to the lowest leaves.")
	case "crown":
		add("No deeper than its crown: keep the heart above the soil.")
	}
	switch system {
	case "bed":
		add(
			"%s apart, %s between rows; a soil of pH %.1f to %.1f.",
			say.Of(c.SpacingCM, unit.Centimetre),
			say.Of(c.RowCM, unit.Centimetre),
			c.SoilPH.Low,
			c.SoilPH.High,
		)
		add("%s of the %s family: do not plant it where one of that family grew last year.", feeders[c.Feeder], c.Family)
		if c.Life == "perennial" {
			add("It stays there for years.")
		}
		says = append(says, c.support()...)
	case "raft", "jar":
		if c.HeightCM > 60 || c.Habit == "climbing" || c.Habit == "trailing" {
			add("It grows to %s, %s: at the bottom, with a support.", say.Of(c.HeightCM, unit.Centimetre), Word("habit", c.Habit))
		}
	}
	if c.Pinch == "never" {
		add("Never cut off its tip: new leaves come only from there.")
	}
	return says
}

// support is what a crop climbs or is tied to in a bed, and what keeps birds from it; it stands before the
// plants do, so that no root is pierced.
func (c Crop) support() (says []say.Text) {
	high := say.Of(c.HeightCM, unit.Centimetre)
	switch {
	case c.Habit == "climbing":
		says = append(says, say.T("Before you plant: a net or canes of %s, firm in the ground.", high))
	case c.Kind == "fruiting" && c.Habit == "upright" && c.Family != "grass" && c.HeightCM >= staked, c.ID == "broadbean":
		says = append(says, say.T("Before you plant: a stake of %s for each, or canes with string along the row. Caps on the ends: they are at eye height.", high))
	}
	if c.Family == "cabbage" || c.ID == "strawberry" || c.Kind == "legume" && !c.Sprout() {
		says = append(says, say.T("A net over hoops keeps pigeons and other birds off; peg it down all round, so that no animal is caught in it."))
	}
	return says
}

// staked is from which height a fruiting crop does not stand alone.
const staked = 60

// feeders are how much a crop takes, as a bed is told.
var feeders = map[string]say.Words{"light": "Light feeder", "medium": "Medium feeder", "heavy": "Heavy feeder"}

// choices are the words of values that the table keeps by a name, where they are others
// than the name.
var choices = map[string]map[string]say.Words{
	"germinates_as": {
		"asparagus":   "asparagus##row of the table",
		"aubergine":   "aubergine##row of the table",
		"bean":        "bean##row of the table",
		"beet":        "beet##row of the table",
		"cabbage":     "cabbage##row of the table",
		"carrot":      "carrot##row of the table",
		"cauliflower": "cauliflower##row of the table",
		"celery":      "celery##row of the table",
		"cucumber":    "cucumber##row of the table",
		"lettuce":     "lettuce##row of the table",
		"limabean":    "lima bean##row of the table",
		"muskmelon":   "muskmelon##row of the table",
		"okra":        "okra##row of the table",
		"onion":       "onion##row of the table",
		"parsley":     "parsley##row of the table",
		"parsnip":     "parsnip##row of the table",
		"pea":         "pea##row of the table",
		"pepper":      "pepper##row of the table",
		"radish":      "radish##row of the table",
		"spinach":     "spinach##row of the table",
		"sweetcorn":   "sweetcorn##row of the table",
		"tomato":      "tomato##row of the table",
		"turnip":      "turnip##row of the table",
		"watermelon":  "watermelon##row of the table",
	},
	"food":    {Food: "yes", FoodPart: "in part, or cooked only", NoFood: "no##food", Poison: "poisonous"},
	"feeder":  {"light": "light feeder", "medium": "medium feeder", "heavy": "heavy feeder"},
	"light":   {"light": "light", "dark": "the dark", "either": "either"},
	"potting": {"same": "as deep as it was", "deeper": "deeper than it was", "crown": "no deeper than its crown"},
	"pinch":   {"yes": "yes", "no": "no use", "never": "never"},
	"habit": {
		"rosette": "a rosette", "upright": "upright", "bush": "a bush", "climbing": "climbing", "trailing": "trailing", "clump": "a clump",
	},
	"tender": {"hardy": "hardy", "half-hardy": "half-hardy", "tender": "tender"},
	"kind": {
		"leaf":     "leaf",
		"herb":     "herb",
		"fruiting": "fruiting",
		"root":     "root",
		"legume":   "legume",
		"flower":   "flower",
		"cutting":  "a cutting",
		"sprout":   "sprout",
	},
	"start": {
		"seed":    "seed",
		"cutting": "cutting",
		"either":  "seed or cutting",
		"set":     "set",
		"clove":   "clove",
		"tuber":   "tuber",
		"crown":   "root crown",
		"bulb":    "bulb",
	},
	"life":    {"annual": "annual", "biennial": "biennial", "perennial": "perennial"},
	"systems": {"tray": "tray", "tower": "tower", "raft": "raft", "jar": "jar", "bed": "bed", "pot": "pot", "sprouter": "sprouter"},
}

// Word is a value of a column that has choices, in words.
func Word(column, value string) say.Words {
	if w, ok := choices[column][value]; ok {
		return w
	}
	return say.Words(value)
}

// Words are the same for several.
func Words(column string, values []string) (out []say.Text) {
	for _, v := range values {
		out = append(out, Word(column, v))
	}
	return out
}
