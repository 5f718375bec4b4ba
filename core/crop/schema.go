package crop

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Column is one value that is known of a crop: its name in the table, what a
// person calls it, its unit, and what it takes.
type Column struct {
	Name      string
	Label     say.Words
	Unit      string
	Group     say.Words // the heading it stands under
	Low, High float64
	Choices   []string
	cardinal  bool // of germination: a value of the school's own goes before the germination table
	at        func(*Crop) any
}

// The headings of the schema, in order.
const (
	groupKind   say.Words = "What it is"
	groupSow    say.Words = "Sowing"
	groupStages say.Words = "Stages"
	groupStand  say.Words = "Where it stands"
	groupWater  say.Words = "Its solution"
)

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
		Label:   "Begun from",
		Group:   groupKind,
		Choices: []string{"seed", "cutting", "either", "set", "clove", "tuber", "crown", "bulb"},
		at:      func(c *Crop) any { return &c.Start },
	},
	{Name: "life", Label: "Life", Group: groupKind, Choices: []string{"annual", "biennial", "perennial"}, at: func(c *Crop) any { return &c.Life }},
	{Name: "feeder", Label: "Feeder", Group: groupKind, Choices: []string{"light", "medium", "heavy"}, at: func(c *Crop) any { return &c.Feeder }},
	{
		Name:    "tender",
		Label:   "Cold",
		Group:   groupKind,
		Choices: []string{string(Hardy), string(HalfHardy), string(TenderCrop)},
		at:      func(c *Crop) any { return (*string)(&c.Tender) },
	},
	{
		Name:  "out_weeks",
		Label: "Set out, weeks after the last frost",
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
		Label: "Lowest safe night, unhardened",
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
		Label:    "Warmth until half are up",
		Unit:     unit.DegreeDays,
		Group:    groupSow,
		Low:      5,
		High:     600,
		cardinal: true,
		at:       func(c *Crop) any { return &c.ThermalCD },
	},
	{Name: "shares", Label: "Comes at a temperature, °C:%", Group: groupSow, at: func(c *Crop) any { return &c.Shares }},
	{Name: "usual_rate", Label: "Usually comes", Unit: "%", Group: groupSow, Low: 5, High: 100, at: func(c *Crop) any { return &c.UsualRate }},
	{Name: "seeds_cell", Label: "Usual seeds in a cell", Group: groupSow, Low: 1, High: 20, at: func(c *Crop) any { return &c.SeedsCell }},
	{Name: "seed_g", Label: "A thousand weigh", Unit: unit.Gram, Group: groupSow, Low: 0.005, High: 100000, at: func(c *Crop) any { return &c.SeedG }},
	{Name: "sow_g_m2", Label: "Dry seed for 1 m² of tray", Unit: "g/m²", Group: groupSow, High: 5000, at: func(c *Crop) any { return &c.SowGM2 }},
	{Name: "soak_hours", Label: "Soaked for, where it is sprouted", Unit: "hours", Group: groupSow, High: 48, at: func(c *Crop) any { return &c.SoakHours }},
	{Name: "rinses_day", Label: "Rinsed a day, where it is sprouted", Group: groupSow, High: 6, at: func(c *Crop) any { return &c.RinsesDay }},
	{Name: "light_day", Label: "Into light on day", Group: groupSow, High: 20, at: func(c *Crop) any { return &c.LightDay }},
	{
		Name: "light_mol", Label: "Light in a day from which it grows well", Unit: "mol/m²", Group: groupStages, Low: 1, High: 60,
		at: func(c *Crop) any { return &c.LightMol },
	},
	{Name: "water_days", Label: "Water under its tray changed after", Unit: "days", Group: groupSow, High: 7, at: func(c *Crop) any { return &c.WaterDays }},
	{Name: "clump", Label: "Stays together as a clump", Group: groupSow, at: func(c *Crop) any { return &c.Clump }},
	{Name: "survival", Label: "Sprouts that become plants", Group: groupSow, Low: 0.3, High: 1, at: func(c *Crop) any { return &c.Survival }},
	{Name: "seed_years", Label: "Seed keeps", Unit: "years", Group: groupSow, Low: 1, High: 15, at: func(c *Crop) any { return &c.SeedYears }},

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
		Label: "It can wait there too",
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
	{Name: "ready_leaves", Label: "Ready to move at true leaves", Group: groupStages, High: 20, at: func(c *Crop) any { return &c.Ready.Leaves }},
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
		Label: "Harvested again after",
		Unit:  "days",
		Group: groupStages,
		High:  120,
		at:    func(c *Crop) any { return &c.HarvestEvery },
	},

	{Name: "potting", Label: "Goes in", Group: groupStand, Choices: []string{"same", "deeper", "crown"}, at: func(c *Crop) any { return &c.Potting }},
	{
		Name:  "spacing_cm",
		Label: "Apart in the row",
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
		Label:   "Habit",
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

// ColumnOf is the column with that name, and whether there is one.
func ColumnOf(name string) (Column, bool) {
	i := slices.IndexFunc(Columns, func(k Column) bool { return k.Name == name })
	if i < 0 {
		return Column{}, false
	}
	return Columns[i], true
}

// set reads a value as the table writes it: a number in the column's metric
// unit, two with a dash for a window, yes or no, a word, or words.
func (k Column) set(c *Crop, value string) error {
	switch at := k.at(c).(type) {
	case *float64:
		v, err := k.number(value)
		*at = v
		return err
	case *int:
		v, err := k.number(value)
		if err == nil && v != math.Trunc(v) {
			err = say.Wrong("takes a whole number")
		}
		*at = int(v)
		return err
	case *Range:
		low, high, ok := strings.Cut(value, "-")
		if !ok {
			return say.Wrong("takes two numbers with a dash, like 5.5-6.3")
		}
		l, err1 := k.number(low)
		h, err2 := k.number(high)
		*at = Range{l, h}
		if err := cmp.Or(err1, err2); err != nil {
			return err
		}
		if h < l {
			return say.Wrong("takes the lower number first")
		}
	case *bool:
		*at = value == "yes"
		if value != "yes" && value != "no" {
			return say.Wrong("takes yes or no")
		}
	case *Shares:
		x, err := readShares(value)
		*at = x
		return err
	case *[]string:
		*at = strings.Fields(value)
		for _, w := range *at {
			if !slices.Contains(k.Choices, w) {
				return k.offer()
			}
		}
		if len(*at) == 0 {
			return k.offer()
		}
	case *say.Words:
		*at = say.Words(value)
		if len(value) > 200 {
			return say.Wrong("takes up to 200 letters")
		}
	case *string:
		*at = value
		if k.Choices != nil && !slices.Contains(k.Choices, value) {
			return k.offer()
		}
		if len(value) > 200 {
			return say.Wrong("takes up to 200 letters")
		}
	}
	return nil
}

func (k Column) offer() error { return say.Wrong("takes %s", say.Name(strings.Join(k.Choices, ", "))) }

func (k Column) number(s string) (float64, error) {
	v, err := unit.Read(s)
	if err != nil || v < k.Low || v > k.High {
		return 0, say.Wrong("takes %s", say.Join(" ", say.T("%v to %v", k.Low, k.High), say.Unit(k.Unit)))
	}
	return v, nil
}

// Of is the crop's value as the table writes it.
func (k Column) Of(c Crop) string {
	number := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	switch at := k.at(&c).(type) {
	case *float64:
		return number(*at)
	case *int:
		return strconv.Itoa(*at)
	case *Range:
		return number(at.Low) + "-" + number(at.High)
	case *bool:
		if *at {
			return "yes"
		}
		return "no"
	case *Shares:
		return at.String()
	case *[]string:
		return strings.Join(*at, " ")
	case *say.Words:
		return string(*at)
	case *string:
		return *at
	}
	return ""
}

// Measured tells whether the column is one number or a window of two, in its unit.
func (k Column) Measured() (number, window bool) {
	switch k.at(&Crop{}).(type) {
	case *float64, *int:
		return true, false
	case *Range:
		return false, true
	}
	return false, false
}

// Worded tells whether the column is words of the program's, which each reader reads in
// their language.
func (k Column) Worded() bool {
	_, ok := k.at(&Crop{}).(*say.Words)
	return ok
}

// Check refuses values that do not go together, by column.
func (c Crop) Check() error {
	var e field.Errors
	e.Require(c.BaseC < c.OptimumC, "optimum_c", "lies above the base temperature")
	e.Require(c.OptimumC < c.CeilingC, "ceiling_c", "lies above the optimum")
	e.Require(c.PlateauC < c.CeilingC, "plateau_c", "lies below the temperature that is too hot")
	e.Require(c.UnhardenedC >= c.SafeC, "unhardened_c", "is not colder than what it bears once hardened")
	e.Require(c.Ready.Leaves > 0 || c.Ready.HeightCM > 0 || c.Ready.AgeDays > 0, "ready_leaves", "say leaves, a height or an age; one is enough")
	return e.Err()
}
