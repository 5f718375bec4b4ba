package sim

import "slices"

// Jar is one that nobody pumps: roots drink from below and breathe above the water.
type Jar struct {
	Tank
	PlantIt *Plant
	AreaCM2 float64    // of its cross-section
	PotCM   float64    // the foot of the net pot over its bottom
	highs   [3]float64 // of the last days
	roots   float64    // cm that hang below the pot
	drowned float64    // days in which roots that breathe were under water
}

// AddJar adds a jar of so many litres, filled to the foot of its pot.
func (s *School) AddJar(name string, r *Room, holdsL, ecMS float64, w Water) *Jar {
	j := &Jar{Tank: Tank{Name: name, HoldsL: holdsL, DryL: 0.12 * holdsL, Water: w}, AreaCM2: holdsL * 1000 / 17, PotCM: 13.5}
	j.Tank.Pour(j.litres(j.PotCM))
	j.Feed(max(0, (ecMS*10-w.Salts)*j.L/UsualStock.FeedMeq*1000))
	s.jars = append(s.jars, j)
	return j
}

// litres is what it holds up to a height.
func (j *Jar) litres(cm float64) float64 { return cm * j.AreaCM2 / 1000 }

// Spot is the place in its lid.
func (j *Jar) Spot(r *Room) *Spot {
	return &Spot{Name: j.Name, Room: r, Jar: j, Tank: &j.Tank, PerM2: 16}
}

// LevelCM is how high its water is.
func (j *Jar) LevelCM() float64 { return j.L * 1000 / j.AreaCM2 }

// day is what a day did: roots follow the water down, and those that were in air for days drown
// when it is raised over them (Kratky 2009).
func (j *Jar) day(s *School) {
	level := j.LevelCM()
	high := slices.Max(j.highs[:])
	p := j.PlantIt
	if p != nil && !p.Dead {
		if j.roots < j.PotCM-1 {
			j.roots += 0.7 * min(1, p.dry*4)
		}
		over := level - max(high, j.PotCM-j.roots*0.25)
		if high > 0 && j.roots > 3 && over > 1 {
			j.drowned += over / 3
		} else if j.drowned = max(0, j.drowned-0.25); level > j.PotCM+0.5 {
			j.drowned += 0.3
		}
		if j.drowned > 1.2 && dice(s.Seed, p.number, s.hour, diceDrown) < 0.12*j.drowned {
			p.die(s.hour, LostDrowned)
		}
	}
	copy(j.highs[1:], j.highs[:])
	j.highs[0] = level
}

// RootsCM is how far its roots hang below the pot, as one sees it.
func (j *Jar) RootsCM() float64 { return j.roots }
