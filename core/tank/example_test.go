package tank_test

import (
	"fmt"
	"time"

	"ulpa/core/chemistry"
	"ulpa/core/say"
	"ulpa/core/tank"
)

func Example() {
	spec := tank.Usual(tank.Spec{
		CapacityL: 60, FillToL: 58, DryBelowL: 8, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.3, ECLow: 1.2, ECTarget: 1.5, ECHigh: 1.8,
		WaterEC: 0.4, StockRise: 0.25, Acid: chemistry.Product{Agent: chemistry.CitricAcid, StrengthPercent: 100},
	})
	t := tank.Tank{Spec: spec, Plants: 30}
	now := time.Date(2027, 3, 18, 9, 0, 0, 0, time.UTC)
	ph, ec, level := 5.9, 1.0, 40.0
	t.State.Read(spec, tank.Reading{PH: &ph, ECMS: &ec, LevelL: &level, Plants: &t.Plants}, now)
	t.Judged = tank.Judge(spec, t.State)
	next := now.Add(23 * time.Hour)
	advice := tank.Advise(t, tank.Visit{At: next, On: say.Date(next, "Mon 2 January")}, now)
	for _, why := range advice.Why {
		fmt.Println(why)
	}
	fmt.Printf("%.0f L of water, %.0f mL of each stock\n", advice.Plan.WaterL, advice.Plan.StockML)
	// Output:
	// They took up feed: strength 1 is below 1.2 mS/cm.
	// The water should bring it to about pH 5.9. Read it once it has mixed, before any acid or alkali.
	// 18 L of water, 159 mL of each stock
}
