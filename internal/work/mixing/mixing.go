// Package mixing is the shelf of salts, a school's own recipes, and the sheet by which a
// solution is weighed out and mixed.
//
//	sheet, err := mixing.Work(ctx, store, who, mixing.Question{Recipe: recipe, Water: water, Litres: 60})
//	err = mixing.Mix(ctx, store, who, mixing.Done{ID: id, Question: q, Grams: weighed})
package mixing

import (
	"context"
	"maps"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/waters"
)

// Question asks for a sheet: a solution of so many litres, or where Ratio is told two stock
// bottles of so many litres each, of which one litre makes that many.
type Question struct {
	Recipe, Water uuid.UUID
	Litres        float64
	Ratio         float64   // 0: no stocks
	ECMS          float64   // mS/cm that it is made to; 0: as the recipe is
	Stock         uuid.UUID `json:",omitzero"` // the pair of bottles it goes into; nil: none that is told
}

// Line is one thing to weigh.
type Line struct {
	Salt   Salt
	Grams  float64
	Spoons float64 // 0: nobody weighed a spoon
	Bottle string  // A or B; "": straight into the water
	Short  float64 // grams that are lacking
	More   int     // as many times more than this the rest on the shelf is enough for; -1: nobody weighed it
}

// Sheet is what is weighed, in order, and what comes of it.
type Sheet struct {
	Recipe             Recipe
	Water              waters.Water
	Guessed            bool // calcium and magnesium were taken from the hardness
	Lines              []Line
	ECMS               float64
	Off                map[string]float64 // percent, of each target
	Brings             map[string]float64 // mg/L of each element that the water brings by itself
	Warnings, Cautions []say.Text
}

// Shelf is what there is to mix with.
type Shelf struct {
	Salts   []Salt
	Recipes []Recipe
	Waters  []waters.Water
}

// GetShelf reads the salts, recipes and waters in use.
func GetShelf(ctx context.Context, s *store.Store, w who.Who) (x Shelf, err error) {
	if x.Waters, err = waters.All(ctx, s, w); err != nil {
		return x, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		x.Salts, x.Recipes, err = inUse(ctx, tx)
		return err
	})
	return x, err
}

func inUse(ctx context.Context, tx *store.Tx) (salts []Salt, recipes []Recipe, err error) {
	if salts, err = Salts(ctx, tx); err != nil {
		return nil, nil, err
	}
	recipes, err = Recipes(ctx, tx)
	return slices.DeleteFunc(salts, func(s Salt) bool { return s.Retired }), slices.DeleteFunc(recipes, func(r Recipe) bool { return r.Retired }), err
}

// Work works a sheet out.
func Work(ctx context.Context, s *store.Store, w who.Who, q Question) (out Sheet, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = work(ctx, tx, q)
		return err
	})
	return out, err
}

