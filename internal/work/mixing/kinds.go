package mixing

import (
	"context"
	"encoding/json"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// Salt is a salt or a ready mix on the shelf.
type Salt struct {
	ID        uuid.UUID    `json:"id"`
	Name      string       `json:"name"`
	Chemical  string       `json:"chemical,omitempty"` // of the library; "": by its label
	Label     recipe.Label `json:"label,omitempty"`    // percent by mass
	GramsLeft *float64     `json:"grams_left,omitempty"`
	Spoons    int          `json:"spoons,omitempty"` // level ones, weighed together
	SpoonsG   float64      `json:"spoons_g,omitempty"`
	Retired   bool         `json:"retired,omitempty"`
}

// Product is the salt as recipes take it.
func (s Salt) Product() recipe.ProductIn {
	if s.Chemical != "" {
		return recipe.ProductIn{Name: s.Chemical}
	}
	return recipe.ProductIn{Name: s.Name, Label: s.Label}
}

// SpoonG is what a level spoon of it weighs; 0: nobody weighed any.
func (s Salt) SpoonG() float64 {
	if s.Spoons == 0 {
		return 0
	}
	return s.SpoonsG / float64(s.Spoons)
}

// labelKeys are what of a label is asked for.
var labelKeys = []struct {
	key  string
	says say.Words
}{
	{"NO3_N", "Nitrogen as nitrate"},
	{"NH4_N", "Nitrogen as ammonium or urea"},
	{"P2O5", "Phosphate, P₂O₅"},
	{"K2O", "Potash, K₂O"},
	{"CaO", "Lime, CaO"},
	{"MgO", "Magnesia, MgO"},
	{"SO3", "Sulfate, SO₃"},
	{"Fe", "Iron"},
}

// SaltKind is how salts are set up.
var SaltKind = &things.Kind[Salt]{
	Name: "salts", One: "salt##thing", Add: "Add a salt", Title: "Salts and mixes",
	About: "What is on the shelf to feed with, by its chemical name or by what its label says, and how much is left.",
	May:   who.Settings,
	Fields: slices.Concat([]ledger.Field[Salt]{
		ledger.Short("name", "Name", func(s *Salt) *string { return &s.Name }),
		ledger.PickOf("chemical", "What it is", library(), func(s *Salt) *string { return &s.Chemical }),
	}, percentFields(), []ledger.Field[Salt]{
		ledger.Maybe("grams_left", "Left", unit.Gram, func(s *Salt) **float64 { return &s.GramsLeft }).Hinted("Leave it empty if nobody weighed it."),
		ledger.Number("spoons", "Level spoons that were weighed together", func(s *Salt) *int { return &s.Spoons }).Hinted("Five spoons are better than one."),
		ledger.Amount("spoons_g", "They weighed", unit.Gram, func(s *Salt) *float64 { return &s.SpoonsG }),
	}),
	ID:      func(s *Salt) *uuid.UUID { return &s.ID },
	Retired: func(s *Salt) *bool { return &s.Retired },
	Blank:   func() Salt { return Salt{} },
	All:     Salts,
	Label:   func(s Salt) string { return s.Name },
	Says: func(s Salt) say.Text {
		says := say.T("nobody weighed what is left")
		if s.GramsLeft != nil {
			says = say.T("%s left", say.Of(*s.GramsLeft, unit.Gram))
		}
		if g, told := recipe.Soluble(s.Chemical); told {
			says = say.T("%s; up to %.0f g dissolve in a litre at %s", says, g, say.Of(20, unit.Celsius))
		}
		if recipe.Oxidiser(s.Chemical) {
			says = say.T("%s; oxidiser: keep away from paper, sugar, fuel and heat", says)
		}
		return says
	},
	Check: checkSalt,
	Keep: func(ctx context.Context, tx *store.Tx, _ *Salt, s Salt) error {
		b, err := json.Marshal(s.Label)
		if err != nil {
			return err
		}
		return tx.PutSalt(ctx, db.PutSaltParams{
			SchoolID: tx.Who.School, ID: s.ID, Name: s.Name, Chemical: s.Chemical, Label: b, GramsLeft: s.GramsLeft,
			Spoons: s.Spoons, SpoonsG: s.SpoonsG, Retired: s.Retired,
		})
	},
	Drop: func(ctx context.Context, tx *store.Tx, s Salt) error { return tx.DropSalt(ctx, s.ID) },
}

func percentFields() (out []ledger.Field[Salt]) {
	for _, l := range labelKeys {
		out = append(out, ledger.Held(l.key, l.says, "%", func(s *Salt) *recipe.Label { return &s.Label }).Where("chemical", ""))
	}
	return out
}

func library() []ledger.Option {
	out := []ledger.Option{{Value: "", Name: say.Words("a ready mix, by its label")}}
	for _, n := range recipe.LibraryNames {
		out = append(out, ledger.Option{Value: n, Name: recipe.Salt(n)})
	}
	return out
}

func checkSalt(_ context.Context, _ *store.Tx, _, s *Salt) error {
	var e field.Errors
	s.Name = name.Take(&e, "name", s.Name, 60)
	e.Require(s.Chemical == "" || slices.Contains(recipe.LibraryNames, s.Chemical), "chemical", "must be one of these")
	e.Require(s.GramsLeft == nil || *s.GramsLeft >= 0 && *s.GramsLeft <= 1e7, "grams_left", "must be 0 grams or more")
	e.Require(s.Spoons >= 0 && s.Spoons <= 1000, "spoons", "must be 0 to 1,000")
	e.Require((s.Spoons > 0) == (s.SpoonsG > 0) && s.SpoonsG <= 1e6, "spoons_g", "enter what those spoons weighed together")
	if s.Chemical != "" { // what it is made of says it
		s.Label = nil
		return e.Err()
	}
	sum := 0.0
	for key, percent := range s.Label {
		e.Require(slices.Contains(recipe.LabelKeys, key), key, "cannot be on a label here")
		e.Require(percent > 0 && percent <= 100, key, "must be 0 to 100 %")
		sum += percent
	}
	e.Require(len(s.Label) > 0, labelKeys[0].key, "enter what its label says: at least one nutrient")
	e.Require(sum <= 100, labelKeys[0].key, "adds up to more than 100 %")
	return e.Err()
}

// Recipe is a school's own recipe.
type Recipe struct {
	ID      uuid.UUID          `json:"id"`
	Name    string             `json:"name"`
	Targets map[string]float64 `json:"targets_mg_l"`
	Retired bool               `json:"retired,omitempty"`
}

// RecipeKind is how recipes are set up.
var RecipeKind = &things.Kind[Recipe]{
	Name: "recipes", One: "recipe##thing", Add: "Add a recipe", Title: "Recipes",
	About: "What a solution should hold, in mg/L of each element, never as oxides.",
	May:   who.Settings,
	Fields: slices.Concat([]ledger.Field[Recipe]{
		ledger.Short("name", "Name", func(r *Recipe) *string { return &r.Name }),
	}, targetFields()),
	ID:      func(r *Recipe) *uuid.UUID { return &r.ID },
	Retired: func(r *Recipe) *bool { return &r.Retired },
	Blank:   func() Recipe { return Recipe{} },
	All:     Recipes,
	Label:   func(r Recipe) string { return r.Name },
	Says: func(r Recipe) say.Text {
		var parts []say.Text
		for _, el := range recipe.Targets[:6] {
			if v, told := r.Targets[el]; told {
				parts = append(parts, say.T("%s %.3g", say.Name(el), v))
			}
		}
		return say.T("%s mg/L", say.Join(", ", parts...))
	},
	Check: func(_ context.Context, _ *store.Tx, _, r *Recipe) error {
		var e field.Errors
		r.Name = name.Take(&e, "name", r.Name, 60)
		for el, v := range r.Targets {
			e.Require(slices.Contains(recipe.Targets, el), el, "cannot be a target of a recipe")
			e.Require(v > 0 && v <= 5000, el, "must be above 0, up to 5,000 mg/L")
		}
		e.Require(len(r.Targets) > 0, "N", "needs at least one target")
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *Recipe, r Recipe) error {
		b, err := json.Marshal(r.Targets)
		if err != nil {
			return err
		}
		return tx.PutRecipe(ctx, db.PutRecipeParams{SchoolID: tx.Who.School, ID: r.ID, Name: r.Name, Targets: b, Retired: r.Retired})
	},
	Drop: func(ctx context.Context, tx *store.Tx, r Recipe) error { return tx.DropRecipe(ctx, r.ID) },
}

// elements are what each target is called.
var elements = map[string]say.Words{
	"N": "Nitrogen", "P": "Phosphorus", "K": "Potassium", "Ca": "Calcium", "Mg": "Magnesium", "S": "Sulfur", "Fe": "Iron", "Mn": "Manganese",
	"Zn": "Zinc", "B": "Boron", "Cu": "Copper", "Mo": "Molybdenum",
}

func targetFields() (out []ledger.Field[Recipe]) {
	for _, el := range recipe.Targets {
		out = append(out, ledger.Held(el, elements[el], "mg/L", func(r *Recipe) *map[string]float64 { return &r.Targets }))
	}
	return out
}

// Salts are those on the shelf, retired ones too.
func Salts(ctx context.Context, tx *store.Tx) (out []Salt, err error) {
	rows, err := tx.AllSalts(ctx)
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		s := Salt{ID: r.ID, Name: r.Name, Chemical: r.Chemical, GramsLeft: r.GramsLeft, Spoons: r.Spoons, SpoonsG: r.SpoonsG, Retired: r.Retired}
		if err := json.Unmarshal(r.Label, &s.Label); err != nil {
			return nil, err
		}
		out = append(out, s)
	}
	return out, nil
}

// Recipes are the school's own, retired ones too.
func Recipes(ctx context.Context, tx *store.Tx) (out []Recipe, err error) {
	rows, err := tx.AllRecipes(ctx)
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		x := Recipe{ID: r.ID, Name: r.Name, Retired: r.Retired}
		if err := json.Unmarshal(r.Targets, &x.Targets); err != nil {
			return nil, err
		}
		out = append(out, x)
	}
	return out, nil
}
