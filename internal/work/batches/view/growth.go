package view

import (
	"slices"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/sprout"
	"ulpa/core/unit"
	"ulpa/internal/work/batches"
)

// verdictWords says a verdict, and the mark that goes with it.
func verdictWords(v ready.Verdict, today calendar.Day) (says say.Text, mark string) {
	switch v.Word {
	case ready.Ready:
		return say.T("ready, %s left", say.Plural(v.DaysLeft(today), "day")), "today"
	case ready.Late:
		return say.T("late by %s", say.Plural(-v.DaysLeft(today), "day")), "now"
	case ready.Look:
		return say.T("time to look and count leaves"), "today"
	}
	return say.T("ready about %s", v.About.Short()), "none"
}

// RaisedWords says how far plants in their tray are: those that stay there are harvested
// from it, not moved.
func RaisedWords(c crop.Crop, sown, today calendar.Day, v ready.Verdict) (says say.Text, mark string) {
	if !c.Stays() {
		return verdictWords(v, today)
	}
	if due := c.HarvestDue(sown, 0, false); today < due {
		return say.T("to be harvested about %s", due.Short()), "none"
	}
	return say.T("ready to harvest"), "today"
}

func growthSays(b batches.Batch) (headline, why say.Text, late bool) {
	says, mark := RaisedWords(b.Crop, b.Sown, b.Today, b.Verdict)
	if why = say.T("%s.", say.Capital(b.Verdict.Why)); b.Crop.Stays() {
		why = say.T("It is harvested from where it was sown.")
	}
	return say.T("%s.", say.Capital(says)), why, mark == "now"
}

// Headline is what a batch needs most to be known of it.
func Headline(b batches.Batch) (says, why say.Text, mark string) {
	st := b.State
	switch {
	case b.Closed:
		return say.T("Closed."), say.T("%d of %d were used; %s harvested.", st.Taken+st.SetOut, st.Sown, say.Of(st.Grams, unit.Gram)), "done"
	case st.Start == batch.Soaked && st.Standing() > 0:
		return sproutsSay(b)
	case st.Rooting() > 0 && st.InTrays() == 0:
		return say.T("Day %d: they have to root.", b.Today-b.Sown),
			say.T("Keep out of the sun, damp under a cover. From about day ten tug gently: one that holds has rooted."), "none"
	case st.Sprouted == 0:
		return say.T("Nothing up yet."), say.T("Count the tray when the first green shows."), "none"
	case st.InTrays() > 0:
		_, m := RaisedWords(b.Crop, b.Sown, b.Today, b.Verdict)
		says, why, late := growthSays(b)
		if late {
			why = say.T("%s Roots circle and lower leaves yellow when they wait; move them.", why)
			if b.Crop.CutsBack() {
				why = say.T("%s Or cut them back to just above a pair of leaves, and use the tops as cuttings.", why)
			}
		}
		return says, why, m
	}
	if st.Standing() == 0 {
		return say.T("Nothing is left growing."), say.T("Close the batch. Its results stay in the notebook."), "none"
	}
	return say.T("%d growing.", st.Standing()), say.T("All have moved on from their tray."), "none"
}

// sproutsSay is how far a run of sprouts is, and what it asks for.
func sproutsSay(b batches.Batch) (says, why say.Text, mark string) {
	way := sprout.WayOf(b.Crop)
	says = say.T("Day %d; usually cut on day %d.", b.Today-b.Sown, way.CutDay)
	switch {
	case slices.Contains(b.Due, sprout.Discard):
		return say.T("Throw them away."), say.T("They were too long without fresh water, or are too old: do not eat them."), "now"
	case slices.Contains(b.Due, sprout.Rinse):
		return says, say.T("Rinse and drain now."), "today"
	case slices.Contains(b.Due, sprout.Water):
		return says, say.T("Fresh water under the tray now."), "today"
	}
	return says, say.T("Nothing to do now."), "none"
}
