package goals

import (
	"cmp"
	"context"
	"encoding/csv"
	"encoding/json"
	"io"
	"slices"
	"strconv"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/name"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/sowing"
)

// Packet is one of those that a plan's sowings come from.
type Packet struct {
	seeds.Packet
	Age  int // years since it was packed
	Old  bool
	Take int // seeds; 0: it is not needed
}

// Need is the seed that the plan still takes of one crop, and of one variety where one is
// wanted.
type Need struct {
	Crop    crop.Crop
	Variety string // "": any of these
	Seeds   int
	First   calendar.Day // on which it is first sown
	Packets []Packet     // what there is of it, in the order in which it is to be used
	Unknown bool         // a packet of them was never counted
	Buy     int          // seeds that are missing
}

// Choice is a variety for a crop that goals want, with what it did here.
type Choice struct {
	ID       uuid.UUID // of the variety
	Crop     crop.Crop
	Variety  string
	Batches  int     // 0: never tried here
	Comes    float64 // share of cells that sprouted
	Survives float64 // share of those that became plants
	PlantG   float64 // 0: never weighed
	Days     float64 // from sowing to the first harvest, of those that were harvested
	Cut      int     // batches that were
	Latest   calendar.Day
	Taste    int                 // 1 to 5; 0: nobody said
	Lost     map[batch.Cause]int // plants, by what they were lost to
	Notes    string
	score    float64
	kind     string // the id of its crop, as the books have it
}

// Seeds is what the plan's sowings take from the shelf.
type Seeds struct {
	Needs   []Need
	Choices []Choice // by crop, the best first
}

// SeedFor works out the seed for the season's plan, lot by lot, and ranks varieties.
func SeedFor(ctx context.Context, s *store.Store, w who.Who) (out Seeds, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		o, err := Ahead(ctx, tx)
		if err != nil {
			return err
		}
		shelf, err := sowing.ShelfIn(ctx, tx)
		if err != nil {
			return err
		}
		out.Needs = needs(o, shelf.Packets)
		out.Choices, err = choices(ctx, tx, o)
		return err
	})
	return out, err
}

func needs(o Outlook, packets []seeds.Packet) (out []Need) {
	left := map[string]int{} // of each packet, after the needs before
	for _, l := range o.Lines {
		if !l.Crop.FromSeed() {
			continue
		}
		varieties := l.Goal.Arms()
		if len(varieties) == 0 {
			varieties = []string{""}
		}
		for _, b := range l.Batches {
			if !b.planned() {
				continue
			}
			for _, v := range varieties {
				i := slices.IndexFunc(out, func(n Need) bool { return n.Crop.ID == l.Crop.ID && n.Variety == v })
				if i < 0 {
					i = len(out)
					out = append(out, Need{Crop: l.Crop, Variety: v, First: b.Moves[0].Day})
				}
				out[i].Seeds += (b.Seeds + len(varieties) - 1) / len(varieties)
				out[i].First = min(out[i].First, b.Moves[0].Day)
			}
		}
	}
	// What asks for a variety takes first; any of them will do for the rest.
	slices.SortStableFunc(out, func(a, b Need) int {
		return cmp.Or(cmp.Compare(a.Crop.Name, b.Crop.Name), -cmp.Compare(a.Variety, b.Variety))
	})
	for i := range out {
		out[i].take(o, packets, left)
	}
	slices.SortStableFunc(out, func(a, b Need) int { return cmp.Compare(a.First, b.First) })
	return out
}

// take uses up packets, the older of those that are still good first, then those that are
// past it.
func (n *Need) take(o Outlook, packets []seeds.Packet, left map[string]int) {
	year := o.Today.UTC().Year()
	for _, p := range packets {
		if p.Crop != n.Crop.ID || n.Variety != "" && p.Variety != n.Variety || p.Treated && n.Crop.Sprout() {
			continue
		}
		age := year - p.Packed
		n.Packets = append(n.Packets, Packet{Packet: p, Age: age, Old: age > n.Crop.SeedYears})
	}
	slices.SortStableFunc(n.Packets, func(a, b Packet) int {
		if a.Old != b.Old {
			if a.Old {
				return 1
			}
			return -1
		}
		return -cmp.Compare(a.Age, b.Age)
	})
	missing := n.Seeds
	for i := range n.Packets {
		p := &n.Packets[i]
		if p.SeedsLeft == nil {
			n.Unknown = true
			continue
		}
		if _, known := left[p.ID.String()]; !known {
			left[p.ID.String()] = *p.SeedsLeft
		}
		p.Take = min(missing, left[p.ID.String()])
		left[p.ID.String()] -= p.Take
		missing -= p.Take
	}
	n.Buy = missing
}

