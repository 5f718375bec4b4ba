package seed

import "math"

// Came is what came of one batch: so many plants of so many cells.
type Came struct{ Cells, Plants int }

// leastPooled are the cells of which a school's own record must be at least.
const leastPooled = 20

// Pooled is the share of cells that give a plant, by a school's own batches: the mean of all
// of them, as well known as batches that differ from each other let it be. Their spread is
// the intraclass correlation of the analysis of variance (Ridout, Demétrio and Firth 1999,
// Biometrics 55:137); with a correlation of ρ all cells are worth (1 − ρ) ÷ ρ, and never more
// than there were. It is not ok for fewer than two batches or 20 cells.
func Pooled(batches []Came) (g Germination, ok bool) {
	n, came, squares, k := 0.0, 0.0, 0.0, 0.0
	for _, b := range batches {
		if b.Cells < 1 {
			continue
		}
		m := float64(b.Cells)
		k++
		n += m
		came += math.Min(m, math.Max(0, float64(b.Plants)))
		squares += m * m
	}
	if k < 2 || n < leastPooled {
		return g, false
	}
	mean := came / n
	between, within := 0.0, 0.0
	for _, b := range batches {
		if b.Cells < 1 {
			continue
		}
		m := float64(b.Cells)
		p := math.Min(1, math.Max(0, float64(b.Plants)/m))
		between += m * (p - mean) * (p - mean)
		within += m * p * (1 - p)
	}
	worth := n
	between /= k - 1
	within /= math.Max(1, n-k)
	size := (n - squares/n) / (k - 1)
	if over := between - within; over > 0 {
		rho := over / (between + (size-1)*within)
		worth = math.Min(n, math.Max(2, (1-rho)/math.Max(rho, 1e-9)))
	}
	tested := int(math.Round(worth))
	return Germination{Rate: mean, Tested: tested, Sprouted: int(math.Round(mean * float64(tested))), By: ByRecord}, true
}
