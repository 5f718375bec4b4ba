package sums

import (
	"strings"

	"ulpa/core/say"
)

func init() { tells("trial-draw", tellDraw) }

func tellDraw(p say.Reader, _ map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Cells []struct {
			Row, Column, Block int
			Arm                *string
		}
		Counts []struct {
			Arm   string
			Cells int
		}
		Blocks int
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("Drawn: %s for %d treatments.", say.Plural(x.Blocks, "block"), len(x.Counts))}
	most := 1.0
	for _, c := range x.Counts {
		most = max(most, float64(c.Cells))
		a.Figures = append(a.Figures, Figure{c.Arm, p.Say(say.Plural(c.Cells, "cell"))})
	}
	row := ""
	for i, c := range x.Cells {
		if c.Arm != nil {
			row += ", " + *c.Arm
		} else {
			row += ", –"
		}
		if i+1 == len(x.Cells) || x.Cells[i+1].Row != c.Row {
			if c.Row <= 40 {
				a.Says = append(a.Says, p.T("Row %d: %s", c.Row, strings.TrimPrefix(row, ", ")))
			}
			row = ""
		}
	}
	chart := rows(0, most, len(x.Counts))
	for _, v := range ticks(0, most, 5) {
		chart.tick(v, figureOf(p, v))
	}
	for _, c := range x.Counts {
		chart.row(Row{Name: c.Arm, From: 0, To: float64(c.Cells), At: float64(c.Cells)})
	}
	a.Picture = Picture{Says: p.T("How many cells each treatment has."), Chart: chart}
	return a, nil
}
