package crop

import (
	"fmt"
	"strings"

	"ulpa/core/unit"
)

// Solution is a window of pH and mS/cm: what a tank is kept at, or what a crop wants.
type Solution struct{ PH, EC Range }

// Wants is the solution that suits the crop at an age, days from sowing.
func (c Crop) Wants(age int) Solution {
	switch {
	case age < c.NurseryDays:
		return Solution{c.PH.Seedling, c.EC.Seedling}
	case age < c.NurseryDays+c.Growing.Days:
		return Solution{c.PH.Growing, c.EC.Growing}
	}
	return Solution{c.PH.Cropping, c.EC.Cropping}
}

// apart tells whether two windows share nothing.
func (r Range) apart(o Range) bool { return r.High < o.Low || r.Low > o.High }

// Misses says where a solution is not what the crop wants at an age, in the reader's units.
func (c Crop) Misses(in Solution, age int, p unit.Prefs) (says []string) {
	name, w := strings.ToLower(c.Name), c.Wants(age)
	if w.EC.apart(in.EC) {
		says = append(says, fmt.Sprintf("Its strength is not this tank’s: %s of that age wants %s to %s, and it is kept at %s to %s.", name, p.Figure(w.EC.Low, unit.MS), p.Format(w.EC.High, unit.MS), p.Figure(in.EC.Low, unit.MS), p.Format(in.EC.High, unit.MS)))
	}
	if w.PH.apart(in.PH) {
		says = append(says, fmt.Sprintf("Its pH is not this tank’s: %s of that age wants %.1f to %.1f, and it is kept at %.1f to %.1f.", name, w.PH.Low, w.PH.High, in.PH.Low, in.PH.High))
	}
	return says
}

// begun is what a crop is begun from, where that is not seed.
var begun = map[string]string{"cutting": "cuttings", "set": "sets", "clove": "single cloves", "tuber": "tubers", "crown": "crowns", "bulb": "bulbs"}

// AtSowing is what a person should know who sows so many, in the reader's units.
func (c Crop) AtSowing(seeds int, p unit.Prefs) (says []string) {
	add := func(format string, args ...any) { says = append(says, fmt.Sprintf(format, args...)) }
	deep := p.Format(c.DepthCM, unit.Centimetre)
	switch {
	case !c.FromSeed():
		add("It is begun from %s, one in each, %s deep.", begun[c.Start], deep)
	case c.DepthCM == 0 && c.Sprout():
		add("Press the soaked seed onto the mat; do not cover it.")
	case c.DepthCM == 0:
		add("Press it onto the surface and do not cover it: it needs light.")
	case c.Light == "light":
		add("Sow it %s deep, no more: it needs light. A dusting of vermiculite keeps it moist.", deep)
	case c.Light == "dark":
		add("Sow it %s deep and cover it well: it wants the dark.", deep)
	default:
		add("Sow it %s deep.", deep)
	}
	if c.SowGM2 > 0 {
		add("Dry seed for a square metre of tray: %s.", p.Format(c.SowGM2, unit.Gram))
	} else if g := c.SeedG * float64(seeds) / 1000; c.FromSeed() && seeds > 0 && g >= 0.01 {
		add("%d seeds weigh about %s.", seeds, p.Format(g, unit.Gram))
	}
	if c.Clump && c.SeedsCell > 1 && !c.Sprout() {
		add("About %d to a cell, which stay together as a clump.", c.SeedsCell)
	}
	if w := c.Wants(0); !c.Sprout() && w.EC.High > 0 {
		add("Seedlings are fed from the first true leaf on: %s to %s, pH %.1f to %.1f.", p.Figure(w.EC.Low, unit.MS), p.Format(w.EC.High, unit.MS), w.PH.Low, w.PH.High)
	}
	if c.InPlace {
		add("It is sown where it stays: its root does not bear the move.")
	}
	if c.Hazard != "" {
		says = append(says, c.Hazard)
	}
	return says
}

// AtMoving is what a person should know who moves it at an age into a system (tower, raft,
// jar, bed; "" where it only waits), with the solution it would share there, if any.
func (c Crop) AtMoving(system string, in *Solution, age int, p unit.Prefs) (says []string) {
	add := func(format string, args ...any) { says = append(says, fmt.Sprintf(format, args...)) }
	if system != "" && !c.Suits(system) {
		add("%s does not suit a %s; it suits %s.", c.Name, system, strings.Join(c.Systems, ", "))
	}
	if in != nil {
		says = append(says, c.Misses(*in, max(age, c.NurseryDays), p)...)
	}
	if c.InPlace {
		add("It is sown where it stays: its root does not bear the move well.")
	}
	switch c.Potting {
	case "deeper":
		add("Set it deeper than it stood, up to the lowest leaves.")
	case "crown":
		add("No deeper than its crown: the heart stays above.")
	}
	switch system {
	case "bed":
		add("%s apart, %s between rows; a soil of pH %.1f to %.1f.", p.Format(c.SpacingCM, unit.Centimetre), p.Format(c.RowCM, unit.Centimetre), c.SoilPH.Low, c.SoilPH.High)
		add("%s feeder of the %s family: not where one of them stood last year.", strings.ToUpper(c.Feeder[:1])+c.Feeder[1:], c.Family)
		if c.Life == "perennial" {
			add("It stays there for years.")
		}
	case "tower", "raft", "jar":
		if c.HeightCM > 60 || c.Habit == "climbing" || c.Habit == "trailing" {
			add("It grows to %s, %s: at the bottom, with a support.", p.Format(c.HeightCM, unit.Centimetre), c.Habit)
		}
	}
	if c.Pinch == "never" {
		add("Never cut its tip: that is the plant.")
	}
	return says
}
