package trouble

import (
	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Sign is what somebody sees.
type Sign struct {
	ID   string
	Name say.Words
}

// Signs are those of the guide, each with a drawing of its own.
var Signs = []Sign{
	{"leggy", "long and thin"},
	{"yellow-low", "old leaves yellow"},
	{"yellow-new", "new leaves yellow"},
	{"purple", "purple leaves"},
	{"burnt", "burnt edges"},
	{"collapsed", "fallen over at the soil"},
	{"chewed", "chewed"},
	{"webs", "fine webs, pale dots"},
	{"flies", "white flies"},
	{"black-flies", "small black flies over the soil"},
	{"sticky", "sticky leaves, crowds on the tips"},
	{"silver", "silvery streaks with dark specks"},
	{"powder", "white powder on the leaves"},
	{"pecked", "pecked or pulled out whole"},
	{"green", "green film on top"},
	{"brown-roots", "brown roots"},
	{"circling", "roots circle"},
	{"wilted", "wilted although wet"},
}

// None is what somebody chooses who sees, or takes it for, nothing that the guide knows.
const None = "none"

// Question is asked with yes and no; it tells of nothing but what can be seen.
type Question struct {
	ID   string
	Asks say.Words
	of   map[string]float64 // the share of yes, by cause
	rest float64            // of the others
}

func (q Question) yes(cause string) float64 {
	if p, ok := q.of[cause]; ok {
		return p
	}
	return q.rest
}

// Cause is something that ails plants, and what is done about it.
type Cause struct {
	ID    string
	Name  say.Words
	Why   say.Words
	Today []say.Words // what to do
	Cut   say.Words   // and where the kind can be cut back
	Write say.Words   // what to write down
	Throw say.Words   // when it is better thrown away
	Adult bool        // an adult is fetched
	Loss  batch.Cause // under which what is lost to it is kept
	Usual float64     // how often it is so, against the others
	signs map[string]float64
	known func(Known) (float64, say.Text)
}

// seen is how often the cause shows a sign.
func (c Cause) seen(sign string) float64 {
	if p, ok := c.signs[sign]; ok {
		return p
	}
	return 0.003
}

// Questions are those that the guide may ask.
var Questions = []Question{
	{"window", "Do they lean, or are they paler, on the side away from the light?", map[string]float64{"light": 0.9, "warm": 0.4}, 0.15},
	{"tips-dry", "Is the medium dry a finger deep?", map[string]float64{"dry": 0.92, "salt": 0.4, "late": 0.35}, 0.08},
	{"soggy", "Is it wet and heavy, or does water stand?", map[string]float64{"drowned": 0.9, "damping": 0.75, "rot": 0.7, "algae": 0.8, "gnats": 0.8}, 0.12},
	{"smell", "Do the roots smell bad, or come off in the fingers?", map[string]float64{"rot": 0.9, "drowned": 0.5, "damping": 0.3}, 0.04},
	{"circles", "Do roots circle, or come out at the bottom?", map[string]float64{"late": 0.92, "hunger": 0.3}, 0.1},
	{"veins", "Are the veins still green and only the rest yellow?", map[string]float64{"iron": 0.92, "hunger": 0.1}, 0.06},
	{"slime", "Is there a shining trail, or are there large holes?", map[string]float64{"slugs": 0.85, "caterpillars": 0.25}, 0.03},
	{"under", "Is something small under the leaves, or does it fly up?", map[string]float64{
		"whitefly": 0.95, "mites": 0.75, "aphids": 0.9,
		"gnats": 0.3, "thrips": 0.6,
	}, 0.04},
	{
		"old-veins", "Is it the old leaves, yellow between veins that stay green?",
		map[string]float64{"magnesium": 0.92, "hunger": 0.1, "late": 0.1, "iron": 0.05},
		0.04,
	},
	{"heart", "Is it the youngest leaves, deep in the heart, that are brown at the edge?", map[string]float64{"tipburn": 0.93, "salt": 0.08}, 0.03},
	{"rubs", "Does it rub off with a finger?", map[string]float64{"mildew": 0.95}, 0.08},
	{"specks", "Are there tiny dark specks, or thin insects that run when you breathe on them?", map[string]float64{"thrips": 0.9, "mites": 0.1}, 0.04},
	{"rise", "Do they rise from the soil when the tray is knocked?", map[string]float64{"gnats": 0.92, "whitefly": 0.15}, 0.05},
	{"honey", "Are there crowds of small soft insects on tips or under leaves?", map[string]float64{"aphids": 0.95, "whitefly": 0.3}, 0.04},
	{"beak", "Are whole seedlings lying beside their cells, or leaves torn in strips?", map[string]float64{"birds": 0.9, "mice": 0.4}, 0.04},
	{"edges", "Is it the edge and the tip of older leaves, dry and brown?", map[string]float64{"salt": 0.85, "dry": 0.5, "sun": 0.4}, 0.08},
	{"patches", "Did it come suddenly after sun, wind or frost?", map[string]float64{"sun": 0.85, "cold": 0.7}, 0.08},
}

func when(yes bool, factor float64, because say.Text) (float64, say.Text) {
	if yes {
		return factor, because
	}
	return 1, nil
}

// Causes are what the guide knows; it is no list of everything.
var Causes = []Cause{
	{
		ID: "light", Name: "too little light", Why: "In weak light plants stretch towards it.", Usual: 1,
		Today: []say.Words{
			"Move them to the brightest place, or lower the lamp to a hand’s width above the leaves.",
			"Turn the tray today and every day.",
			"Keep them cooler than before.",
		},
		Write: "their height, and where they were", Throw: "when they fall over and do not stand up again", Loss: "leggy",
		signs: map[string]float64{"leggy": 0.9, "yellow-low": 0.1},
	},
	{
		ID: "warm", Name: "too warm for the light there is", Why: "Warmth makes them grow faster than the light feeds them.", Usual: 0.6,
		Today: []say.Words{"Open the cover, take them off the heat, or move them to a cooler place.", "Give more light."},
		Write: "the temperature by day and by night", Throw: "when they fall over and do not stand up again", Loss: "leggy",
		signs: map[string]float64{"leggy": 0.6},
		known: func(k Known) (float64, say.Text) {
			if !warm(k, 24) {
				return 1, nil
			}
			return 2.5, say.T("it is %s where they are", celsius(*k.WarmC))
		},
	},
	{
		ID: "late", Name: "they have outgrown their tray", Why: "Nutrients left in the medium are used up, and roots find no more room.", Usual: 1,
		Today: []say.Words{"Move or pot them on today; water well before and after."},
		Cut:   "Cut them back by a third first.",
		Write: "the day, and how long they waited", Throw: "when stems are woody and roots are a hard mat", Loss: "outgrown",
		signs: map[string]float64{"circling": 0.95, "yellow-low": 0.45, "leggy": 0.3, "purple": 0.15, "wilted": 0.1},
		known: func(k Known) (float64, say.Text) {
			return when(k.DaysLate > 0, 2+float64(min(10, k.DaysLate))/3, say.T("they have waited %s longer than they should", say.Plural(k.DaysLate, "day")))
		},
	},
	{
		ID: "hunger", Name: "short of food, above all nitrogen", Why: "Plants take nitrogen out of old leaves when none comes from the roots.", Usual: 0.9,
		Today: []say.Words{"Feed them at the strength for their stage.", "In water: read the strength, and raise it from the tank’s page."},
		Write: "the strength read, and when they were last fed", Throw: "do not throw away for this", Loss: "starved",
		signs: map[string]float64{"yellow-low": 0.75, "purple": 0.2},
		known: func(k Known) (float64, say.Text) {
			if k.ECMS == nil || k.ECLow == 0 {
				return 1, nil
			}
			if *k.ECMS > k.ECLow {
				return 0.4, nil
			}
			return 3, say.T("the strength was read as %s, below what is wanted", say.Of(*k.ECMS, unit.MS))
		},
	},
	{
		ID: "iron", Name: "short of iron, usually because the pH is too high",
		Why: "Above about pH 6.8 roots cannot take up iron; new leaves turn pale between green veins.", Usual: 0.5,
		Today: []say.Words{"Read the pH, and follow what the tank’s page advises.", "In soil: water with rain water, and check the compost’s pH."},
		Write: "the pH", Throw: "do not throw away for this", Adult: true, Loss: "starved",
		signs: map[string]float64{"yellow-new": 0.85},
		known: func(k Known) (float64, say.Text) {
			if k.PH == nil || k.PHHigh == 0 {
				return 1, nil
			}
			return when(*k.PH > k.PHHigh, 4, say.T("the pH was read at %.1f", *k.PH))
		},
	},
	{
		ID: "cold", Name: "too cold at the roots", Why: "In the cold roots take up little phosphorus, and leaves turn purple.", Usual: 0.6,
		Today: []say.Words{"Bring them in, or put them on the warm shelf.", "Water with water that has stood in the room."},
		Write: "the coldest night they were out in", Throw: "when the growing tip is soft and dark", Loss: "too-cold",
		signs: map[string]float64{"purple": 0.8, "wilted": 0.15, "yellow-new": 0.1, "burnt": 0.1},
		known: func(k Known) (float64, say.Text) {
			switch {
			case k.ColdNight != nil && *k.ColdNight < 5:
				return 3, say.T("a night of %s", celsius(*k.ColdNight))
			case k.WarmC != nil && *k.WarmC < 13:
				return 2.5, say.T("it is %s where they are", celsius(*k.WarmC))
			case warm(k, 20) && !k.Outside:
				return 0.3, nil
			}
			return 1, nil
		},
	},
	{
		ID: "salt", Name: "too strong a feed, or salt has built up", Why: "Salt draws water out of the roots, and leaf edges dry out.", Usual: 0.6,
		Today: []say.Words{
			"Water with plain water until a fifth of it has run out below.",
			"In water: read the strength, and dilute it by the tank’s page.",
			"Then feed again, at the strength for their stage and no more.",
		},
		Write: "the strength read", Throw: "do not throw away for this", Loss: "burnt-by-salt",
		signs: map[string]float64{"burnt": 0.6, "wilted": 0.15, "yellow-low": 0.08},
		known: func(k Known) (float64, say.Text) {
			if k.ECMS == nil || k.ECHigh == 0 {
				return 1, nil
			}
			return when(*k.ECMS > k.ECHigh, 3.5, say.T("the strength was read as %s, above what is wanted", say.Of(*k.ECMS, unit.MS)))
		},
	},
	{
		ID: "tipburn", Name: "tip burn: the heart grows faster than calcium reaches it",
		Why:   "Calcium moves with the water a leaf gives off, and the heart of a head gives off little in damp, still air.",
		Usual: 0.5,
		Today: []say.Words{
			"Move air over the hearts, gently, day and night.",
			"A little cooler, and no brighter or longer light than its crop wants.",
			"Keep the water and its strength even; harvest heads a little younger.",
		},
		Write: "warmth, light and how still the air is", Throw: "not for this: cut the brown edges out", Loss: "other",
		signs: map[string]float64{"burnt": 0.55},
		known: func(k Known) (float64, say.Text) {
			if !warm(k, 24) {
				return 1, nil
			}
			return 1.5, say.T("it is %s where they are", celsius(*k.WarmC))
		},
	},
	{
		ID: "magnesium", Name: "short of magnesium", Why: "Plants take magnesium out of old leaves; their veins stay green longest.", Usual: 0.35,
		Today: []say.Words{
			"In water: read the strength and the pH first; look whether the recipe has magnesium.",
			"In soil: a level teaspoon of magnesium sulfate in half a bucket of water, once.",
		},
		Write: "which leaves, and the pH", Throw: "do not throw away for this", Loss: "starved",
		signs: map[string]float64{"yellow-low": 0.6},
	},
	{
		ID: "sun", Name: "burnt by sun or wind", Why: "Leaves that grew indoors have never met sun and wind.", Usual: 0.5,
		Today: []say.Words{"Shade and shelter for three days, then outdoors a few more hours each day.", "Water in the morning, not on hot leaves."},
		Write: "when they went out, and for how long", Throw: "do not throw away for this: new leaves will come", Loss: "too-hot",
		signs: map[string]float64{"burnt": 0.6, "wilted": 0.1},
		known: func(k Known) (float64, say.Text) { return when(k.Outside, 2.5, say.T("they are outside")) },
	},
	{
		ID: "damping", Name: "damping off", Why: "Fungi in wet soil and still air rot seedlings at soil level (damping off).", Usual: 1,
		Today: []say.Words{
			"Take out those that fell over, with the soil around them; do not put them on the compost heap.",
			"Take the cover off; let the surface dry before watering, and water from below.",
			"Move air over them.",
		},
		Write: "how many fell, and which cells", Throw: "when half a tray has fallen over: throw it away, wash the tray, sow again", Loss: "damping-off",
		signs: map[string]float64{"collapsed": 0.92, "wilted": 0.12},
		known: func(k Known) (float64, say.Text) {
			if k.AgeDays <= 0 {
				return 1, nil
			}
			return when(k.AgeDays <= 24, 1.6, say.T("seedlings of %s get it most", say.Plural(k.AgeDays, "day")))
		},
	},
	{
		ID: "dry", Name: "dried out", Why: "Dry tips die first, then the stem gives way.", Usual: 0.8,
		Today: []say.Words{"Stand the tray in a finger’s depth of water until the surface is dark, then let it drain.", "Shade until they stand up."},
		Write: "when it was last watered", Throw: "if they have not stood up by tomorrow", Loss: "dried-out",
		signs: map[string]float64{"collapsed": 0.3, "burnt": 0.3, "yellow-low": 0.12, "wilted": 0.02},
	},
	{
		ID: "drowned", Name: "drowned: no air at the roots", Why: "Roots without air stop drinking, and leaves wilt above wet soil.", Usual: 0.8,
		Today: []say.Words{
			"Let it dry until the tray feels light; tip out any water left standing.",
			"Water by weight from now on.",
			"A jar: let the level fall until a third of the roots hang in air.",
		},
		Write: "how wet it was", Throw: "when roots are brown and come off", Loss: "drowned",
		signs: map[string]float64{"wilted": 0.75, "yellow-low": 0.25, "brown-roots": 0.25, "yellow-new": 0.08},
		known: func(k Known) (float64, say.Text) { return when(k.NoHoles, 2.5, say.T("their tray has no holes")) },
	},
	{
		ID: "rot", Name: "root rot", Why: "Warm water holds little oxygen, and root rot thrives without it.", Usual: 0.7,
		Today: []say.Words{
			"Cut off the brown roots, rinse, and put them in fresh, cool solution.",
			"Cool and shade the tank; see that the pump moves the water.",
			"Wash what touched it before the next plant.",
		},
		Write: "the water’s temperature, and how many have it",
		Throw: "when most roots are brown and smell: throw it out, and wash the vessel", Adult: true, Loss: "root-rot",
		signs: map[string]float64{"brown-roots": 0.85, "wilted": 0.35, "yellow-low": 0.1},
		known: func(k Known) (float64, say.Text) {
			if k.WaterC != nil && *k.WaterC > 24 {
				return 3, say.T("the water was %s", celsius(*k.WaterC))
			}
			if k.InWater {
				return 1.6, say.T("their roots hang in water")
			}
			return 0.8, nil
		},
	},
	{
		ID: "algae", Name: "algae", Why: "Light on wet, fed surfaces grows algae. Algae take little food, but bring gnats.", Usual: 0.8,
		Today: []say.Words{
			"Let the surface dry between waterings; scrape off the crust, or cover it with vermiculite.",
			"Keep light off every wet place: cover holes, lids and clear jars.",
		},
		Write: "where it grows", Throw: "do not throw away for this", Loss: "other",
		signs: map[string]float64{"green": 0.96},
	},
	{
		ID: "gnats", Name: "fungus gnats (their grubs eat roots)", Why: "They breed in soil that stays wet.", Usual: 0.4,
		Today: []say.Words{"Let the top two fingers’ depth dry; water from below.", "Lay yellow sticky cards on the soil."},
		Write: "how many sit on the card", Throw: "do not throw away for this", Loss: "pests",
		signs: map[string]float64{"black-flies": 0.95, "flies": 0.05, "wilted": 0.08, "green": 0.08, "collapsed": 0.05},
	},
	{
		ID: "slugs", Name: "slugs or snails", Why: "They come by night and hide by day under trays and boards.", Usual: 0.8,
		Today: []say.Words{
			"Look under trays and rims, pick them off and carry them away.",
			"Stand the tray on feet in a dish of water.",
			"Look again after dark, or at first light.",
		},
		Write: "how many were found", Throw: "when the growing tip is gone", Loss: "eaten",
		signs: map[string]float64{"chewed": 0.7},
		known: func(k Known) (float64, say.Text) { return when(k.Outside, 1.6, say.T("they are outside")) },
	},
	{
		ID: "caterpillars", Name: "caterpillars or beetles", Why: "Small holes, or edges eaten in curves; droppings below.", Usual: 0.5,
		Today: []say.Words{"Pick them off; look under each leaf for eggs.", "Hang a net over the others today."},
		Write: "what it looked like", Throw: "when the growing tip is gone", Loss: "eaten",
		signs: map[string]float64{"chewed": 0.6},
	},
	{
		ID: "birds", Name: "birds", Why: "They pull seedlings out to look at them, and tear soft leaves.", Usual: 0.3,
		Today: []say.Words{"A net over hoops, pegged down at the edges.", "Set back what still has its root, and water it."},
		Write: "what is missing, and at what time of day", Throw: "do not throw away for this: sow again", Loss: "eaten",
		signs: map[string]float64{"pecked": 0.92, "chewed": 0.12},
		known: func(k Known) (float64, say.Text) { return when(k.Outside, 2, say.T("they are outside")) },
	},
	{
		ID: "mice", Name: "mice", Why: "They take large seeds, and bite seedlings off.", Usual: 0.3,
		Today: []say.Words{"Cover the trays with a fine mesh tonight.", "Do not leave seed open on the shelf."},
		Write: "what is missing", Throw: "do not throw away for this: sow again", Adult: true, Loss: "eaten",
		signs: map[string]float64{"chewed": 0.3, "pecked": 0.3, "collapsed": 0.04},
	},
	{
		ID: "mites", Name: "spider mites", Why: "They suck leaves pale in dry, warm air.", Usual: 0.6,
		Today: []say.Words{"Rinse the undersides with water, and again in three days.", "Keep them apart; more humid and cooler air."},
		Write: "which plants", Throw: "when webs go from leaf to leaf: bag them and throw them out", Loss: "pests",
		signs: map[string]float64{"webs": 0.93, "yellow-low": 0.05},
		known: func(k Known) (float64, say.Text) {
			if !warm(k, 24) {
				return 1, nil
			}
			return 1.5, say.T("it is %s where they are", celsius(*k.WarmC))
		},
	},
	{
		ID: "whitefly", Name: "whitefly", Why: "They sit under leaves, and fly up if you touch the leaves.", Usual: 0.6,
		Today: []say.Words{"Hang yellow sticky cards among the plants; shake them, and take off the worst leaves.", "Rinse the undersides; keep them apart."},
		Write: "how many sit on the card", Throw: "when leaves are sticky and black: bag them and throw them out", Loss: "pests",
		signs: map[string]float64{"flies": 0.95, "webs": 0.03, "sticky": 0.3},
	},
	{
		ID: "thrips", Name: "thrips", Why: "They scrape leaves, which turn silvery, and leave dark specks.", Usual: 0.4,
		Today: []say.Words{
			"Blue or yellow sticky cards among the plants; take off the worst leaves.", "Rinse both sides of the leaves; again in three days.", "Keep them apart.",
		},
		Write: "how many sit on the card", Throw: "when the tips grow twisted: bag them and out", Loss: "pests",
		signs: map[string]float64{"silver": 0.92, "webs": 0.05, "chewed": 0.02},
	},
	{
		ID: "mildew", Name: "powdery mildew", Why: "A fungus of dry roots and humid, still air; it sits on the leaf.", Usual: 0.5,
		Today: []say.Words{
			"Take off the leaves that have it; into a bag, not onto the compost heap.", "More room and moving air; water the soil, not the leaves, and evenly.",
		},
		Write: "which plants", Throw: "when most leaves have it", Loss: "other",
		signs: map[string]float64{"powder": 0.95},
	},
	{
		ID: "aphids", Name: "greenfly and other aphids", Why: "They sit in clusters on shoot tips and under leaves.", Usual: 0.5,
		Today: []say.Words{"Wipe or rinse them off, shoot tips first; again in three days.", "Look for ladybirds, and leave them there."},
		Write: "which plants", Throw: "when the tips are twisted and sticky", Loss: "pests",
		signs: map[string]float64{"sticky": 0.93, "flies": 0.06, "webs": 0.03, "yellow-new": 0.1, "chewed": 0.02},
	},
}

// Sign is that which the cause shows most.
func (c Cause) Sign() string {
	best := ""
	for _, s := range Signs {
		if p, ok := c.signs[s.ID]; ok && (best == "" || p > c.signs[best]) {
			best = s.ID
		}
	}
	return best
}

// Shows tells what is to be answered of a cause, more often than not.
func (q Question) Shows(cause string) bool { return q.yes(cause) >= 0.5 }
