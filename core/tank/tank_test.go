package tank_test

import (
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/chemistry"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/vessel"
)

var morning = time.Date(2027, 3, 18, 9, 0, 0, 0, time.UTC)

// settled is a tank that has run in its air for days, as it was read then.
func settled(spec tank.Spec, ph, ec, level float64) tank.Tank {
	t := tank.Tank{Spec: spec, Plants: 30}
	r := read(ph, ec, level)
	r.Plants = &t.Plants
	t.State.Read(spec, r, morning)
	return t
}

// visit is when somebody is next there.
func visit(at time.Time, closed int) tank.Visit {
	next := at.Add(time.Duration(closed)*24*time.Hour + 23*time.Hour)
	return tank.Visit{At: next, On: say.Date(next, "Mon 2 January"), Closed: closed}
}

func advise(t tank.Tank, at time.Time, closed int) tank.Advice {
	t.Judged = tank.Judge(t.Spec, t.State)
	return tank.Advise(t, visit(at, closed), at)
}

func acts(a tank.Advice) string {
	var out []string
	for _, x := range a.Acts {
		out = append(out, x.Do)
	}
	return strings.Join(out, " ")
}

// What the advice is, from each side of every band.
func TestAdvice(t *testing.T) {
	warm := settled(tower, 5.8, 1.5, 57)
	*warm.State.TempC = 29
	card := settled(tower, 6.35, 1.5, 57)
	r := read(6.35, 1.5, 57)
	r.With = tank.ByCard
	card.State = tank.State{}
	card.State.Read(tower, r, morning)
	sour := tank.Tank{Spec: tower, Plants: 30}
	r.PH = new(4.9)
	sour.State.Read(tower, r, morning)
	for name, c := range map[string]struct {
		tank   tank.Tank
		closed int
		acts   string
		says   string
		now    bool
	}{
		"all is well":                  {settled(tower, 5.8, 1.5, 57), 0, "", "where they should be", false},
		"inside the band, off target":  {settled(tower, 6.1, 1.5, 57), 0, "", "every correction adds salts", false},
		"near the edge":                {settled(tower, 6.35, 1.5, 57), 0, "", "another reading would change nothing", false},
		"near the edge, by a card":     {card, 0, "read", "only accurate to 0.3", false},
		"low, and right with water":    {settled(tower, 5.8, 1.5, 28), 0, "water stock wait read", "before any acid", false},
		"low and strong":               {settled(tower, 5.8, 2, 30), 0, "water wait read", "Plain water only", false},
		"full and a little too strong": {settled(tower, 5.8, 1.9, 58), 0, "", "leave it, and top up with plain water", false},
		"full and strong":              {settled(tower, 5.8, 2.4, 58), 0, "drain water wait read", "before any acid", false},
		"weak":                         {settled(tower, 5.8, 0.9, 57.9), 0, "water stock wait read", "They took up feed", false},
		"before closed days":           {settled(tower, 5.8, 1.5, 25), 8, "water stock wait read", "dry with a chance", true},
		"full is not enough":           {settled(tower, 5.8, 1.5, 57), 30, "water", "somebody with a key must come by", true},
		"sour":                         {settled(tower, 5.2, 1.5, 57), 0, "dose wait read", "roots suffer", false},
		"alkaline":                     {settled(tower, 7.1, 1.5, 57), 0, "dose wait read", "short of iron", false},
		"alkaline, before closed days": {settled(tower, 7.1, 1.5, 57), 2, "dose wait read", "short of iron", true},
		"alkaline and low":             {settled(tower, 7.1, 1.5, 25), 0, "water stock wait read", "before any acid", false},
		"burning":                      {settled(tower, 3.7, 1.5, 57), 0, "pump lift drain water wait read", "within hours", true},
		"far too sour":                 {settled(tower, 4.2, 1.5, 57), 0, "drain water wait read", "suffer within days", true},
		"far too sour, or the card is": {sour, 0, "read", "good to 0.3", true},
		"far too strong":               {settled(tower, 5.8, 4, 57), 0, "drain water wait read", "twice what it should be", true},
		"hot":                          {warm, 0, "cool", "mg/L of oxygen", false},
	} {
		t.Run(name, func(t *testing.T) {
			a := advise(c.tank, morning.Add(time.Hour), c.closed)
			require.Equal(t, c.acts, acts(a), a.Why)
			require.Equal(t, c.acts != "", a.Needs)
			require.Contains(t, say.Join(" ", a.Why...).String(), c.says)
			require.Equal(t, c.now, a.Now, a.Costs)
			require.Equal(t, a.Now, a.Costs != nil, "what cannot wait says what waiting costs")
			require.Equal(t, strings.Contains(c.acts, "dose") || a.Alarm, a.Adult)
			require.Equal(t, a.Adult, len(a.Cautions) > 0, "acid and alkali come with their cautions, and nothing else does")
			if !a.Plan.Empty() && !a.Alarm {
				require.NotEmpty(t, a.Steps, "what is to be done shows its working")
			}
		})
	}
}

