package chemistry

import (
	"fmt"
	"math"
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
	"ulpa/core/zero"
)

// Event is one line of a tank's history since its water was last changed: a reading,
// or a dose of acid or alkali.
type Event struct {
	Minute float64
	PH     float64 // of a reading
	Error  float64 // its standard error
	Dose   Product // of a dose: what, and how much of it
	Amount float64 // mL of a liquid, g of a solid; 0 for a reading
}

// Prior is what is thought of the alkalinity at the first reading, by one of three ways.
type Prior struct {
	AlkalinityMgL   float64 // a tested water, as CaCO3; 0: not this way
	Factor          float64 // its spread: ln alkalinity has the standard deviation ln Factor
	CO2Low, CO2High float64 // ppm: the water stands in balance with air that holds so much
	Doubt           float64 // chance that none of it is so, and nothing is known
}

// How the carbon dioxide of a tank's air is usually bounded, ppm, once it has stood or
// run for a day: starting values, which a school's own doses correct.
const (
	TowerCO2Low, TowerCO2High = 1000, 5000
	JarCO2Low, JarCO2High     = 5000, 20000
)

// LearnInput is what LearnDose needs: litres, pH, mg/L, mS/cm, °C, minutes.
type LearnInput struct {
	VolumeL       float64
	PHTarget      float64
	PHFloor       float64 // no more than 1 in 20 may end below; for a base, a ceiling
	PHHigh        float64 // top of the band; for a base, its bottom
	PhosphorusMgL float64
	ECMScm        float64
	TemperatureC  float64
	History       []Event // in order; the first is a reading
	NowMinute     float64
	MixingMinutes float64
	GasHalfLifeH  float64 // 0: the gas stays in
	ForecastError float64
	Next          Product
	Prior         Prior
	LastRisk      float64 // chance allowed to end past what hurts roots; 0: 1 in 100
	Least, Most   float64 // mg/L as CaCO3 between which doubt thinks; 0: between 1 and 400
	FirstShare    float64 // of what is safe by the label, that a first dose may be; doubled by every bit told; 0: all
	Settle        bool    // whether to say where the pH goes as the gas leaves
	AirPPM        float64 // of carbon dioxide, which the water comes to balance with; 0: what it held at the first reading
}

// LearnAdvice is what LearnDose says.
type LearnAdvice string

// Wait for the last dose to mix; read before anything is said; read again, for the
// readings do not fit or nothing may be dosed; leave it alone; or dose.
const (
	LearnWait      LearnAdvice = "wait"
	LearnReadFirst LearnAdvice = "read_first"
	LearnReadAgain LearnAdvice = "read_again"
	LearnLeave     LearnAdvice = "leave"
	LearnDosing    LearnAdvice = "dose"
)

// Band is where something lies: the values with chances of 0.05, 0.5 and 0.95 to be below.
type Band struct{ P5, P50, P95 float64 }

// Learned is the answer. A figure that the advice has no use for is nil.
type Learned struct {
	Advice                          LearnAdvice
	WaitMinutes                     *float64
	Amount, Need, Cap               *float64 // mL or g
	Unit                            string   // "ml" or "g"
	LimitedBy                       string   // half, rest, floor or first; "" unless it is to be dosed
	ChanceBelowFloor, ChanceBelow5  *float64 // after Amount; for a base, above the ceiling and above 7.5
	ForecastPH                      *Band    // after Amount
	AddsMgL                         map[string]float64
	PHFloor                         float64
	PHNow                           Band
	Settled                         *Band   // the pH once the gas has left, or come, if nothing more is dosed; nil: not asked
	ChanceAboveTarget, ChanceBeyond float64 // of the pH now: above the target, above the band; for a base, below
	Alkalinity                      Band    // at the first reading, mg/L as CaCO3
	AlkalinityMean, AlkalinityNow   float64
	InformationBits                 float64
	Learned, Misfit                 bool
	Used                            []int // which of the history
	Cautions                        []say.Text
	Steps                           []working.Step
}

const (
	mayPassFloor = 0.05 // chance allowed to end below the floor
	mayPassLast  = 0.01 // and below what hurts roots
	LastFloor    = 5.0
	LastCeiling  = 7.5
	StaleMinutes = 360
	enoughBits   = 0.05
)

