package seed

// priorCells are how many cells what is thought of a sowing counts for, beside those that were
// counted.
const priorCells = 8

// StillComes is how many of the cells in which nothing was up when they were last counted will
// still show a seedling: so many were sown, so many of them up, and so many are undecided. Share is
// the share of cells that was expected in the end, and by is the part of those that should have
// been up at that count; 0 where nobody has counted. A poor count makes the rest less likely.
func StillComes(sown, up, undecided int, share, by float64) float64 {
	if sown <= 0 || undecided <= 0 || share <= 0 {
		return 0
	}
	by = min(1, max(0, by))
	if by > 0 {
		share = (float64(up) + priorCells*share) / (float64(sown)*by + priorCells)
	}
	share = min(0.999, share)
	return float64(undecided) * share * (1 - by) / (1 - share*by)
}