func TestAdviceKnowsHowOldAReadingIs(t *testing.T) {
	x := settled(tower, 7, 1.5, 57)
	require.Contains(t, advise(x, morning.Add(time.Hour), 0).Sure.String(), "As sure as the reading")
	late := advise(x, morning.Add(7*time.Hour), 0)
	require.Equal(t, "read", acts(late), "nothing is dosed by a reading of the morning")
	require.Contains(t, advise(x, morning.AddDate(0, 0, 5), 0).Sure.String(), "5 days old")
	require.Contains(t, advise(x, morning.AddDate(0, 0, 2), 0).Sure.String(), "has been drunk since")
}

func TestWaterThatIsTooStrong(t *testing.T) {
	hard := tower
	hard.WaterEC = 2
	a := advise(settled(hard, 5.8, 2.4, 58), morning, 0)
	require.True(t, a.Needs)
	require.Contains(t, say.Join(" ", a.Why...).String(), "cannot be corrected with this water")
	require.Empty(t, a.Plan)
}

// Nothing more goes in before a dose has mixed and been read, and a dose into water
// that nobody had read is not learned from.
func TestADoseIsAwaited(t *testing.T) {
	x := settled(tower, 7, 1.5, 57)
	first := advise(x, morning, 0)
	x.State.Treat(tower, first.Plan, morning)
	soon := advise(x, morning.Add(5*time.Minute), 0)
	require.Equal(t, "wait read", acts(soon))
	require.InDelta(t, 10, soon.Acts[0].Amount, 0)
	require.Less(t, soon.NowPH.P50, 7.0)
	require.Equal(t, "read", acts(advise(x, morning.Add(time.Hour), 0)))
	require.Positive(t, x.State.Brought["P"], "what it brought stands in the books")

	blind := tank.Tank{Spec: tower, Plants: 30}
	blind.State.Read(tower, read(7, 1.5, 57), morning.AddDate(0, 0, -3))
	blind.State.Treat(tower, first.Plan, morning)
	require.Empty(t, blind.State.Water.Events)
	require.Equal(t, "read", acts(advise(blind, morning.Add(time.Hour), 0)))
}

// What was done at once shows in what is said at once: many times the acid is asked
// about, kept when insisted on, and then the plants come first.
func TestTooMuchAcid(t *testing.T) {
	x := settled(tower, 7, 1.5, 57)
	a := advise(x, morning, 0)
	asked := func(by float64) []tank.Doubt {
		done := a.Plan
		done.Amount *= by
		return tank.DoubtsOfTreatment(x, a.Plan, done, morning)
	}
	require.Empty(t, asked(1))
	require.Empty(t, asked(1.5))
	require.Contains(t, asked(2.1)[0].Message().String(), "more than twice")
	require.Contains(t, asked(200)[0].Message().String(), "harms roots")
	done := a.Plan
	done.Amount *= 200
	x.State.Treat(tower, done, morning)
	after := advise(x, morning.Add(time.Minute), 0)
	require.True(t, after.Alarm)
	require.Equal(t, "pump lift drain water wait read", acts(after))
	require.Zero(t, after.Plan.Amount)
	x.State.Treat(tower, after.Plan, morning)
	require.Greater(t, *x.State.PH, 5.0, "the water takes it out")
	require.NotEmpty(t, tank.DoubtsOfTreatment(x, tank.Treatment{}, tank.Treatment{StockML: 900}, morning), "stock is asked about as well")
}

// Doing what is advised about level and strength brings the tank inside both, and it
// never holds more than it can; whether it is fed with stocks or by the spoon.
func TestFollowingTheAdviceArrives(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		spec := tower
		if rapid.Bool().Draw(t, "by the spoon") {
			spec.Feed, spec.StockRise, spec.SpoonRise = tank.BySpoon, 0, rapid.Float64Range(0.1, 0.8).Draw(t, "rise")
			spec.BucketL = 10
		}
		x := settled(spec, 5.8, rapid.Float64Range(0.7, 3).Draw(t, "ec"), rapid.Float64Range(5, 60).Draw(t, "level"))
		now := morning
		for range 6 {
			a := advise(x, now, 0)
			if a.Plan.Empty() {
				break
			}
			require.NoError(t, a.Plan.Check(spec, x.State, now))
			require.True(t, a.Plan.StockML == 0 || a.Plan.Spoons == 0, "one feed")
			require.Equal(t, math.Trunc(4*a.Plan.Spoons), 4*a.Plan.Spoons, "in quarters")
			x.State.Treat(spec, a.Plan, now)
			require.LessOrEqual(t, *x.State.LevelL, spec.CapacityL+1e-9)
			now = now.Add(20 * time.Minute)
			ec, level := *x.State.ECMS, *x.State.LevelL
			x.State.Read(spec, read(5.8, ec, level), now)
		}
		require.True(t, advise(x, now, 0).Plan.Empty(), "it arrives")
		require.GreaterOrEqual(t, *x.State.ECMS, spec.ECLow-0.06)
		require.LessOrEqual(t, *x.State.ECMS, spec.ECHigh*1.1+0.06)
	})
}