// LearnDose answers what the doses so far say about a water, and the next dose that
// cannot hurt. Alkalinity and the first true pH are unknown; each pair of them on a
// grid is run through the history by the charge balance of PHAdjust, and weighed by
// how well it forecast the readings (Bayes). Of an acid no more is advised than leaves
// a chance of 1 in 20 to end below the floor and 1 in 100 below pH 5; at first half the
// mean need, all of it once the readings have told something. With a base everything is
// mirrored: the floor is a ceiling. It refuses with field.Errors.
func LearnDose(in LearnInput) (Learned, error) {
	if err := in.check(); err != nil {
		return Learned{}, err
	}
	f := Agents[in.Next.Agent]
	m := NewMedium(in.ECMScm, in.TemperatureC)
	prior := in.prior(m)
	c := newCloud(m, in.PhosphorusMgL/1000/WP, in.History[0], prior)
	out := Learned{Unit: in.Next.unit(), PHFloor: in.PHFloor, Cautions: cautions(in.Next.Agent), Used: in.used()}
	c.live(in, out.Used)
	best, ofX := c.settle()
	out.Misfit = in.misfit(m, best, out.Used)
	out.tellAlkalinity(c, in.weakest(), ofX, prior)
	now := c.forecast(f, in.ForecastError)
	out.PHNow = now.band()
	if in.Settle {
		out.Settled = new(c.inAir(in.AirPPM, in.ForecastError))
	}
	out.ChanceAboveTarget, out.ChanceBeyond = now.past(in.PHTarget), now.past(in.PHHigh)
	perMolL := in.Next.PerMolL(in.VolumeL)
	rest, charge, perMole := c.m.Sid(in.PHTarget, c.shared), c.m.CarbonateCharge(in.PHTarget), f.perMole(&c.m, in.PHTarget, false)
	need := c.mean(func(p *point) float64 { return max(0, (rest+p.carbon*charge-p.sid)/perMole) })
	out.advise(in, now, need*perMolL, perMolL)
	out.Steps = in.workingOf(out)
	return out, nil
}

// past is the chance that the pH is still on the side that the agent corrects: above q
// for an acid, below for a base.
func (x *forecast) past(q float64) float64 {
	if x.f.acid {
		return 1 - x.below(q)
	}
	return x.below(q)
}

func (p Product) unit() string {
	if p.DensityGML > 0 {
		return "ml"
	}
	return "g"
}

// PerMolL is the mL or g that bring a mole a litre into a volume.
func (p Product) PerMolL(volumeL float64) float64 {
	grams := volumeL * Agents[p.Agent].molarMass / (p.StrengthPercent / 100)
	if p.DensityGML > 0 {
		return grams / p.DensityGML
	}
	return grams
}

// weakest is the first step of the grid that is thought of.
func (in LearnInput) weakest() int {
	if in.Least > 0 {
		return 0
	}
	return weakest
}

// doubtful are the steps of the grid between which doubt thinks, the last one not among them.
func (in LearnInput) doubtful() (from, to int) {
	from, to = in.weakest(), alkalinities
	if in.Least > 0 {
		from = stepOf(in.Least)
	}
	if in.Most > in.Least {
		to = max(from, stepOf(in.Most)) + 1
	}
	return from, to
}

// prior is the logarithm of the weight of each alkalinity before any dose.
func (in LearnInput) prior(m Medium) (out [alkalinities]float64) {
	mean, sd := in.Prior.Normal(m, in.History[0].PH)
	from := in.weakest()
	doubtFrom, doubtTo := in.doubtful()
	mean, sd = min(max(mean, lnAlkalinity(from)), math.Log(400)), max(sd, 0.05)
	sum := 0.0
	for x := from; x < alkalinities; x++ {
		if !math.IsInf(sd, 1) {
			off := (lnAlkalinity(x) - mean) / sd
			out[x] = -off * off / 2
		}
		sum += math.Exp(out[x])
	}
	for x := range out {
		if x < from {
			out[x] = math.Inf(-1)
			continue
		}
		out[x] -= math.Log(sum)
		if d := in.Prior.Doubt; d > 0 {
			flat := 0.0
			if x >= doubtFrom && x < doubtTo {
				flat = d / float64(doubtTo-doubtFrom)
			}
			out[x] = math.Log((1-d)*math.Exp(out[x]) + flat)
		}
	}
	return out
}

// Normal is the mean of ln alkalinity and its standard deviation, which is infinite
// when nothing is known; by the air, at the pH first read.
func (p Prior) Normal(m Medium, ph float64) (mean, sd float64) {
	switch {
	case p.AlkalinityMgL > 0:
		return math.Log(p.AlkalinityMgL), math.Log(p.Factor)
	case p.CO2High > 0:
		low, high := math.Log(m.InAir(ph, p.CO2Low)), math.Log(m.InAir(ph, p.CO2High))
		return (low + high) / 2, (high - low) / 2
	}
	return 0, math.Inf(1)
}

