package demo

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/raft"
	"ulpa/core/tank"
	"ulpa/core/tower"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
)

// happening is one thing on one day; they are told crop by crop and run in
// the order of time.
type happening struct {
	month  time.Month
	day    int
	hour   int
	minute int
	who    string
	do     func()
}

type diary struct{ all []happening }

func (d *diary) on(month time.Month, day, hour, minute int, who string, do func()) {
	d.all = append(d.all, happening{month, day, hour, minute, who, do})
}

func (b *builder) run() {
	var d diary
	b.lettuce(&d)
	b.leaves(&d)
	b.outdoors(&d)
	b.failures(&d)
	b.jars(&d)
	b.months(&d)
	b.trough(&d)
	b.tanks(&d)
	slices.SortStableFunc(d.all, func(x, y happening) int {
		return cmp.Or(cmp.Compare(x.month, y.month), cmp.Compare(x.day, y.day), cmp.Compare(x.hour, y.hour), cmp.Compare(x.minute, y.minute))
	})
	inOneGo(d.all)
	for _, h := range d.all {
		b.as(h.who)
		b.at(h.month, h.day, h.hour, h.minute)
		h.do()
	}
	b.probe()
	b.at(3, 18, 10, 5)
	b.clock.Set(b.clock.Now())
}

// inOneGo lets everybody do one thing after the other within half an hour: a crew what
// takes three minutes, adults what takes seven. Minutes are learned from it.
func inOneGo(all []happening) {
	type visit struct {
		who        string
		month, day int
	}
	told, done := map[visit]int{}, map[visit]int{} // minutes of the day
	for i := range all {
		h := &all[i]
		v, at := visit{h.who, int(h.month), h.day}, 60*h.hour+h.minute
		takes := 3
		if h.who == ines || h.who == tam {
			takes = 7
		}
		now := at
		if before, again := told[v]; again && at > before && at-before <= 30 {
			now = min(at, done[v]+takes)
		}
		told[v], done[v] = at, now
		h.hour, h.minute = now/60, now%60
	}
}

const (
	ines, tam                  = "Ines Varrow", "Tam Brill"
	punt, skiff, dory, coracle = "Punt", "Skiff", "Dory", "Coracle"
)