// Water use is learned from levels and additions, whatever goes in between, and
// follows the number of plants.
func TestUseIsLearnedFromTheRecord(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		each := rapid.Float64Range(0.03, 0.2).Draw(t, "litres a plant and day")
		plants := rapid.IntRange(4, 36).Draw(t, "plants")
		var s tank.State
		level, at := 55.0, morning
		for range 6 {
			r := read(5.8, 1.5, level)
			r.Plants = &plants
			s.Read(tower, r, at)
			days := rapid.Float64Range(1, 3).Draw(t, "days")
			at = at.Add(time.Duration(days * 24 * float64(time.Hour)))
			level -= each * float64(plants) * days
			if level < 35 {
				s.Treat(tower, tank.Treatment{WaterL: 20}, at.Add(-time.Hour))
				level += 20
			}
		}
		r := read(5.8, 1.5, level)
		r.Plants = &plants
		s.Read(tower, r, at)
		for _, n := range []int{plants, 2 * plants, 9} {
			d, err := vessel.RunsDry(vessel.DryInput{CapacityL: 60, LevelL: 50, Hours: 24, Risk: 0.05, UseFactor: 1, Use: s.Uses(tower, n)})
			require.NoError(t, err)
			require.InDelta(t, each*float64(n), d.MeanLDay, 1e-6)
		}
		require.InDelta(t, level-each*float64(plants), s.LevelOn(tower, at.Add(24*time.Hour)), 1e-6)
	})
}

// A jar is never filled to where its upper roots drown, and where that does not last
// somebody is sent for.
func TestJarsBreathe(t *testing.T) {
	jar := tower
	jar.Passive, jar.CapacityL, jar.FillToL, jar.DryBelowL, jar.HeightCM, jar.PotFootCM = true, 3.8, 3, 0.31, 24.7, 20
	rapid.Check(t, func(t *rapid.T) {
		x := tank.Tank{Spec: jar, Plants: 1}
		level := rapid.Float64Range(0.4, 3).Draw(t, "level")
		drinks := rapid.Float64Range(0.03, 0.4).Draw(t, "a day")
		x.State.Read(jar, read(5.8, 1.4, min(3.8, level+3*drinks)), morning.AddDate(0, 0, -3))
		x.State.Read(jar, read(5.8, 1.4, level), morning)
		closed := rapid.IntRange(0, 20).Draw(t, "closed")
		a := advise(x, morning, closed)
		require.Zero(t, a.Plan.DrainL)
		most := 3.8 * 20 * 2 / 3 / 24.7
		if level < 3.8*17/24.7 { // roots hang
			require.LessOrEqual(t, level+a.Plan.WaterL, max(level, most)+1e-6, "a third stays air")
		}
		if after := a.Jar; after.DryAfter != nil && *after.DryAfter < float64(closed) {
			require.NotEmpty(t, a.Visit)
		}
		require.Empty(t, tank.DoubtsOfTreatment(x, a.Plan, a.Plan, morning))
		if level < 2 {
			require.NotEmpty(t, tank.DoubtsOfTreatment(x, a.Plan, tank.Treatment{WaterL: 3.7 - level}, morning), "to the brim is asked about")
		}
	})
}

func TestTreatmentsAreChecked(t *testing.T) {
	for says, x := range map[string]tank.Treatment{
		"drain: must be 0":      {DrainL: -1},
		"water: must be 0":      {WaterL: 500},
		"stock: must be 0":      {StockML: 1e6},
		"amount: must be 0":     {Amount: 1e6, Agent: chemistry.PhosphoricAcid},
		"agent: is not on this": {Amount: 5, Agent: chemistry.NitricAcid},
		"water: enter what was": {},
	} {
		require.ErrorContains(t, x.Check(tower, tank.State{}, morning), says)
	}
	require.NoError(t, tank.Treatment{Amount: 5, Agent: tower.Base.Agent}.Check(tower, tank.State{}, morning))
}

