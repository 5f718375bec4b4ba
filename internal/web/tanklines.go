package web

import (
	"ulpa/core/crop"
	core "ulpa/core/solution"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
)

type tankLine struct {
	Name, Path, Place      string
	Level, PH, EC          string
	Says, Mark             string
	Passive, LevelLow, Out bool
}

func tankLineOf(t ledger.Tank, a *core.Advice, p unit.Prefs) tankLine {
	l := tankLine{Name: t.Name, Path: "/solution/" + t.ID.String(), Level: "–", PH: "–", EC: "–", Passive: t.Spec.Passive, Mark: "none", Says: "in order"}
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
		l.Mark, l.Says = "today", adviceHeadline(*a, p)
		if a.Now || a.Alarm {
			l.Mark = "now"
		}
	}
	return l
}

func keptAt(t ledger.Tank) crop.Solution {
	return crop.Solution{PH: crop.Range{Low: t.Spec.PHLow, High: t.Spec.PHHigh}, EC: crop.Range{Low: t.Spec.ECLow, High: t.Spec.ECHigh}}
}
