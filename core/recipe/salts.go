package recipe

import (
	"maps"
	"slices"
	"strings"

	"ulpa/core/chemistry"
	"ulpa/core/say"
)

// Elements that a recipe counts, in the order they are told. N is the sum of
// its two forms.
var Elements = []string{"NO3_N", "NH4_N", "P", "K", "Ca", "Mg", "S", "Na", "Cl", "Fe", "Mn", "Zn", "B", "Cu", "Mo"}

// Targets are the elements a recipe can aim at.
var Targets = []string{"N", "P", "K", "Ca", "Mg", "S", "Fe", "Mn", "Zn", "B", "Cu", "Mo"}

// IUPAC abridged standard atomic weights, g/mol, five figures.
var atomicWeight = map[string]float64{
	"H": chemistry.WH, "B": 10.81, "C": chemistry.WC, "N": chemistry.WN, "O": chemistry.WO, "Na": 22.990, "Mg": 24.305, "P": chemistry.WP,
	"S": chemistry.WS, "Cl": 35.45,
	"K": chemistry.WK, "Ca": 40.078, "Mn": 54.938, "Fe": 55.845, "Cu": 63.546, "Zn": 65.38, "Mo": 95.95,
}

// salt is a product of the library: its formula as atoms, nitrogen told apart
// by its form, and how much dissolves, g/L at 20 °C (0: not told).
type salt struct {
	atoms     map[string]float64 // NO3_N and NH4_N count nitrogen atoms
	percent   map[string]float64 // chelates: by mass instead
	solubleGL float64
}

var library = map[string]salt{
	"calcium_nitrate_tetrahydrate": {atoms: map[string]float64{"Ca": 1, "NO3_N": 2, "O": 10, "H": 8}, solubleGL: 1290},
	// 5Ca(NO3)2·NH4NO3·10H2O
	"calcium_ammonium_nitrate_decahydrate": {atoms: map[string]float64{"Ca": 5, "NO3_N": 11, "NH4_N": 1, "O": 43, "H": 24}, solubleGL: 1100},
	"potassium_nitrate":                    {atoms: map[string]float64{"K": 1, "NO3_N": 1, "O": 3}, solubleGL: 316},
	"monopotassium_phosphate":              {atoms: map[string]float64{"K": 1, "H": 2, "P": 1, "O": 4}, solubleGL: 226},
	"monoammonium_phosphate":               {atoms: map[string]float64{"NH4_N": 1, "H": 6, "P": 1, "O": 4}, solubleGL: 370},
	"magnesium_sulfate_heptahydrate":       {atoms: map[string]float64{"Mg": 1, "S": 1, "O": 11, "H": 14}, solubleGL: 710},
	"magnesium_nitrate_hexahydrate":        {atoms: map[string]float64{"Mg": 1, "NO3_N": 2, "O": 12, "H": 12}, solubleGL: 1250},
	"potassium_sulfate":                    {atoms: map[string]float64{"K": 2, "S": 1, "O": 4}, solubleGL: 111},
	"potassium_chloride":                   {atoms: map[string]float64{"K": 1, "Cl": 1}, solubleGL: 340},
	"calcium_chloride_dihydrate":           {atoms: map[string]float64{"Ca": 1, "Cl": 2, "O": 2, "H": 4}, solubleGL: 980},
	"ammonium_sulfate":                     {atoms: map[string]float64{"NH4_N": 2, "H": 8, "S": 1, "O": 4}, solubleGL: 754},
	"iron_dtpa_11":                         {percent: map[string]float64{"Fe": 11}, solubleGL: 120},
	"iron_eddha_6":                         {percent: map[string]float64{"Fe": 6}, solubleGL: 60},
	"manganese_sulfate_monohydrate":        {atoms: map[string]float64{"Mn": 1, "S": 1, "O": 5, "H": 2}, solubleGL: 700},
	"zinc_sulfate_heptahydrate":            {atoms: map[string]float64{"Zn": 1, "S": 1, "O": 11, "H": 14}, solubleGL: 960},
	"boric_acid":                           {atoms: map[string]float64{"B": 1, "O": 3, "H": 3}, solubleGL: 47},
	"copper_sulfate_pentahydrate":          {atoms: map[string]float64{"Cu": 1, "S": 1, "O": 9, "H": 10}, solubleGL: 317},
	"sodium_molybdate_dihydrate":           {atoms: map[string]float64{"Na": 2, "Mo": 1, "O": 6, "H": 4}, solubleGL: 650},
}

