package people

import (
	"context"
	"regexp"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
)

// Beginning is a school that begins, with its first coordinator.
type Beginning struct {
	SchoolFacts
	Slug, System, Language string
	Coordinator            NewPerson
}

var slugs = regexp.MustCompile(`^[a-z0-9-]{2,40}$`)

// CheckSlug refuses what cannot be a school's short name.
func CheckSlug(e *field.Errors, slug string) {
	e.Require(slugs.MatchString(slug), "slug", "use 2 to 40 small letters, digits and hyphens")
}

// ErrBegun is the answer where a school has begun already.
var ErrBegun = say.Wrong("a school has begun here already; sign in")

// Begin makes the first school and its coordinator; there must be none yet.
func Begin(ctx context.Context, s *store.Store, b Beginning) (w who.Who, err error) {
	var e field.Errors
	if b.Period == 0 {
		b.Period = 45
	}
	e.Join(b.Check())
	CheckSlug(&e, b.Slug)
	e.Require(words.Known(b.Language), "language", "is not one of those there are")
	e.Require(b.System == "metric" || b.System == "us", "system", "must be metric or us")
	b.Coordinator.Kind, b.Coordinator.Near = who.Coordinator, []string{b.Name, b.Slug}
	p, err := Prepare(ctx, b.Coordinator)
	if more, ok := err.(field.Errors); ok {
		for _, x := range more {
			if x.Field == "name" {
				x.Field = "person"
			}
			e = append(e, x)
		}
	} else if err != nil {
		return w, err
	}
	if err := e.Err(); err != nil {
		return w, err
	}
	school, err := uuid.NewV7()
	if err != nil {
		return w, err
	}
	made, err := s.FirstSchool(ctx, school, store.NewSchool{
		Slug: b.Slug, Name: b.Name, Zone: b.Zone, UnitSystem: b.System, Language: b.Language, Latitude: b.Latitude, Longitude: b.Longitude,
	})
	if err == nil && !made {
		err = ErrBegun
	}
	if err != nil {
		return w, err
	}
	zone, err := time.LoadLocation(b.Zone)
	if err != nil {
		return w, err
	}
	id, err := p.Add(ctx, s, who.Who{School: school, Kind: who.Coordinator, Zone: zone})
	if err != nil {
		return w, err
	}
	if w, err = Load(ctx, s, who.Who{School: school, Person: id}); err != nil {
		return w, err
	}
	return w, trail.Note(ctx, s, w, "Set up the school %s", say.Name(b.Name))
}
