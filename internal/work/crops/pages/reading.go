package pages

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// inWords is a crop for reading: what it is, how to sow it, how warm, how long, where it
// stands and what it drinks.
func inWords(x crop.Crop) (out []say.Text) {
	add := func(words say.Words, args ...any) { out = append(out, say.T(words, args...)) }
	add("%s, %s; %s.", say.Capital(crop.Word("kind", x.Kind)), crop.Word("life", x.Life), crop.Word("tender", string(x.Tender)))
	depth := say.Text(say.T("on the surface"))
	if x.DepthCM > 0 {
		depth = say.T("%s deep", say.Of(x.DepthCM, unit.Centimetre))
	}
	if x.ThermalCD > 0 && x.OptimumC > x.BaseC {
		days := int(math.Max(1, math.Round(x.ThermalCD/(x.OptimumC-x.BaseC))))
		add("Sow it %s. It germinates between %s and %s, best near %s; half are up in about %s.",
			depth, say.Of(x.BaseC, unit.Celsius), say.Of(x.CeilingC, unit.Celsius),
			say.Of(x.OptimumC, unit.Celsius), say.Plural(days, "day"))
	}
	goal := say.T("first harvest")
	if !x.Eaten() { // nobody waits for a harvest
		goal = say.T("fully grown")
	}
	switch {
	case x.InPlace:
		add("Sown where it stays; %s after about %s.", goal, say.Plural(x.HarvestDays(), "day"))
	default:
		add("About %s in its tray, then it moves on; %s after about %s in all.", say.Plural(x.NurseryDays, "day"), goal, say.Plural(x.HarvestDays(), "day"))
	}
	if x.Cuts {
		add("It grows again: cut about every %s.", say.Plural(x.Again(), "day"))
	}
	if len(x.Systems) > 0 {
		add("It does well in: %s.", say.Join(", ", crop.Words("systems", x.Systems)...))
	}
	if x.PH.Growing.High > 0 {
		ph, ec := x.PH.Growing, x.EC.Growing
		add("It wants pH %.1f to %.1f and %s to %s.", ph.Low, ph.High, say.Figure(ec.Low, unit.MS), say.Of(ec.High, unit.MS))
	}
	add("Nights: hardened off it stands %s; straight from a warm bench %s.", say.Of(x.SafeC, unit.Celsius), say.Of(x.UnhardenedC, unit.Celsius))
	return out
}

// A small picture is so large.
const smallW, smallH = 300.0, 66.0

// warmPicture draws from where to where seed comes up, and where best.
func warmPicture(x crop.Crop, p say.Reader) template.HTML {
	if x.CeilingC <= x.BaseC {
		return ""
	}
	at := func(c float64) float64 { return 10 + (smallW-20)*(c+2)/47 } // from -2 to 45 °C
	var b strings.Builder
	label := p.T("Germinates between %s and %s, best near %s", say.Of(x.BaseC, unit.Celsius), say.Of(x.CeilingC, unit.Celsius), say.Of(x.OptimumC, unit.Celsius))
	fmt.Fprintf(&b, `<svg class="smallpicture" viewBox="0 0 %.0f %.0f" role="img" aria-label="%s">`, smallW, smallH, template.HTMLEscapeString(label))
	fmt.Fprintf(&b, `<rect class="may" x="%.1f" y="16" width="%.1f" height="18" rx="3"/>`, at(x.BaseC), at(x.CeilingC)-at(x.BaseC))
	best := math.Max(x.OptimumC+1, x.PlateauC)
	fmt.Fprintf(&b, `<rect class="best" x="%.1f" y="16" width="%.1f" height="18" rx="3"/>`, at(x.OptimumC), at(best)-at(x.OptimumC))
	for _, c := range []float64{0, 10, 20, 30, 40} {
		fmt.Fprintf(&b, `<path class="tick-mark" d="M%.1f 36v5"/><text class="axis" x="%.1f" y="56">%s</text>`, at(c), at(c), p.Figure(c, unit.Celsius))
	}
	fmt.Fprintf(&b, `<text class="axis start" x="10" y="11">%s</text></svg>`, template.HTMLEscapeString(p.T("Seed comes up, %s", p.Name(unit.Celsius))))
	return template.HTML(b.String()) // #nosec G203 -- numbers of ours, and escaped words
}

// timePicture draws its days from sowing to the first harvest, stage by stage.
func timePicture(x crop.Crop, p say.Reader) template.HTML {
	total := x.HarvestDays()
	if total <= 0 {
		return ""
	}
	var b strings.Builder
	words, title := say.Words("%s in its tray, %s growing on, %s to the first harvest"), say.Words("Days from seed to harvest")
	if !x.Eaten() {
		words, title = "%s in its tray, %s growing on, %s until fully grown", "Days from seed to fully grown"
	}
	label := p.T(words,
		say.Plural(x.NurseryDays, "day"), say.Plural(x.Growing.Days, "day"), say.Plural(x.Cropping.Days, "day"))
	fmt.Fprintf(&b, `<svg class="smallpicture" viewBox="0 0 %.0f %.0f" role="img" aria-label="%s">`, smallW, smallH, template.HTMLEscapeString(label))
	from := 10.0
	for i, days := range []int{x.NurseryDays, x.Growing.Days, x.Cropping.Days} {
		w := (smallW - 20) * float64(days) / float64(total)
		if days == 0 {
			continue
		}
		fmt.Fprintf(&b, `<rect class="stage-%d" x="%.1f" y="16" width="%.1f" height="18"/>`, i+1, from, w)
		from += w
		fmt.Fprintf(&b, `<text class="axis end" x="%.1f" y="56">%d</text>`, from, int(math.Round((from-10)/(smallW-20)*float64(total))))
	}
	fmt.Fprintf(&b, `<text class="axis start" x="10" y="11">%s</text></svg>`, template.HTMLEscapeString(p.T(title)))
	return template.HTML(b.String()) // #nosec G203 -- numbers of ours, and escaped words
}
