// Package zero finds where a function of one number is nothing.
//
//	x := zero.Between(0, 2, 1e-9, func(x float64) float64 { return x*x - 2 })
package zero

import "math"

// Between finds x from a to b with f(x) = 0, to within a relative 1e-10 or the absolute
// error given, by inverse quadratic steps where they are safe and halving where not
// (Chandrupatla 1997, Adv. Eng. Software 28:145). f(a) and f(b) have different signs; if
// they have not, the end nearer to nothing is returned.
func Between(a, b, within float64, f func(float64) float64) float64 {
	fa, fb := f(a), f(b)
	if fa == 0 {
		return a
	}
	if fb == 0 {
		return b
	}
	if (fa > 0) == (fb > 0) {
		if math.Abs(fa) < math.Abs(fb) {
			return a
		}
		return b
	}
	var c, fc float64
	t := 0.5
	for range 200 {
		x := a + t*(b-a)
		fx := f(x)
		if (fx > 0) == (fa > 0) {
			c, fc = a, fa
		} else {
			c, fc, b, fb = b, fb, a, fa
		}
		a, fa = x, fx
		best, fbest := a, fa
		if math.Abs(fb) < math.Abs(fa) {
			best, fbest = b, fb
		}
		edge := (1e-10*math.Abs(best) + within) / math.Abs(b-c)
		if fbest == 0 || edge > 0.5 {
			return best
		}
		xi, phi := (a-b)/(c-b), (fa-fb)/(fc-fb)
		t = 0.5
		if phi*phi < xi && (1-phi)*(1-phi) < 1-xi {
			t = fa/(fb-fa)*fc/(fb-fc) + (c-a)/(b-a)*fa/(fc-fa)*fb/(fc-fb)
		}
		t = min(1-edge, max(edge, t))
	}
	return a
}

// Above finds where f comes to nothing when it is negative at low and rises: it looks
// twice as far from low at each step, up to most, and is false when f is still below
// nothing there.
func Above(low, first, most, within float64, f func(float64) float64) (float64, bool) {
	step := first
	from := low
	for {
		to := min(low+step, most)
		if f(to) >= 0 {
			return Between(from, to, within, f), true
		}
		if to >= most {
			return 0, false
		}
		from, step = to, step*2
	}
}
