package seasontrial

import (
	"cmp"
	"fmt"
	"io"
	"maps"
	"math"
	"slices"
	"strings"
	"text/tabwriter"

	"ulpa/core/say"
	"ulpa/core/sim/play"
)

// report writes the table of a group of seasons, and the causes behind it.
func report(out io.Writer, title string, scores []play.Score) {
	by := map[string][]play.Score{}
	seasons := map[string]bool{}
	for _, s := range scores {
		by[s.Player] = append(by[s.Player], s)
		seasons[fmt.Sprint(s.Scenario, s.Seed)] = true
	}
	players := []string{"Ulpa", play.Chart{}.Name(), play.Grower{}.Name()}
	fmt.Fprintf(out, "\n%s (seasons: %d). Mean, and where nineteen means in twenty lie.\n\n", title, len(seasons))
	t := tabwriter.NewWriter(out, 2, 4, 3, ' ', 0)
	fmt.Fprintf(t, "\t%s\n", strings.Join(players, "\t"))
	for _, line := range []struct {
		name  string
		scale float64
		of    func(play.Score) float64
	}{
		{"plants lost, %", 100, play.Score.LostShare},
		{"weekly heads met, %", 100, func(s play.Score) float64 { return s.MetShare(play.Heads) }},
		{"cuts met, %", 100, func(s play.Score) float64 { return s.MetShare(play.Cuts) }},
		{"plants for a day, %", 100, func(s play.Score) float64 { return s.MetShare(play.Plants) }},
		{"  kale", 100, plantsOf("kale")},
		{"  chard", 100, plantsOf("chard")},
		{"  tomato", 100, plantsOf("tomato")},
		{"  marigold", 100, plantsOf("marigold")},
		{"tank days out of range, %", 100, play.Score.OutShare},
		{"minutes of work", 1, func(s play.Score) float64 { return s.MinutesSpent }},
	} {
		fmt.Fprint(t, line.name)
		for _, p := range players {
			mean, half := meanOf(by[p], line.of)
			fmt.Fprintf(t, "\t%.0f ± %.0f", line.scale*mean, line.scale*half)
		}
		fmt.Fprintln(t)
	}
	_ = t.Flush()
	for _, p := range players {
		sum := play.NewScore(p, title, 0)
		for _, s := range by[p] {
			sum.Add(s)
		}
		n := float64(max(1, len(by[p])))
		fmt.Fprintf(out, "\n%s, a season\n", p)
		if p == players[0] {
			fmt.Fprintf(out, "  nothing was said of a batch that grew for at most: %s\n", say.Plural(sum.Silence, "day"))
		}
		ranked(out, "plants lost", sum.LostBy, n)
		ranked(out, "orders missed", sum.MissedBy, n)
		ranked(out, "minutes", sum.MinutesFor, n)
	}
}

func plantsOf(crop string) func(play.Score) float64 {
	return func(s play.Score) float64 { return s.PlantsOf[crop] }
}

// ranked writes the most first.
func ranked[N int | float64](out io.Writer, title string, m map[string]N, n float64) {
	keys := slices.SortedFunc(maps.Keys(m), func(a, b string) int { return cmp.Or(cmp.Compare(m[b], m[a]), strings.Compare(a, b)) })
	var parts []string
	for _, k := range keys[:min(12, len(keys))] {
		parts = append(parts, fmt.Sprintf("%s %.1f", k, float64(m[k])/n))
	}
	fmt.Fprintf(out, "  %s: %s\n", title, strings.Join(parts, "; "))
}

// meanOf is a mean and half the width within which 95 % of such means lie.
func meanOf(scores []play.Score, of func(play.Score) float64) (mean, half float64) {
	n := float64(len(scores))
	if n == 0 {
		return 0, 0
	}
	sum, squares := 0.0, 0.0
	for _, s := range scores {
		v := of(s)
		sum, squares = sum+v, squares+v*v
	}
	mean = sum / n
	if n < 2 {
		return mean, 0
	}
	return mean, 1.96 * math.Sqrt(max(0, squares/n-mean*mean)/(n-1))
}
