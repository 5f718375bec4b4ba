package sums

import (
	"ulpa/core/say"
)

func init() { tells("sale-stock", tellSale) }

func tellSale(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type stock struct {
		Grow    int
		Usable  float64 `json:"expected_usable"`
		Sold    float64 `json:"expected_sold"`
		Left    float64 `json:"expected_left"`
		Missed  float64 `json:"expected_missed"`
		Result  float64 `json:"expected_result"`
		SoldOut float64 `json:"chance_sold_out"`
		Mean    float64 `json:"demand_mean"`
		SD      float64 `json:"demand_sd"`
	}
	x, err := read[stock](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("Grow %s.", say.Plural(x.Grow, "plant")), Figures: []Figure{
		{p.T("Can be sold, on average"), p.T("%.0f", x.Usable)},
		{p.T("Sold, on average"), p.T("%.0f", x.Sold)},
		{p.T("Left over"), p.T("%.0f", x.Left)},
		{p.T("Buyers who find none"), p.T("%.0f", x.Missed)},
		{p.T("What it brings"), p.T("%.2f", x.Result)},
		{p.T("Chance of selling out"), percent(x.SoldOut)},
		{p.T("Wanted, on average"), p.T("%.0f, give or take %.0f", x.Mean, x.SD)},
	}}
	if x.Grow == 0 {
		a.Big, a.Now = p.T("Grow none: each would lose money."), true
	}
	a.Says = []string{p.T("Selling food, or plants with soil on them, has its rules where you are: ask first.")}
	most := 2*x.Grow + 4
	if room := int(num(in, "most", 100_000)); room < most {
		most = max(1, room)
	}
	curve, low, high := [][2]float64{}, 0.0, 1.0
	for i := range 13 {
		n := most * i / 12
		one, err := ask(map[string]any{"most": n})
		if err != nil {
			return a, err
		}
		y, err := read[stock](one)
		if err != nil {
			return a, err
		}
		curve = append(curve, [2]float64{float64(n), y.Result})
		low, high = min(low, y.Result), max(high, y.Result)
	}
	chart := plot(p, p.T("room for so many"), 0, float64(most), p.T("what it brings"), low, low+(high-low)*1.1)
	chart.line("water", curve)
	if x.Grow > 0 && x.Grow <= most {
		chart.dot(float64(x.Grow), x.Result, p.T("%d", x.Grow))
	}
	a.Picture = Picture{Says: p.T("What a sale brings, by how many there is room for: beyond the dot, more room brings nothing more."), Chart: chart}
	return a, nil
}
