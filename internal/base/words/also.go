package words

import (
	"cmp"
	"slices"
	"strings"

	"ulpa/core/name"
)

// also is a word that search understands, with the word of the program's own that it stands for.
type also struct{ other, own string }

// alsoOf are the words of a file's table, the longest first: "poroto verde" is looked for before
// "poroto".
func alsoOf(table map[string][]string) (list []also) {
	for own, others := range table {
		for _, o := range others {
			list = append(list, also{name.Found(o), name.Found(own)})
		}
	}
	slices.SortFunc(list, func(a, b also) int {
		return cmp.Or(cmp.Compare(len(b.other), len(a.other)), cmp.Compare(a.other, b.other), cmp.Compare(a.own, b.own))
	})
	return list
}

// mostAskings is how many ways of asking are tried.
const mostAskings = 12

// Askings are what somebody asked, ready to be compared (name.Found), and then the same in the
// words of the program's own, for each word that other people use: "frijol" is "judia de enrame"
// too. A last word may be half typed, from its fourth letter on.
func Askings(asked string) []string {
	asked = name.Found(asked)
	list := []string{asked}
	add := func(a string) {
		if !slices.Contains(list, a) && len(list) < mostAskings {
			list = append(list, a)
		}
	}
	longest := map[int]int{} // where a word begins: how long the longest other word was there
	for _, a := range others() {
		for from := range asked {
			if from > 0 && asked[from-1] != ' ' || longest[from] > len(a.other) {
				continue
			}
			rest := asked[from:]
			switch {
			case rest == a.other || strings.HasPrefix(rest, a.other+" "):
				longest[from] = len(a.other)
				add(asked[:from] + a.own + rest[len(a.other):])
			case len(rest) >= 4 && strings.HasPrefix(a.other, rest):
				add(asked[:from] + a.own)
			}
		}
	}
	return list
}

// Has tells whether a text has what was asked in one of these ways.
func Has(said string, ways []string) bool {
	said = name.Found(said)
	return slices.ContainsFunc(ways, func(way string) bool { return strings.Contains(said, way) })
}

// Called are the program's own words for a name that other people use.
func Called(called string) (own []string) {
	called = name.Found(called)
	for _, a := range others() {
		if a.other == called {
			own = append(own, a.own)
		}
	}
	return own
}

// others are the words that search understands in all languages, English too.
func others() (list []also) {
	list = append(list, english.also...)
	for _, l := range all {
		list = append(list, l.also...)
	}
	return list
}
