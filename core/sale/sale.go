// Package sale says how many to grow for a sale: as many as bring in most, when nobody knows how many
// will be wanted.
//
//	s, err := sale.Grow(sale.Input{Price: 2, Cost: 0.6, Usable: 0.9, Most: 200, Mean: 40, SD: 12})
package sale

import (
	"fmt"
	"math"
	"sort"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Bounds.
const (
	MostPlants  = 100_000
	UsualSpread = 0.3 // of demand from day to day, as a share
	mostMean    = 20_000.0
	mostSold    = 5_000
	mostPast    = 1_000
	noGain      = 1e-9
)

// Input is what a sale brings and costs, and what is known of how many will be wanted: a mean and a
// spread, or past sales.
type Input struct {
	Price, Cost, Salvage, MissedCost float64
	Most                             int
	Usable                           float64 // share of those grown that can be sold
	Mean, SD                         float64
	Past                             []Past // nil: by Mean and SD
	DaySpread                        float64
}

// Stock is how many to grow, and what to expect of it.
type Stock struct {
	Grow                       int
	Usable, Sold, Left, Missed float64
	Result, ChanceSoldOut      float64
	DemandMean, DemandSD       float64
	CriticalRatio              *float64 // nil where selling is worth no more than having one left over
	Steps                      []working.Step
}

func (in Input) check() error {
	var e field.Errors
	e.Require(in.Price > 0 && in.Price <= 1e9, "price", "must be above 0")
	e.Require(in.Cost > 0 && in.Cost <= 1e9, "cost", "must be above 0")
	e.Require(in.Salvage < in.Cost && in.Salvage <= in.Price && in.Salvage >= -1e9, "salvage", "must be below the cost, and not above the price")
	e.Require(in.MissedCost >= 0 && in.MissedCost <= 1e9, "missed_cost", "must be 0 or more")
	e.Require(in.Most >= 0 && in.Most <= MostPlants, "most", "must be 0 to 100,000")
	e.Require(in.Usable > 0 && in.Usable <= 1, "usable_rate", "must be a share above 0, up to 1")
	if in.Past == nil {
		e.Require(in.Mean > 0 && in.Mean <= mostMean, "demand.mean", "must be above 0, up to 20,000")
		e.Require(in.SD >= 0 && in.SD <= mostMean, "demand.sd", "must be 0 to 20,000")
		return e.Err()
	}
	e.Require(len(in.Past) >= 1 && len(in.Past) <= mostPast, "demand.past", "must be 1 to 1,000 sales")
	for i, p := range in.Past {
		e.Require(p.Sold >= 0 && p.Sold <= mostSold, fmt.Sprintf("demand.past.%d.sold", i), "must be 0 to 5,000")
	}
	e.Require(in.DaySpread >= 0 && in.DaySpread <= 2, "demand.day_spread", "must be 0 to 2")
	return e.Err()
}

// demand is the chance that at least 0, 1, … are wanted, with mean and standard deviation.
func (in Input) demand() (wanted []float64, mean, sd float64) {
	wanted = make([]float64, in.Most+2)
	if in.Past == nil {
		c := count{mean: in.Mean}
		if over := in.SD*in.SD - in.Mean; over > 1e-9*in.Mean {
			c.shape = in.Mean * in.Mean / over
		}
		c.fill(wanted)
		atLeast(wanted)
		return wanted, in.Mean, math.Sqrt(math.Max(in.Mean, in.SD*in.SD))
	}
	list := learned(in.Past, in.DaySpread)
	one := make([]float64, len(wanted))
	second := 0.0
	for _, x := range list {
		mean += x.weight * x.mean
		second += x.weight * (x.mean + x.mean*x.mean*(1+in.DaySpread*in.DaySpread))
		scattered(x.mean, in.DaySpread).fill(one)
		for k, p := range one {
			wanted[k] += x.weight * p
		}
	}
	atLeast(wanted)
	return wanted, mean, math.Sqrt(second - mean*mean)
}

// Grow answers how many to grow: the fewest beyond which one more adds nothing to the result that is
// expected (the newsvendor's question, with a yield that is not sure). It refuses with field.Errors.
func Grow(in Input) (Stock, error) {
	if err := in.check(); err != nil {
		return Stock{}, err
	}
	wanted, mean, sd := in.demand()
	worth := in.Price - in.Salvage + in.MissedCost // of one that is sold and not left over
	adds := func(n int) float64 {                  // what one more brings
		more := 0.0
		for u, p := range binomial(n, in.Usable) {
			more += p * wanted[u+1]
		}
		return worth*in.Usable*more + in.Salvage*in.Usable - in.Cost
	}
	s := Stock{DemandMean: mean, DemandSD: sd}
	s.Grow = sort.Search(in.Most, func(n int) bool { return adds(n) <= noGain })
	usable := binomial(s.Grow, in.Usable)
	for u, p := range usable {
		s.ChanceSoldOut += p * wanted[u]
	}
	atLeast(usable)
	for k := 1; k <= s.Grow; k++ {
		s.Sold += wanted[k] * usable[k]
	}
	s.Usable = float64(s.Grow) * in.Usable
	s.Left, s.Missed = s.Usable-s.Sold, mean-s.Sold
	s.Result = in.Price*s.Sold + in.Salvage*s.Left - in.Cost*float64(s.Grow) - in.MissedCost*s.Missed
	if worth > 0 {
		r := (in.Price + in.MissedCost - in.Cost) / worth
		s.CriticalRatio = &r
	}
	s.Steps = []working.Step{
		{Name: say.T("Wanted, on average"), Value: mean},
		{Name: say.T("give or take"), Value: sd},
		{
			Name:    say.T("One more brings"),
			Formula: say.T("chance that it is wanted × %.4g × %.4g + %.4g × %.4g − %.4g", worth, in.Usable, in.Salvage, in.Usable, in.Cost),
			Value:   adds(s.Grow),
		},
		{Name: say.T("Sold, on average"), Formula: say.T("chance that each is wanted and can be sold, added up"), Value: s.Sold},
		{Name: say.T("What it brings"), Formula: say.T("%.4g × %.4g + %.4g × %.4g − %.4g × %d − %.4g × %.4g",
			in.Price, s.Sold, in.Salvage, s.Left, in.Cost, s.Grow, in.MissedCost, s.Missed), Value: s.Result},
	}
	return s, nil
}
