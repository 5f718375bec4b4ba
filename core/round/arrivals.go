package round

import (
	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/say"
)

// Settle is what young plants need in their first week that were not as they should be when they
// were delivered: a task for each sign that care can mend.
var Settle = declare(Kind{Name: "settle", Of: Batches, Loses: 1, Writes: true, EndedBy: []string{"tend", "look"}})

// Delivered is what was seen of a delivery, and what was done about it since.
type Delivered struct {
	Signs       []batch.Sign
	Wetted, Fed calendar.Day // 0: not since
	Moved       bool         // they are in other pots, or elsewhere, than they came in
}

const (
	firstWeek = 7
	notFed    = 3 // days in which roots are left to settle
	lookEvery = 2 // days between looks at plants that came with pests
)

// settling are the tasks of the first week, at one place where the batch stands.
func (s Day) settling(b Batch, add adder) {
	day := s.Today - b.Sown
	if day < 0 || day > firstWeek {
		return
	}
	for _, sign := range b.Delivered.Signs {
		var before, after, why say.Text
		u := Today
		switch {
		case sign == "dry" && b.Delivered.Wetted < b.Sown:
			before, u = say.T("Soak##task"), Now
			after = say.T("through: they came dry")
			why = say.T("Stand them in water until the top is damp, no longer than an hour, then let them drain. A dry block of compost sheds water poured on top.")
		case sign == "yellow" && b.Delivered.Fed < b.Sown && day >= notFed:
			before, after = say.T("Feed##task"), say.T("they came yellow")
			why = say.T("Give half-strength feed onto damp compost, once. New leaves show in a week whether it was hunger.")
		case sign == "pests" && (b.LookedOn == 0 || s.Today-b.LookedOn >= lookEvery):
			before, after = say.T("Look at"), say.T("for pests: apart from the others")
			why = say.T("Look under the leaves and at the tips. Keep them away from the others until a week has passed with nothing on them.")
		case sign == "leggy" && b.LookedOn < b.Sown:
			before, after = say.T("Give light to"), say.T("they came leggy")
			why = say.T("As much light as there is, cooler than before, a lamp close above. Tomatoes and cabbages may be potted deeper. Then write down a look.")
		case sign == "broken" && b.LookedOn < b.Sown:
			before, after = say.T("Trim##task"), say.T("some came broken")
			why = say.T("Cut broken shoots off above a leaf with a clean blade; what is broken at the stem is lost. Then write down a look.")
		case sign == "pot-bound" && !b.Delivered.Moved:
			why = say.T("Loosen the outer roots with your fingers, water them before and after, and keep them out of the sun for two days.")
			add(PotOn, say.T("Pot on"), say.T("or plant out: they came pot-bound"), why, Today, 12).Part = string(sign)
			continue
		case sign == "cold" && day == 0:
			before, after = say.T("Keep##task"), say.T("out of sun and warmth today")
			why = say.T("They came cold: let them warm up slowly, and water only with water that is not cold.")
		default:
			continue
		}
		t := add(Settle, before, after, why, u, 4)
		t.Part = string(sign)
	}
}
