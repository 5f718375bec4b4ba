package sim

// Species is what a kind of plant is by nature.
type Species struct {
	ID string
	// Emergence: nothing below BaseC or above CeilingC, fastest from BestC to FlatC; so many
	// degree-days for half of the seeds, whose logarithm spreads.
	EmergeBaseC, EmergeBestC, EmergeFlatC, EmergeCeilingC, EmergeCDays, EmergeSpread float64
	// Growth: grams of dry matter from a mol of light, leaf from a gram, dry share of the fresh;
	// as fast as it can between two temperatures.
	UseG, LeafM2G, DryShare, SeedlingG float64
	BaseC, BestC, FlatC, CeilingC      float64
	LeafCDays                          float64 // from leaf to leaf, above BaseC
	FullG                              float64 // fresh, at which it stops growing
	FreshLT50, HardLT50                float64 // half of them die: not used to cold, and as hardened as they get
	ChillC                             float64 // below it a night harms without frost
	Tough                              float64 // how well it bears to be set out, 1 usual
	Cuts                               bool    // grows again after a cut
	PlugLeaves, PlugMostG              float64 // fit to set out from so many leaves, and not above so many grams fresh in a plug
	Bought                             float64 // what a grower would call a good share of seeds
}

// Kinds are the species that grow in a season trial.
var Kinds = map[string]*Species{
	"lettuce": {
		ID: "lettuce", EmergeBaseC: 3.2, EmergeBestC: 20, EmergeFlatC: 24, EmergeCeilingC: 31, EmergeCDays: 56, EmergeSpread: 0.20,
		UseG: 0.92, LeafM2G: 0.05, DryShare: 0.045, SeedlingG: 0.0016, BaseC: 3.5, BestC: 19, FlatC: 25, CeilingC: 36, LeafCDays: 48, FullG: 420,
		FreshLT50: -2.5, HardLT50: -7, ChillC: -20, Tough: 0.9, PlugLeaves: 3.2, PlugMostG: 14, Bought: 0.94,
	},
	"basil": {
		ID: "basil", EmergeBaseC: 10.5, EmergeBestC: 26, EmergeFlatC: 31, EmergeCeilingC: 38, EmergeCDays: 52, EmergeSpread: 0.24,
		UseG: 0.85, LeafM2G: 0.042, DryShare: 0.09, SeedlingG: 0.0014, BaseC: 10, BestC: 25, FlatC: 30, CeilingC: 40, LeafCDays: 34, FullG: 160,
		FreshLT50: 0, HardLT50: -0.8, ChillC: 6, Tough: 0.75, Cuts: true, PlugLeaves: 3.5, PlugMostG: 10, Bought: 0.86,
	},
	"tomato": {
		ID: "tomato", EmergeBaseC: 8.7, EmergeBestC: 27, EmergeFlatC: 30, EmergeCeilingC: 36, EmergeCDays: 90, EmergeSpread: 0.18,
		UseG: 1.05, LeafM2G: 0.032, DryShare: 0.09, SeedlingG: 0.004, BaseC: 7, BestC: 23, FlatC: 28, CeilingC: 38, LeafCDays: 42, FullG: 4000,
		FreshLT50: -0.8, HardLT50: -2, ChillC: 4, Tough: 1, PlugLeaves: 5, PlugMostG: 75, Bought: 0.9,
	},
	"marigold": {
		ID: "marigold", EmergeBaseC: 6, EmergeBestC: 24, EmergeFlatC: 28, EmergeCeilingC: 36, EmergeCDays: 64, EmergeSpread: 0.2,
		UseG: 0.9, LeafM2G: 0.036, DryShare: 0.1, SeedlingG: 0.003, BaseC: 6, BestC: 21, FlatC: 27, CeilingC: 37, LeafCDays: 45, FullG: 350,
		FreshLT50: -1, HardLT50: -2.5, ChillC: 2, Tough: 1.1, PlugLeaves: 4, PlugMostG: 50, Bought: 0.88,
	},
	"chard": {
		ID: "chard", EmergeBaseC: 3.5, EmergeBestC: 24, EmergeFlatC: 28, EmergeCeilingC: 36, EmergeCDays: 92, EmergeSpread: 0.27,
		UseG: 1, LeafM2G: 0.04, DryShare: 0.07, SeedlingG: 0.005, BaseC: 4, BestC: 20, FlatC: 26, CeilingC: 37, LeafCDays: 58, FullG: 900,
		FreshLT50: -3, HardLT50: -8, ChillC: -20, Tough: 1.1, Cuts: true, PlugLeaves: 3.2, PlugMostG: 45, Bought: 0.8,
	},
	"kale": {
		ID: "kale", EmergeBaseC: 2.8, EmergeBestC: 24, EmergeFlatC: 29, EmergeCeilingC: 37, EmergeCDays: 62, EmergeSpread: 0.18,
		UseG: 1, LeafM2G: 0.036, DryShare: 0.09, SeedlingG: 0.003, BaseC: 3, BestC: 19, FlatC: 25, CeilingC: 36, LeafCDays: 52, FullG: 1500,
		FreshLT50: -4, HardLT50: -12, ChillC: -20, Tough: 1.2, Cuts: true, PlugLeaves: 3.2, PlugMostG: 45, Bought: 0.92,
	},
}

// pace is a share of the fastest, between base and ceiling.
func pace(c, base, best, flat, ceiling float64) float64 {
	return max(0, min(1, (c-base)/(best-base), (ceiling-c)/(ceiling-flat)))
}

// emerging are the degree-days towards emergence in an hour at a temperature of the medium.
func (k *Species) emerging(c float64) float64 {
	return pace(c, k.EmergeBaseC, k.EmergeBestC, k.EmergeFlatC, k.EmergeCeilingC) * (k.EmergeBestC - k.EmergeBaseC) / 24
}

// growing is how fast it grows at a temperature, as a share of the fastest.
func (k *Species) growing(c float64) float64 { return pace(c, k.BaseC, k.BestC, k.FlatC, k.CeilingC) }

// Lot is a packet: what its label says, and what is true of it.
type Lot struct {
	Species    *Species
	Label      float64 // the share that the label says germinates
	germinates float64 // and the one that does
	slow       float64 // how much longer its seeds take, 1 as usual
}

// Lot is a packet of the school, by its name: usually somewhat worse than its label, and some
// are old, slow and poor.
func (s *School) Lot(species string, label float64, name ...any) *Lot {
	k := Kinds[species]
	luck := ChanceOf(s.Seed, append([]any{"lot", species}, name...)...)
	l := &Lot{Species: k, Label: label, slow: luck.Spread(0.1)}
	l.germinates = luck.Share(0.95*label, 40)
	if luck.Happens(s.PoorLots) {
		l.germinates, l.slow = l.germinates*luck.Share(0.55, 10), l.slow*1.25
	}
	return l
}