// choices are the varieties of the crops that goals want, ranked: what comes up, lives,
// weighs most and is ready soonest by this school's own record, a little in doubt where there
// were few cells.
func choices(ctx context.Context, tx *store.Tx, o Outlook) (out []Choice, err error) {
	names, err := tx.VarietyNames(ctx)
	if err != nil {
		return nil, err
	}
	cuts, err := tx.FirstCuts(ctx, tx.Now.AddDate(-recordYears, 0, 0))
	if err != nil {
		return nil, err
	}
	past, err := tx.Raised(ctx, tx.Now.AddDate(-recordYears, 0, 0))
	if err != nil {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	wanted := map[string]bool{}
	for _, l := range o.Lines {
		wanted[l.Goal.Crop] = true
	}
	for _, v := range names {
		if !wanted[v.Crop] {
			continue
		}
		c := Choice{ID: v.ID, Crop: book.Find(v.Crop), Variety: v.Name, Notes: v.Notes, Lost: map[batch.Cause]int{}, score: 0.5, kind: v.Crop}
		if v.Taste != nil {
			c.Taste = *v.Taste
		}
		if err := c.raised(tx.Who, past); err != nil {
			return nil, err
		}
		c.cut(tx.Who, cuts)
		out = append(out, c)
	}
	rank(out)
	return out, nil
}

// raised counts what came of the seed of a variety in the years before.
func (c *Choice) raised(w who.Who, past []db.RaisedRow) error {
	var cells, sprouted, plants, taken int
	grams := 0.0
	for _, r := range past {
		if r.Crop != c.kind || r.Variety != c.Variety {
			continue
		}
		c.Batches++
		var lost map[batch.Cause]int
		if err := json.Unmarshal(r.Lost, &lost); err != nil {
			return err
		}
		for cause, n := range lost {
			c.Lost[cause] += n
		}
		c.Latest = max(c.Latest, w.Day(r.SownAt))
		taken, grams = taken+r.Taken, grams+r.Grams
		if r.Seeds > 0 { // what came as plants says nothing of seed
			cells, sprouted, plants = cells+r.Cells, sprouted+r.Sprouted, plants+r.Plants
		}
	}
	if cells > 0 {
		c.Comes = float64(sprouted) / float64(max(1, cells))
		c.Survives = min(1, float64(plants)/float64(max(1, sprouted)))
		c.score = (float64(plants) + 1) / (float64(cells) + 2)
	}
	if taken > 0 {
		c.PlantG = grams / float64(taken)
	}
	return nil
}

// cut is after how many days a variety was first cut, on average.
func (c *Choice) cut(w who.Who, cuts []db.FirstCutsRow) {
	for _, r := range cuts {
		if r.Crop == c.kind && r.Variety == c.Variety {
			c.Days += float64(w.Day(r.CutAt) - w.Day(r.SownAt))
			c.Cut++
		}
	}
	if c.Cut > 0 {
		c.Days /= float64(c.Cut)
	}
}

// rank puts the best of each crop first: by what came up and lived, weighed, was quick and liked.
func rank(out []Choice) {
	best, quickest := map[string]float64{}, map[string]float64{}
	for _, c := range out {
		best[c.Crop.ID] = max(best[c.Crop.ID], c.PlantG)
		if q, any := quickest[c.Crop.ID]; c.Days > 0 && (!any || c.Days < q) {
			quickest[c.Crop.ID] = c.Days
		}
	}
	for i, c := range out {
		if most := best[c.Crop.ID]; most > 0 && c.PlantG > 0 {
			out[i].score *= 0.5 + 0.5*c.PlantG/most
		}
		if c.Days > 0 {
			out[i].score *= 0.7 + 0.3*quickest[c.Crop.ID]/c.Days
		}
		if c.Taste > 0 {
			out[i].score *= 0.7 + 0.1*float64(c.Taste)
		}
	}
	slices.SortStableFunc(out, func(a, b Choice) int {
		return cmp.Or(cmp.Compare(a.Crop.Name, b.Crop.Name), -cmp.Compare(min(1, a.Batches), min(1, b.Batches)), -cmp.Compare(a.score, b.score))
	})
}

// WriteCSV writes the needs as a file for a shopping list: what is missing, and what there is.
func (x Seeds) WriteCSV(to io.Writer, w who.Who) error {
	f := csv.NewWriter(to)
	head := []string{
		w.Prefs.T("Crop"), w.Prefs.T("Variety"), w.Prefs.T("Seeds needed"), w.Prefs.T("Seeds in stock"), w.Prefs.T("Seeds to buy"), w.Prefs.T("First sown"),
	}
	if err := f.Write(head); err != nil {
		return err
	}
	for _, n := range x.Needs {
		err := f.Write([]string{
			w.Prefs.Say(n.Crop.Name), name.Cell(n.Variety), strconv.Itoa(n.Seeds), strconv.Itoa(n.Seeds - n.Buy), strconv.Itoa(n.Buy), n.First.String(),
		})
		if err != nil {
			return err
		}
	}
	f.Flush()
	return f.Error()
}
