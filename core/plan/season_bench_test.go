package plan

import (
	"bufio"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"runtime"
	"strconv"
	"strings"
	"testing"
	"time"

	"ulpa/core/calendar"
)

// made is a school with so many batches over so many days, tight enough for them to stand in
// each other's way.
func made(seed uint64, batches, days, places int) SeasonInput {
	r := rand.New(rand.NewPCG(seed, 1))
	from, minutes := calendar.Date(2026, 9, 1), 45.0
	in := SeasonInput{From: from, To: from + calendar.Day(days), Workdays: schoolWeek, Minutes: &minutes}
	for d := 40; d < days; d += 70 {
		in.Closed = append(in.Closed, calendar.Closure{From: from + calendar.Day(d), To: from + calendar.Day(d+9)})
	}
	room := float64(batches) / float64(days) * 60 * 45 / float64(places)
	for p := range places {
		in.Places = append(in.Places, SeasonPlace{Name: fmt.Sprint("p", p), Room: room * (0.6 + 0.8*r.Float64())})
	}
	for i := range batches {
		b := SeasonBatch{
			Name: fmt.Sprint("b", i), Plants: 10 + r.IntN(30), EarlyCost: 0.1, ReadyMinutesFixed: 4, ReadyMinutesEach: 0.1,
			ReadyBy: from + calendar.Day(45+r.IntN(max(1, days-46))),
		}
		b.ReadyFrom, b.Value = b.ReadyBy-calendar.Day(2+r.IntN(6)), float64(b.Plants)*(5+20*r.Float64())
		for s := range 2 + r.IntN(2) {
			stage := SeasonStage{Name: fmt.Sprint("s", s), Days: 8 + r.IntN(12), HoldDays: 3 + r.IntN(9), WaitCost: 0.2, MinutesFixed: 4, MinutesEach: 0.15}
			first := r.IntN(places)
			for k := range 1 + r.IntN(3) {
				stage.Where = append(stage.Where, Stand{Place: fmt.Sprint("p", (first+k)%places), RoomEach: 1 + r.Float64(), Cost: 0.02 * float64(k)})
			}
			if len(stage.Where) > places {
				stage.Where = stage.Where[:places]
			}
			b.Stages = append(b.Stages, stage)
		}
		in.Batches = append(in.Batches, b)
	}
	return in
}

// schools are made-up schools of three sizes, and those of testdata: larger ones with a story.
func schools(b *testing.B) (names []string, of map[string]SeasonInput) {
	of = map[string]SeasonInput{}
	for _, x := range []struct{ batches, days, places int }{{20, 120, 4}, {60, 200, 6}, {500, 365, 12}} {
		names = append(names, fmt.Sprintf("%d made up", x.batches))
		of[names[len(names)-1]] = made(7, x.batches, x.days, x.places)
	}
	files, err := filepath.Glob("testdata/*.json.gz")
	if err != nil || len(files) == 0 {
		b.Fatal("no schools in testdata", err)
	}
	for _, file := range files {
		name := strings.TrimSuffix(filepath.Base(file), ".json.gz")
		names, of[name] = append(names, name), instance(b, file)
	}
	return names, of
}

// instance reads a school of the contract's form; its keys are the fields' names with
// underscores between the words.
func instance(b *testing.B, path string) SeasonInput {
	file, err := os.Open(path)
	if err != nil {
		b.Fatal(err)
	}
	defer func() { _ = file.Close() }()
	plain, err := gzip.NewReader(file)
	if err != nil {
		b.Fatal(err)
	}
	text, err := io.ReadAll(plain)
	if err != nil {
		b.Fatal(err)
	}
	var x struct{ Input SeasonInput }
	key := strings.NewReplacer("_", "", `"date":`, `"on":`)
	if err := json.Unmarshal([]byte(key.Replace(string(text))), &x); err != nil {
		b.Fatal(err)
	}
	return x.Input
}

// BenchmarkSeason plans schools for five seconds at most and shows what it costs, how near
// that is proved to be to the best, and the memory it takes. With ULPA_MIP=cbc the same
// problem is given to that solver for ten times as long, as far as it gets: its plan, and how
// far the bound goes from the batches alone to the linear relaxation.
func BenchmarkSeason(b *testing.B) {
	names, of := schools(b)
	for _, name := range names {
		b.Run(name, func(b *testing.B) {
			in := of[name]
			in.GoodEnough = 0.001
			var s Season
			for b.Loop() {
				begun := time.Now()
				var err error
				s, err = PlanSeason(in, func() float64 { return time.Since(begun).Seconds() / 5 })
				if err != nil {
					b.Fatal(err)
				}
			}
			var after runtime.MemStats
			runtime.ReadMemStats(&after)
			b.ReportMetric(s.Cost, "points")
			b.ReportMetric(100*s.Gap, "gap%")
			b.ReportMetric(float64(after.Sys)/1e6, "MB")
			solver := os.Getenv("ULPA_MIP")
			if solver == "" || len(in.Batches) > 60 {
				return
			}
			path := filepath.Join(b.TempDir(), "season.lp")
			if err := writeLP(path, in.house()); err != nil {
				b.Fatal(err)
			}
			if cost, ok := solved(b, solver, path, "sec", "50", "solve", "quit"); ok {
				b.ReportMetric(cost, "mip-points")
			}
			if relaxed, ok := solved(b, solver, path, "initialSolve", "quit"); ok {
				alone := newSearch(in.house(), func() float64 { return 1 }).bound
				b.ReportMetric(100*(s.Bound-alone)/(relaxed-alone), "bound%")
			}
		})
	}
}