func TestDoubts(t *testing.T) {
	last := settled(tower, 5.9, 1.5, 50).State
	for _, c := range []struct {
		r       tank.Reading
		field   string
		refused bool
		maybe   float64
	}{
		{read(64, 1.5, 50), "ph", true, 6.4},
		{read(0.6, 1.5, 50), "ph", false, 6},
		{read(9.4, 1.5, 50), "ph", false, 0},
		{read(8.1, 1.5, 50), "ph", false, 0}, // possible, but a long way from 5.9
		{read(5.9, 1500, 50), "ec", true, 1.5},
		{read(5.9, 15, 50), "ec", false, 1.5},
		{read(5.9, 0.1, 50), "ec", false, 1},
		{read(5.9, 3.1, 50), "ec", false, 0},
		{read(5.9, 1.5, 70), "level", true, 7},
		{read(5.9, 1.5, 20), "level", false, 0},
	} {
		d := tank.Doubts(tower, last, c.r, morning)
		require.Len(t, d, 1)
		require.Equal(t, c.field, d[0].Field)
		require.Equal(t, c.refused, d[0].Refused, "%+v", c.r)
		if c.maybe == 0 {
			require.Nil(t, d[0].Maybe)
		} else {
			require.InDelta(t, c.maybe, *d[0].Maybe, 1e-9)
		}
		require.NotEmpty(t, d[0].Message().String())
	}
	require.Empty(t, tank.Doubts(tower, last, tank.Reading{}, morning))
}

// What each agent costs at one and the same task: strong acids by their
// equivalents, and the degassed total never less than the first for acids.
func TestAgentsBesideEachOther(t *testing.T) {
	in := chemistry.PHInput{VolumeL: 100, PHNow: 7.5, PHTarget: 6, AlkalinityMgLCaCO3: 150, ECMScm: 1, TemperatureC: 20, StrengthPercent: 100}
	dose := func(a chemistry.Agent) chemistry.PHDose {
		x := in
		x.Agent = a
		if !a.Acid() {
			x.PHNow, x.PHTarget = 5.2, 6.2
		}
		d, err := chemistry.PHAdjust(x)
		require.NoError(t, err)
		require.InDelta(t, d.Amount/2, d.FirstAmount, 1e-12)
		require.NotEmpty(t, d.Cautions)
		require.Contains(t, d.Cautions[0], "Adult only")
		return d
	}
	nitric, sulfuric := dose(chemistry.NitricAcid), dose(chemistry.SulfuricAcid)
	require.InDelta(t, nitric.MeqL, sulfuric.MeqL, 1e-12, "the same equivalents, whichever strong acid")
	require.InDelta(t, nitric.Amount/63.012, 2*sulfuric.Amount/98.07, 0.001, "two equivalents to the mole")
	for _, a := range []chemistry.Agent{chemistry.NitricAcid, chemistry.SulfuricAcid, chemistry.PhosphoricAcid, chemistry.CitricAcid} {
		d := dose(a)
		require.Greater(t, d.DegassedAmount, d.Amount, "the gas that leaves has to be made up for: %s", a)
	}
	for _, a := range []chemistry.Agent{chemistry.PotassiumHydroxide, chemistry.PotassiumCarbonate, chemistry.PotassiumBicarbonate} {
		d := dose(a)
		require.Positive(t, d.Amount)
		require.Positive(t, d.AddsMgL["K"])
		require.LessOrEqual(t, d.DegassedAmount, d.Amount, "a base is helped by the gas that leaves: %s", a)
	}
}

var tower = tank.Spec{
	CapacityL: 60, FillToL: 58, DryBelowL: 12, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.3,
	ECLow: 1.2, ECTarget: 1.5, ECHigh: 1.8, WaterEC: 0.6, WaterAlkalinity: 180, PhosphorusMgL: 30, StockRise: 0.25,
	Acid: chemistry.Product{Agent: chemistry.PhosphoricAcid, StrengthPercent: 30, DensityGML: 1.18},
	Base: chemistry.Product{Agent: chemistry.PotassiumBicarbonate, StrengthPercent: 100},
}

func read(ph, ec, level float64) tank.Reading {
	temp := 20.0
	return tank.Reading{PH: &ph, ECMS: &ec, TempC: &temp, LevelL: &level}
}

func TestImplausibleReadingsAreAskedAbout(t *testing.T) {
	d := tank.Doubts(tower, tank.State{}, read(58, 1.5, 40), morning)
	require.Len(t, d, 1)
	require.True(t, d[0].Refused)
	require.InDelta(t, 5.8, *d[0].Maybe, 1e-9)
	d = tank.Doubts(tower, tank.State{}, read(5.8, 15, 40), morning)
	require.InDelta(t, 1.5, *d[0].Maybe, 1e-9)
	require.False(t, d[0].Refused)
	require.Empty(t, tank.Doubts(tower, tank.State{}, read(5.8, 1.5, 40), morning))
}