// lettuce for the kitchen: a sowing every other week, whole heads from Thursday to Thursday.
func (b *builder) lettuce(d *diary) {
	lunch := "Thursday lunch"
	d.on(1, 5, 10, 5, ines, func() { b.sow("let1", "HF-26", "Tray 1", "A1-B12", 1, 20, lunch) })
	d.on(1, 8, 10, 20, punt, func() { b.mark("Tray 1", batch.Sprouted, "A1-A8, B2-B6", "") })
	d.on(1, 11, 10, 10, punt, func() { b.mark("Tray 1", batch.Sprouted, "A9-A12, B7-B11", "") })
	d.on(1, 13, 10, 15, dory, func() { b.mark("Tray 1", batch.Empty, "B1, B12", "") })
	d.on(1, 28, 10, 10, dory, func() { b.look("let1", 4, 6) })
	d.on(2, 1, 10, 25, tam, func() {
		b.move("let1", "Tray 1", "A1-A12, B2-B11", "Long table", "A10-A12, B10-B12, C10-C12, D10, A7-A9, B7-B9, C7-C9, D7-D9")
	})
	d.on(2, 25, 9, 20, skiff, func() { b.cut("let1", "Long table", 1380, "A10-A12, B10-B12, C10-C12, D10") })
	d.on(2, 25, 9, 30, skiff, func() { b.along("Long table", true) })
	d.on(3, 4, 9, 15, skiff, func() { b.cut("let1", "Long table", 1710, "A7-A9, B7-B9, C7-C9, D7-D9") })
	d.on(3, 4, 9, 25, skiff, func() { b.along("Long table", true) })
	d.on(3, 4, 9, 40, ines, func() { b.closeBatch("let1") })

	d.on(1, 19, 10, 5, ines, func() { b.sow("let2", "TR-25", "Tray 2", "A1-B12", 1, 18, lunch) })
	d.on(1, 22, 10, 15, coracle, func() { b.mark("Tray 2", batch.Sprouted, "A1-A7, B3-B9", "") })
	d.on(1, 26, 10, 10, coracle, func() { b.mark("Tray 2", batch.Sprouted, "A8-A12, B10-B11", "") })
	d.on(1, 28, 10, 30, coracle, func() { b.mark("Tray 2", batch.Empty, "B1-B2, B12", "") })
	d.on(2, 12, 10, 10, punt, func() { b.look("let2", 4, 5) })
	d.on(2, 12, 10, 30, tam, func() {
		b.move("let2", "Tray 2", "A1-A12, B3-B11", "Long table", "A4-A6, B4-B6, C4-C6, D4-D6, A1-A3, B1-B3, C1-C3")
	})
	d.on(3, 11, 9, 20, skiff, func() { b.cut("let2", "Long table", 1560, "A4-A6, B4-B6, C4-C6, D4-D6") })
	d.on(3, 11, 9, 30, skiff, func() { b.along("Long table", false) })

	d.on(2, 2, 10, 5, ines, func() { b.sow("let3", "HF-26", "Tray 5", "A1-B12", 1, 22, lunch) })
	d.on(2, 5, 10, 10, dory, func() { b.mark("Tray 5", batch.Sprouted, "A1-A12, B1-B8", "") })
	d.on(2, 8, 10, 10, dory, func() { b.mark("Tray 5", batch.Sprouted, "B9-B11", "") })
	d.on(2, 8, 10, 20, dory, func() { b.mark("Tray 5", batch.Empty, "B12", "") })
	d.on(2, 25, 10, 40, punt, func() { b.look("let3", 4, 6) })
	d.on(2, 26, 10, 20, tam, func() { b.move("let3", "Tray 5", "A1-A12, B1-B8", "North tower", "D1-H4") })
	d.on(2, 26, 10, 40, tam, func() { b.mark("Tray 5", batch.Lost, "B9-B11", "broken") })

	d.on(2, 9, 10, 5, ines, func() { b.sow("let4", "TR-25", "Tray 6", "A1-A12", 1, 10, lunch) })
	d.on(2, 12, 10, 50, punt, func() { b.mark("Tray 6", batch.Sprouted, "A1-A9", "") })
	d.on(2, 23, 10, 10, punt, func() { b.mark("Tray 6", batch.Sprouted, "A10-A11", "") })
	d.on(2, 26, 10, 15, punt, func() { b.mark("Tray 6", batch.Empty, "A12", "") })
	d.on(3, 3, 10, 10, punt, func() { b.look("let4", 4, 5) })
	d.on(3, 5, 10, 15, tam, func() { b.move("let4", "Tray 6", "A1-A11", "Long table", "A10-A12, B10-B12, C10-C12, D10-D11") })

	d.on(2, 23, 10, 30, ines, func() { b.sow("let5", "HF-26", "Tray 7", "A1-B12", 1, 22, lunch) })
	d.on(2, 26, 10, 5, coracle, func() { b.mark("Tray 7", batch.Sprouted, "A1-A11, B1-B9", "") })
	d.on(3, 1, 10, 5, coracle, func() { b.mark("Tray 7", batch.Sprouted, "A12, B10", "") })
	d.on(3, 3, 10, 30, coracle, func() { b.mark("Tray 7", batch.Empty, "B11-B12", "") })
	d.on(3, 16, 10, 10, punt, func() { b.look("let5", 4, 6.5) })

	d.on(3, 9, 10, 5, ines, func() { b.sow("let6", "HF-26", "Tray 8", "A1-B12", 1, 22, lunch) })
	d.on(3, 12, 10, 10, coracle, func() { b.mark("Tray 8", batch.Sprouted, "A1-A12, B2-B7", "") })
	d.on(3, 15, 10, 10, coracle, func() { b.mark("Tray 8", batch.Sprouted, "B8-B10, B12", "") })
}

// along lets the boards of a raft move on by one.
func (b *builder) along(place string, scrubbed bool) {
	b.do("boards", func() error {
		p, err := site.Get(b.ctx, b.store, b.me, b.ids[place])
		if err != nil {
			return err
		}
		q := site.BoardsRequest{ID: b.id(), Place: p.ID, Moved: raft.Moved{Order: p.Raft.Along(), Was: p.Raft.Order()}}
		if scrubbed {
			q.Scrubbed = q.Order[:1]
		}
		return site.MoveBoards(b.ctx, b.store, b.me, q)
	})
}

