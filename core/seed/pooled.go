package seed

import "math"

// Came is what came of one batch: so many plants of so many cells.
type Came struct{ Cells, Plants int }

// leastPooled are the cells of which a school's own record must be at least.
const leastPooled = 20

// What is usual of a crop counts like so many cells, whose batches differ as much as makes them
// worth as many, and their spread like that of so many batches: starting values.
const (
	usualCells   = 20
	usualBatches = 10
)

// Pooled is the share of cells that give a plant, by a school's own batches and by what is usual
// of the crop (0 to 1): the mean, as well known as batches that differ from each other let it be.
// Their spread is the intraclass correlation of the analysis of variance (Ridout, Demétrio and
// Firth 1999, Biometrics 55:137), shrunk to what is usual as long as there are few: two batches
// say little about how much batches differ. With a correlation of ρ all cells are worth
// (1 − ρ) ÷ ρ, and never more than there are. It is not ok for fewer than two batches or 20 cells.
func Pooled(batches []Came, usual float64) (g Germination, ok bool) {
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
	rho := 0.0
	between /= k - 1
	within /= math.Max(1, n-k)
	size := (n - squares/n) / (k - 1)
	if over := between - within; over > 0 {
		rho = math.Min(1, over/(between+(size-1)*within))
	}
	rho = ((k-1)*rho + usualBatches/(1.0+usualCells)) / (k - 1 + usualBatches)
	tested := int(math.Round(math.Min(n+usualCells, math.Max(2, (1-rho)/rho))))
	mean = (came + usualCells*usual) / (n + usualCells)
	return Germination{Rate: mean, Tested: tested, Sprouted: int(math.Round(mean * float64(tested))), By: ByRecord}, true
}
