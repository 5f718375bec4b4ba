package view

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/face"
	"ulpa/internal/nursery"
)

// verdictWords says a verdict, and the mark that goes with it.
func verdictWords(v ready.Verdict, today calendar.Day) (says, mark string) {
	switch v.Word {
	case ready.Ready:
		return fmt.Sprintf("ready, %s left", say.Plural(v.DaysLeft(today), "day")), "today"
	case ready.Late:
		return fmt.Sprintf("late by %s", say.Plural(-v.DaysLeft(today), "day")), "now"
	case ready.Look:
		return "time to look and count leaves", "today"
	}
	return "ready about " + v.About.Short(), "none"
}

// RaisedWords says how far plants in their tray are: those that stay there are harvested
// from it, not moved.
func RaisedWords(c crop.Crop, sown, today calendar.Day, v ready.Verdict) (says, mark string) {
	if !c.Stays() {
		return verdictWords(v, today)
	}
	if due := c.HarvestDue(sown, 0, false); today < due {
		return "to be harvested about " + due.Short(), "none"
	}
	return "ready to harvest", "today"
}

func growthSays(b nursery.Batch) (headline, why string, late bool) {
	says, mark := RaisedWords(b.Crop, b.Sown, b.Today, b.Verdict)
	if why = face.Sentence(b.Verdict.Why) + "."; b.Crop.Stays() {
		why = "It is harvested from where it was sown."
	}
	return face.Sentence(says) + ".", why, mark == "now"
}

// Headline is what a batch needs most to be known of it.
func Headline(b nursery.Batch, p unit.Prefs) (says, why, mark string) {
	st := b.State
	switch {
	case b.Row.Closed:
		return "Closed.", fmt.Sprintf("%d of %d came to something; %s harvested.", st.Taken+st.SetOut, st.Sown, p.Format(st.Grams, unit.Gram)), "done"
	case st.Sprouted == 0:
		return "Nothing up yet.", "Count the tray when the first green shows.", "none"
	case st.InTrays() > 0:
		_, m := RaisedWords(b.Crop, b.Sown, b.Today, b.Verdict)
		says, why, late := growthSays(b)
		if late {
			why += " Roots circle and lower leaves yellow when they wait; move them."
			if b.Crop.Pinch == "yes" {
				why += " Or cut back above a pair of leaves, and use the cuttings."
			}
		}
		return says, why, m
	}
	if st.Standing() == 0 {
		return "Nothing stands any more.", "Close the batch: what it came to stays in the notebook.", "none"
	}
	return fmt.Sprintf("%d standing.", st.Standing()), "All have left their tray.", "none"
}
