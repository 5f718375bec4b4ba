package solution

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/tank"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// Wall is the jars of a place, in the order of their ports.
type Wall struct {
	Place  site.Place
	Jars   []Jar
	Next   tank.Visit
	Poured float64 // today, into all of them
	Now    time.Time
}

// Jar is a vessel without a pump, with what stands in it.
type Jar struct {
	Tank   ledger.Tank
	Advice tank.Advice
	Plants []site.Standing
	Drinks float64 // litres a day
	Roots  float64 // how far they hang below the pot, cm
}

// Jars reads the jars of a place.
func Jars(ctx context.Context, s *store.Store, w who.Who, place uuid.UUID) (out Wall, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		in, err := site.Load(ctx, tx, place)
		if err != nil {
			return err
		}
		if out.Next, err = NextVisit(ctx, tx); err != nil {
			return err
		}
		tanks := slices.DeleteFunc(in.Tanks, func(t ledger.Tank) bool { return !t.Spec.Passive })
		stand, err := Stand(ctx, tx, tanks)
		if err != nil {
			return err
		}
		out.Place, out.Now = in.Place, tx.Now
		for i, t := range tanks {
			j := Jar{Tank: t, Advice: tank.Advise(stand[i], out.Next, tx.Now), Plants: in.InPort(t.Position)}
			if h, _, _ := t.Spec.Shape(); t.Spec.CapacityL > 0 {
				depth := t.State.LevelOn(t.Spec, tx.Now) / t.Spec.CapacityL * h
				j.Roots = t.State.Roots(t.Spec, depth, stand[i].Planted, tx.Now)
			}
			j.Drinks = t.State.Uses(t.Spec, stand[i].Plants).Demand(1).Mean
			out.Jars = append(out.Jars, j)
		}
		slices.SortStableFunc(out.Jars, func(a, b Jar) int { return a.Tank.Position - b.Tank.Position })
		today := tx.Who.Day(tx.Now)
		for _, j := range out.Jars {
			for _, x := range j.Tank.State.Thirst.Levels {
				if x.Poured && tx.Who.Day(x.At) == today {
					out.Poured += x.In
				}
			}
		}
		return nil
	})
	return out, err
}
