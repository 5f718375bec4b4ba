package trial_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/trial"
)

func counts(name string, k, n int) trial.Arm { return trial.Arm{Name: name, N: n, Successes: k} }

// Newcombe (1998), Statistics in Medicine 17:873, table II, method 10.
func TestNewcombeAgainstHisOwnTable(t *testing.T) {
	for _, c := range []struct {
		k1, n1, k2, n2 int
		low, high      float64
	}{
		{56, 70, 48, 80, 0.0524, 0.3339},
		{9, 10, 3, 10, 0.1705, 0.8090},
		{6, 7, 2, 7, 0.0582, 0.8062},
		{5, 56, 0, 29, -0.0381, 0.1926},
		{0, 10, 0, 20, -0.1611, 0.2775},
		{10, 10, 0, 20, 0.6791, 1},
		{10, 10, 0, 10, 0.6075, 1},
	} {
		// His difference is the first less the second; ours the second less the first.
		x, err := trial.Compare([]trial.Arm{counts("b", c.k2, c.n2), counts("a", c.k1, c.n1)}, 0.95)
		require.NoError(t, err)
		require.InDelta(t, c.low, *x.Pairs[0].Low, 5e-5, "%+v", c)
		require.InDelta(t, c.high, *x.Pairs[0].High, 5e-5, "%+v", c)
	}
}

// The tea tasting (Fisher 1935): 3 of 4 against 1 of 4 is p = 34/70.
func TestFishersTea(t *testing.T) {
	x, err := trial.Compare([]trial.Arm{counts("milk", 3, 4), counts("tea", 1, 4)}, 0.95)
	require.NoError(t, err)
	require.InDelta(t, 34.0/70, *x.Pairs[0].P, 1e-12)
	require.Equal(t, trial.TooFew, x.Pairs[0].Reading)
	same, err := trial.Compare([]trial.Arm{counts("a", 0, 50), counts("b", 0, 50)}, 0.95)
	require.NoError(t, err)
	require.InDelta(t, 1, *same.Pairs[0].P, 1e-12)
}

// Fisher's test by adding up every table with exact binomial coefficients.
func TestFisherAgainstEveryTable(t *testing.T) {
	choose := func(n, k int) float64 {
		v := 1.0
		for i := range k {
			v = v * float64(n-i) / float64(i+1)
		}
		return v
	}
	rapid.Check(t, func(t *rapid.T) {
		n1, n2 := rapid.IntRange(1, 18).Draw(t, "n1"), rapid.IntRange(1, 18).Draw(t, "n2")
		k1, k2 := rapid.IntRange(0, n1).Draw(t, "k1"), rapid.IntRange(0, n2).Draw(t, "k2")
		p := func(x int) float64 { return choose(n1, x) * choose(n2, k1+k2-x) / choose(n1+n2, k1+k2) }
		want := 0.0
		for x := max(0, k1+k2-n2); x <= min(n1, k1+k2); x++ {
			if p(x) <= p(k1)*(1+1e-7) {
				want += p(x)
			}
		}
		x, err := trial.Compare([]trial.Arm{counts("a", k1, n1), counts("b", k2, n2)}, 0.9)
		require.NoError(t, err)
		require.InEpsilon(t, want, *x.Pairs[0].P, 1e-9)
	})
}

// Student's t, 95 %, two-sided, from the printed tables: the half width of the
// mean's interval over its standard error.
func TestStudentAgainstPrintedTables(t *testing.T) {
	for df, want := range map[int]float64{1: 12.706, 2: 4.303, 4: 2.776, 9: 2.262, 29: 2.045} {
		values := make([]float64, df+1)
		for i := range values {
			values[i] = float64(i % 2)
		}
		x, err := trial.Compare([]trial.Arm{{Name: "a", Values: values}, {Name: "b", Values: values}}, 0.95)
		require.NoError(t, err)
		n := float64(df + 1)
		mean, ss := x.Arms[0].Estimate, 0.0
		for _, v := range values {
			ss += (v - mean) * (v - mean)
		}
		se := math.Sqrt(ss / (n - 1) / n)
		require.InDelta(t, want, (*x.Arms[0].High-mean)/se, 6e-4, "%d degrees of freedom", df)
	}
}

func TestNothingToTell(t *testing.T) {
	one := trial.Arm{Name: "one", Values: []float64{7}}
	flat := trial.Arm{Name: "flat", Values: []float64{5, 5, 5, 5, 5}}
	other := trial.Arm{Name: "other", Values: []float64{6, 6, 6, 6, 6}}
	spread := trial.Arm{Name: "spread", Values: []float64{5, 6, 7, 8, 9}}
	x, err := trial.Compare([]trial.Arm{one, flat, other, spread}, 0.95)
	require.NoError(t, err)
	require.Nil(t, x.Arms[0].Low)
	for _, p := range x.Pairs {
		computable := p.A != "one" && p.B != "one" && (p.A == "spread" || p.B == "spread")
		require.Equal(t, computable, p.P != nil, "%s with %s", p.A, p.B)
		if !computable {
			require.Equal(t, trial.TooFew, p.Reading)
			require.Nil(t, p.Low)
			require.Nil(t, p.PHolm)
		}
	}
}

// Swapping the arms flips the sign and nothing else; Holm never makes p smaller.
func TestSwapping(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var arms []trial.Arm
		values := rapid.Bool().Draw(t, "values")
		for i := range rapid.IntRange(2, 4).Draw(t, "arms") {
			a := trial.Arm{Name: string(rune('a' + i))}
			if values {
				a.Values = rapid.SliceOfN(rapid.Float64Range(-50, 50), 2, 8).Draw(t, "v")
			} else {
				a.N = rapid.IntRange(1, 60).Draw(t, "n")
				a.Successes = rapid.IntRange(0, a.N).Draw(t, "k")
			}
			arms = append(arms, a)
		}
		x, err := trial.Compare(arms, 0.95)
		require.NoError(t, err)
		y, err := trial.Compare([]trial.Arm{arms[1], arms[0]}, 0.95)
		require.NoError(t, err)
		a, b := x.Pairs[0], y.Pairs[0]
		require.InDelta(t, a.Difference, -b.Difference, 1e-9)
		if a.Low != nil {
			require.InDelta(t, *a.Low, -*b.High, 1e-9)
			require.InDelta(t, *a.P, *b.P, 1e-9)
			require.LessOrEqual(t, *a.Low, a.Difference+1e-9)
		}
		for _, p := range x.Pairs {
			if p.P != nil {
				require.GreaterOrEqual(t, *p.PHolm, *p.P-1e-15)
				require.LessOrEqual(t, *p.PHolm, 1.0)
			}
		}
	})
}