func work(ctx context.Context, tx *store.Tx, q Question) (out Sheet, err error) {
	salts, recipes, err := inUse(ctx, tx)
	if err != nil {
		return out, err
	}
	i := slices.IndexFunc(recipes, func(r Recipe) bool { return r.ID == q.Recipe })
	if i < 0 {
		return out, field.Refuse("recipe", "choose a recipe")
	}
	out.Recipe = recipes[i]
	if out.Water, err = waters.Read(ctx, tx, q.Water); err != nil {
		return out, store.Missing(err, "water", "choose a water")
	}
	in := recipe.RecipeInput{VolumeL: q.Litres, TargetsMgL: out.Recipe.Targets}
	if q.Ratio > 0 {
		in.VolumeL, in.TankLitres, in.TankRatio = q.Litres*q.Ratio, q.Litres, q.Ratio
	}
	in.WaterMgL, out.Guessed = out.Water.Facts.MgL()
	out.Brings = maps.Clone(in.WaterMgL)
	out.Brings["N"] = out.Brings["NO3_N"] + out.Brings["NH4_N"]
	for _, s := range salts {
		in.Products = append(in.Products, s.Product())
	}
	if len(salts) == 0 {
		return out, field.Refuse("recipe", "no salt is on the shelf yet: add what there is first")
	}
	got, err := madeTo(in, q.ECMS)
	if err != nil {
		return out, byForm(err)
	}
	out.ECMS, out.Off, out.Warnings, out.Cautions = got.ECMScm, got.DeviationPercent, got.Warnings, got.Cautions
	for _, s := range salts {
		n := s.Product().Name
		l := Line{Salt: s, Grams: got.Grams[n], More: -1}
		if q.Ratio > 0 {
			if stock, told := got.StockGrams[n]; told {
				l.Grams = stock
			}
			switch {
			case slices.Contains(got.TankA, n):
				l.Bottle = "A"
			case slices.Contains(got.TankB, n):
				l.Bottle = "B"
			}
		}
		if l.Grams < 0.0005 {
			continue
		}
		if one := s.SpoonG(); one > 0 {
			l.Spoons = l.Grams / one
		}
		if s.GramsLeft != nil {
			l.Short = math.Max(0, l.Grams-*s.GramsLeft)
			l.More = int(math.Max(0, math.Min(1e6, *s.GramsLeft/l.Grams-1)))
		}
		out.Lines = append(out.Lines, l)
	}
	// Calcium first, on its own side; then the rest, the heaviest first.
	slices.SortStableFunc(out.Lines, func(a, b Line) int {
		if a.Bottle != b.Bottle {
			return map[bool]int{true: -1, false: 1}[a.Bottle < b.Bottle]
		}
		return map[bool]int{true: -1, false: 1}[a.Grams > b.Grams]
	})
	return out, nil
}

// madeTo works a recipe out, all its targets thinned or strengthened alike until it comes to
// a strength. What the water holds by itself sets the least.
func madeTo(in recipe.RecipeInput, ecMS float64) (got recipe.RecipeOut, err error) {
	if got, err = recipe.Recipe(in); err != nil || ecMS == 0 {
		return got, err
	}
	if ecMS < 0.1 || ecMS > 6 {
		return got, field.Refuse("ec", "must be %s to %s", say.Figure(0.1, unit.MS), say.Of(6, unit.MS))
	}
	share, targets := 1.0, in.TargetsMgL
	for range 12 {
		if math.Abs(got.ECMScm-ecMS) < 0.01 {
			return got, nil
		}
		share *= min(3, max(0.2, ecMS/got.ECMScm))
		in.TargetsMgL = map[string]float64{}
		for el, v := range targets {
			in.TargetsMgL[el] = v * share
		}
		if got, err = recipe.Recipe(in); err != nil {
			return got, err
		}
	}
	if got.ECMScm > ecMS*1.03 {
		return got, field.Refuse("ec", "is less than this water has with anything in it: about %s", say.Of(got.ECMScm, unit.MS))
	}
	return got, nil
}

// byForm names the field of the form for what the recipe refuses.
func byForm(err error) error {
	refused, ok := err.(field.Errors)
	if !ok {
		return err
	}
	for i, r := range refused {
		switch {
		case r.Field == "volume_l" || r.Field == "tanks.litres":
			refused[i].Field = "litres"
		case r.Field == "tanks.ratio":
			refused[i].Field = "ratio"
		case r.Field == "ec":
		default:
			refused[i].Field = "recipe"
		}
	}
	return refused
}

// Weighed is how much of a salt was weighed.
type Weighed struct {
	Salt  uuid.UUID `json:"salt"`
	Name  string    `json:"name"`
	Grams float64   `json:"grams"`
	Off   float64   `json:"off"` // what that took off the shelf: less, where the shelf told of less
}

// Batch is a solution that was mixed.
type Batch struct {
	Recipe string    `json:"recipe"`
	Water  string    `json:"water"`
	Litres float64   `json:"litres"`
	Ratio  float64   `json:"ratio,omitempty"`
	Salts  []Weighed `json:"salts"`
}

