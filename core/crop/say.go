package crop

import (
	"fmt"
	"strings"

	"ulpa/core/unit"
)

// Solution is what a tank is kept at: pH and mS/cm.
type Solution struct{ PH, EC Range }

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
	if c.InPlace {
		add("It is sown where it stays: its root does not bear the move.")
	}
	if c.Hazard != "" {
		says = append(says, c.Hazard)
	}
	return says
}

// AtMoving is what a person should know who moves it into a system (tower, raft, jar,
// bed; "" where it only waits), with the solution it would share there, if any.
func (c Crop) AtMoving(system string, in *Solution, p unit.Prefs) (says []string) {
	add := func(format string, args ...any) { says = append(says, fmt.Sprintf(format, args...)) }
	name := strings.ToLower(c.Name)
	if system != "" && !c.Suits(system) {
		add("%s does not suit a %s; it suits %s.", c.Name, system, strings.Join(c.Systems, ", "))
	}
	if in != nil {
		if w := c.EC.Growing; in.EC.High < w.Low || in.EC.Low > w.High {
			add("Its strength is not this tank’s: %s wants %s to %s, and it is kept at %s to %s.", name, p.Figure(w.Low, unit.MS), p.Format(w.High, unit.MS), p.Figure(in.EC.Low, unit.MS), p.Format(in.EC.High, unit.MS))
		}
		if w := c.PH.Growing; in.PH.High < w.Low || in.PH.Low > w.High {
			add("Its pH is not this tank’s: %s wants %.1f to %.1f, and it is kept at %.1f to %.1f.", name, w.Low, w.High, in.PH.Low, in.PH.High)
		}
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
