package recipe

import (
	"math"

	"gonum.org/v1/gonum/mat"
)

// boundedLeastSquares minimises |Σ x_i·column_i − want|² with 0 ≤ x_i ≤ upper_i:
// an active-set method (Lawson and Hanson 1974, chapter 23; Stark and Parker
// 1995 for the upper limits). A column of nothing stays at 0; where several
// answers are equally good, it returns one of them.
func boundedLeastSquares(columns [][]float64, want, upper []float64) []float64 {
	n, m := len(columns), len(want)
	norm := make([]float64, n)
	for i, c := range columns {
		for _, v := range c {
			norm[i] += v * v
		}
		norm[i] = math.Sqrt(norm[i])
	}
	// Work in units in which every column is as long as one.
	x := make([]float64, n)
	free := make([]bool, n)
	top := func(i int) float64 { return upper[i] * norm[i] }
	residual := func() []float64 {
		r := append([]float64(nil), want...)
		for i, c := range columns {
			if x[i] == 0 {
				continue
			}
			for k := range m {
				r[k] -= c[k] / norm[i] * x[i]
			}
		}
		return r
	}
	const small = 1e-12
	blocked := make([]bool, n) // would make the free columns dependent
	for range 30*n + 100 {
		r := residual()
		best, pull := -1, small
		for i, c := range columns {
			if free[i] || blocked[i] || norm[i] == 0 || top(i) == 0 {
				continue
			}
			g := 0.0
			for k := range m {
				g += c[k] / norm[i] * r[k]
			}
			if x[i] > 0 {
				g = -g // at its upper limit it can only come down
			}
			if g > pull {
				best, pull = i, g
			}
		}
		if best < 0 {
			break
		}
		free[best] = true
		if !descend(columns, norm, want, x, free, top) {
			free[best] = false
			blocked[best] = true
			continue
		}
		clear(blocked)
	}
	for i := range x {
		if norm[i] > 0 {
			x[i] = min(x[i]/norm[i], upper[i])
		}
	}
	return x
}

// descend moves the free variables towards their best, binding those that meet
// a limit on the way, until the best lies inside. It is false when the free
// columns depend on each other.
func descend(columns [][]float64, norm, want, x []float64, free []bool, top func(int) float64) bool {
	for range len(columns) + 1 {
		z, ok := solveFree(columns, norm, want, x, free)
		if !ok {
			return false
		}
		step, hit, atTop := 1.0, -1, false
		for i, f := range free {
			if !f {
				continue
			}
			if d := z[i] - x[i]; z[i] < 0 && d < 0 && -x[i]/d < step {
				step, hit, atTop = -x[i]/d, i, false
			} else if z[i] > top(i) && d > 0 && (top(i)-x[i])/d < step {
				step, hit, atTop = (top(i)-x[i])/d, i, true
			}
		}
		for i, f := range free {
			if f {
				x[i] += step * (z[i] - x[i])
			}
		}
		if hit < 0 {
			return true
		}
		free[hit], x[hit] = false, 0
		if atTop {
			x[hit] = top(hit)
		}
	}
	return true
}

// solveFree is the plain least squares of the free columns, the others held.
func solveFree(columns [][]float64, norm, want, x []float64, free []bool) ([]float64, bool) {
	var index []int
	for i, f := range free {
		if f {
			index = append(index, i)
		}
	}
	z := append([]float64(nil), x...)
	m := len(want)
	if len(index) == 0 {
		return z, true
	}
	if len(index) > m {
		return nil, false
	}
	a, b := mat.NewDense(m, len(index), nil), mat.NewVecDense(m, append([]float64(nil), want...))
	for i, c := range columns {
		if !free[i] && x[i] != 0 {
			for k := range m {
				b.SetVec(k, b.AtVec(k)-c[k]/norm[i]*x[i])
			}
		}
	}
	for j, i := range index {
		for k := range m {
			a.Set(k, j, columns[i][k]/norm[i])
		}
	}
	var qr mat.QR
	qr.Factorize(a)
	if qr.Cond() > 1e10 {
		return nil, false
	}
	var out mat.VecDense
	if err := qr.SolveVecTo(&out, false, b); err != nil {
		return nil, false
	}
	for j, i := range index {
		z[i] = out.AtVec(j)
	}
	return z, true
}