// leaves and herbs that are cut again and again.
func (b *builder) leaves(d *diary) {
	d.on(1, 12, 10, 10, ines, func() { b.sow("bas1", "LL-26", "Tray 4", "A1-C6", 3, 14, "Kitchen herbs") })
	d.on(1, 18, 10, 10, skiff, func() { b.mark("Tray 4", batch.Sprouted, "A1-A6, B1-B4", "") })
	d.on(1, 21, 10, 10, skiff, func() { b.mark("Tray 4", batch.Sprouted, "B5-B6, C1-C4", "") })
	d.on(1, 25, 10, 15, skiff, func() { b.mark("Tray 4", batch.Empty, "C5-C6", "") })
	d.on(2, 9, 10, 40, dory, func() { b.look("bas1", 3, 7) })
	d.on(2, 10, 10, 10, tam, func() { b.move("bas1", "Tray 4", "A1-A6, B1-B6", "South tower", "A1-C4") })
	d.on(2, 10, 10, 30, tam, func() { b.mark("Tray 4", batch.Lost, "C1-C4", "given-away") })
	d.on(3, 4, 9, 50, skiff, func() { b.cut("bas1", "South tower", 240, "") })
	d.on(3, 16, 9, 20, skiff, func() { b.cut("bas1", "South tower", 310, "") })

	d.on(1, 11, 10, 30, ines, func() { b.sow("roc1", "GW-26", "Tray 9", "A1-A12", 4, 10, "Thursday lunch") })
	d.on(1, 15, 10, 10, punt, func() { b.mark("Tray 9", batch.Sprouted, "A1-A12", "") })
	d.on(1, 29, 10, 10, punt, func() { b.look("roc1", 3, 5) })
	d.on(2, 1, 10, 50, tam, func() { b.move("roc1", "Tray 9", "A1-A12", "North tower", "A1-C4") })
	d.on(2, 23, 9, 30, skiff, func() { b.cut("roc1", "North tower", 420, "") })
	d.on(3, 9, 9, 30, skiff, func() { b.cut("roc1", "North tower", 505, "") })

	d.on(2, 1, 11, 5, ines, func() { b.sow("chv1", "MM-26", "Tray 9", "C1-D6", 6, 10, "Kitchen herbs") })
	d.on(2, 9, 10, 10, punt, func() { b.mark("Tray 9", batch.Sprouted, "C1-C6, D1-D5", "") })
	d.on(2, 12, 11, 0, punt, func() { b.mark("Tray 9", batch.Sprouted, "D6", "") })

	// Two kinds side by side on the warm shelf; the basil is behind.
	d.on(3, 10, 10, 15, ines, func() { b.sow("bas2", "LL-26", "Tray 11", "A1-H6", 1, 30, "Window boxes") })
	d.on(3, 10, 10, 25, ines, func() { b.sow("chv2", "MM-26", "Tray 11", "A7-H9", 6, 20, "Window boxes") })
	d.on(3, 15, 10, 20, skiff, func() { b.mark("Tray 11", batch.Sprouted, "A2-A3, B1, C2, D4, A7-A9, B7-B9, C7, C8, D7-D8, E8", "") })
	d.on(3, 16, 10, 20, skiff, func() { b.mark("Tray 11", batch.Sprouted, "A5, E3, F1-F2, D9, E7, E9, F7-F9", "") })
	d.on(3, 16, 10, 22, skiff, func() { b.mark("Tray 11", batch.Lost, "B5, G1", "eaten") })
}