// InAir is the alkalinity, mg/L as CaCO3, of water that stands at a pH in balance with
// air of so much carbon dioxide.
func (m Medium) InAir(ph, ppm float64) float64 {
	return MgCaCO3PerEq * (ppm*1e-6*m.Henry*carriedByCO2(m, ph) + m.Hydroxide(ph))
}

// carriedByCO2 is the charge that stands beside a mole of free carbon dioxide.
func carriedByCO2(m Medium, ph float64) float64 {
	h := activity(ph)
	return m.bi/h + 2*m.carb/(h*h)
}

// used are the readings that count: those of water that had mixed.
func (in LearnInput) used() (used []int) {
	dosed := math.Inf(-1)
	for i, e := range in.History {
		if e.Amount > 0 {
			dosed = e.Minute
		} else if e.Minute-dosed >= in.MixingMinutes {
			used = append(used, i)
		}
	}
	return used
}

// live runs the points through the history, weighs them by the used readings after
// the first, and brings them to now.
func (c *cloud) live(in LearnInput, used []int) {
	c.replay(in, func(i int, e Event) {
		if i > 0 && slices.Contains(used, i) {
			c.read(e.PH, e.Error)
		}
	})
}

func (c *cloud) replay(in LearnInput, read func(int, Event)) {
	at := in.History[0].Minute
	for i, e := range in.History {
		c.air((e.Minute-at)/60, in.GasHalfLifeH)
		at = e.Minute
		if e.Amount > 0 {
			c.dose(Agents[e.Dose.Agent], e.Amount/e.Dose.PerMolL(in.VolumeL))
		} else {
			read(i, e)
		}
	}
	c.air((in.NowMinute-at)/60, in.GasHalfLifeH)
}

// misfit tells whether even the heaviest point lies far from a reading that counts.
func (in LearnInput) misfit(m Medium, best point, used []int) (far bool) {
	c := newCloud(m, in.PhosphorusMgL/1000/WP, in.History[0], [alkalinities]float64{})
	c.points = []point{c.points[best.z*alkalinities+best.x]} // of all, the weakest too
	c.replay(in, func(i int, e Event) {
		far = far || slices.Contains(used, i) && math.Abs(c.points[0].ph-e.PH) > (3+1e-6)*e.Error
	})
	return far
}

func (out *Learned) tellAlkalinity(c *cloud, from int, ofX, prior [alkalinities]float64) {
	out.Alkalinity = Band{quantileOfX(ofX, from, 0.05), quantileOfX(ofX, from, 0.5), quantileOfX(ofX, from, 0.95)}
	mean := 0.0
	for x, w := range ofX {
		mean += w * lnAlkalinity(x)
		if w > 0 {
			out.InformationBits += w * (math.Log2(w) - prior[x]/math.Ln2)
		}
	}
	out.AlkalinityMean = math.Exp(mean)
	out.Learned = out.InformationBits >= enoughBits
	out.AlkalinityNow = c.mean(func(p *point) float64 {
		h := activity(p.ph)
		return MgCaCO3PerEq * (p.carbon*acidOf(h, [3]float64{c.m.bi, c.m.carb}).charge + c.m.water/h)
	})
}

// advise decides, and works out what follows from it.
func (out *Learned) advise(in LearnInput, now *forecast, need, perMolL float64) {
	dosed := math.Inf(-1)
	last := -1
	for i, e := range in.History {
		if e.Amount > 0 {
			dosed, last = e.Minute, i
		}
	}
	read := out.Used[len(out.Used)-1]
	switch wait := in.MixingMinutes - (in.NowMinute - dosed); {
	case wait > 0:
		out.Advice, out.WaitMinutes = LearnWait, &wait
		return
	case read < last || in.NowMinute-in.History[read].Minute > StaleMinutes:
		out.Advice = LearnReadFirst
		return
	case out.Misfit:
		out.Advice = LearnReadAgain
		return
	}
	most := now.most(in, need/perMolL) * perMolL
	out.Need, out.Cap = &need, &most
	amount := 0.0
	switch {
	case out.ChanceAboveTarget < 0.8 || out.ChanceBeyond < 0.5:
		out.Advice = LearnLeave
	case most == 0:
		out.Advice = LearnReadAgain
		return
	default:
		out.Advice, amount, out.LimitedBy = LearnDosing, need/2, "half"
		if out.Learned {
			amount, out.LimitedBy = need, "rest"
		}
		if most < amount {
			amount, out.LimitedBy = most, "floor"
		}
		if first := in.FirstShare * most * math.Exp2(out.InformationBits); first > 0 && first < amount {
			amount, out.LimitedBy = first, "first"
		}
	}
	now.after(amount / perMolL)
	floor, five, band := now.beyond(in.PHFloor), now.beyond(lastOf(in.Next.Agent)), now.band()
	out.Amount, out.ChanceBelowFloor, out.ChanceBelow5, out.ForecastPH = &amount, &floor, &five, &band
	out.AddsMgL = map[string]float64{}
	if now.f.Brings != "" {
		out.AddsMgL[now.f.Brings] = amount / perMolL * now.f.BringsG * 1000
	}
}

