package round

import (
	"ulpa/core/potting"
	"ulpa/core/ready"
	"ulpa/core/say"
)

// PotOn is potting on, or planting out, of plants whose roots have filled their pot.
var PotOn = declare(Kind{Name: "pot", Of: Batches, Writes: true, EndedBy: []string{"pot_on", "move", "set_out"}})

// pottedTasks are plants whose roots have filled their pot, or should have by now.
func (s Day) pottedTasks(p Place, b Batch, add adder) {
	for _, x := range b.Potted {
		if x.Place != p.ID {
			continue
		}
		many := say.T("%s in %s", say.Plural(x.Plants, "plant"), say.Name(x.Pot))
		on := func(why say.Text, u Urgency) {
			add(PotOn, say.T("Pot on"), say.T("or plant out: %s", many), why, u, 12).Part = x.Pot
		}
		switch v := x.Verdict; v.Word {
		case ready.Late:
			on(say.T("%s. %s", say.Capital(v.Why), potting.Late), Today)
		case ready.Ready:
			on(say.T("%s. It can wait until %s.", say.Capital(v.Why), v.Until.Long()), Soon)
		case ready.Look:
			if b.LookedOn == 0 || s.Today-b.LookedOn >= 3 {
				add(Look, say.T("Look at the roots of"), say.T("· %s", many), say.T("%s.", say.Capital(v.Why)), Soon, 3).Part = x.Pot
			}
		}
	}
}