// outdoors: what goes by the cold frame to the landing.
func (b *builder) outdoors(d *diary) {
	d.on(1, 25, 10, 10, ines, func() { b.sow("tom1", "PC-26", "Tray 3", "A1-D10", 1, 36, "Landing, midsummer supper") })
	d.on(2, 1, 10, 15, dory, func() { b.mark("Tray 3", batch.Sprouted, "A1-A10, B1-B9, C1-C8", "") })
	d.on(2, 4, 10, 10, dory, func() { b.mark("Tray 3", batch.Sprouted, "B10, C9-C10, D1-D6", "") })
	d.on(2, 9, 10, 10, dory, func() { b.mark("Tray 3", batch.Empty, "D7-D10", "") })
	d.on(3, 11, 10, 30, dory, func() { b.look("tom1", 5, 14) })
	d.on(3, 15, 11, 0, tam, func() { b.move("tom1", "Tray 3", "A1-A10, B1-B10, C1-C10, D1-D6", "Cold frame", "") })

	d.on(1, 26, 10, 10, ines, func() { b.sow("kal1", "BO-25", "Tray 10", "A1-B12", 1, 20, "Landing boxes") })
	d.on(2, 1, 10, 35, coracle, func() { b.mark("Tray 10", batch.Sprouted, "A1-A12, B1-B7", "") })
	d.on(2, 4, 10, 30, coracle, func() { b.mark("Tray 10", batch.Sprouted, "B8-B10", "") })
	d.on(2, 9, 10, 30, coracle, func() { b.mark("Tray 10", batch.Empty, "B11-B12", "") })
	d.on(2, 25, 10, 10, dory, func() { b.look("kal1", 4, 9) })
	d.on(3, 11, 11, 0, tam, func() { b.move("kal1", "Tray 10", "A1-A12, B1-B10", "Cold frame", "") })

	d.on(3, 18, 8, 5, ines, b.compared)
	for _, day := range []int{11, 12, 15, 16, 17} {
		d.on(3, day, 11, 20, coracle, func() { b.open("kal1") })
	}
	for _, day := range []int{16, 17} {
		d.on(3, day, 11, 25, coracle, func() { b.open("tom1") })
	}

	d.on(2, 8, 10, 45, ines, func() { b.sow("pea1", "SC-26", "Tray 10", "D1-E12", 2, 22, "Landing boxes") })
	d.on(2, 23, 10, 40, coracle, func() { b.mark("Tray 10", batch.Sprouted, "D1-D12, E1-E11", "") })
	d.on(3, 8, 10, 20, tam, func() { b.move("pea1", "Tray 10", "D1-D12, E1-E11", "Landing boxes", "") })

	d.on(2, 1, 9, 0, ines, b.ferry)
	d.on(2, 22, 10, 10, ines, func() { b.sow("mar1", "FB-26", "Tray 13", "A1-D12", 1, 40, "Ferry landing window boxes") })
	d.on(2, 26, 10, 30, coracle, func() { b.mark("Tray 13", batch.Sprouted, "A1-C10", "") })
	d.on(3, 2, 10, 30, coracle, func() { b.mark("Tray 13", batch.Sprouted, "C11-C12, D1-D6", "") })
	d.on(3, 4, 10, 30, coracle, func() { b.mark("Tray 13", batch.Empty, "A11-B12, D7-D12", "") })
	d.on(3, 12, 10, 40, punt, func() { b.look("mar1", 3, 4) })
}

