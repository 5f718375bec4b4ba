package pages

import (
	"time"

	"ulpa/core/batch"
	"ulpa/core/potting"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/site"
)

// pottingView is what there is to pot with, and what the chosen plants need.
type pottingView struct {
	Pots, Mixes []face.ChoiceView
	Says        string // the pots and mix that it takes
	Warn        []string
	Steps       []face.StepView
	Advised     string // the pot that comes next, where none was chosen
}

// potting works out what the plants chosen in a form need to stand in pots at a place.
func (s Pages) potting(b batches.Batch, with site.Potting, at site.Place, f *face.Form, w who.Who) *pottingView {
	p := w.Prefs
	v := &pottingView{}
	for _, x := range with.Pots {
		v.Pots = append(v.Pots, face.ChoiceView{Value: x.ID.String(), Name: p.T("%s: %d clean and free", say.Name(x.Name), x.Free())})
	}
	for _, m := range with.Mixes {
		v.Mixes = append(v.Mixes, face.ChoiceView{Value: m.ID.String(), Name: p.T("%s: %s on hand", say.Name(m.Name), say.Of(m.Litres, unit.Litre))})
	}
	if i := potting.Next(pots(with), largest(b, with)); i >= 0 {
		v.Advised = p.T("Next size up: %s.", say.Name(with.Pots[i].Name))
	}
	pot, chosen := with.Pot(f.Get("pot"))
	if !chosen {
		return v
	}
	n := batch.PlantsIn(readMove(f, b.ID, time.Time{}).From)
	mix := with.Mix(f.Get("mix"))
	need, err := potting.Fill(pot.Pot(), n, potting.Mix{OnHandL: mix.Litres, BagL: mix.BagL})
	if err != nil {
		return v
	}
	v.Says = p.T("%s, %s of loose mix.", say.Plural(n, "pot"), say.Of(need.MixL, unit.Litre))
	if need.Bags != nil {
		v.Says = p.T("%s, %s of loose mix: %s.", say.Plural(n, "pot"), say.Of(need.MixL, unit.Litre), say.Plural(*need.Bags, "bag"))
	}
	if free := pot.Free(); n > free {
		v.Warn = append(v.Warn, p.T("Only %d of these are clean and free: wash %d more.", free, min(n-free, pot.Dirty)))
	}
	if need.ShortL > 0 && mix.Name != "" {
		v.Warn = append(v.Warn, p.T("%s of it is missing.", say.Of(need.ShortL, unit.Litre)))
	}
	if room := potting.Room(pot.Pot(), at.LengthCM, at.WidthCM); room > 0 && n > room {
		v.Warn = append(v.Warn, p.T("Only %d of these fit on %s, rim to rim.", room, say.Name(at.Name)))
	}
	v.Steps = face.StepsOf(need.Steps, p)
	return v
}

func pots(with site.Potting) (out []potting.Pot) {
	for _, x := range with.Pots {
		out = append(out, x.Pot())
	}
	return out
}

// largest is how much the largest thing that the batch stands in holds, in litres.
func largest(b batches.Batch, with site.Potting) (litres float64) {
	for _, x := range b.Stands {
		if pot, known := with.Pot(x.PotID); known {
			if one, err := potting.Fill(pot.Pot(), 1, potting.Mix{}); err == nil {
				litres = max(litres, one.PotL)
			}
		}
	}
	return litres
}
