package away

import (
	"math"
	"time"

	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// OfTrough is how fish fare that nobody feeds.
func OfTrough(_ round.Day, s Span, t round.Trough) []Thing {
	if t.State.Fish == 0 {
		return nil
	}
	bears := t.Bears(t.State)
	at := s.Leave.Add(time.Duration(bears * 24 * float64(time.Hour)))
	x := Thing{Key: "fish:" + t.ID, What: Unfed, Name: t.Name, Place: t.Place, Trough: t.ID, In5: &at, In50: &at}
	x.Says = say.T("Fish of about %s can go %s without food.", say.Of(math.Round(t.State.MassG), unit.Gram), say.Plural(int(bears), "day"))
	if s.Hours()/24 <= bears+0.5 {
		x.In5, x.In50 = nil, nil
		return []Thing{x}
	}
	x.Chance = 1
	x.Comes = s.visits(bears)
	x.Act, x.Minutes = "ask", 5
	x.Do = say.T("Say who feeds, and weigh a bag for each day; no more than usual on the last day")
	if d, known := t.Day(t.State, s.Leave); known {
		x.Do = say.T("Say who feeds, and weigh a bag of %s for each day; no more than usual on the last day", say.Of(d.FeedG, unit.Gram))
	}
	x.Why = say.T("Feed the fish and look at them: pump, air, temperature; take out any dead ones.")
	return []Thing{x}
}
