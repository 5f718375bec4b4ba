package solution_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/solution"
	"ulpa/core/unit"
)

var morning = time.Date(2027, 3, 18, 9, 0, 0, 0, time.UTC)

func known(ph, ec, level float64) solution.State {
	var s solution.State
	s.Read(tower, read(ph, ec, level), morning)
	return s
}

func acts(a solution.Advice) string {
	var out []string
	for _, x := range a.Acts {
		out = append(out, x.Do)
	}
	return strings.Join(out, " ")
}

// What the advice is, from each side of every band.
func TestAdvice(t *testing.T) {
	jar := tower
	jar.Passive, jar.CapacityL, jar.FillToL, jar.DryBelowL = true, 3.8, 2.6, 0.8
	for name, c := range map[string]struct {
		spec   solution.Spec
		state  solution.State
		acts   string
		says   string
		urgent bool
	}{
		"all is well":                 {tower, known(5.8, 1.5, 57), "", "where they should be", false},
		"inside the band, off target": {tower, known(6.2, 1.5, 57), "", "every correction adds salts", false},
		"low and right":               {tower, known(5.8, 1.5, 40), "water stock", "just enough stock", false},
		"low and strong":              {tower, known(5.8, 2.3, 40), "drain water wait read", "drank more than they ate", false},
		"full and strong":             {tower, known(5.8, 2.4, 58), "drain water wait read", "before any acid", false},
		"weak":                        {tower, known(5.8, 0.9, 57.9), "water stock", "They ate", false},
		"nearly dry":                  {tower, known(5.8, 1.5, 13), "water stock wait read", "before any acid", true},
		"sour":                        {tower, known(4.9, 1.5, 57), "dose wait read", "roots suffer", true},
		"alkaline":                    {tower, known(7.1, 1.5, 57), "dose wait read", "short of iron", true},
		"alkaline and low":            {tower, known(7.1, 1.5, 30), "water stock dose wait read", "creeps up again", true},
		"a jar half down":             {jar, known(5.8, 1.5, 1.6), "", "upper roots want moist air", false},
		"a jar nearly dry":            {jar, known(5.8, 1.5, 0.9), "water stock wait read", "", true},
	} {
		t.Run(name, func(t *testing.T) {
			a := solution.Advise(c.spec, c.state, morning.Add(time.Hour), unit.Prefs{})
			require.Equal(t, c.acts, acts(a))
			require.Equal(t, c.acts != "", a.Needs)
			require.Contains(t, strings.Join(a.Why, " "), c.says)
			require.Equal(t, c.urgent, a.Urgent)
			require.Equal(t, strings.Contains(c.acts, "dose"), a.Adult)
			require.Equal(t, a.Adult, len(a.Cautions) > 0, "acid and alkali come with their cautions, and nothing else does")
			if a.Needs {
				require.NotEmpty(t, a.Steps, "what is to be done shows its working")
			}
		})
	}
}

func TestAdviceKnowsHowOldAReadingIs(t *testing.T) {
	s := known(7, 1.5, 57)
	require.Contains(t, solution.Advise(tower, s, morning.Add(time.Hour), unit.Prefs{}).Sure, "As sure as the reading")
	require.Contains(t, solution.Advise(tower, s, morning.AddDate(0, 0, 5), unit.Prefs{}).Sure, "5 days old")
	*s.LevelL = 30
	require.Contains(t, solution.Advise(tower, s, morning.AddDate(0, 0, 2), unit.Prefs{US: true}).Sure, " gal have been drunk since")
}

func TestWaterThatIsTooStrong(t *testing.T) {
	hard := tower
	hard.WaterEC = 2
	a := solution.Advise(hard, known(5.8, 2.4, 58), morning, unit.Prefs{})
	require.True(t, a.Needs)
	require.Contains(t, a.Why[0], "cannot be brought right with this water")
	require.Empty(t, a.Plan)
}

// Doing what is advised brings the tank where the advice said it would: inside
// the level and the strength, and half way in pH.
func TestFollowingTheAdviceArrives(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := known(rapid.Float64Range(4.2, 8).Draw(t, "ph"), rapid.Float64Range(0.7, 3).Draw(t, "ec"), rapid.Float64Range(5, 60).Draw(t, "level"))
		now := morning
		for range 30 {
			a := solution.Advise(tower, s, now, unit.Prefs{})
			if !a.Needs {
				break
			}
			require.NoError(t, a.Plan.Check(tower))
			s.Treat(tower, a.Plan, now)
			require.LessOrEqual(t, *s.LevelL, tower.CapacityL+1e-9)
			if s.ExpectPH != nil {
				down := a.Plan.Agent.Acid()
				require.Equal(t, down, *s.ExpectPH < *s.PHBefore, "acid lowers, alkali raises")
				overshoot := *s.ExpectPH - tower.PHTarget
				require.True(t, down && overshoot > -0.3 || !down && overshoot < 0.3, "half a dose never shoots past: %v", *s.ExpectPH)
			}
			// The next reading shows what was foretold.
			ph, ec, level := *s.PH, *s.ECMS, *s.LevelL
			now = now.Add(20 * time.Minute)
			v := s.Read(tower, solution.Reading{PH: &ph, ECMS: &ec, LevelL: &level}, now)
			if v.ExpectPH != nil {
				require.InDelta(t, *v.ExpectPH, ph, 1e-9)
			}
		}
		require.False(t, solution.Advise(tower, s, now, unit.Prefs{}).Needs, "it arrives")
		require.InDelta(t, tower.ECTarget, *s.ECMS, 0.36)
		require.True(t, *s.PH >= tower.PHLow-1e-6 && *s.PH <= tower.PHHigh+1e-6)
	})
}