// Mixed is a solution, or a pair of stock bottles, that was mixed.
var Mixed = ledger.Declare(ledger.Kind[Batch]{Name: "mixed", Gone: back, Says: func(b Batch) say.Text {
	var parts []say.Text
	for _, s := range b.Salts {
		parts = append(parts, say.T("%s %s", say.Name(s.Name), say.Of(s.Grams, unit.Gram)))
	}
	if b.Ratio > 0 {
		return say.T("Mixed stock A and B of %s, %s each, 1 to %.4g: %s", say.Name(b.Recipe), say.Of(b.Litres, unit.Litre), b.Ratio, say.Join(", ", parts...))
	}
	return say.T("Mixed %s of %s: %s", say.Of(b.Litres, unit.Litre), say.Name(b.Recipe), say.Join(", ", parts...))
}})

// back puts what was weighed onto the shelf again, when it was not mixed after all.
func back(ctx context.Context, tx *store.Tx, b Batch) error {
	for _, s := range b.Salts {
		if err := tx.UseSalt(ctx, db.UseSaltParams{ID: s.Salt, Used: -s.Off}); err != nil {
			return err
		}
	}
	return nil
}

// Done is what was really weighed of a sheet.
type Done struct {
	ID uuid.UUID
	Question
	Grams map[uuid.UUID]float64 // by salt
	Each  bool                  // every salt of the sheet must be among them; else those that are not were weighed as wanted
	At    time.Time             // zero: now
}

// Mix writes down what was mixed and takes it off the shelf. Dry salts are for adults.
func Mix(ctx context.Context, s *store.Store, w who.Who, d Done) error {
	if err := w.Must(who.Dose); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: d.ID, Verb: "mixing.Mix", What: d}, func(tx *store.Tx) error {
		sheet, err := work(ctx, tx, d.Question)
		if err != nil {
			return err
		}
		var missing field.Errors
		for _, l := range sheet.Lines {
			_, told := d.Grams[l.Salt.ID]
			missing.Require(told || !d.Each, "g-"+l.Salt.ID.String(), "write down what was weighed, 0 if none was")
		}
		if err := missing.Err(); err != nil {
			return err
		}
		b := Batch{Recipe: sheet.Recipe.Name, Water: sheet.Water.Name, Litres: d.Litres, Ratio: d.Ratio}
		for _, l := range sheet.Lines {
			g := l.Grams
			if v, told := d.Grams[l.Salt.ID]; told {
				g = v
			}
			if g < 0 || g > 1e7 || g > 5*l.Grams {
				return field.Refuse("g-"+l.Salt.ID.String(), "is far from %s: weigh it again", say.Of(l.Grams, unit.Gram))
			}
			if g == 0 {
				continue
			}
			off := g
			if l.Salt.GramsLeft != nil {
				off = min(g, *l.Salt.GramsLeft)
			}
			b.Salts = append(b.Salts, Weighed{l.Salt.ID, l.Salt.Name, g, off})
			if err := tx.UseSalt(ctx, db.UseSaltParams{ID: l.Salt.ID, Used: off}); err != nil {
				return err
			}
		}
		if len(b.Salts) == 0 {
			return field.Refuse("recipe", "nothing was weighed")
		}
		about := []uuid.UUID{d.Water}
		if d.Stock != uuid.Nil && d.Ratio > 0 {
			all, err := allStocks(ctx, tx)
			if err != nil {
				return err
			}
			if !slices.ContainsFunc(all, func(s Stock) bool { return s.ID == d.Stock && !s.Retired }) {
				return field.Refuse("stock", "choose a pair of bottles")
			}
			about = append(about, d.Stock)
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{ID: d.ID, Kind: Mixed.Name, HappenedAt: d.At, About: about, Data: b, Names: b.Recipe})
		return err
	})
}
