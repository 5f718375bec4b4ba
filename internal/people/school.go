package people

import (
	"context"

	"ulpa/internal/store"
	"ulpa/internal/who"
)

// Member is somebody who may sign in.
type Member struct {
	Name, Login string // a crew has no login
	Kind        who.Kind
}

// School is what its coordinator decides about it, and who is in it.
type School struct {
	Name, Slug          string
	Language            string
	System, Scale       string // of units, for everybody who has not chosen
	DayBegins, DayEnds  int    // in minutes after midnight
	CrewsOnEnrolledOnly bool
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
			CrewsOnEnrolledOnly: row.CrewsOnEnrolledOnly,
		}
		list, err := tx.ListPeople(ctx)
		if err != nil {
			return err
		}
		for _, p := range list {
			m := Member{Name: p.Name, Kind: who.Kind(p.Kind)}
			if p.Login != nil {
				m.Login = *p.Login
			}
			out.People = append(out.People, m)
		}
		out.Devices, err = devices(ctx, tx, token)
		return err
	})
	return out, err
}
