package goals

import (
	"context"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Course is a goal, and whether what was kept for it is on course.
type Course struct {
	Goal Setup
	Next calendar.Day // by which it is wanted next
	Mark string       // done, soon or now
	Says say.Text
}

// Courses are the nearest goals, so many at most. It looks at what was kept and at what has
// become of it, and searches for no plan.
func Courses(ctx context.Context, s *store.Store, w who.Who, most int) (out []Course, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = store.Keep(ctx, tx, "courses "+tx.Who.Day(tx.Now).String(), func() ([]Course, error) { return courses(ctx, tx) })
		return err
	})
	return out[:min(most, len(out))], err
}

func courses(ctx context.Context, tx *store.Tx) (out []Course, err error) {
	o := Outlook{Today: tx.Who.Day(tx.Now)}
	setups, err := all(ctx, tx)
	if err != nil {
		return nil, err
	}
	if err := o.readKept(ctx, tx); err != nil {
		return nil, err
	}
	now, err := standing(ctx, tx, o.Today)
	if err != nil {
		return nil, err
	}
	for _, g := range setups {
		if g.Retired || g.By < o.Today {
			continue
		}
		c := Course{Goal: g, Next: g.next(o.Today), Mark: "soon", Says: say.T("not planned yet")}
		planned := false
		for _, k := range o.kept {
			if k.Goal != g.ID || k.Ready < o.Today && !k.Sown {
				continue
			}
			if !planned {
				planned, c.Mark, c.Says = true, "done", say.T("on course")
			}
			r := now.real(k, g, k.Ready)
			switch {
			case !k.Sown && k.Sow < o.Today:
				c.Mark, c.Says = "now", say.T("to be sown since %s", k.Sow.Short())
			case k.Sown && r.Late > 0 && c.Mark == "done":
				c.Mark, c.Says = "soon", say.T("%s behind", say.Plural(r.Late, "day"))
			case k.Sown && k.Wanted-r.Have > worthSowing(k.Wanted) && c.Mark == "done":
				c.Mark, c.Says = "soon", say.T("%d of %d plants", r.Have, k.Wanted)
			}
		}
		out = append(out, c)
	}
	slices.SortStableFunc(out, func(a, b Course) int { return int(a.Next - b.Next) })
	return out, nil
}

// next is the day by which a goal is wanted next.
func (g Setup) next(today calendar.Day) calendar.Day {
	if g.Kind != "weekly" {
		return g.By
	}
	week := max(g.From, today).Monday()
	return max(today, min(week+4, g.By))
}
