package people

import (
	"context"
	"slices"
	"time"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// School is what its coordinator decides about it, and who is in it.
type School struct {
	Name, Slug          string
	Language            string
	System, Scale       string // of units, for everybody who has not chosen
	DayBegins, DayEnds  int    // in minutes after midnight
	DayTold             bool   // somebody has said so
	Zone                string
	Latitude, Longitude *float64 // degrees; nil: not told
	Period              int      // minutes of a working period
	CrewsOnEnrolledOnly bool
	CrewMay             []string
	ProveTwice          bool // coordinators
	People              []Member
	Devices             []Device
}

// GetSchool reads it, for its coordinator; token is that of the device in hand.
func GetSchool(ctx context.Context, s *store.Store, w who.Who, token string) (out School, err error) {
	if err := w.Must(who.Settings); err != nil {
		return out, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		row, err := tx.GetSchool(ctx)
		if err != nil {
			return err
		}
		out = School{
			Name:                row.Name,
			Slug:                row.Slug,
			Language:            row.Language,
			System:              row.UnitSystem,
			Scale:               row.EcScale,
			DayBegins:           row.DayBegins,
			DayEnds:             row.DayEnds,
			DayTold:             row.DayTold,
			Zone:                row.Zone,
			Latitude:            row.Latitude,
			Longitude:           row.Longitude,
			Period:              row.PeriodMinutes,
			CrewsOnEnrolledOnly: row.CrewsOnEnrolledOnly,
			CrewMay:             row.CrewMay,
			ProveTwice:          row.CoordinatorsProveTwice,
		}
		if out.People, err = members(ctx, tx); err != nil {
			return err
		}
		out.Devices, err = devices(ctx, tx, token)
		return err
	})
	return out, err
}

// SchoolFacts are what a school is called, where it is, and how long it works at a time.
type SchoolFacts struct {
	Name      string   `json:"name"`
	Zone      string   `json:"zone"` // as in the database of time zones
	Latitude  *float64 `json:"latitude"`
	Longitude *float64 `json:"longitude"`
	Period    int      `json:"period_minutes"`
}

// Check cleans the facts and refuses what cannot be.
func (f *SchoolFacts) Check() error {
	var e field.Errors
	f.Name = name.Take(&e, "name", f.Name, 80)
	zone, err := time.LoadLocation(f.Zone)
	e.Require(err == nil && f.Zone != "" && zone != time.Local, "zone", "must be a time zone like Europe/London or America/Chicago")
	e.Require((f.Latitude == nil) == (f.Longitude == nil), "longitude", "enter both, or neither")
	e.Require(f.Latitude == nil || *f.Latitude >= -90 && *f.Latitude <= 90, "latitude", "must be −90 to 90 degrees, north of the equator above 0")
	e.Require(f.Longitude == nil || *f.Longitude >= -180 && *f.Longitude <= 180, "longitude", "must be −180 to 180 degrees, east of Greenwich above 0")
	e.Require(f.Period >= 5 && f.Period <= 600, "period_minutes", "must be 5 to 600 minutes")
	return e.Err()
}

// FactsOf reads them, for its coordinator.
func FactsOf(ctx context.Context, s *store.Store, w who.Who) (f SchoolFacts, err error) {
	if err := w.Must(who.Settings); err != nil {
		return f, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		x, err := tx.GetSchool(ctx)
		f = SchoolFacts{x.Name, x.Zone, x.Latitude, x.Longitude, x.PeriodMinutes}
		return err
	})
	return f, err
}

// SetSchool keeps what a school is called, where it is, and how long it works at a time.
func SetSchool(ctx context.Context, s *store.Store, w who.Who, f SchoolFacts) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	if err := f.Check(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetSchool(ctx, db.SetSchoolParams{
			Name: f.Name, Zone: f.Zone, Latitude: f.Latitude, Longitude: f.Longitude, PeriodMinutes: f.Period,
		}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Set the school: %s, %s, %d minutes a period", say.Name(f.Name), say.Name(f.Zone), f.Period)
	})
}

// CrewCan is something that crews may do when the coordinator lets them.
type CrewCan struct {
	Name string
	Says say.Words
}

// CrewCans are what can be switched. Acid and alkali are none of it: they are for adults.
var CrewCans = []CrewCan{
	{"sow", "sow, with an adult beside them"},
	{"plan", "plan sowings and set up trays and packets"},
	{"close", "close a batch"},
}

// SetCrewMay says what crews may do beside what every crew may.
func SetCrewMay(ctx context.Context, s *store.Store, w who.Who, may []string) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	kept := []string{}
	var names []say.Text
	for _, c := range CrewCans {
		if slices.Contains(may, c.Name) {
			kept = append(kept, c.Name)
			names = append(names, c.Says)
		}
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetCrewMay(ctx, kept); err != nil {
			return err
		}
		if len(names) == 0 {
			return trail.Write(ctx, tx, "Limited crews to counting, reading, moving and writing notes")
		}
		return trail.Write(ctx, tx, "Allowed crews to %s", say.List(names...))
	})
}

// SetProveTwice asks coordinators for two-step sign-in, or does not.
func SetProveTwice(ctx context.Context, s *store.Store, w who.Who, ask bool) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SetProveTwice(ctx, ask); err != nil {
			return err
		}
		if ask {
			return trail.Write(ctx, tx, "Required two-step sign-in of coordinators")
		}
		return trail.Write(ctx, tx, "No longer required two-step sign-in of coordinators")
	})
}
