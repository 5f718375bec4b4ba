package tray

import "ulpa/core/say"

// Kind is what seeds are sown in, and what is usual of it.
type Kind struct {
	ID     string
	Name   say.Words
	Drains bool
	Open   bool // its rows are not parted into cells: each holds many seedlings
}

// Kinds are those that schools have; another is told as the nearest.
var Kinds = []Kind{
	{"cells", "tray of cells", true, false},
	{"flat", "open flat, in rows", true, true},
	{"carton", "cartons or egg boxes", true, false},
	{"tub", "tubs", false, true},
	{"tube", "tubes", true, false},
	{"pots", "single pots", true, false},
	{"cubes", "cubes in a sheet", true, false},
	{"bag", "clear bag at a window, to watch roots", false, false},
}

// Medium is what fills it, and what has to be done with that before seed goes in.
type Medium struct {
	ID    string
	Name  say.Words
	Steps []say.Words
}

// SoakPH is the pH of the water in which new mineral wool is soaked: it is alkaline when new.
const SoakPH = 5.5

// Mediums are the usual ones.
var Mediums = []Medium{
	{"compost", "peat-free compost", []say.Words{
		"Gloves on. Dampen the compost before you handle it: no dust, and never sniff it.",
		"Fill loosely, tap once on the bench, level off the top.",
	}},
	{"coir", "coir", []say.Words{"Soak it, then rinse until the water runs clear: this washes out salt.", "Let it drip before you fill it."}},
	{"wool", "mineral wool", []say.Words{
		"An adult sets the water to pH 5.5. Soak the mineral wool in it for an hour: new wool is alkaline. Wear gloves; never handle it dry, its dust " +
			"harms lungs.",
		"Let it drip and never squeeze it: once squeezed it holds no air.",
	}},
	{"foam", "foam cubes", []say.Words{"Squeeze out the air under water of about pH 5.8, then let it soak up its fill."}},
	{"paper", "damp paper", []say.Words{"Wet it and let it drip: damp all through, with no water on it."}},
	{"vermiculite", "vermiculite or perlite", []say.Words{"Dampen it in its bag before you pour it: its dust harms lungs."}},
}

// KindOf finds a kind; what is not known is taken for cells.
func KindOf(id string) Kind {
	for _, k := range Kinds {
		if k.ID == id {
			return k
		}
	}
	return Kinds[0]
}

// MediumOf finds a medium; what is not known is taken for compost.
func MediumOf(id string) Medium {
	for _, m := range Mediums {
		if m.ID == id {
			return m
		}
	}
	return Mediums[0]
}

// Steps are what to do with a vessel before it is sown, in order.
func Steps(medium string, drains bool) (out []say.Text) {
	for _, s := range MediumOf(medium).Steps {
		out = append(out, s)
	}
	if !drains {
		out = append(out, say.Words("It has no holes: water it only a little, and tip out any water left standing."))
	}
	return out
}

// Format writes cells as people type them, runs in a row joined: A1-A6, B3. They are read
// again by ParseList.
func Format(cells []Cell) string {
	has := map[Cell]bool{}
	rows, cols := 0, 0
	for _, c := range cells {
		has[c] = true
		rows, cols = max(rows, c.Row+1), max(cols, c.Col+1)
	}
	out := ""
	for r := range rows {
		for c := 0; c < cols; c++ {
			if !has[Cell{r, c}] {
				continue
			}
			end := c
			for has[Cell{r, end + 1}] {
				end++
			}
			if out != "" {
				out += ", "
			}
			out += Cell{r, c}.Name()
			if end > c {
				out += "-" + Cell{r, end}.Name()
			}
			c = end
		}
	}
	return out
}