var objective = regexp.MustCompile(`(?i)objective(?: value)?:?\s+(-?[\d.e+]+)`)

// solved is what a mixed-integer solver makes of a file with such words.
func solved(b *testing.B, solver, path string, words ...string) (float64, bool) {
	out, err := exec.Command(solver, append([]string{path}, words...)...).CombinedOutput()
	if err != nil {
		b.Logf("%s: %v", solver, err)
		return 0, false
	}
	m := objective.FindSubmatch(out)
	if m == nil {
		b.Logf("%s says no objective: %s", solver, out[max(0, len(out)-400):])
		return 0, false
	}
	v, err := strconv.ParseFloat(string(m[1]), 64)
	return v, err == nil
}

// writeLP writes a house as a linear programme in whole numbers: a way through the days for
// each batch, its arcs a leg at a stand from one day to another.
func writeLP(path string, h *house) error {
	file, err := os.Create(path)
	if err != nil {
		return err
	}
	defer func() { _ = file.Close() }()
	w := bufio.NewWriter(file)
	room, minutes := map[[2]int][]string{}, map[int][]string{}
	var goal, rows, names []string
	for n := range h.jobs {
		j := &h.jobs[n]
		none := fmt.Sprintf("n%d", n)
		names, goal = append(names, none), append(goal, fmt.Sprintf("%g %s", j.value, none))
		flow := map[[2]int][]string{{}: nil}
		for i, l := range j.legs {
			for t := j.lo[i]; t <= j.hi[i]; t++ {
				begins := i > 0 || !j.under
				if begins && (t < 0 || !h.open[t]) {
					continue
				}
				first := max(0, t)
				for k, s := range l.stands {
					for e := max(t+l.days, j.lo[i+1]); e <= min(t+l.days+l.hold, j.hi[i+1]); e++ {
						if !h.open[e] || int(h.rooms[s.place].shut[first]) < e {
							continue
						}
						x := fmt.Sprintf("x%d_%d_%d_%d_%d", n, i, t-j.lo[i], k, e)
						c := l.wait*float64(e-t-l.days) + s.cost*float64(e-first)
						if begins {
							minutes[t] = append(minutes[t], fmt.Sprintf("%g %s", l.minutes, x))
						}
						if i+1 == len(j.legs) {
							c += j.early * float64(j.by-e)
							minutes[e] = append(minutes[e], fmt.Sprintf("%g %s", j.readyMinutes, x))
						} else {
							flow[[2]int{i + 1, e}] = append(flow[[2]int{i + 1, e}], "+ "+x)
						}
						if i == 0 {
							flow[[2]int{}] = append(flow[[2]int{}], "+ "+x)
						} else {
							flow[[2]int{i, t}] = append(flow[[2]int{i, t}], "- "+x)
						}
						for d := first; d < e; d++ {
							room[[2]int{s.place, d}] = append(room[[2]int{s.place, d}], fmt.Sprintf("%g %s", s.room, x))
						}
						names, goal = append(names, x), append(goal, fmt.Sprintf("%g %s", c, x))
					}
				}
			}
		}
		for at, arcs := range flow {
			if at == [2]int{} { // grown in one way, or not at all
				rows = append(rows, join(append(arcs, "+ "+none), " ")+" = 1")
			} else {
				rows = append(rows, join(arcs, " ")+" = 0")
			}
		}
	}
	for at, arcs := range room {
		rows = append(rows, join(arcs, " + ")+fmt.Sprintf(" <= %g", h.rooms[at[0]].size))
	}
	for d, arcs := range minutes {
		if !math.IsInf(h.minutes[d], 1) {
			rows = append(rows, join(arcs, " + ")+fmt.Sprintf(" <= %g", h.minutes[d]))
		}
	}
	_, _ = fmt.Fprintf(w, "Minimize\n obj: %s\nSubject To\n", join(goal, "\n + "))
	for i, r := range rows {
		_, _ = fmt.Fprintf(w, " c%d: %s\n", i, r)
	}
	_, _ = fmt.Fprintf(w, "Binaries\n %s\nEnd\n", join(names, "\n "))
	return w.Flush()
}

// join is strings.Join with a new line now and then, since solvers bound lines.
func join(list []string, by string) string {
	out := []byte{}
	for i, s := range list {
		if i > 0 {
			out = append(out, by...)
			if i%8 == 0 {
				out = append(out, '\n')
			}
		}
		out = append(out, s...)
	}
	return string(out)
}
