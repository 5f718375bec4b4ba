package tank

import (
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Fish is whether fish swim in a tank's water.
type Fish int

// None; some are kept at its place, and nobody said whether they share its water; they do.
const (
	NoFish Fish = iota
	FishNear
	FishShare
)

// mostOfFishWater is the share of it that goes in at once.
const mostOfFishWater = 0.25

// fish tops up water that fish share and leaves the rest to their own page: it is never fed
// from bottles, and never given acid or alkali.
func (a *adviser) fish() {
	spec := a.t.Spec
	a.say("Fish share this water: no feed from bottles or bags, no acid, nothing against pests or mould. What else it needs is on the page of the fish.")
	if low := a.level < spec.DryBelowL+lowAt*(spec.FillToL-spec.DryBelowL); !low {
		return
	}
	room := max(0, spec.FillToL-a.level)
	pour := min(room, mostOfFishWater*a.level)
	a.plan(0, pour, 0)
	a.say("The level is down. Pour in water without chlorine, within %s of theirs, over half an hour.", say.Of(2, unit.Kelvin))
	if pour < room {
		a.say("No more than a quarter at once: the rest tomorrow, after ammonia and pH have been read (%s in all).", say.Of(room, unit.Litre))
	}
	a.Cautions = append(a.Cautions, say.T("Tap water is treated against chlorine first; hands are rinsed with plain water before they go in."))
}