// failures are what a season teaches by.
func (b *builder) failures(d *diary) {
	d.on(1, 20, 10, 10, ines, func() { b.sow("spi1", "ML-24", "Tray 12", "A1-D6", 2, 18, "Thursday lunch") })
	d.on(1, 27, 10, 10, punt, func() { b.mark("Tray 12", batch.Sprouted, "A1-B6, C2-C4", "") })
	d.on(2, 2, 10, 10, punt, func() { b.mark("Tray 12", batch.Lost, "A1-A6, B1-B3", "damping-off") })
	d.on(2, 4, 10, 5, punt, func() { b.mark("Tray 12", batch.Lost, "B4-B6, C2-C4", "damping-off") })
	d.on(2, 4, 10, 30, ines, func() {
		b.note(
			"Stems pinched at the soil and fell over. The cover stayed on three days too long and the shelf was wet. Washed the tray; cover off at half up from now on.",
			"spi1",
			"Warm shelf",
		)
	})
	d.on(2, 4, 10, 40, ines, func() { b.closeBatch("spi1") })

	d.on(1, 20, 10, 30, ines, func() { b.sow("oni1", "CP-22", "Tray 14", "A1-C12", 3, 20, "Landing boxes") })
	d.on(1, 28, 10, 40, dory, func() { b.mark("Tray 14", batch.Sprouted, "A1-A8, B2-B6", "") })
	d.on(2, 3, 10, 40, dory, func() { b.mark("Tray 14", batch.Sprouted, "A10, B8-B11, C1-C4", "") })
	d.on(2, 9, 10, 45, dory, func() { b.mark("Tray 14", batch.Empty, "A9, A11-A12, B1, B7, B12, C5-C12", "") })
	d.on(2, 9, 10, 50, ines, func() {
		b.note("Capstan is five years old: a third of the cells came up bare. Use it up thick or buy new.", "oni1", "Nursery bench")
	})
	d.on(3, 8, 10, 30, dory, func() { b.look("oni1", 2, 12) })

	d.on(2, 8, 10, 10, ines, func() { b.sow("pak1", "SW-26", "Tray 5", "D1-E12", 1, 20, "Thursday lunch") })
	d.on(2, 11, 10, 10, coracle, func() { b.mark("Tray 5", batch.Sprouted, "D1-D12, E1-E10", "") })
	d.on(2, 23, 10, 20, coracle, func() { b.mark("Tray 5", batch.Empty, "E11-E12", "") })
	d.on(2, 26, 10, 10, coracle, func() { b.look("pak1", 4, 8) })
	d.on(3, 10, 10, 30, coracle, func() {
		b.note("Lower leaves yellow, roots out of the bottom. Two boards of the raft are free, and nobody moved them in.", "pak1", "Nursery bench")
	})
}

// cleaned is a tower's list between two crops, begun and not ended.
func (b *builder) cleaned() {
	b.do("list", func() error {
		t := tower.Ticks{List: "clean", Steps: []string{"off", "empty", "old"}}
		return site.Check(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: b.ids["South tower"]}, t)
	})
}

// jars hold chard and parsley without a pump.
func (b *builder) jars(d *diary) {
	d.on(2, 17, 10, 0, ines, func() { b.delivered() })
	d.on(2, 23, 11, 30, tam, func() { b.cleaned() })
	d.on(3, 5, 10, 0, ines, func() { b.struck() })
	d.on(1, 8, 10, 40, ines, func() { b.sow("chd1", "SL-25", "Tray 2", "D1-D12", 2, 8, "Jar shelf") })
	d.on(1, 15, 10, 30, skiff, func() { b.mark("Tray 2", batch.Sprouted, "D1-D10", "") })
	d.on(1, 26, 10, 30, skiff, func() { b.mark("Tray 2", batch.Empty, "D11-D12", "") })
	d.on(2, 2, 10, 20, dory, func() { b.look("chd1", 3, 6) })
	d.on(2, 5, 10, 30, tam, func() { b.move("chd1", "Tray 2", "D1-D8", "Jar shelf", "A1-A8") })
	d.on(2, 5, 10, 45, tam, func() { b.mark("Tray 2", batch.Lost, "D9-D10", "given-away") })
	d.on(1, 13, 10, 40, ines, func() { b.sow("par1", "QC-26", "Tray 14", "E1-E6", 3, 4, "Kitchen herbs") })
	d.on(2, 1, 10, 55, skiff, func() { b.mark("Tray 14", batch.Sprouted, "E1-E5", "") })
	d.on(2, 24, 10, 10, dory, func() { b.look("par1", 3, 5) })
	d.on(2, 25, 10, 50, tam, func() { b.move("par1", "Tray 14", "E1-E3", "Jar shelf", "A9-A11") })
	d.on(2, 25, 10, 55, tam, func() { b.mark("Tray 14", batch.Lost, "E4-E5", "broken") })
	d.on(2, 12, 10, 40, skiff, func() { b.mark("Tray 14", batch.Empty, "E6", "") })
	// A jar in each phase: one whose plant is young stands with its foot in the water, one was
	// filled too high for its roots, three drink fast, and the last one stands empty.
	for i := range 11 {
		name := fmt.Sprintf("Jar %d", i+1)
		level, drunk := 2.4-0.05*float64(i%4), 0.10*6
		switch i {
		case 2, 6, 8:
			drunk = 0.19 * 6
		case 9:
			level, drunk = 2.9, 0.3
		case 10:
			level, drunk = 3.05, 0.1
		}
		d.on(3, 10, 11, i, skiff, func() { b.read("tank "+name, 0, 0, 0, level) })
		d.on(3, 16, 11, i, skiff, func() {
			b.read("tank "+name, 5.9, 1.4, 19, level-drunk)
			if i == 9 {
				b.roots("tank "+name, 9)
			}
		})
	}
}

