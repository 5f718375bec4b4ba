// Package crop is the catalogue: what is known of the kinds of plants that
// schools grow, kept as tables by theme (catalogue/) with a schema (schema.go).
// Values are from general horticultural literature; a question mark in a
// table marks what is uncertain, and a school's own values go before them.
//
//	lettuce, ok := crop.Find("lettuce")
package crop

import (
	"cmp"
	"embed"
	"encoding/csv"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"math"
	"slices"
	"strings"
	"sync"

	"ulpa/core/calendar"
	"ulpa/core/say"
)

// Tender says how much cold a crop stands.
type Tender string

// Hardy stands frost once hardened off, HalfHardy a touch of it, TenderCrop none.
const (
	Hardy      Tender = "hardy"
	HalfHardy  Tender = "half-hardy"
	TenderCrop Tender = "tender"
)

// Range is a window of values, both ends included.
type Range struct{ Low, High float64 }

// Span is how long a stage takes at least, and how much longer it can wait, in days.
type Span struct{ Days, Hold int }

// Windows are what a crop's solution should keep to, by stage.
type Windows struct{ Seedling, Growing, Cropping Range }

// Whether it is food: all that is grown for it; some of it, or only cooked; nothing of it; and
// what is poisonous, known so that nobody eats it.
const (
	Food     = "yes"
	FoodPart = "part"
	NoFood   = "no"
	Poison   = "poison"
)

// Eaten tells whether any of it is food.
func (c Crop) Eaten() bool { return c.Food == Food || c.Food == FoodPart }

// HarvestDays are the usual days from sowing to the first harvest.
func (c Crop) HarvestDays() int { return c.NurseryDays + c.Growing.Days + c.Cropping.Days }

// HarvestDue is when the plants that stand may be harvested. What was last cut (0: not
// yet) grows again; where plants were taken whole, those that are left are ready still.
func (c Crop) HarvestDue(sown, cut calendar.Day, whole bool) calendar.Day {
	if cut == 0 || whole && !c.Cuts {
		return sown + calendar.Day(c.HarvestDays())
	}
	return cut + calendar.Day(c.Again())
}

// Again is the days from one cut to the next: the crop's own, or a fortnight where leaves
// were taken of what is usually harvested whole.
func (c Crop) Again() int {
	if c.HarvestEvery > 0 {
		return c.HarvestEvery
	}
	return 14
}

// Sprout tells whether it is eaten as a shoot from where it was sown: it is harvested,
// not moved.
func (c Crop) Sprout() bool { return c.Kind == "sprout" }

// Stays tells whether it is eaten, or grown on, where it was sown.
func (c Crop) Stays() bool { return c.Sprout() || c.InPlace }

// CutsBack tells whether it grows on from side shoots when it is cut back in its tray, and its tips
// root: what is grown for fruit or pods, and what has a single tip, does not.
func (c Crop) CutsBack() bool {
	return c.Pinch == "yes" && (c.Kind == "herb" || c.Kind == "cutting" || c.Kind == "flower" || c.Kind == "leaf")
}

// FromSeed tells whether seed is what it is begun from.
func (c Crop) FromSeed() bool { return c.Start == "seed" || c.Start == "either" }

// Suits tells whether it is usually grown in a system: tray, tower, raft, jar, bed, pot
// or sprouter.
func (c Crop) Suits(system string) bool { return slices.Contains(c.Systems, system) }

// With is the crop with a value of the school's own; the crop itself stays as it is.
func (c Crop) With(column, value string) (Crop, error) {
	k, ok := ColumnOf(column)
	if !ok {
		return c, fmt.Errorf("%s is not a column of the catalogue", column)
	}
	c.Own, c.Uncertain = maps.Clone(c.Own), maps.Clone(c.Uncertain)
	if c.Own == nil {
		c.Own = map[string]bool{}
	}
	if err := k.set(&c, strings.TrimSpace(value)); err != nil {
		return c, err
	}
	if named, ok := Of(c.ID); column == "food" && ok && named.Food == Poison && c.Food != Poison {
		return c, say.Wrong("stays: what is called so, or is like it, is known to harm")
	}
	c.Own[column] = true
	delete(c.Uncertain, column)
	if k.cardinal {
		c.GerminateAs = "" // the school's figures stand, not the table's
	}
	return c, nil
}

