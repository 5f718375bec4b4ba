package round

import (
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/harden"
	"ulpa/core/say"
)

// What is asked of plants in a frame or a bed, and of those that were brought in.
var (
	BringIn = declare(Kind{Name: "bring_in", Of: Batches, Loses: 2, Writes: true, EndedBy: []string{"move"}})
	TakeOut = declare(Kind{Name: "take_out", Of: Batches, Writes: true, EndedBy: []string{"harden"}})
	Cover   = declare(Kind{Name: "cover", Of: Batches, Loses: 2})
	SetOut  = declare(Kind{Name: "set_out", Of: Batches, Writes: true, EndedBy: []string{"set_out"}})
	// OpenFrame counts towards hardening when it is ticked off.
	OpenFrame = declare(Kind{Name: "harden", Of: Batches})
	Close     = declare(Kind{Name: "close", Of: Places, Loses: 2, Together: func(_ Day, list []Task) Task { return list[0] }})
	Forecast  = declare(Kind{Name: "forecast", Of: Places, Together: forecastOfAll})
)

func outdoors(p Place) bool { return p.Kind == "frame" || p.Kind == "bed" }

// gain is how much warmer a place is at night than open ground.
func gain(p Place) float64 {
	if p.Kind == "frame" {
		return cold.Cover
	}
	return cold.OpenGround
}

// outdoorTasks are the nights of plants in a frame or a bed, and the ramp.
func (s Day) outdoorTasks(p Place, b Batch, n int, add adder) {
	next, closed := s.Calendar.Next(s.Today)
	worst, known := s.Cold.Worst(b.Crop, b.GoodDays, gain(p), s.Today, next)
	freezing := known && worst.Protect
	if freezing {
		when := say.T("before %s", worst.On.Long())
		if worst.On == s.Today {
			when = say.T("before tonight")
		}
		kind, before, after := BringIn, say.T("Bring in"), say.T("%s: %s", when, say.Plural(n, "plant"))
		if p.Kind == "bed" {
			kind, before, after = Cover, say.T("Cover"), say.T("with fleece %s: %s", when, say.Plural(n, "plant"))
		}
		add(kind, before, after, worst.Says(b.Crop, b.GoodDays, gain(p)), Now, 6)
	}
	if p.Kind != "frame" || b.Harden == nil || freezing && !s.outByDay(b) {
		return
	}
	over := b.Harden.Over(s.Today)
	later := b.Outward != nil && b.Outward.Out > s.Today // their day is planned
	if over && !later && len(s.Cold.Against(b.Crop, b.GoodDays, s.Today)) == 0 {
		add(
			SetOut,
			say.T("Plant out##task"),
			say.Plural(n, "plant"),
			say.T("%s outside. A dull, still afternoon is best; water well first.", say.Plural(b.GoodDays, "day")),
			Today,
			15,
		)
	}
	ramp := b.Harden.Ramp(s.Today)
	d, on := harden.On(ramp, s.Today)
	if !on || d.Closed || d.Done {
		return
	}
	why, mild := say.T("Day %d of %d.", d.Step, ramp[len(ramp)-1].Step), false
	if over {
		why = say.T("They are hardened off. Open the frame by day until they are planted out, or they lose it again.")
	}
	tonight, forecast := s.Cold.Worst(b.Crop, b.GoodDays, cold.OpenGround, s.Today, s.Today+1)
	switch {
	case freezing:
		why = say.T("%s They come in again before everybody leaves.", why)
	case closed > 0:
		why = say.T("%s Nobody is here before %s: close the lid, leave it open a hand’s width if no frost is forecast, and water well.", why, next.Long())
	case d.Night && forecast && !tonight.Protect:
		why, mild = say.T("%s The lid may stay off tonight.", why), true
	case d.Night && !forecast:
		why = say.T("%s Tonight’s forecast low is not written down, so put the lid back on.", why)
	}
	x := add(OpenFrame, say.T("Open the frame over"), say.T("for %.3g hours", d.Hours), why, Today, 2)
	x.Hours, x.StaysOpen = d.Hours, mild
}

