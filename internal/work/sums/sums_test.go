package sums

import (
	"context"
	"encoding/json"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calc"
	"ulpa/core/say"
	"ulpa/core/unit"
)

var us = say.Reader{Prefs: unit.Prefs{US: true, PPM: 700}}

func find(t require.TestingT, name string) calc.Calculator {
	k, ok := calc.Find(name)
	require.True(t, ok, name)
	return k
}

func screen(t require.TestingT, name string, v url.Values, p say.Reader) Screen {
	s, err := Read(context.Background(), find(t, name), v, p)
	require.NoError(t, err)
	return s
}

// object is a form's values as the contract takes them.
func object(t require.TestingT, k calc.Calculator, v url.Values, p say.Reader) map[string]any {
	ty := newTyped(v, p)
	b, err := json.Marshal(ty.object(k.Fields, ""))
	require.NoError(t, err)
	require.Empty(t, ty.errors)
	var o map[string]any
	require.NoError(t, json.Unmarshal(b, &o))
	return o
}

// Every calculator answers its example on screen as the contract does, in
// metric and in US units, and says so in words, a picture and its working.
func TestEveryScreenAnswersItsExample(t *testing.T) {
	for _, k := range calc.All {
		for _, p := range []say.Reader{{}, us} {
			s := screen(t, k.Name, nil, p)
			require.NotNil(t, s.Answer, k.Name)
			require.NotEmpty(t, s.Still, "%s: a fresh page says that its figures are examples", k.Name)
			require.NotEmpty(t, s.Answer.Big)
			require.NotEmpty(t, s.Answer.Picture.Says, k.Name)
			require.NotEmpty(t, s.Answer.Steps, k.Name)
			pic := s.Answer.Picture
			require.True(t, pic.Chart != nil || pic.Bars != nil || pic.Tanks != nil, k.Name)
			drawn, err := json.Marshal(pic)
			require.NoError(t, err, "a figure of the drawing is not finite")
			require.NotContains(t, string(drawn), "NaN")
		}
		var want map[string]any
		require.NoError(t, json.Unmarshal([]byte(k.Example), &want))
		if k.Name == "frost" {
			continue // its screen shows a station of five years
		}
		for _, p := range []say.Reader{{}, us} {
			got := object(t, k, Fill(k, want, p), p)
			for name, v := range want {
				requireClose(t, v, got[name], k.Name+"."+name)
			}
		}
	}
}

func requireClose(t require.TestingT, want, got any, at string) {
	switch w := want.(type) {
	case float64:
		require.InDelta(t, w, got, 1e-7*max(1, w), at)
	case map[string]any:
		for name, v := range w {
			requireClose(t, v, got.(map[string]any)[name], at+"."+name)
		}
	case []any:
		require.Len(t, got, len(w), at)
		for i := range w {
			requireClose(t, w[i], got.([]any)[i], fmt.Sprintf("%s.%d", at, i))
		}
	default:
		require.Equal(t, fmt.Sprint(want), fmt.Sprint(got), at)
	}
}

// A figure typed in one system and shown in the other and back is the same figure.
func TestUnitsAreTakenThereAndBack(t *testing.T) {
	k := find(t, "ph-adjust")
	rapid.Check(t, func(t *rapid.T) {
		v := url.Values{"agent": {"nitric_acid"}}
		for _, name := range []string{"volume_l", "temperature_c", "ec_ms_cm", "strength_percent", "alkalinity_mg_l_caco3"} {
			v.Set(name, fmt.Sprintf("%.3f", rapid.Float64Range(0.1, 900).Draw(t, name)))
		}
		there, ok := InUnits(k, v, say.Reader{}, us)
		require.True(t, ok)
		back, ok := InUnits(k, there, us, say.Reader{})
		require.True(t, ok)
		requireClose(t, object(t, k, v, say.Reader{}), object(t, k, back, say.Reader{}), "")
		_, ok = InUnits(k, url.Values{"volume_l": {"a bucket"}}, say.Reader{}, us)
		require.False(t, ok, "what is no number stays in its unit")
	})
}

