package goals

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/core/ready"
	"ulpa/core/seed"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
)

// recordYears is how far back a school's own record counts.
const recordYears = 3

// record is what a school's own past says: what came of its batches, by crop.
type record struct {
	came    map[string][]seed.Came
	grams   map[string]weighed
	weighed map[string][]plan.Weighed
}

// weighed is what plants of a crop gave here, in g.
type weighed struct {
	mean, spread float64
	plants       int
}

func recordOf(ctx context.Context, tx *store.Tx) (record, error) {
	r := record{map[string][]seed.Came{}, map[string]weighed{}, map[string][]plan.Weighed{}}
	rows, err := tx.Raised(ctx, tx.Now.AddDate(-recordYears, 0, 0))
	if err != nil {
		return r, err
	}
	each := map[string][]float64{}
	for _, x := range rows {
		if x.Seeds > 0 { // what came as plants says nothing of seed
			r.came[x.Crop] = append(r.came[x.Crop], seed.Came{Cells: x.Cells, Plants: x.Plants})
		}
		if x.Taken > 0 && x.Grams > 0 {
			r.weighed[x.Crop] = append(r.weighed[x.Crop], plan.Weighed{
				Sown: tx.Who.Day(x.SownAt), Cut: tx.Who.Day(x.CutAt), PlantG: x.Grams / float64(x.Taken),
			})
			each[x.Crop] = append(each[x.Crop], x.Grams/float64(x.Taken))
			w := r.grams[x.Crop]
			w.plants += x.Taken
			r.grams[x.Crop] = w
		}
	}
	for c, list := range each {
		w, sum, squares := r.grams[c], 0.0, 0.0
		for _, v := range list {
			sum += v
			squares += v * v
		}
		n := float64(len(list))
		w.mean = sum / n
		w.spread = usualSpread * w.mean
		if n >= 3 {
			w.spread = min(w.mean/2, math.Sqrt(max(0, squares/n-w.mean*w.mean)*n/(n-1)))
		}
		r.grams[c] = w
	}
	return r, nil
}

// usualSpread is by how much plants of a kind differ in weight, as a share, where nobody
// has weighed three batches.
const usualSpread = 0.25

// raised is the share of cells that give a plant here; nil: there is no record of it.
func (r record) raised(c crop.Crop) *seed.Germination {
	if g, ok := seed.Pooled(r.came[c.ID], c.Raises()); ok {
		return &g
	}
	return nil
}

// seedOf is the germination of the packet that a goal is sown from next: by its tests and by what
// came of it, with what stands in trays and will not come up any more. Nil: it was never tried.
func (n stand) seedOf(shelf seeds.Shelf, g Setup) *seed.Germination {
	varieties := g.Arms()
	for _, l := range shelf.Lots {
		if l.Crop.ID != g.Crop || l.Setup.Retired || l.SeedsLeft != nil && *l.SeedsLeft == 0 || len(varieties) > 0 && !slices.Contains(varieties, l.Variety) {
			continue
		}
		var over []seed.Result
		for _, x := range l.Sowings {
			b, open := n.lines[x.Batch]
			if !x.Over && open && b.Counted > 0 && b.Comes < comesNoMore {
				over = append(over, x.Result())
			}
		}
		if len(over) == 0 && !l.Tried() {
			return nil
		}
		return new(l.With(over...).Germination())
	}
	return nil
}

// comesNoMore is the share of undecided cells below which nothing more is to be expected of them.
const comesNoMore = 0.1

// plants are how many of them a goal takes: those wanted, so many for each of a trial's
// varieties, those that give the weight with its certainty, or those that fill a bed.
func (r record) plants(g Setup, c crop.Crop, beds map[uuid.UUID]site.Place) int {
	switch {
	case g.Kind == "bed" && g.Wanted == 0:
		p := beds[g.Place]
		return fills(c, p)
	case g.Kind == "trial":
		return g.Wanted * len(g.Arms())
	case g.Grams != nil && g.Wanted == 0:
		w := r.grams[g.Crop]
		if g.PlantG != nil {
			w = weighed{mean: *g.PlantG, spread: usualSpread * *g.PlantG}
		}
		a, err := seed.Order(seed.OrderInput{
			WeightG: *g.Grams, PlantG: w.mean, PlantSD: w.spread, Confidence: *g.Sure, Usable: seed.Germination{Rate: 1},
		})
		if err == nil && a.Plants > 0 {
			return a.Plants
		}
		return 1
	}
	return g.Wanted
}

// fills are the plants that fill a bed at the crop's own spacing.
func fills(c crop.Crop, p site.Place) int {
	along := func(cm, apart float64) int { return max(1, int(cm/max(1, apart))) }
	return min(10_000, along(p.LengthCM, c.SpacingCM)*along(p.WidthCM, c.RowCM))
}

// Arms are the varieties that a trial compares.
func (g Setup) Arms() (out []string) {
	for _, v := range strings.Split(g.Variety, ",") {
		if v = strings.TrimSpace(v); v != "" && !slices.Contains(out, v) {
			out = append(out, v)
		}
	}
	return out
}

// weather is how light and warm it is at a place by day: the sun by latitude and day with the
// lamps there, the warmth as the school says it is there in each season. Without a latitude
// nothing is known.
func weather(tx *store.Tx, p site.Place) *plan.Weather {
	latitude := tx.Who.Latitude
	if latitude == nil {
		return nil
	}
	return &plan.Weather{
		LightMol: func(d calendar.Day) float64 { return p.LightMol(*latitude, d) },
		WarmC:    func(d calendar.Day) float64 { return p.UsualC(d.UTC(), tx.Who) },
	}
}

// paceOf is a school's own pace of leaves, 1 the usual: the middle of what was seen of its open
// batches, and never further from the usual than they are many.
func paceOf(lines map[uuid.UUID]batches.Line, seen store.Each[ready.Seen], warmC float64) float64 {
	var all []float64
	for id, l := range lines {
		up := float64(seen[id].On-l.Sown) - daysToUp
		usual := ready.PaceOfRule(l.Crop.Ready, daysToUp)
		if own := ready.PaceOf(seen[id].Leaves, up, warmC); own > 0 && usual > 0 {
			all = append(all, own/usual)
		}
	}
	if len(all) == 0 {
		return 1
	}
	slices.Sort(all)
	n := float64(len(all))
	own := min(1.6, max(0.6, all[len(all)/2]))
	return math.Round(100*(1+(own-1)*n/(n+paceDoubt))) / 100 // a plan need not change for less
}

// seenBefore is what was last seen of open batches before a day. A plan is made of these, so that
// who looks at ten batches has one plan all day, and another one tomorrow.
func seenBefore(ctx context.Context, tx *store.Tx, day calendar.Day) (store.Each[ready.Seen], error) {
	of := []string{"entry:look", "entry:void", "batch"}
	before := day.At(0, 0, tx.Who.Zone)
	return store.KeepEach(ctx, tx, "seen before "+before.String(), of, func(ids []uuid.UUID) (store.Each[ready.Seen], error) {
		rows, err := tx.LooksBefore(ctx, db.LooksBeforeParams{Before: before, Ids: ids})
		out := store.Each[ready.Seen]{}
		for _, r := range rows {
			var a batch.Act
			if err := json.Unmarshal(r.Data, &a); err != nil {
				return nil, err
			}
			out[r.ID] = ready.Seen{Leaves: a.Leaves, On: tx.Who.Day(r.HappenedAt)}
		}
		return out, err
	})
}

const (
	daysToUp  = 5 // usual, from sowing
	paceDoubt = 3 // looks that the usual pace is worth
)
