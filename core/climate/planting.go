package climate

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// PlantingDay is one of the coming days, on which one could plant out.
type PlantingDay struct {
	Weather GrassInput // of which the place is taken from PlantingInput
	RainMM  float64
	Open    bool // somebody is there
}

// PlantingInput is what is to be planted out, and the weather of the coming days.
type PlantingInput struct {
	LatitudeDeg, AltitudeM float64
	LeafM2                 float64 // of a plant
	PlugML                 float64
	SafeC                  float64 // that it survives at night
	CanCut                 bool    // the kind may be cut back
	Plants                 *int
	Days                   []PlantingDay
}

// PlantingVerdict is what is thought of a day.
type PlantingVerdict string

// What can be said of a day, from worst to best but for Wait.
const (
	NobodyThere PlantingVerdict = "closed"
	TooCold     PlantingVerdict = "too_cold"
	GoodDay     PlantingVerdict = "good"
	WithCare    PlantingVerdict = "with_care"
	WaitOn      PlantingVerdict = "wait"
)

// JudgedDay is a day as it is judged.
type JudgedDay struct {
	Day                                 calendar.Day
	Verdict                             PlantingVerdict
	Score                               float64 // 0 to 100
	ET0MM, DemandML, EveningML, StoreML float64
	Ratio, ColdestC                     float64
	Measures                            []string
}

// Planting is which of the coming days is best; 0: none.
type Planting struct {
	Best   calendar.Day
	Days   []JudgedDay
	CarryL *float64 // of water; nil without a number of plants
	Steps  []working.Step
}

const (
	plugHolds   = 0.3 * 0.5 // share of a plug that is water it can give before the plant suffers
	eveningPart = 0.1       // of a day's draw falls between planting in the evening and rooting in
	wateringML  = 400       // poured round each plant
)

// BestPlantingDay judges each of the coming days: how much the air draws from a plant whose roots
// reach no farther than its plug, and how cold the first nights are. It refuses with field.Errors.
func BestPlantingDay(in PlantingInput) (Planting, error) {
	var e field.Errors
	e.Require(in.LatitudeDeg >= -65 && in.LatitudeDeg <= 65, "latitude_deg", "must be −65 to 65°")
	e.Require(in.AltitudeM >= -400 && in.AltitudeM <= 6000, "altitude_m", "must be −400 to 6,000 m")
	e.Require(in.LeafM2 > 0 && in.LeafM2 <= 1, "leaf_m2", "must be above 0, up to 1 m²")
	e.Require(in.PlugML > 0 && in.PlugML <= 1e6, "plug_ml", "must be above 0 mL")
	e.Require(in.SafeC >= -60 && in.SafeC <= 60, "safe_c", "must be −60 to 60 °C")
	e.Require(in.Plants == nil || *in.Plants >= 0 && *in.Plants <= 1e9, "plants", "must be 0 or more")
	e.Require(len(in.Days) >= 1 && len(in.Days) <= 16, "days", "must be 1 to 16 days")
	if err := e.Err(); err != nil {
		return Planting{}, err
	}
	var grass []Grass
	for i, d := range in.Days {
		at := fmt.Sprintf("days.%d.", i)
		e.Require(d.RainMM >= 0 && d.RainMM <= 2000, at+"rain_mm", "must be 0 to 2,000 mm")
		e.Require(i == 0 || d.Weather.Day == in.Days[i-1].Weather.Day+1, at+"date", "must be the day after the one before")
		d.Weather.LatitudeDeg, d.Weather.AltitudeM = in.LatitudeDeg, in.AltitudeM
		g, err := OfGrass(d.Weather)
		e.Join(field.Under(fmt.Sprintf("days.%d", i), err))
		grass = append(grass, g)
	}
	if err := e.Err(); err != nil {
		return Planting{}, err
	}
	out := Planting{}
	if in.Plants != nil {
		l := float64(*in.Plants) * (in.PlugML + wateringML) / 1000
		out.CarryL = &l
	}
	for i, d := range in.Days {
		x := JudgedDay{Day: d.Weather.Day, ET0MM: grass[i].MM, DemandML: grass[i].MM * in.LeafM2 * 1000, StoreML: in.PlugML * plugHolds, ColdestC: d.Weather.TMinC}
		rain := d.RainMM
		for j := i + 1; j < len(in.Days) && j <= i+2; j++ {
			x.ColdestC = min(x.ColdestC, in.Days[j].Weather.TMinC)
			if j == i+1 {
				rain += in.Days[j].RainMM
			}
		}
		x.EveningML = x.DemandML * eveningPart
		x.Ratio = x.EveningML / x.StoreML
		x.Score = min(100, max(0, 100-10*x.ET0MM-10*x.Ratio+min(10, rain)))
		x.judge(in, d.Open)
		out.Days = append(out.Days, x)
	}
	best := -1
	for _, want := range []PlantingVerdict{GoodDay, WithCare} {
		for i, x := range out.Days {
			if x.Verdict == want && (best < 0 || x.Score > out.Days[best].Score) {
				best = i
			}
		}
		if best >= 0 {
			out.Best = out.Days[best].Day
			break
		}
	}
	first := out.Days[max(0, best)]
	out.Steps = []working.Step{
		{Name: say.T("Drawn from short grass"), Formula: say.T("on %s", first.Day.Short()), Value: first.ET0MM, Unit: "mm", Source: fao56},
		{Name: say.T("A plant wants in that day"), Formula: say.T("%.4g × %.4g m² × 1000", first.ET0MM, in.LeafM2), Value: first.DemandML, Unit: "mL"},
		{Name: say.T("In the first evening"), Formula: say.T("a tenth of it"), Value: first.EveningML, Unit: "mL"},
		{Name: say.T("Its plug can give"), Formula: say.T("%.4g × 0.3 × 0.5", in.PlugML), Value: first.StoreML, Unit: "mL"},
	}
	return out, nil
}

func (x *JudgedDay) judge(in PlantingInput, open bool) {
	switch {
	case !open:
		x.Verdict = NobodyThere
	case x.ColdestC < in.SafeC:
		x.Verdict = TooCold
	case x.ET0MM <= 2 && x.Ratio <= 1:
		x.Verdict = GoodDay
	case x.ET0MM <= 4 && x.Ratio <= 2:
		x.Verdict, x.Measures = WithCare, []string{"shade", "water_again"}
	case x.ET0MM <= 4 && x.Ratio <= 3 && in.CanCut:
		x.Verdict, x.Measures = WithCare, []string{"shade", "water_again", "cut_a_third"}
	default:
		x.Verdict = WaitOn
	}
}
