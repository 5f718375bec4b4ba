// Package view says how tanks are, for every page that shows some.
package view

import (
	"slices"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
)

// TankLine is a tank in a list.
type TankLine struct {
	Name, Path, Place      string
	Level, PH, EC          string
	Says, Mark             string
	Passive, LevelLow, Out bool
}

// TankLineOf is a tank as lists show it, with what its advice comes to.
func TankLineOf(t ledger.Tank, a *tank.Advice, p say.Reader) TankLine {
	l := TankLine{
		Name:    t.Name,
		Path:    "/tanks/" + t.ID.String(),
		Level:   "–",
		PH:      "–",
		EC:      "–",
		Passive: t.Spec.Passive,
		Mark:    "none",
		Says:    p.T("in order"),
	}
	if t.State.LevelL != nil {
		l.Level = p.Format(*t.State.LevelL, unit.Litre)
		l.LevelLow = a != nil && a.Fills
	}
	if t.State.PH != nil {
		l.PH = p.Figure(*t.State.PH, "pH")
		l.Out = *t.State.PH > t.Spec.PHHigh || *t.State.PH < t.Spec.PHLow
	}
	if t.State.ECMS != nil {
		l.EC = p.Figure(*t.State.ECMS, unit.MS)
	}
	if t.State.TreatedAt != nil { // worked out, and not read yet
		for _, x := range []*string{&l.PH, &l.EC} {
			if *x != "" {
				*x = p.T("about %s", *x)
			}
		}
		l.Out = false
	}
	if a != nil && a.Needs {
		l.Mark, l.Says = "today", p.Say(AdviceHeadline(*a))
		if a.Now || a.Alarm {
			l.Mark = "now"
		}
	}
	return l
}

// KeptAt is what a tank is kept at, as crops are asked whether it suits them.
func KeptAt(t ledger.Tank) crop.Solution {
	return crop.Solution{PH: crop.Range{Low: t.Spec.PHLow, High: t.Spec.PHHigh}, EC: crop.Range{Low: t.Spec.ECLow, High: t.Spec.ECHigh}}
}

// AdviceHeadline is advice in a few words.
func AdviceHeadline(a tank.Advice) say.Text {
	if !a.Needs {
		return say.T("Nothing to do. Leave it alone.")
	}
	if a.Alarm {
		if slices.ContainsFunc(a.Acts, func(x tank.Act) bool { return x.Do == tank.DoLift }) {
			return say.T("Lift the plants out and change the water now.")
		}
		return say.T("Change part of the water now.")
	}
	var parts []say.Text
	for _, x := range a.Acts {
		switch x.Do {
		case tank.DoDrain:
			parts = append(parts, say.T("drain %s", say.Of(x.Amount, x.Unit)))
		case tank.DoWater:
			parts = append(parts, say.T("add %s of water", say.Of(x.Amount, x.Unit)))
		case tank.DoStock:
			if x.Unit == unit.Teaspoons {
				parts = append(parts, say.T("%s of feed", say.Of(x.Amount, x.Unit)))
			} else {
				parts = append(parts, say.T("%s of each stock", say.Of(x.Amount, x.Unit)))
			}
		case tank.DoDose:
			parts = append(parts, say.T("%s of %s", say.Of(x.Amount, x.Unit), x.What))
		case tank.DoWait:
			if len(parts) == 0 {
				parts = append(parts, say.T("wait %.0f minutes", x.Amount))
			}
		case tank.DoRead:
			if len(a.Acts) <= 2 {
				parts = append(parts, say.T("read it"))
			}
		case tank.DoCool:
			parts = append(parts, say.T("cool it"))
		}
	}
	switch {
	case len(parts) > 0:
		return say.T("%s.", say.Capital(say.Then(parts...)))
	case a.Visit != nil:
		return say.T("It will not last: somebody must come.")
	}
	return say.T("Look at it.")
}
