package sim

import (
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
)

// Water in balance with the carbon dioxide of air is at pH 5.6, and of an alkalinity of 2 meq/L at
// about 8.3 to 8.5 (Stumm and Morgan 1996); a litre of that takes 2 meq of acid to pH 4.5.
func TestPHIsThatOfTextbooks(t *testing.T) {
	inAir := func(alkalinity float64) float64 {
		x := Tank{L: 1, HoldsL: 2, alkalinity: alkalinity}
		for range 2000 {
			x.breathe(henry * 4.2e-4 * 1000)
		}
		return x.PH()
	}
	require.InDelta(t, 5.6, inAir(0), 0.05)
	require.InDelta(t, 8.45, inAir(2), 0.2)
	x := Tank{L: 1, HoldsL: 2, alkalinity: 2, carbon: 2.05}
	require.InDelta(t, 8, x.PH(), 0.3)
	x.Acid(2, 0, 0)
	require.InDelta(t, 4.5, x.PH(), 0.2)
	buffered := Tank{L: 1, HoldsL: 2, phosphate: 1, alkalinity: 0.5}
	require.InDelta(t, 7.2, buffered.PH(), 0.05, "half of the phosphate is its second ion at its pK")
}

// The sun above the air at 52° N gives 41.6 MJ/m² at midsummer and 6.3 at midwinter (FAO-56, equation 21),
// and a summer's day of short, wet grass gives off 4 to 5.5 mm.
func TestSunAndWaterAreThoseOfTables(t *testing.T) {
	mj := func(doy float64) (out float64) {
		for h := range 24 {
			out += extraterrestrial(52, doy, float64(h)+0.5) * 3600e-6
		}
		return out
	}
	require.InDelta(t, 41.6, mj(172), 0.6)
	require.InDelta(t, 6.3, mj(355), 0.3)
	sum := 0.0
	for h := range 24 { // 14 to 24 °C, half of the sun, 2 m/s
		c := 19 + 5*math.Cos(2*math.Pi*(float64(h)-15)/24)
		sum += air{c: c, sunWM2: 0.55 * extraterrestrial(52, 172, float64(h)+0.5), vpdKPa: saturation(c) - saturation(13), windMS: 2}.drawn(2.9)
	}
	require.Greater(t, sum, 3.8)
	require.Less(t, sum, 6.0)
}

// A year of weather has the mean and the swing of its climate, and days that resemble those before.
func TestWeatherIsThatOfItsClimate(t *testing.T) {
	mean, lag, spread := 0.0, 0.0, 0.0
	const years, days = 12, 365
	for seed := range uint64(years) {
		w := NewWeather(seed, Temperate, calendar.Date(2027, 1, 1), days)
		var off []float64
		for d := range days {
			sum := 0.0
			for h := range 24 {
				sum += w.At(d*24+h).C / 24
			}
			mean += sum / days / years
			off = append(off, sum-Temperate.MeanC+Temperate.SwingC*math.Cos(2*math.Pi*float64(d+1-Temperate.Coldest)/365))
		}
		for i := 1; i < days; i++ {
			lag, spread = lag+off[i]*off[i-1], spread+off[i]*off[i]
		}
	}
	require.InDelta(t, Temperate.MeanC, mean, 0.6)
	require.InDelta(t, Temperate.Memory, lag/spread, 0.08)
}

// Half of a sowing is up after its degree-days; a poor packet gives fewer and later.
func TestSeedComesUpByThermalTime(t *testing.T) {
	half := func(c, share, slow float64) (days, came float64) {
		s := NewSchool(Setting{Seed: 4, From: calendar.Date(2027, 2, 1), Climate: Climate{LatitudeDeg: 52, MeanC: 8}})
		tray := s.AddTray("a", s.AddRoom(Room{HeatC: c, VentC: c, Transmits: 0.6}), 400, 40)
		lot := &Lot{Species: Kinds["lettuce"], germinates: share, slow: slow}
		b, err := s.Sow("lettuce", lot, tray, tray.Spots, 1)
		require.NoError(t, err)
		for d := range 60 {
			s.Water(tray, 0.06*tray.holdsML())
			s.Pass(24)
			if up := upOf(b); days == 0 && float64(up) >= share*200 {
				days = float64(d + 1)
			}
		}
		return days, float64(upOf(b)) / 400
	}
	warm, came := half(18, 0.9, 1)
	require.InDelta(t, Kinds["lettuce"].EmergeCDays/(18-Kinds["lettuce"].EmergeBaseC), warm, 1.2)
	require.InDelta(t, 0.9, came, 0.06)
	cool, _ := half(10.6, 0.9, 1)
	require.InDelta(t, 2, cool/warm, 0.35, "half as far above the base: twice as long")
	late, few := half(18, 0.5, 1.3)
	require.Greater(t, late, warm)
	require.InDelta(t, 0.5, few, 0.08)
}

