package pages

import (
	"fmt"

	"ulpa/core/chemistry"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
)

// jarRows are the readings of a jar test that can be typed, the first without acid.
const jarRows = 6

// jarView is a jar test with what fits.
type jarView struct {
	Acids  []face.ChoiceView
	Rows   []jarRow
	Open   bool
	Says   string
	Value  string // mg/L of calcium carbonate, to be kept
	Misfit bool
	Rest   []string
	Steps  []face.StepView
}

// jarRow is acid that was added to a jar of water, and the pH it came to.
type jarRow struct{ ML, PH string }

// jarOf works a jar test out, when one was typed.
func jarOf(f *face.Form, p say.Reader) jarView {
	v := jarView{}
	for _, a := range chemistry.Acids {
		v.Acids = append(v.Acids, face.ChoiceView{Value: string(a), Name: p.Say(a.Words())})
	}
	own := []string{"jar_l", "jar_acid", "jar_strength", "jar_density"}
	test := chemistry.JarTest{
		VolumeL: f.Amount("jar_l", unit.Litre), TemperatureC: 18, ECMScm: 0.5,
		Acid: chemistry.Product{Agent: chemistry.Agent(f.Get("jar_acid")), StrengthPercent: f.Amount("jar_strength", ""), DensityGML: f.Amount("jar_density", "")},
	}
	for i := range jarRows {
		r := jarRow{fmt.Sprint("jar_ml", i), fmt.Sprint("jar_ph", i)}
		v.Rows = append(v.Rows, r)
		own = append(own, r.ML, r.PH)
		if ph := f.Number(r.PH, "pH"); ph != nil {
			test.Steps = append(test.Steps, chemistry.TestStep{Amount: f.Amount(r.ML, unit.Millilitre), PH: *ph})
		}
	}
	if f.Get("jar_l") == "" {
		return v
	}
	v.Open = true
	got, err := chemistry.TestJar(test)
	if f.Any() || f.Refuse(err) {
		v.Rest = f.Rest(own...)
		return v
	}
	v.Steps = face.StepsOf(got.Steps, p)
	if v.Misfit = !got.Fits; v.Misfit {
		v.Says = p.T("This does not add up: the readings are %.1f pH away from any answer. Was it this acid, of this strength? Stir, wait a minute, "+
			"read again.", got.Misfit)
		return v
	}
	v.Says = p.T("Alkalinity %.0f mg/L CaCO₃: between %.0f and %.0f, nine times in ten.", got.Alkalinity.P50, got.Alkalinity.P5, got.Alkalinity.P95)
	v.Value = p.Figure(got.Alkalinity.P50, "mg/L")
	return v
}
