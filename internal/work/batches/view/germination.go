package view

import (
	"fmt"

	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/unit"
	"ulpa/core/working"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
)

// GerminationSays judges the last count against what was usual when it was made.
func GerminationSays(b batches.Batch) (headline, why say.Text, behind bool) {
	c := b.Curve
	at, counted := say.Of(b.TempC, unit.Celsius), say.T("%d up on day %d", c.Sprouted, c.JudgedDay)
	if !c.Known {
		return say.T(
				"%s does not germinate at %s.",
				b.Crop.Name,
				at,
			), say.T(
				"Too cold or too hot: it needs %s to %s. %d of %d are up on day %d.",
				say.Figure(b.Crop.BaseC, unit.Celsius),
				say.Of(b.Crop.CeilingC, unit.Celsius),
				c.Sprouted,
				c.Sown,
				c.JudgedDay,
			), true
	}
	usual := say.T("Nine sowings in ten like this one have %d to %d of %d up by then.", c.By.Low, c.By.High, c.Sown)
	if c.Share < 0.8 {
		usual = say.T("%s Only %s of good seed germinates at %s.", usual, face.Percent(c.Share), at)
	}
	half := say.T("Half of those that come up are up by about day %.0f.", *c.By.HalfDay)
	switch c.By.Verdict {
	case seed.Ahead:
		return say.T(
				"Ahead: %s, about %.0f would be usual at %s.",
				counted,
				c.By.Expected,
				at,
			), say.T(
				"%s Give light as soon as half are up, or they stretch.",
				usual,
			), false
	case seed.TooEarly:
		says := say.T("Too early to say")
		if c.By.JudgeDay != nil {
			says = say.T("Too early to say: a count tells something from day %.0f", *c.By.JudgeDay)
		}
		return say.T("%s. %s at %s.", says, counted, at), say.Join(" ", usual, half), false
	case seed.Behind:
		return say.T(
				"Behind: %s, about %.0f would be usual at %s.",
				counted,
				c.By.Expected,
				at,
			), say.T(
				"%s Is it warm and moist enough? There is still time to sow more.",
				usual,
			), true
	case seed.OnCourse:
		return say.T("On course: %s, about %.0f is usual at %s.", counted, c.By.Expected, at), usual, false
	}
	return say.T("Not counted yet: day %d, about %.0f of %d usual at %s.", c.Day, c.By.Expected, c.Sown, at), say.Join(" ", usual, half), false
}

// GerminationSteps are how many were expected by now, and how that was reached.
func GerminationSteps(b batches.Batch, p say.Reader) []face.StepView {
	c := b.Curve
	if !c.Known {
		return nil
	}
	low, high := seed.Wilson(c.Sprouted, c.Sown, 0.95)
	steps := append(
		[]working.Step{{Name: say.T("Half up at %s", say.Of(b.TempC, unit.Celsius)), Value: *c.By.HalfDay, Unit: "days", Source: seed.SourceOf(b.Crop)}},
		c.By.Steps...)
	return append(
		face.StepsOf(steps, p),
		face.StepView{Name: p.T("Came up so far, 95 % range"), Value: fmt.Sprintf("%.0f–%.0f %%", 100*low, 100*high), Source: p.T("interval: Wilson (1927)")},
	)
}
