package away

import (
	"maps"
	"slices"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/cold"
	"ulpa/core/ready"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/sprout"
)

// OfBatch is how the plants of a batch fare: the cold, their age, their ripeness.
func OfBatch(school round.Day, s Span, b round.Batch) (out []Thing) {
	add := func(what, place string) *Thing {
		out = append(out, Thing{Key: what + ":" + b.ID + ":" + place, What: what, Name: b.Code, Place: place, Batch: b.ID, Chance: 1})
		return &out[len(out)-1]
	}
	noon := func(d calendar.Day) *time.Time {
		t := d.At(12, 0, school.Zone)
		return &t
	}
	if b.Sprouting != nil {
		c := *b.Sprouting
		c.SoakedOn, c.Today, c.Back = b.Sown, s.From, s.Back
		if days := sprout.Away(sprout.WayOf(b.Crop), c, school.Calendar); len(days) > 0 && b.Standing > 0 {
			x := add(Unrinsed, first(b.InStands))
			x.Says = say.T("Sprouts that were not rinsed are not safe to eat.")
			x.In5, x.In50, x.Comes = noon(days[0]), noon(days[0]), days
			x.Act, x.Minutes, x.Do = "ask", 2, say.T("Say who rinses; else cut them today and keep them cold, to be cooked through, or throw them away")
			x.Why = say.T("Rinse and drain once or twice a day, or throw away.")
		}
		return out
	}
	for _, p := range school.Places {
		n := b.InStands[p.ID]
		if n == 0 || p.Kind != "frame" && p.Kind != "bed" {
			continue
		}
		gain := cold.OpenGround
		if p.Kind == "frame" {
			gain = cold.Cover
		}
		r, known := school.Cold.Worst(b.Crop, b.GoodDays, gain, s.From, s.Back)
		if !known {
			continue
		}
		x := add(Cold, p.ID)
		x.Chance, x.Says = r.ChanceBelowFloor, r.Says(b.Crop, b.GoodDays, gain)
		if !r.Protect {
			x.Bears = 1 // as the round judges it: the work is dearer than the risk
		} else {
			x.In50 = noon(r.On)
			x.In5 = x.In50
			x.Act, x.Minutes, x.Do = "cover", 6, say.T("Bring %s in before the last bell", say.Plural(n, "plant"))
			if p.Kind == "bed" {
				x.Do = say.T("Cover %s with fleece before the last bell", say.Plural(n, "plant"))
			}
		}
	}
	out = append(out, grows(b, s, noon)...)
	return append(out, ripens(b, s, noon)...)
}

// first is one of the places, the same every time.
func first(places map[string]int) (place string) {
	for id, n := range places {
		if n > 0 && (place == "" || id < place) {
			place = id
		}
	}
	return place
}

// grows is a batch in trays that is late before somebody is back.
func grows(b round.Batch, s Span, noon func(calendar.Day) *time.Time) []Thing {
	v := b.Verdict
	if b.Standing == 0 || b.Sprouted == 0 || b.Crop.Stays() || v.Until == 0 || v.Until >= s.Back || len(b.InTray) == 0 {
		return nil
	}
	if b.Standing*10 <= b.Sprouted { // the others have moved on
		return nil
	}
	place := slices.Min(slices.Collect(maps.Keys(b.InTray)))
	x := Thing{Key: Late + ":" + b.ID, What: Late, Name: b.Code, Place: place, Batch: b.ID, Tray: b.InTray[place], Chance: 0.5, In50: noon(max(v.Until, s.From))}
	x.Says = say.T("It outgrows its cells from %s on.", max(v.Until, s.From).Long())
	switch {
	case v.Word == ready.Ready || v.Word == ready.Late || v.About <= s.From:
		x.Act, x.Minutes, x.Do = "move", 8, say.T("Move it on")
	default:
		x.Act, x.Minutes, x.Do = "move", 4, say.T("Put it somewhere cooler so that it waits, or move it on early")
	}
	return []Thing{x}
}

// ripens is a batch that is at its best, and past it, before somebody is back.
func ripens(b round.Batch, s Span, noon func(calendar.Day) *time.Time) []Thing {
	n := 0
	place := first(b.InPorts)
	for _, m := range b.InPorts {
		n += m
	}
	hold := b.Crop.Cropping.Hold
	if n == 0 || hold == 0 || b.Crop.Kind == "flower" {
		return nil
	}
	due := b.Crop.HarvestDue(b.Sown, b.Cut, b.Whole)
	over := due + calendar.Day(hold)
	if over >= s.Back || over < s.From-calendar.Day(hold) {
		return nil
	}
	x := Thing{Key: Ripe + ":" + b.ID, What: Ripe, Name: b.Code, Place: place, Batch: b.ID, Chance: 0.5, In50: noon(max(over, s.From))}
	x.Says = say.T("It is past its best from about %s on.", max(over, s.From).Long())
	x.Act, x.Minutes, x.Do = "cut", 6, say.T("Cut what is ready: %s", say.Plural(n, "plant"))
	if due > s.From {
		x.Do = say.T("Cut it young, or leave it and lose some: %s", say.Plural(n, "plant"))
	}
	return []Thing{x}
}