// months of one jar, from the day its seedling went in: let fall as it should, then filled
// back to the pot by somebody who meant well.
func (b *builder) months(d *diary) {
	const jar = "tank Jar 7"
	for _, x := range []struct {
		month, day               int
		level, ph, ec, roots, in float64
	}{
		{2, 5, 2.7, 5.9, 1.3, 0, 0.38},
		{2, 10, 2.96, 5.8, 1.3, 2, 0},
		{2, 23, 2.2, 5.9, 1.4, 6, 0},
		{3, 1, 1.74, 6.1, 1.5, 9, 1.34},
		{3, 5, 2.72, 5.9, 1.4, 9, 0},
	} {
		d.on(time.Month(x.month), x.day, 11, 10, skiff, func() {
			b.read(jar, x.ph, x.ec, 19, x.level)
			if x.roots > 0 {
				b.roots(jar, x.roots)
			}
			if x.in > 0 {
				b.treat(jar, solution.TreatRequest{Done: tank.Treatment{WaterL: x.in, StockML: 4 * x.in}})
			}
		})
	}
}

// tanks: read every two or three open days; the north tower's pH creeps up on
// the hard water, and was brought down once.
func (b *builder) tanks(d *diary) {
	level := map[string]float64{"Long table": 205, "North tower": 58, "South tower": 58}
	for _, t := range []struct {
		name             string
		ph, ec, temp     float64
		creep, feed, use float64
		minute           int
	}{
		{"Long table", 5.8, 1.42, 18.4, 0.012, 0.004, 3.6, 50},
		{"North tower", 5.8, 1.46, 18.9, 0.037, 0.004, 2.3, 20},
		{"South tower", 5.8, 1.50, 19.3, 0.006, -0.004, 1.9, 35},
	} {
		since := 0.0
		for day := calendar.Date(2027, 2, 1); day <= calendar.Date(2027, 3, 18); day++ {
			school := calendar.School{Closures: []calendar.Closure{{From: calendar.Date(2027, 2, 15), To: calendar.Date(2027, 2, 19)}}}
			due := day.Weekday()%2 == 1 || day == calendar.Date(2027, 3, 18) && t.name == "North tower"
			if day == calendar.Date(2027, 3, 17) || day == calendar.Date(2027, 3, 18) && t.name != "North tower" {
				due = false
			}
			if !school.Open(day) || !due {
				since++
				continue
			}
			_, month, dom := ymd(day)
			wobble := 0.03 * float64((int(day)*7)%5-2)
			level[t.name] -= t.use * since
			ph, ec, lv := t.ph+wobble, t.ec+wobble/3, level[t.name]
			d.on(month, dom, 8, t.minute, skiff, func() { b.read("tank "+t.name, ph, ec, t.temp+wobble*10, lv) })
			t.ph, t.ec, since = t.ph+t.creep*2.3, t.ec+t.feed*2.3, 1
			if t.name == "North tower" && day == calendar.Date(2027, 3, 3) {
				t.ph = 5.85
				d.on(month, dom, 9, 10, tam, func() {
					b.treat("tank North tower", solution.TreatRequest{Done: tank.Treatment{Agent: chemistry.PhosphoricAcid, Amount: 9}})
				})
				d.on(month, dom, 9, 30, tam, func() { b.read("tank North tower", 6.1, 1.6, 19, lv) })
				d.on(month, dom, 9, 35, tam, func() {
					b.treat("tank North tower", solution.TreatRequest{Done: tank.Treatment{Agent: chemistry.PhosphoricAcid, Amount: 5}})
				})
				d.on(month, dom, 9, 55, tam, func() { b.read("tank North tower", 5.8, 1.6, 19, lv) })
				t.creep = 0.085
			}
			if capacity := map[string]float64{"Long table": 205, "North tower": 58, "South tower": 58}[t.name]; lv < capacity*0.82 &&
				day < calendar.Date(2027, 3, 16) {
				add := capacity - lv
				d.on(month, dom, 10, t.minute, tam, func() {
					b.treat("tank "+t.name, solution.TreatRequest{Done: tank.Treatment{WaterL: add, StockML: add * 3.4}})
				})
				level[t.name] = capacity
			}
		}
	}
}

