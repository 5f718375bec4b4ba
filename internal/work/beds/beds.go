// Package beds is sections of beds over the years: what stood in them, and what is to stand
// there next.
//
//	o, err := beds.Look(ctx, store, who, beds.Asked{Year: 2027})
package beds

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/rotation"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// Section is a part of a bed that holds one crop at a time, to scale.
type Section struct {
	ID       uuid.UUID `json:"id"`
	Name     string    `json:"name"`
	Place    uuid.UUID `json:"place"`
	XCM      float64   `json:"x_cm"` // from the bed's left end
	YCM      float64   `json:"y_cm"` // from its front
	LengthCM float64   `json:"length_cm"`
	WidthCM  float64   `json:"width_cm"`
	Sun      string    `json:"sun"` // full, part or shade
	Retired  bool      `json:"retired,omitempty"`
	used     bool
}

// Rect is where it lies in its bed.
func (s Section) Rect() rotation.Rect {
	return rotation.Rect{X: s.XCM, Y: s.YCM, Length: s.LengthCM, Width: s.WidthCM}
}

// SectionKind is how sections are written down.
var SectionKind = &things.Kind[Section]{
	Name: "bed-sections", One: "section of a bed##thing", Add: "Add a section of a bed", Title: "Sections of beds",
	About: "Parts of a bed that hold one crop at a time, drawn to scale. What grew in them over the years decides what may come next.",
	May:   who.Settings,
	Fields: []ledger.Field[Section]{
		ledger.Short("name", "What it is called", func(s *Section) *string { return &s.Name }),
		ledger.PickID("place", "Bed", func(s *Section) *uuid.UUID { return &s.Place }),
		ledger.Amount("x_cm", "From the left end", unit.Centimetre, func(s *Section) *float64 { return &s.XCM }),
		ledger.Amount("y_cm", "From the front", unit.Centimetre, func(s *Section) *float64 { return &s.YCM }),
		ledger.Amount("length_cm", "Length", unit.Centimetre, func(s *Section) *float64 { return &s.LengthCM }),
		ledger.Amount("width_cm", "Width", unit.Centimetre, func(s *Section) *float64 { return &s.WidthCM }),
		ledger.PickOf("sun", "Sun", []ledger.Option{
			{Value: "full", Name: say.Words("most of the day")},
			{Value: "part", Name: say.Words("half of the day")},
			{Value: "shade", Name: say.Words("hardly any")},
		}, func(s *Section) *string { return &s.Sun }),
	},
	Pick: func(ctx context.Context, tx *store.Tx) (things.Options, error) {
		places, err := site.Places(ctx, tx)
		var out []ledger.Option
		for _, p := range places {
			if p.Kind == "bed" {
				out = append(out, ledger.Option{Value: p.ID.String(), Name: say.Name(p.Name)})
			}
		}
		return things.Options{"place": out}, err
	},
	ID:      func(s *Section) *uuid.UUID { return &s.ID },
	Retired: func(s *Section) *bool { return &s.Retired },
	Blank:   func() Section { return Section{Sun: "full"} },
	All:     sections,
	Label:   func(s Section) string { return s.Name },
	Page:    func(Section) string { return "/season/beds" },
	Says: func(s Section) say.Text {
		return say.T("%s × %s", say.Of(s.LengthCM, unit.Centimetre), say.Of(s.WidthCM, unit.Centimetre))
	},
	Check: check,
	Keep: func(ctx context.Context, tx *store.Tx, _ *Section, s Section) error {
		return tx.PutBedSection(ctx, db.PutBedSectionParams{
			SchoolID: tx.Who.School, ID: s.ID, PlaceID: s.Place, Name: s.Name, XCm: s.XCM, YCm: s.YCM, LengthCm: s.LengthCM, WidthCm: s.WidthCM,
			Sun: s.Sun, Retired: s.Retired,
		})
	},
	Drop:  func(ctx context.Context, tx *store.Tx, s Section) error { return tx.DropBedSection(ctx, s.ID) },
	Used:  func(s Section) bool { return s.used },
	Stays: "something grew in it. Retire it instead", Hangs: "What grew in it stays on record.",
}

func sections(ctx context.Context, tx *store.Tx) (out []Section, err error) {
	rows, err := tx.BedSections(ctx)
	for _, r := range rows {
		out = append(out, Section{r.ID, r.Name, r.PlaceID, r.XCm, r.YCm, r.LengthCm, r.WidthCm, r.Sun, r.Retired, r.Used})
	}
	return out, err
}

func check(ctx context.Context, tx *store.Tx, old, s *Section) error {
	var e field.Errors
	s.Name = name.Take(&e, "name", s.Name, 40)
	p, err := site.GetPlace(ctx, tx, s.Place)
	if err := store.Missing(err, "place", "choose the bed"); err != nil {
		return err
	}
	e.Require(p.Kind == "bed", "place", "choose the bed")
	e.Require(slices.Contains(rotation.Suns, s.Sun), "sun", "must be one of these")
	within := func(at float64, size *float64, key string, most float64) {
		e.Require(*size >= 10 && *size <= 10_000, key, "must be %s to %s", say.Figure(10, unit.Centimetre), say.Of(10_000, unit.Centimetre))
		e.Require(most <= 0 || at+*size <= most+0.5, key, "reaches beyond the bed, which is %s", say.Of(most, unit.Centimetre))
	}
	e.Require(s.XCM >= 0 && s.XCM <= 10_000, "x_cm", "must be 0 or more")
	e.Require(s.YCM >= 0 && s.YCM <= 10_000, "y_cm", "must be 0 or more")
	within(s.XCM, &s.LengthCM, "length_cm", p.LengthCM)
	within(s.YCM, &s.WidthCM, "width_cm", p.WidthCM)
	all, err := sections(ctx, tx)
	for _, o := range all {
		if o.ID != s.ID && !o.Retired && o.Place == s.Place && overlap(o.Rect(), s.Rect()) && !s.Retired {
			e.Add("x_cm", "overlaps “%s”", say.Name(o.Name))
			break
		}
	}
	if err != nil {
		return err
	}
	if old != nil {
		s.used = old.used
	}
	return e.Err()
}

func overlap(a, b rotation.Rect) bool {
	const slack = 0.5
	return a.X+slack < b.X+b.Length && b.X+slack < a.X+a.Length && a.Y+slack < b.Y+b.Width && b.Y+slack < a.Y+a.Width
}