func upOf(b *Batch) (n int) {
	for _, p := range b.Plants {
		if p.Up() {
			n++
		}
	}
	return n
}

// Growth is first exponential and then, once the canopy closes, by the light that it takes up
// (Goudriaan and Monteith 1990); twice the pot gives about 43 % more (Poorter 2012); plants of one
// sowing vary by a sixth to a third.
func TestPlantsGrowAsPublished(t *testing.T) {
	weigh := func(mol, c, litres float64, days int) (g []float64) {
		s := NewSchool(Setting{Seed: 9, From: calendar.Date(2027, 3, 1), Climate: Temperate})
		b := &Batch{School: s, Species: Kinds["lettuce"]}
		luck := ChanceOf(1, "v")
		for i := range 60 {
			p := &Plant{Batch: b, dry: b.Species.SeedlingG, vigour: luck.Spread(0.16), hurry: 1, number: i}
			for d := range days {
				per := 400.0
				if d > 20 {
					per = 30
				}
				p.day(sums{mol: mol, c: c}, plot{perM2: per, litres: litres, fed: 1}, d)
			}
			g = append(g, p.FreshG())
		}
		slices.Sort(g)
		return g
	}
	mid := func(g []float64) float64 { return g[len(g)/2] }
	full := weigh(15, 20, 0, 42)
	require.Greater(t, mid(full), 110.0, "a head in six weeks of good light")
	require.Less(t, mid(full), 330.0)
	require.InDelta(t, 1.35, full[50]/full[10], 0.35, "from the sixth of the plants to the sixth from the top")
	require.Less(t, mid(weigh(6, 20, 0, 42)), 0.55*mid(full))
	require.Less(t, mid(weigh(15, 10, 0, 42)), 0.6*mid(full))
	require.InDelta(t, 1.43, mid(weigh(15, 20, 0.2, 60))/mid(weigh(15, 20, 0.1, 60)), 0.25)
}

// What is wet damps off, what dries dies, cold kills what is not hard to it, and a plant that never
// was outside suffers more when it is set out on a dry day.
func TestWhatHarmsHarms(t *testing.T) {
	tray := func(wet float64, days int) (lost int) {
		s := NewSchool(Setting{Seed: 2, From: calendar.Date(2027, 4, 1), Climate: Temperate})
		x := s.AddTray("a", s.AddRoom(Room{HeatC: 18, Transmits: 0.6}), 200, 40)
		_, err := s.Sow("lettuce", &Lot{Species: Kinds["lettuce"], germinates: 0.95, slow: 1}, x, x.Spots, 1)
		require.NoError(t, err)
		for d := range days {
			if d < 8 {
				x.wet = 0.7
			} else if wet > 0 {
				x.wet = wet
			}
			s.Pass(24)
		}
		return len(s.Losses)
	}
	soaked, right, dry := tray(1, 25), tray(0.7, 25), tray(0, 25)
	require.Greater(t, soaked, 8)
	require.Less(t, right, soaked/3)
	require.Greater(t, dry, 100)
	k := Kinds["kale"]
	frost := func(hardy float64) (n int) {
		s := NewSchool(Setting{Seed: 3, From: calendar.Date(2027, 3, 1), Climate: Temperate})
		b := &Batch{School: s, Species: k}
		for i := range 200 {
			p := &Plant{Batch: b, number: i, hardy: hardy}
			if p.night(-6, 100); p.Dead {
				n++
			}
		}
		return n
	}
	require.Greater(t, frost(0), 180)
	require.Less(t, frost(1), 5)
	p := &Plant{Batch: &Batch{Species: k}}
	for range 12 {
		p.harden(sums{c: 8}, 1)
	}
	require.Greater(t, p.hardy, 0.75, "within two weeks")
}

