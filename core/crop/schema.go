package crop

// The schema: what is known of a crop, value by value. A new one is a field of Crop, a column here,
// and a column in the table of its theme (catalogue/).

import (
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Crop is one kind of plant. Temperatures °C, lengths cm, conductivities mS/cm at 25 °C.
type Crop struct {
	ID      string
	Name    say.Words
	Letters string // the batch code's three letters
	Family  say.Words
	Kind    string // leaf, herb, fruiting, root, legume, flower, cutting, sprout
	Start   string // seed, cutting, either, or set, clove, tuber, crown, bulb
	Life    string // annual, biennial, perennial
	Feeder  string // light, medium, heavy
	Tender  Tender
	// OutWeeks is when it is set out by a printed chart: weeks after the last spring frost,
	// below 0 before it.
	OutWeeks int
	SafeC    float64 // lowest night it stands unharmed once hardened
	// UnhardenedC is what it stands on its first night out, from a warm bench.
	UnhardenedC float64

	DepthCM     float64 // of sowing; 0: on the surface
	Light       string  // what it germinates in: light, dark or either
	GerminateAs string  // the row of the germination table that serves; "": thermal time
	BaseC       float64
	OptimumC    float64
	PlateauC    float64 // as fast up to here as at the optimum
	CeilingC    float64
	ThermalCD   float64 // °C·days above the base until half have emerged
	Shares      Shares  // of good seed that comes at all, by temperature
	UsualRate   float64 // percent of seed that usually comes
	SeedYears   int     // how long seed usually keeps, dry and cool

	NurseryDays                int        // from sowing to moving on
	Ready                      ready.Rule // when it may move, and how long it can wait in the nursery
	Growing, Cropping          Span       // from moving on to its last place; from there to the first harvest or flower
	Potting                    string     // how deep it goes: same, deeper, crown (no deeper than its crown)
	SpacingCM, RowCM, HeightCM float64
	Habit                      string
	Pinch                      string  // yes; no: no use; never: its single tip is the plant
	SeedsCell                  int     // usual seeds in a cell
	SeedG                      float64 // a thousand seeds weigh
	SowGM2                     float64 // dry seed for a m² of tray, of what is sprouted
	SoakHours                  float64 // of its seed before it is sprouted; 0: sown dry
	RinsesDay                  int     // of what is sprouted
	LightMol                   float64 // a day, from which it grows well, mol/m²
	LightDay                   int     // after the soak, on which sprouts go into light; 0: they stay dark
	WaterDays                  int     // after which water under a tray of shoots is changed; 0: they stand over none
	InPlace                    bool    // sown where it stays
	Clump                      bool    // seeds of a cell are meant to stay together
	Survival                   float64
	Cuts                       bool // gives several harvests
	HarvestEvery               int  // usual days from one to the next

	PH, EC  Windows
	SoilPH  Range
	Systems []string
	Hazard  say.Words // parts that are not food, irritants
	Food    string    // Food, FoodPart, NoFood, Poison
	Autumn  bool      // planted in autumn, to stand over winter
	Bolts   bool      // in long warm days

	Uncertain map[string]bool // columns of the schema whose value is a guess
	Own       map[string]bool // columns that a school has set for itself
}

// Columns is the schema.
var Columns = []Column{
	{Name: "family", Label: "Family", Group: groupKind, at: func(c *Crop) any { return &c.Family }},
	{
		Name:    "kind",
		Label:   "Grown for",
		Group:   groupKind,
		Choices: []string{"leaf", "herb", "fruiting", "root", "legume", "flower", "cutting", "sprout"},
		at:      func(c *Crop) any { return &c.Kind },
	},
	{
		Name:    "start",
		Label:   "Starts from",
		Group:   groupKind,
		Choices: []string{"seed", "cutting", "either", "set", "clove", "tuber", "crown", "bulb"},
		at:      func(c *Crop) any { return &c.Start },
	},
	{Name: "life", Label: "Life", Group: groupKind, Choices: []string{"annual", "biennial", "perennial"}, at: func(c *Crop) any { return &c.Life }},
	{Name: "feeder", Label: "Nutrient demand", Group: groupKind, Choices: []string{"light", "medium", "heavy"}, at: func(c *Crop) any { return &c.Feeder }},
	{
		Name:    "tender",
		Label:   "Cold",
		Group:   groupKind,
		Choices: []string{string(Hardy), string(HalfHardy), string(TenderCrop)},
		at:      func(c *Crop) any { return (*string)(&c.Tender) },
	},
	{
		Name:  "out_weeks",
		Label: "Plant out, weeks after the last frost",
		Group: groupKind,
		Low:   -12,
		High:  8,
		at:    func(c *Crop) any { return &c.OutWeeks },
	},
	{
		Name:  "safe_c",
		Label: "Lowest safe night, hardened",
		Unit:  unit.Celsius,
		Group: groupKind,
		Low:   -30,
		High:  20,
		at:    func(c *Crop) any { return &c.SafeC },
	},
	{
		Name:  "unhardened_c",
		Label: "Lowest safe night, not hardened off",
		Unit:  unit.Celsius,
		Group: groupKind,
		Low:   -15,
		High:  20,
		at:    func(c *Crop) any { return &c.UnhardenedC },
	},
	{Name: "autumn", Label: "Planted in autumn", Group: groupKind, at: func(c *Crop) any { return &c.Autumn }},
	{Name: "bolts", Label: "Bolts in long warm days", Group: groupKind, at: func(c *Crop) any { return &c.Bolts }},
	{
		Name:    "food",
		Label:   "Is it food",
		Group:   groupKind,
		Choices: []string{Food, FoodPart, NoFood, Poison},
		at:      func(c *Crop) any { return &c.Food },
	},
	{Name: "hazard", Label: "Take care", Group: groupKind, at: func(c *Crop) any { return &c.Hazard }},

	{Name: "depth_cm", Label: "Sow at a depth of", Unit: unit.Centimetre, Group: groupSow, High: 12, at: func(c *Crop) any { return &c.DepthCM }},
	{Name: "light", Label: "Germinates in", Group: groupSow, Choices: []string{"light", "dark", "either"}, at: func(c *Crop) any { return &c.Light }},
	{Name: "germinates_as", Label: "Row of the germination table", Group: groupSow, at: func(c *Crop) any { return &c.GerminateAs }},
	{
		Name:     "base_c",
		Label:    "Too cold to germinate at",
		Unit:     unit.Celsius,
		Group:    groupSow,
		Low:      -5,
		High:     20,
		cardinal: true,
		at:       func(c *Crop) any { return &c.BaseC },
	},
	{
		Name:     "optimum_c",
		Label:    "Germinates fastest at",
		Unit:     unit.Celsius,
		Group:    groupSow,
		Low:      10,
		High:     40,
		cardinal: true,
		at:       func(c *Crop) any { return &c.OptimumC },
	},
	{
		Name:     "plateau_c",
		Label:    "as fast up to",
		Unit:     unit.Celsius,
		Group:    groupSow,
		Low:      10,
		High:     45,
		cardinal: true,
		at:       func(c *Crop) any { return &c.PlateauC },
	},
	{
		Name:     "ceiling_c",
		Label:    "Too hot to germinate at",
		Unit:     unit.Celsius,
		Group:    groupSow,
		Low:      15,
		High:     50,
		cardinal: true,
		at:       func(c *Crop) any { return &c.CeilingC },
	},
	{
		Name:     "thermal_cd",
		Label:    "Thermal time until half are up",
		Unit:     unit.DegreeDays,
		Group:    groupSow,
		Low:      5,
		High:     600,
		cardinal: true,
		at:       func(c *Crop) any { return &c.ThermalCD },
	},
	{Name: "shares", Label: "Germinates at a temperature, °C:%", Group: groupSow, at: func(c *Crop) any { return &c.Shares }},
	{Name: "usual_rate", Label: "Usually germinates", Unit: "%", Group: groupSow, Low: 5, High: 100, at: func(c *Crop) any { return &c.UsualRate }},
	{Name: "seeds_cell", Label: "Usual seeds in a cell", Group: groupSow, Low: 1, High: 20, at: func(c *Crop) any { return &c.SeedsCell }},
	{Name: "seed_g", Label: "Weight of 1,000 seeds", Unit: unit.Gram, Group: groupSow, Low: 0.005, High: 100000, at: func(c *Crop) any { return &c.SeedG }},
	{Name: "sow_g_m2", Label: "Dry seed for 1 m² of tray", Unit: "g/m²", Group: groupSow, High: 5000, at: func(c *Crop) any { return &c.SowGM2 }},
	{Name: "soak_hours", Label: "Soak for, when sprouting", Unit: "hours", Group: groupSow, High: 48, at: func(c *Crop) any { return &c.SoakHours }},
	{Name: "rinses_day", Label: "Rinses a day, when sprouting", Group: groupSow, High: 6, at: func(c *Crop) any { return &c.RinsesDay }},
	{Name: "light_day", Label: "Into light on day", Group: groupSow, High: 20, at: func(c *Crop) any { return &c.LightDay }},
	{
		Name: "light_mol", Label: "Daily light it needs to grow well", Unit: "mol/m²", Group: groupStages, Low: 1, High: 60,
		at: func(c *Crop) any { return &c.LightMol },
	},
	{Name: "water_days", Label: "Change the water under its tray after", Unit: "days", Group: groupSow, High: 7, at: func(c *Crop) any { return &c.WaterDays }},
	{Name: "clump", Label: "Stays together as a clump", Group: groupSow, at: func(c *Crop) any { return &c.Clump }},
	{Name: "survival", Label: "Seedlings that become plants", Group: groupSow, Low: 0.3, High: 1, at: func(c *Crop) any { return &c.Survival }},
	{Name: "seed_years", Label: "Seed keeps for", Unit: "years", Group: groupSow, Low: 1, High: 15, at: func(c *Crop) any { return &c.SeedYears }},

	{
		Name:  "nursery_days",
		Label: "Sowing to moving on",
		Unit:  "days",
		Group: groupStages,
		Low:   1,
		High:  200,
		at:    func(c *Crop) any { return &c.NurseryDays },
	},
	{Name: "nursery_hold", Label: "It can wait there", Unit: "days", Group: groupStages, High: 120, at: func(c *Crop) any { return &c.Ready.HoldDays }},
	{
		Name:  "growing_days",
		Label: "Growing on, to its last place",
		Unit:  "days",
		Group: groupStages,
		High:  200,
		at:    func(c *Crop) any { return &c.Growing.Days },
	},
	{
		Name:  "growing_hold",
		Label: "It can also wait there",
		Unit:  "days",
		Group: groupStages,
		High:  120,
		at:    func(c *Crop) any { return &c.Growing.Hold },
	},
	{
		Name:  "cropping_days",
		Label: "Then to the first harvest or flower",
		Unit:  "days",
		Group: groupStages,
		Low:   1,
		High:  1000,
		at:    func(c *Crop) any { return &c.Cropping.Days },
	},
	{Name: "cropping_hold", Label: "It stays good for", Unit: "days", Group: groupStages, High: 200, at: func(c *Crop) any { return &c.Cropping.Hold }},
	{Name: "ready_leaves", Label: "Ready to move with this many true leaves", Group: groupStages, High: 20, at: func(c *Crop) any { return &c.Ready.Leaves }},
	{
		Name:  "ready_height_cm",
		Label: "or at a height of",
		Unit:  unit.Centimetre,
		Group: groupStages,
		High:  200,
		at:    func(c *Crop) any { return &c.Ready.HeightCM },
	},
	{Name: "ready_age", Label: "or at an age of", Unit: "days", Group: groupStages, High: 400, at: func(c *Crop) any { return &c.Ready.AgeDays }},
	{Name: "ready_roots", Label: "or when its roots hold the ball", Group: groupStages, at: func(c *Crop) any { return &c.Ready.Roots }},
	{Name: "ready_every", Label: "Asks for all of these", Group: groupStages, at: func(c *Crop) any { return &c.Ready.Every }},
	{Name: "in_place", Label: "Sown where it stays", Group: groupStages, at: func(c *Crop) any { return &c.InPlace }},
	{Name: "cuts", Label: "Gives several harvests", Group: groupStages, at: func(c *Crop) any { return &c.Cuts }},
	{
		Name:  "harvest_every",
		Label: "Ready to harvest again after",
		Unit:  "days",
		Group: groupStages,
		High:  120,
		at:    func(c *Crop) any { return &c.HarvestEvery },
	},

	{Name: "potting", Label: "Goes in", Group: groupStand, Choices: []string{"same", "deeper", "crown"}, at: func(c *Crop) any { return &c.Potting }},
	{
		Name:  "spacing_cm",
		Label: "Spacing in the row",
		Unit:  unit.Centimetre,
		Group: groupStand,
		Low:   0.5,
		High:  200,
		at:    func(c *Crop) any { return &c.SpacingCM },
	},
	{Name: "row_cm", Label: "Between rows", Unit: unit.Centimetre, Group: groupStand, Low: 0.5, High: 300, at: func(c *Crop) any { return &c.RowCM }},
	{Name: "height_cm", Label: "Height", Unit: unit.Centimetre, Group: groupStand, Low: 2, High: 400, at: func(c *Crop) any { return &c.HeightCM }},
	{
		Name:    "habit",
		Label:   "Growth form",
		Group:   groupStand,
		Choices: []string{"rosette", "upright", "bush", "climbing", "trailing", "clump"},
		at:      func(c *Crop) any { return &c.Habit },
	},
	{Name: "pinch", Label: "May be pinched", Group: groupStand, Choices: []string{"yes", "no", "never"}, at: func(c *Crop) any { return &c.Pinch }},
	{
		Name:    "systems",
		Label:   "Suits",
		Group:   groupStand,
		Choices: []string{"tray", "tower", "raft", "jar", "bed", "pot", "sprouter"},
		at:      func(c *Crop) any { return &c.Systems },
	},

	{Name: "ph_seedling", Label: "pH, seedlings", Unit: "pH", Group: groupWater, Low: 4.5, High: 8, at: func(c *Crop) any { return &c.PH.Seedling }},
	{Name: "ph_growing", Label: "pH, growing", Unit: "pH", Group: groupWater, Low: 4.5, High: 8, at: func(c *Crop) any { return &c.PH.Growing }},
	{Name: "ph_cropping", Label: "pH, cropping", Unit: "pH", Group: groupWater, Low: 4.5, High: 8, at: func(c *Crop) any { return &c.PH.Cropping }},
	{Name: "ec_seedling", Label: "Strength, seedlings", Unit: unit.MS, Group: groupWater, High: 4, at: func(c *Crop) any { return &c.EC.Seedling }},
	{Name: "ec_growing", Label: "Strength, growing", Unit: unit.MS, Group: groupWater, High: 4, at: func(c *Crop) any { return &c.EC.Growing }},
	{Name: "ec_cropping", Label: "Strength, cropping", Unit: unit.MS, Group: groupWater, High: 4, at: func(c *Crop) any { return &c.EC.Cropping }},
	{Name: "soil_ph", Label: "pH of its soil", Unit: "pH", Group: groupWater, Low: 4, High: 9, at: func(c *Crop) any { return &c.SoilPH }},
}
