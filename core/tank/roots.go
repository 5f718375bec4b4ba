package tank

import (
	"time"

	"ulpa/core/vessel"
)

// Hung is how deep water was read under a jar's net pot: roots that live hang as deep.
type Hung struct {
	CM float64   `json:"cm"`
	At time.Time `json:"at"`
}

// So long after a plant came the level alone says nothing of its roots, which cannot have
// grown down to it yet.
const rootDays = 7

// hung takes from a reading what it says of the roots: what somebody saw goes before what
// the level says.
func (s *State) hung(spec Spec, r Reading, at time.Time) {
	if !spec.Passive {
		return
	}
	if s.Plants != nil && *s.Plants == 0 {
		s.RootsCM, s.RootsAt, s.Hung = nil, nil, nil
		return
	}
	if r.LevelL != nil {
		shape, foot := spec.jar()
		under, emptied := foot-shape.Depth(min(*r.LevelL, spec.CapacityL)), s.Piled.ChangedAt
		switch {
		case under <= 0:
		case s.Hung == nil || under > s.Hung.CM, emptied != nil && emptied.After(s.Hung.At) && under >= vessel.RootsHangFrom:
			s.Hung = &Hung{under, at}
		}
	}
	if r.RootsCM != nil {
		s.RootsCM, s.RootsAt, s.Hung = r.RootsCM, &at, nil
	}
}

// rootsKnown tells whether it is known that the roots do not hang yet, and not only that the
// level has not shown it: somebody looked, or the plant came within a fortnight.
func (t Tank) rootsKnown(now time.Time) bool {
	if at := t.State.RootsAt; at != nil && !at.Before(t.Planted) {
		return true
	}
	return !t.Planted.IsZero() && now.Sub(t.Planted) < 2*rootDays*24*time.Hour
}

// rootsGrow is how far roots grow down in a day at most, cm.
const rootsGrow = 1.5

// Roots is how far the roots of a jar's plant hang below its net pot's foot, cm, where the
// water stands so high over the floor: as far as somebody saw, or as the water has let them.
// Of what was there before the plant came nothing counts; where nobody knows when it came,
// before the jar was last emptied.
func (s *State) Roots(spec Spec, depthCM float64, planted, now time.Time) float64 {
	_, foot := spec.jar()
	since := planted
	if since.IsZero() && s.Piled.ChangedAt != nil {
		since = *s.Piled.ChangedAt
	}
	roots := 0.0
	if s.RootsCM != nil && (s.RootsAt == nil || !s.RootsAt.Before(since)) {
		roots = *s.RootsCM
	}
	seen := roots
	if planted.IsZero() || now.Sub(planted) >= rootDays*24*time.Hour {
		if roots = max(roots, foot-depthCM); s.Hung != nil && s.Hung.At.Sub(planted) >= rootDays*24*time.Hour && !s.Hung.At.Before(since) {
			roots = max(roots, s.Hung.CM)
		}
	}
	if s.RootsCM != nil && s.RootsAt != nil && !s.RootsAt.Before(since) { // what was seen goes before what a level says
		roots = min(roots, seen+rootsGrow*max(0, now.Sub(*s.RootsAt).Hours()/24))
	}
	return max(0, roots)
}