// A tank left alone rises in pH as plants take nitrate and carbon dioxide leaves; it is drawn down
// faster by bigger plants and more sun.
func TestTankRunsByItself(t *testing.T) {
	s := NewSchool(Setting{Seed: 5, From: calendar.Date(2027, 4, 1), Climate: Temperate})
	r := s.AddRoom(Room{HeatC: 16, Transmits: 0.65})
	tank := s.AddTank(Tank{Name: "t", HoldsL: 60, DryL: 12, Water: Water{Alkalinity: 1.2, Salts: 3, Carbon: 1.3}}, 1.2)
	tank.Acid(1.0*tank.L, 0, 0)
	b := &Batch{School: s, Name: "x", Species: Kinds["lettuce"]}
	s.Batches = append(s.Batches, b)
	for i := range 24 {
		p := &Plant{Batch: b, dry: 2, vigour: 1, hurry: 1, number: i}
		b.Plants = append(b.Plants, p)
		p.Where = s.AddSpot(Spot{Room: r, Tank: tank, PerM2: 25, Plants: []*Plant{p}})
		tank.Plants = append(tank.Plants, p)
	}
	ph, ec, l := tank.PH(), tank.ECMS(), tank.L
	require.InDelta(t, 1.2, ec, 0.01)
	s.Pass(3 * 24)
	require.Greater(t, tank.PH(), ph)
	require.Less(t, tank.L, l-2, "two dozen of half grown heads in April")
	require.Greater(t, tank.L, l-25)
	require.Empty(t, s.Losses)
	s.Pass(40 * 24)
	require.NotEmpty(t, s.Losses, "nobody came")
}

// The same seed is the same season, another is another.
func TestASeasonIsItsSeed(t *testing.T) {
	run := func(seed uint64) []float64 {
		s := NewSchool(Setting{Seed: seed, From: calendar.Date(2027, 1, 4), Climate: Temperate})
		tray := s.AddTray("tray", s.AddRoom(Room{HeatC: 17, Transmits: 0.6}), 40, 40)
		b, err := s.Sow("basil", s.Lot("basil", 0.9), tray, s.Free(tray), 2)
		require.NoError(t, err)
		for range 30 {
			s.Water(tray, 80)
			s.Pass(24)
		}
		var out []float64
		for _, p := range s.Alive(b) {
			out = append(out, p.FreshG())
		}
		return out
	}
	require.Equal(t, run(1), run(1))
	require.NotEqual(t, run(1), run(2))
}

// BenchmarkYear is a school-year with 300 batches and 20 tanks.
func BenchmarkYear(b *testing.B) {
	for range b.N {
		s := NewSchool(Setting{Seed: 1, From: calendar.Date(2027, 1, 4), Climate: Temperate, Days: 365})
		r := s.AddRoom(Room{HeatC: 17, Transmits: 0.6})
		var tanks []*Tank
		for i := range 20 {
			tanks = append(tanks, s.AddTank(Tank{Name: string(rune('a' + i)), HoldsL: 100, DryL: 20, Water: Water{1, 3, 1}}, 1.2))
		}
		lot := s.Lot("lettuce", 0.9)
		var grown []*Batch
		for d := range 364 {
			if s.Day().Weekday() == time.Monday || d%2 == 0 {
				tray := s.AddTray("t", r, 30, 40)
				if x, err := s.Sow("lettuce", lot, tray, tray.Spots, 2); err == nil {
					grown = append(grown, x)
				}
			}
			for _, t := range s.trays {
				if t.wet < 0.5 {
					s.Water(t, t.holdsML()/2)
				}
			}
			for _, x := range grown {
				if int(s.Day()-x.Sown) == 30 {
					for i, p := range s.Alive(x) {
						_ = s.Move(p, s.AddSpot(Spot{Room: r, Tank: tanks[i%20], PerM2: 25}), true)
					}
				}
				if int(s.Day()-x.Sown) == 60 {
					for _, p := range s.Alive(x) {
						s.Take(p)
					}
				}
			}
			for _, t := range tanks {
				t.Pour(t.HoldsL*0.9 - t.L)
			}
			s.Pass(24)
		}
		b.ReportMetric(float64(len(grown)), "batches")
	}
}
