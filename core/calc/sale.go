package calc

import (
	"ulpa/core/sale"
)

var saleStock = Calculator{
	Need: Planning,
	Name: "sale-stock", Title: "How many to grow for a sale", Answers: "How many plants to grow for a sale when nobody knows how many will be wanted",
	Fields: []Field{
		{Name: "price", Kind: "number", Needed: true, Takes: "above 0", OnScreen: "One is sold for"},
		{Name: "cost", Kind: "number", Needed: true, Takes: "above 0", OnScreen: "Growing one costs"},
		{Name: "salvage", Kind: "number", Default: "0", Takes: "below cost, at most price; it may be negative", OnScreen: "One left over is worth"},
		{Name: "missed_cost", Kind: "number", Default: "0", Takes: "0 or more", OnScreen: "A buyer who finds none costs"},
		{Name: "most", Kind: "integer", Default: "100000", Takes: "0 to 100,000", OnScreen: "Room for at most"},
		{Name: "usable_rate", Kind: "number", Unit: "share", Default: "1", Takes: "above 0, to 1", OnScreen: "Of those grown can be sold"},
		{
			Name: "demand", Kind: "object", Needed: true, Takes: `{"mean", "sd"} or {"past": [{"sold", "sold_out"}], "day_spread"}`, OnScreen: "How many are wanted",
			Parts: []Field{
				{Name: "mean", Kind: "number", OnScreen: "About"},
				{Name: "sd", Kind: "number", OnScreen: "give or take"},
				{
					Name: "past", Kind: "list", OnScreen: "or what past sales say",
					Parts: []Field{{Name: "sold", Kind: "integer", OnScreen: "Sold"}, {Name: "sold_out", Kind: "yes", Needed: true, OnScreen: "sold out"}},
				},
				{Name: "day_spread", Kind: "number", OnScreen: "differing from day to day by a share of"},
			},
		},
	},
	Example: `{"demand": {"mean": 45, "sd": 12}, "price": 3.5, "cost": 1, "usable_rate": 0.92}`,
	run: func(o *object) (answer, error) {
		in := sale.Input{
			Price: o.number("price"), Cost: o.number("cost"), Salvage: o.numberOr("salvage", 0), MissedCost: o.numberOr("missed_cost", 0),
			Most: o.integerOr("most", sale.MostPlants), Usable: o.numberOr("usable_rate", 1),
		}
		d := o.object("demand")
		switch mean, past := d.has("mean") || d.has("sd"), d.has("past"); {
		case mean && past:
			d.refuse("past", "is given as well as %s: give only one of them", "mean")
		case past:
			in.Past, in.DaySpread = []sale.Past{}, d.numberOr("day_spread", sale.UsualSpread)
			d.each("past", func(_ int, x *object) {
				p := sale.Past{Sold: x.integer("sold")}
				if x.need("sold_out", "true or false") {
					p.SoldOut = x.yes("sold_out")
				}
				in.Past = append(in.Past, p)
			})
		default:
			in.Mean, in.SD = d.number("mean"), d.number("sd")
		}
		if o.has("demand") {
			d.done()
		}
		return with(o, func() (sale.Stock, error) { return sale.Grow(in) }, func(s sale.Stock) answer {
			return answer{
				"grow": s.Grow, "expected_usable": s.Usable, "expected_sold": s.Sold, "expected_left": s.Left, "expected_missed": s.Missed,
				"expected_result": s.Result, "chance_sold_out": s.ChanceSoldOut, "demand_mean": s.DemandMean, "demand_sd": s.DemandSD,
				"critical_ratio": s.CriticalRatio, "steps": s.Steps,
			}
		})
	},
}
