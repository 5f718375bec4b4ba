// Package view says how tanks are, for every page that shows some.
package view

import (
	"fmt"
	"strings"

	"ulpa/core/crop"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
)

// TankLine is a tank in a list.
type TankLine struct {
	Name, Path, Place      string
	Level, PH, EC          string
	Says, Mark             string
	Passive, LevelLow, Out bool
}

// TankLineOf is a tank as lists show it, with what its advice comes to.
func TankLineOf(t ledger.Tank, a *tank.Advice, p unit.Prefs) TankLine {
	l := TankLine{Name: t.Name, Path: "/solution/" + t.ID.String(), Level: "–", PH: "–", EC: "–", Passive: t.Spec.Passive, Mark: "none", Says: "in order"}
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
	if t.State.TreatedAt != nil { // reckoned, and not read yet
		l.PH, l.EC, l.Out = "about "+l.PH, "about "+l.EC, false
	}
	if a != nil && a.Needs {
		l.Mark, l.Says = "today", AdviceHeadline(*a, p)
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
func AdviceHeadline(a tank.Advice, p unit.Prefs) string {
	if !a.Needs {
		return "Nothing to do. Leave it alone."
	}
	if a.Alarm {
		return "Lift the plants out and change the water now."
	}
	var parts []string
	for _, x := range a.Acts {
		switch x.Do {
		case tank.DoDrain:
			parts = append(parts, "drain "+p.Format(x.Amount, x.Unit))
		case tank.DoWater:
			parts = append(parts, "add "+p.Format(x.Amount, x.Unit)+" of water")
		case tank.DoStock:
			parts = append(parts, p.Format(x.Amount, x.Unit)+" of each stock")
		case tank.DoDose:
			parts = append(parts, p.Format(x.Amount, x.Unit)+" of "+x.What)
		case tank.DoWait:
			if len(parts) == 0 {
				parts = append(parts, fmt.Sprintf("wait %.0f minutes", x.Amount))
			}
		case tank.DoRead:
			if len(a.Acts) <= 2 {
				parts = append(parts, "read it")
			}
		case tank.DoCool:
			parts = append(parts, "cool it")
		}
	}
	s := strings.Join(parts, ", then ")
	switch {
	case s != "":
		return strings.ToUpper(s[:1]) + s[1:] + "."
	case a.Visit != "":
		return "It does not last: somebody must come."
	}
	return "Look at it."
}
