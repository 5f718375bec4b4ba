// Package tank keeps what is known of a tank, forecasts it, doubts what cannot be, and advises what
// to do next. Volumes are litres, strengths mS/cm at 25 °C, doses millilitres or grams.
//
// The idea: a State is folded from readings and treatments, one after the other, and remembers of
// each how well it is known. Judge holds the state against what the tank should keep to; Advise says
// what to do now, so that it lasts until somebody comes again, and never more than half of what a
// dose should take before a reading has shown what it did.
//
// A first program reads a tank and asks what to do:
//
//	var s tank.State
//	s.Read(spec, tank.Reading{PH: &ph, ECMS: &ec, LevelL: &level}, at)
//	t := tank.Tank{Spec: spec, State: s, Judged: tank.Judge(spec, s), Plants: 30}
//	advice := tank.Advise(t, tank.Visit{At: monday}, now)
//	fmt.Println(advice.Needs, advice.Acts)
//
// At the edges: of a tank that was never read nothing is advised but to read it. A figure that was
// not read is nil and is never taken for nought. What hardly can be is a Doubt, which somebody may
// overrule; what cannot be is refused.
package tank