// LibraryNames lists the products of the library.
var LibraryNames = []string{
	"calcium_nitrate_tetrahydrate", "calcium_ammonium_nitrate_decahydrate", "potassium_nitrate", "monopotassium_phosphate",
	"monoammonium_phosphate", "magnesium_sulfate_heptahydrate", "magnesium_nitrate_hexahydrate", "potassium_sulfate",
	"potassium_chloride", "calcium_chloride_dihydrate", "ammonium_sulfate", "iron_dtpa_11", "iron_eddha_6",
	"manganese_sulfate_monohydrate", "zinc_sulfate_heptahydrate", "boric_acid", "copper_sulfate_pentahydrate", "sodium_molybdate_dihydrate",
}

// Oxidiser says whether a salt of the library is a nitrate, which feeds a fire (class 5.1 of the
// UN Model Regulations; a few fertiliser grades are exempt when moved, none near fuel or heat).
func Oxidiser(name string) bool { return library[name].atoms["NO3_N"] > 0 }

// fractions are grams of each element in a gram.
func (s salt) fractions() map[string]float64 {
	out := map[string]float64{}
	for el, p := range s.percent {
		out[el] = p / 100
	}
	mass := 0.0
	for _, el := range slices.Sorted(maps.Keys(s.atoms)) { // one order, one last digit
		mass += s.atoms[el] * weightOf(el)
	}
	for el, n := range s.atoms {
		if el != "H" && el != "O" {
			out[el] = n * weightOf(el) / mass
		}
	}
	return out
}

func weightOf(el string) float64 {
	if el == "NO3_N" || el == "NH4_N" {
		return atomicWeight["N"]
	}
	return atomicWeight[el]
}

// Label is a product as its label states it, in percent by mass.
type Label map[string]float64

// LabelKeys are what a label may state; oxides are turned into their elements.
var LabelKeys = []string{
	"N",
	"NO3_N",
	"NH4_N",
	"P",
	"P2O5",
	"K",
	"K2O",
	"Ca",
	"CaO",
	"Mg",
	"MgO",
	"S",
	"SO3",
	"Na",
	"Cl",
	"Fe",
	"Mn",
	"Zn",
	"B",
	"Cu",
	"Mo",
}

// oxides by the element they count for: how much of the oxide's mass it is.
var oxides = map[string]struct {
	element string
	share   float64
}{
	"P2O5": {"P", 2 * chemistry.WP / (2*chemistry.WP + 5*chemistry.WO)},
	"K2O":  {"K", 2 * chemistry.WK / (2*chemistry.WK + chemistry.WO)},
	"CaO":  {"Ca", 40.078 / (40.078 + chemistry.WO)},
	"MgO":  {"Mg", 24.305 / (24.305 + chemistry.WO)},
	"SO3":  {"S", chemistry.WS / (chemistry.WS + 3*chemistry.WO)},
}

// fractions are grams of each element in a gram. Of the total N, what its two
// named forms leave counts as nitrate.
func (l Label) fractions() map[string]float64 {
	out := map[string]float64{}
	for _, key := range slices.Sorted(maps.Keys(l)) {
		p := l[key]
		switch ox, isOxide := oxides[key]; {
		case isOxide:
			out[ox.element] += p / 100 * ox.share
		case key == "N":
			out["NO3_N"] += max(0, p-l["NO3_N"]-l["NH4_N"]) / 100
		default:
			out[key] += p / 100
		}
	}
	return out
}

// Salt is a product of the library, or of the school's own, by its name in words; to
// programs by its name in the library.
func Salt(name string) say.Text { return libraryName(name) }

type libraryName string

func (s libraryName) In(r say.Reader) string {
	if r.Machine {
		return string(s)
	}
	return say.Words(s.String()).In(r)
}

func (s libraryName) String() string               { return strings.ReplaceAll(string(s), "_", " ") }
func (s libraryName) MarshalText() ([]byte, error) { return []byte(s.String()), nil }

// Salts are the names of the library's products.
func Salts() []string { return slices.Sorted(maps.Keys(library)) }

// Soluble is how much of a salt dissolves in a litre of stock at 20 °C, g; false for what is
// not told.
func Soluble(chemical string) (gL float64, told bool) {
	x, known := library[chemical]
	return x.solubleGL, known && x.solubleGL > 0
}