func ymd(d calendar.Day) (int, time.Month, int) { return d.UTC().Date() }

// read logs a reading by hand; 0 is not read.
func (b *builder) read(of string, ph, ec, temp, level float64) {
	b.do("read "+of, func() error {
		some := func(v float64) *float64 {
			if v == 0 {
				return nil
			}
			v = float64(int(v*100+0.5)) / 100
			return &v
		}
		return solution.LogReading(b.ctx, b.store, b.me, solution.ReadingRequest{
			ID: b.id(), Tank: b.ids[of], Sure: true, Reading: tank.Reading{PH: some(ph), ECMS: some(ec), TempC: some(temp), LevelL: some(level)},
		})
	})
}

// roots are those of a jar, as somebody saw them.
func (b *builder) roots(of string, cm float64) {
	b.do("roots of "+of, func() error {
		r := solution.ReadingRequest{ID: b.id(), Tank: b.ids[of], Reading: tank.Reading{RootsCM: &cm}}
		return solution.LogReading(b.ctx, b.store, b.me, r)
	})
}

// probe is the north tower's own logger: hourly, and drifting away from the pen.
func (b *builder) probe() {
	b.as(ines)
	b.at(3, 18, 8, 55)
	var f strings.Builder
	f.WriteString("time,series,value,unit\n")
	start := (calendar.Date(2027, 3, 4) + b.shift).At(10, 0, b.zone)
	for h := range 24*14 - 2 {
		at := start.Add(time.Duration(h) * time.Hour).UTC().Format(time.RFC3339)
		days := float64(h) / 24
		wave := 0.04 * float64((h*5)%7-3) / 3
		fmt.Fprintf(&f, "%s,North tower pH probe,%.2f,pH\n", at, 5.82+0.115*days+wave)
		fmt.Fprintf(&f, "%s,North tower temperature,%.1f,°C\n", at, 18.6+1.4*float64((h%24)-12)/12+wave)
	}
	b.do("probe", func() error {
		_, problems, err := solution.Import(b.ctx, b.store, b.me, "north-tower-logger.csv", strings.NewReader(f.String()))
		if len(problems) > 0 {
			return fmt.Errorf("line %d: %s", problems[0].Line, problems[0].Message)
		}
		return err
	})
}

// delivered is a box of strawberry plugs, potted on the day it came.
func (b *builder) delivered() {
	id := b.id()
	b.ids["str1"] = id
	b.do("delivery", func() error {
		_, err := sowing.Adopt(b.ctx, b.store, b.me, sowing.AdoptRequest{
			ID: id, Crop: "strawberry", Variety: "Regatta", Purpose: "Landing boxes", Since: b.me.Day(b.clock.Now()), Plants: 22,
			Place: b.ids["Nursery bench"], Start: batch.Delivered, Signs: []batch.Sign{"dry"}, Dead: 2,
		})
		return err
	})
	b.do("pot on", func() error {
		return site.Move(b.ctx, b.store, b.me, site.MoveRequest{
			ID: b.id(), Batch: id, From: []batch.Spot{{Kind: batch.InStand, In: b.ids["Nursery bench"].String(), N: 22}}, To: b.ids["Nursery bench"],
			Pot: b.ids["Small pots"], Mix: b.ids["Peat-free compost"],
		})
	})
}

// struck are cuttings of mint that have to root.
func (b *builder) struck() {
	b.do("cuttings", func() error {
		cells, err := tray.ParseList("F1-F10", 40, 40)
		if err != nil {
			return err
		}
		_, err = sowing.Adopt(b.ctx, b.store, b.me, sowing.AdoptRequest{
			ID: b.id(), Crop: "mint", Variety: "Bosun", Purpose: "Kitchen herbs", Since: b.me.Day(b.clock.Now()), Tray: b.ids["Tray 14"],
			Cells: cells, Start: batch.Struck,
		})
		return err
	})
}