// What is wrong stands beside its field, also where blank rows lie before it.
func TestRefusalsStandBesideTheirFields(t *testing.T) {
	cases := []struct {
		calculator string
		values     string
		at, says   string
	}{
		{"ph-adjust", "volume_l=ten&ph_now=7", "volume_l", "is not a number"},
		{"ph-adjust", "volume_l=10&ph_now=7&ph_target=8&alkalinity_mg_l_caco3=50&agent=nitric_acid", "agent", "acid"},
		{"emergence", "sown=30&counts.0.day=3&counts.0.sprouted=9&counts.4.day=5&counts.4.sprouted=7", "counts.4.sprouted", "never goes down"},
		{"emergence", "sown=30&counts.2.day=3&counts.2.sprouted=x", "counts.2.sprouted", "is not a number"},
		{"seed-rate", "plants_wanted=5&cells_per_tray=24&germination.tested=10&germination.sprouted=11", "germination.sprouted", "tested"},
		{
			"back-schedule",
			"ready_by=2027-05-21&stages.0.name=sow&stages.0.days=2&stages.0.hold_days=1&workdays=1&closed.1.from=2027-04-09&closed.1.to=2027-04-01",
			"closed.1.to",
			"before",
		},
		{"frost", "hemisphere=north&daily_minima=2024-04-01,5%0a%0a2024-04-02,-99.9", "daily_minima", "line 3"},
		{"frost", "hemisphere=north&daily_minima=2024-04-01", "daily_minima", "line 1"},
		{"vessel", "shape=box&length_cm=10&width_cm=10&height_cm=10&litres=4", "litres", "1 L"},
		{"recipe", "volume_l=10&targets_mg_l.N=-5&products=potassium_nitrate", "targets_mg_l.N", "0"},
	}
	for _, c := range cases {
		v, err := url.ParseQuery(c.values)
		require.NoError(t, err)
		s := screen(t, c.calculator, v, say.Reader{})
		require.Nil(t, s.Answer, c.values)
		found := ""
		for _, b := range s.Blocks {
			for _, in := range b.Inputs {
				if in.Name == c.at {
					found = in.Error
				}
			}
			for _, row := range b.Rows {
				for _, in := range row {
					if in.Name == c.at {
						found = in.Error
					}
				}
			}
		}
		require.Contains(t, found, c.says, "%s: %v", c.values, s.Rest)
		require.Equal(t, v, s.Values, "what was typed stays")
	}
}

func TestAScreenSaysWhichFiguresAreStillTheExamples(t *testing.T) {
	v := example(find(t, "ph-adjust"), say.Reader{})
	v.Set("example", "1")
	v.Set("volume_l", "45")
	v.Set("ph_now", "6.9")
	s := screen(t, "ph-adjust", v, say.Reader{})
	require.NotContains(t, s.Still, "Volume")
	require.Contains(t, s.Still, "Alkalinity")
	v.Del("example")
	require.Empty(t, screen(t, "ph-adjust", v, say.Reader{}).Still, "a link's figures are somebody's own")
}

func TestAVesselShowsOnlyTheSizesOfItsShape(t *testing.T) {
	s := screen(
		t,
		"vessel",
		url.Values{"shape": {"cylinder"}, "diameter_cm": {"20"}, "height_cm": {"30"}, "depth_cm": {"15"}, "length_cm": {"9"}},
		say.Reader{},
	)
	require.NotNil(t, s.Answer, "a size left over from another shape is not asked for: %v", s.Rest)
	all := ""
	for name := range names(s.Blocks) {
		all += name + " "
	}
	require.Contains(t, all, "diameter_cm")
	require.NotContains(t, all, "length_cm")
	require.NotContains(t, all, "marks")
	require.Contains(t, s.Answer.Big, "4.71 L")
}

// Whatever a form holds, reading it ends, and in a screen or a refusal.
func FuzzScreen(f *testing.F) {
	for i, k := range calc.All {
		f.Add(i, example(k, say.Reader{}).Encode())
	}
	f.Add(0, "plants_wanted=1e400&germination.rate=%00&counts.99999999999.day=1")
	f.Fuzz(func(t *testing.T, n int, body string) {
		v, err := url.ParseQuery(body)
		if err != nil || len(body) > 20_000 {
			t.Skip()
		}
		k := calc.All[((n%len(calc.All))+len(calc.All))%len(calc.All)]
		s, err := Read(t.Context(), k, v, us)
		require.NoError(t, err)
		if s.Answer == nil {
			said := strings.Join(s.Rest, " ")
			for _, b := range s.Blocks {
				said += b.Error
				for _, in := range b.Inputs {
					said += in.Error
				}
				for _, row := range b.Rows {
					for _, in := range row {
						said += in.Error
					}
				}
			}
			require.NotEmpty(t, said, "an answer is missing and nothing says why")
		}
	})
}