// beyond is the chance of a pH past q on the side that the agent moves to.
func (x *forecast) beyond(q float64) float64 {
	if x.f.acid {
		return x.below(q)
	}
	return 1 - x.below(q)
}

func (in LearnInput) mayPassLast() float64 {
	if in.LastRisk > 0 {
		return in.LastRisk
	}
	return mayPassLast
}

// most is the largest dose, mol/L, that keeps both chances.
func (x *forecast) most(in LearnInput, need float64) float64 {
	last := in.mayPassLast()
	over := func(molL float64) float64 {
		x.after(molL)
		return max(x.beyond(in.PHFloor)-mayPassFloor, (x.beyond(lastOf(in.Next.Agent))-last)*(mayPassFloor/last))
	}
	if over(0) > 0 {
		return 0
	}
	first := max(need/4, 1e-7)
	most, _ := zero.Above(0, first, 1e3, first*1e-6, over)
	return most
}

func (in LearnInput) check() error {
	var e field.Errors
	f, known := Agents[in.Next.Agent]
	e.Require(known, "next.agent", "must be nitric_acid, sulfuric_acid, phosphoric_acid or citric_acid")
	e.Require(in.VolumeL > 0 && in.VolumeL <= 1e7, "volume_l", "must be above 0, up to 10,000,000 litres")
	if !known {
		return e.Err()
	}
	e.Require(in.PHTarget >= 5.2 && in.PHTarget <= 8.5, "ph_target", "must be a pH from 5.2 to 8.5")
	if f.acid {
		e.Require(in.PHFloor >= LastFloor && in.PHFloor < in.PHTarget, "ph_floor", "must be a pH from 5.0 to below the target")
		e.Require(in.PHHigh > in.PHTarget && in.PHHigh <= 10, "ph_high", "must be a pH above the target, up to 10")
	} else {
		e.Require(in.PHFloor > in.PHTarget && in.PHFloor <= 10, "ph_ceiling", "must be a pH above the target, up to 10")
		e.Require(in.PHHigh >= 3 && in.PHHigh < in.PHTarget, "ph_low", "must be a pH below the target")
	}
	e.Require(in.PhosphorusMgL >= 0 && in.PhosphorusMgL <= 10000, "phosphorus_mg_l", "must be 0 to 10,000 mg/L")
	e.Require(in.ECMScm >= 0 && in.ECMScm <= 20, "ec_ms_cm", "must be 0 to 20 mS/cm")
	e.Require(in.TemperatureC >= 0 && in.TemperatureC <= 50, "temperature_c", "must be 0 to 50 °C")
	e.Require(in.MixingMinutes >= 5 && in.MixingMinutes <= 240, "mixing_minutes", "must be 5 to 240 minutes")
	e.Require(in.GasHalfLifeH == 0 || in.GasHalfLifeH >= 0.1 && in.GasHalfLifeH <= 1000, "gas_half_life_h", "must be 0.1 to 1,000 hours")
	e.Require(in.ForecastError >= 0.01 && in.ForecastError <= 0.5, "forecast_error", "must be 0.01 to 0.5")
	in.Next.check(&e, "next")
	in.Prior.check(&e)
	in.checkHistory(&e)
	return e.Err()
}