// The catalogue is kept by theme, each file keyed by the crop: a new value is a column of one.
//
//go:embed catalogue/*.csv
var tables embed.FS

// catalogue is read once, when first asked for.
var catalogue = sync.OnceValue(func() map[string]Crop {
	all, err := read(tables)
	if err != nil {
		panic(err) // our own tables, which a test reads
	}
	return all
})

// read joins the tables. crops.csv has what every crop is called; each of the others has a line for
// every crop, in whatever order, and what lacks one is named.
func read(tables fs.FS) (map[string]Crop, error) {
	all := map[string]Crop{}
	lines, err := readTable(tables, "catalogue/crops.csv")
	if err != nil {
		return nil, err
	}
	for _, line := range lines {
		all[line["id"]] = Crop{ID: line["id"], Name: say.Words(line["name"]), Letters: line["letters"], Uncertain: map[string]bool{}}
	}
	names, err := fs.Glob(tables, "catalogue/*.csv")
	if err != nil {
		return nil, err
	}
	var wrong []error
	for _, name := range names {
		if lines, err = readTable(tables, name); err != nil {
			return nil, err
		}
		missing := maps.Clone(all)
		for _, line := range lines {
			c, ok := all[line["id"]]
			if _, first := missing[line["id"]]; !ok || !first {
				wrong = append(wrong, fmt.Errorf("%s: %s is there twice, or not in crops.csv", name, line["id"]))
				continue
			}
			delete(missing, line["id"])
			if err := c.read(line); err != nil {
				wrong = append(wrong, fmt.Errorf("%s: %s, %w", name, line["id"], err))
			}
			all[c.ID] = c
		}
		for _, id := range slices.Sorted(maps.Keys(missing)) {
			wrong = append(wrong, fmt.Errorf("%s: %s is missing", name, id))
		}
	}
	return all, errors.Join(wrong...)
}

// readTable is the lines of a table, each by the names of its columns.
func readTable(tables fs.FS, name string) (lines []map[string]string, err error) {
	file, err := tables.Open(name)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	rows, err := csv.NewReader(file).ReadAll()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	for _, row := range rows[1:] {
		line := map[string]string{}
		for i, value := range row {
			line[rows[0][i]] = value
		}
		lines = append(lines, line)
	}
	return lines, nil
}

// read takes the values of a line; a question mark marks a guess.
func (c *Crop) read(line map[string]string) error {
	for _, name := range slices.Sorted(maps.Keys(line)) {
		if slices.Contains([]string{"id", "name", "letters"}, name) {
			continue
		}
		k, ok := ColumnOf(name)
		if !ok {
			return fmt.Errorf("no column %s in the schema", name)
		}
		value, guess := strings.CutSuffix(line[name], "?")
		if err := k.set(c, value); err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
		if guess {
			c.Uncertain[name] = true
		}
	}
	return nil
}

// All is the catalogue in the order of the crops' names.
func All() []Crop {
	return slices.SortedFunc(maps.Values(catalogue()), func(a, b Crop) int { return cmp.Compare(a.Name, b.Name) })
}

// Raises is the share of cells that usually give a plant, with the usual seeds in each (0 to 1).
func (c Crop) Raises() float64 {
	return c.Survival * (1 - math.Pow(1-c.UsualRate/100, float64(max(1, c.SeedsCell))))
}

// Find is the crop with that id, and whether there is one. All does not list what nobody knows.
func Find(id string) (Crop, bool) {
	if id == Unknown {
		return unknown(), true
	}
	c, ok := catalogue()[id]
	return c, ok
}