func TestAlkalinityFollowsWaterInAndAcidOut(t *testing.T) {
	s := known(6.9, 1.5, 29)
	require.InDelta(t, tower.WaterAlkalinity, *s.Alkalinity, 1e-9)
	s.Treat(tower, solution.Treatment{Agent: solution.PhosphoricAcid, Amount: 10}, morning)
	acid := *s.Alkalinity
	require.Less(t, acid, tower.WaterAlkalinity)
	s.Treat(tower, solution.Treatment{WaterL: 29}, morning)
	require.InDelta(t, (acid+tower.WaterAlkalinity)/2, *s.Alkalinity, 1e-9)
	s.Treat(tower, solution.Treatment{DrainL: 30}, morning)
	require.InDelta(t, 28, *s.LevelL, 1e-9)
}

func TestTreatmentsAreChecked(t *testing.T) {
	for says, x := range map[string]solution.Treatment{
		"drain: takes 0":        {DrainL: -1},
		"water: takes 0":        {WaterL: 500},
		"stock: takes 0":        {StockML: 1e6},
		"amount: takes 0":       {Amount: 1e6, Agent: solution.PhosphoricAcid},
		"agent: is not on this": {Amount: 5, Agent: solution.NitricAcid},
		"water: say what was":   {},
	} {
		require.ErrorContains(t, x.Check(tower), says)
	}
	require.NoError(t, solution.Treatment{Amount: 5, Agent: tower.Base.Agent}.Check(tower))
}

func TestDoubts(t *testing.T) {
	last := known(5.9, 1.5, 50)
	for _, c := range []struct {
		r       solution.Reading
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
		{read(5.9, 1.5, 70), "level", true, 7},
	} {
		d := solution.Doubts(tower, last, c.r)
		require.Len(t, d, 1)
		require.Equal(t, c.field, d[0].Field)
		require.Equal(t, c.refused, d[0].Refused, "%+v", c.r)
		if c.maybe == 0 {
			require.Nil(t, d[0].Maybe)
		} else {
			require.InDelta(t, c.maybe, *d[0].Maybe, 1e-9)
		}
		require.NotEmpty(t, d[0].Message(unit.Prefs{}))
	}
	require.Empty(t, solution.Doubts(tower, last, solution.Reading{}))
}

func TestLevelOn(t *testing.T) {
	s := known(5.8, 1.5, 20)
	require.InDelta(t, 14.8, solution.LevelOn(tower, s, 2), 1e-9)
	require.Zero(t, solution.LevelOn(tower, s, 30))
	require.InDelta(t, 58, solution.LevelOn(tower, solution.State{}, 0), 1e-9, "what was never read is thought full")
}

// What each agent costs at one and the same task: strong acids by their
// equivalents, and the degassed total never less than the first for acids.
func TestAgentsBesideEachOther(t *testing.T) {
	in := solution.PHInput{VolumeL: 100, PHNow: 7.5, PHTarget: 6, AlkalinityMgLCaCO3: 150, ECMScm: 1, TemperatureC: 20, StrengthPercent: 100}
	dose := func(a solution.Agent) solution.PHDose {
		x := in
		x.Agent = a
		if !a.Acid() {
			x.PHNow, x.PHTarget = 5.2, 6.2
		}
		d, err := solution.PHAdjust(x)
		require.NoError(t, err)
		require.InDelta(t, d.Amount/2, d.FirstAmount, 1e-12)
		require.NotEmpty(t, d.Cautions)
		require.Contains(t, d.Cautions[0], "Adult only")
		return d
	}
	nitric, sulfuric := dose(solution.NitricAcid), dose(solution.SulfuricAcid)
	require.InDelta(t, nitric.MeqL, sulfuric.MeqL, 1e-12, "the same equivalents, whichever strong acid")
	require.InDelta(t, nitric.Amount/63.012, 2*sulfuric.Amount/98.07, 0.001, "two equivalents to the mole")
	for _, a := range []solution.Agent{solution.NitricAcid, solution.SulfuricAcid, solution.PhosphoricAcid, solution.CitricAcid} {
		d := dose(a)
		require.Greater(t, d.DegassedAmount, d.Amount, "the gas that leaves has to be made up for: %s", a)
	}
	for _, a := range []solution.Agent{solution.PotassiumHydroxide, solution.PotassiumCarbonate, solution.PotassiumBicarbonate} {
		d := dose(a)
		require.Positive(t, d.Amount)
		require.Positive(t, d.AddsMgL["K"])
		require.LessOrEqual(t, d.DegassedAmount, d.Amount, "a base is helped by the gas that leaves: %s", a)
	}
}