func (in LearnInput) checkHistory(e *field.Errors) {
	e.Require(len(in.History) >= 1 && len(in.History) <= 200, "history", "must be 1 to 200 readings and doses")
	if len(in.History) == 0 {
		return
	}
	e.Require(in.History[0].Amount == 0, "history.0", "is a dose: a history begins with a reading")
	before := 0.0
	for i, h := range in.History {
		at := fmt.Sprintf("history.%d", i)
		e.Require(h.Minute >= 0 && h.Minute <= 1e8, at+".minute", "must be 0 minutes or more")
		e.Require(h.Minute >= before, at+".minute", "must not be before the entry above it")
		before = max(before, h.Minute)
		if h.Amount != 0 {
			e.Require(h.Amount > 0 && h.Amount <= 1e9, at+".amount", "must be an amount above 0")
			_, known := Agents[h.Dose.Agent]
			e.Require(known, at+".agent", "must be one of the acids or alkalis")
			h.Dose.check(e, at)
			continue
		}
		e.Require(h.PH >= 3 && h.PH <= 10, at+".ph", "must be a pH from 3 to 10")
		e.Require(h.Error >= 0.02 && h.Error <= 1, at+".error", "must be 0.02 to 1")
	}
	e.Require(in.NowMinute >= before, "now_minute", "must not be before the last entry of the history")
}

func (p Product) check(e *field.Errors, at string) {
	e.Require(p.StrengthPercent > 0 && p.StrengthPercent <= 100, at+".strength_percent", "must be a mass percentage above 0, up to 100")
	e.Require(p.DensityGML == 0 || p.DensityGML >= 0.5 && p.DensityGML <= 3, at+".density_g_ml", "must be 0.5 to 3 g/mL")
}

func (p Prior) check(e *field.Errors) {
	e.Require(p.Doubt >= 0 && p.Doubt <= 1, "prior.doubt", "must be a share from 0 to 1")
	if p.AlkalinityMgL != 0 {
		e.Require(p.AlkalinityMgL >= 1 && p.AlkalinityMgL <= 400, "prior.alkalinity_mg_l_caco3", "must be 1 to 400 mg/L as CaCO3")
		e.Require(p.Factor >= 1.05 && p.Factor <= 20, "prior.factor", "must be 1.05 to 20")
	}
	if p.CO2Low != 0 || p.CO2High != 0 {
		e.Require(p.CO2Low >= 300 && p.CO2Low <= 100000, "prior.co2_ppm_low", "must be 300 to 100,000 ppm")
		e.Require(p.CO2High > p.CO2Low && p.CO2High <= 100000, "prior.co2_ppm_high", "must be more than the lower one, up to 100,000 ppm")
	}
}

func (in LearnInput) workingOf(a Learned) []working.Step {
	steps := []working.Step{
		{
			Name:    say.T("Alkalinity at the first reading"),
			Formula: say.T("nine in ten: %.3g to %.3g; by %d readings that count", a.Alkalinity.P5, a.Alkalinity.P95, len(a.Used)),
			Value:   a.Alkalinity.P50,
			Unit:    "mg/L",
			Source:  say.T("Bayes over a grid; charge balance, Plummer and Busenberg (1982), Davies activities"),
		},
		{Name: say.T("What the readings showed"), Formula: say.T("Σ posterior × log₂(posterior ÷ prior)"), Value: a.InformationBits, Unit: "bits"},
		{Name: say.T("pH now"), Formula: say.T("nine in ten: %.2f to %.2f", a.PHNow.P5, a.PHNow.P95), Value: a.PHNow.P50, Unit: "pH"},
	}
	if a.Need == nil {
		return steps
	}
	unit := map[string]string{"ml": "mL", "g": "g"}[a.Unit]
	steps = append(
		steps,
		working.Step{
			Name:    say.T("To the target"),
			Formula: say.T("mean over all points, to pH %.2f, the gas kept in", in.PHTarget),
			Value:   *a.Need,
			Unit:    unit,
		},
		working.Step{
			Name:    say.T("At most"),
			Formula: say.T("chance past pH %.2f at most 5 %%, past pH %.1f at most %.3g %%", in.PHFloor, lastOf(in.Next.Agent), 100*in.mayPassLast()),
			Value:   *a.Cap,
			Unit:    unit,
		},
	)
	if a.Amount != nil {
		steps = append(
			steps,
			working.Step{
				Name:    say.T("pH after the dose"),
				Formula: say.T("nine in ten: %.2f to %.2f", a.ForecastPH.P5, a.ForecastPH.P95),
				Value:   a.ForecastPH.P50,
				Unit:    "pH",
			},
		)
	}
	return steps
}

func lastOf(a Agent) float64 {
	if a.Acid() {
		return LastFloor
	}
	return LastCeiling
}