// mildC is how warm the coming night must be for tender plants to be out in the day before it, °C.
const mildC = 2

// outByDay tells whether plants whose nights are too cold go on with hardening off by day: today is
// a day of their ramp on which they were not out yet, and no frost is near.
func (s Day) outByDay(b Batch) bool {
	if b.Harden == nil {
		return false
	}
	d, on := harden.On(b.Harden.Ramp(s.Today), s.Today)
	tonight, known := s.Cold.Worst(b.Crop, b.GoodDays, cold.OpenGround, s.Today, s.Today+1)
	return on && !d.Closed && !d.Done && known && tonight.ForecastC >= mildC
}

// newOutside is how many days outside make the night a daily question; what no frost may touch
// is asked about as long as it has ever frozen within the weeks to come.
const newOutside = 30

// frameAt asks for the night where something tender has not stood for long, and closes a frame
// that was opened today, before the last bell.
func (s Day) frameAt(p Place, b Batch) (out []Task) {
	n := b.InStands[p.ID]
	if n == 0 || !outdoors(p) {
		return nil
	}
	next, _ := s.next()
	froze, _ := s.Cold.FrostAfter(s.Today)
	asked := b.GoodDays < newOutside || froze > 0 && b.Crop.Tender == crop.TenderCrop
	if _, known := s.Cold.Worst(b.Crop, b.GoodDays, gain(p), s.Today, next); asked && !known && b.Crop.Tender != crop.Hardy {
		t := s.task(Forecast, b.ID, p.ID)
		t.Before, t.Urgency, t.Minutes, t.Plants = say.T("Write down tonight’s forecast low"), Today, 1, n
		out = append(out, t)
	}
	if p.Kind != "frame" || b.Harden == nil {
		return out
	}
	d, on := harden.On(b.Harden.Ramp(s.Today), s.Today)
	if !on || !d.Done {
		return out
	}
	tonight, forecast := s.Cold.Worst(b.Crop, b.GoodDays, cold.OpenGround, s.Today, s.Today+1)
	if d.Night && forecast && !tonight.Protect && s.Calendar.Open(s.Today+1) {
		return out // it stays open
	}
	by := max(0, s.DayEnds-20)
	t := s.task(Close, b.ID, p.ID)
	t.Before, t.Urgency, t.Minutes = say.T("Close %s by %d:%02d, before the last bell", p.Name, by/60, by%60), Now, 2
	t.Why = say.T("It was opened today. Left open overnight it is as cold inside as out.")
	return append(out, t)
}

// forecastOfAll asks once for all plants of a place.
func forecastOfAll(_ Day, list []Task) Task {
	n := 0
	for _, t := range list {
		n += t.Plants
	}
	list[0].Why = say.T("Nobody knows whether the %s here can stand the night; until then they stay under the lid or covered.", say.Plural(n, "tender plant"))
	return list[0]
}

// broughtInTasks take plants out again when the nights allow.
func (s Day) broughtInTasks(b Batch, n int, add adder) {
	next, _ := s.Calendar.Next(s.Today)
	frame := ""
	for _, p := range s.Places {
		if p.ID == b.Frame {
			frame = p.Name
		}
	}
	worst, known := s.Cold.Worst(b.Crop, b.GoodDays, cold.Cover, s.Today, next)
	switch {
	case frame == "":
		return
	case known && worst.Protect:
		if s.outByDay(b) {
			d, _ := harden.On(b.Harden.Ramp(s.Today), s.Today)
			add(TakeOut, say.T("Take##task"), say.T("to %s for the day: %s", frame, say.Plural(n, "plant")),
				say.T("Hardening off goes on: %.3g hours outside today. The night is too cold for them: bring them in again before everybody leaves.", d.Hours), Today, 6)
		}
		return
	}
	why := say.T("The nights until then are mild enough; hardening off goes on where it stopped.")
	if !known {
		why = say.T("No low has been entered: look at the forecast before you open. Hardening off goes on where it stopped.")
	}
	add(TakeOut, say.T("Take##task"), say.T("back to %s: %s", frame, say.Plural(n, "plant")), why, Today, 6)
}
