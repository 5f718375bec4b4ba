package sim

// Tray is cells of one size on a bench.
type Tray struct {
	Name   string
	Room   *Room
	CellML float64
	Spots  []*Spot
	wet    float64 // share of the water that the medium holds, of the mean cell
	areaM2 float64
	lives  []*Plant // as it was this morning
	leafM2 float64
}

// Spot is where one plant is or comes up: a cell, a port, a jar, or a place in a frame or bed.
type Spot struct {
	Name   string
	Tray   *Tray
	Room   *Room
	Tank   *Tank
	Jar    *Jar
	Litres float64 // for roots; 0: without bound
	PerM2  float64 // plants, as they are spaced
	Plants []*Plant
	dries  float64 // faster or slower than the mean of its tray
	soil   float64 // mm of water that roots in a bed can reach; a pot: the share of what it holds
	potL   float64
}

// plot is what the place of a plant gives it.
type plot struct{ perM2, litres, fed float64 }

// AddTray puts a tray of so many cells into a room.
func (s *School) AddTray(name string, r *Room, cells int, cellML float64) *Tray {
	t := &Tray{Name: name, Room: r, CellML: cellML, wet: 0.8, areaM2: 0.0011 * cellML / 40 * 1.6 * float64(cells)}
	luck := ChanceOf(s.Seed, "tray", name)
	for range cells {
		t.Spots = append(t.Spots, &Spot{
			Name: name, Tray: t, Room: r, Litres: cellML / 1000, PerM2: float64(cells) / t.areaM2, dries: luck.Spread(0.16),
		})
	}
	s.trays = append(s.trays, t)
	return t
}

// holdsML is the water that its medium holds when it is full.
func (t *Tray) holdsML() float64 { return 0.5 * t.CellML * float64(len(t.Spots)) }

// wetOf is how wet a cell is, by how much faster it dries than the others.
func (t *Tray) wetOf(x *Spot) float64 { return max(0, min(1, 1-(1-t.wet)*x.dries)) }

// Weighs is what a hand feels of it: dry, light, right or heavy.
func (t *Tray) Weighs() string {
	switch {
	case t.wet < 0.25:
		return "dry"
	case t.wet < 0.5:
		return "light"
	case t.wet < 0.88:
		return "right"
	}
	return "heavy"
}

// Water pours on a tray, mL; what it does not hold runs through.
func (s *School) Water(t *Tray, ml float64) {
	t.wet = min(1, t.wet+ml/t.holdsML())
}

// pass lets an hour go by over a tray: it dries, seeds come up, and what is too wet or too dry
// is lost.
func (t *Tray) pass(s *School) {
	if len(t.lives) == 0 {
		return
	}
	leaf := t.leafM2
	drawn := t.Room.air.drawn(leaf/t.areaM2) * t.areaM2
	bare := t.Room.air.drawn(0.25) * t.areaM2 * max(0, 1-leaf/t.areaM2)
	t.wet = max(0, t.wet-(drawn+bare)*min(1, 0.15+t.wet*1.6)*1000/t.holdsML())
	for _, p := range t.lives {
		if !p.Dead && p.Where.Tray == t {
			p.inCell(s, t, p.Where, t.wetOf(p.Where))
		}
	}
}

// look finds out what lives in a tray, once a day.
func (t *Tray) look() {
	t.lives, t.leafM2 = t.lives[:0], 0
	for _, x := range t.Spots {
		for _, p := range x.Plants {
			if p.Dead || !p.Up() && !p.viable {
				continue
			}
			t.lives = append(t.lives, p)
			if p.Up() {
				t.leafM2 += p.leafM2()
			}
		}
	}
}

// hour is a part of a day.
const hour = 1.0 / 24

// inCell is an hour of a seed or a seedling. A seed that has taken up water dies when it dries
// again; a seedling wilts, and damps off the sooner the wetter and the closer it is.
func (p *Plant) inCell(s *School, t *Tray, x *Spot, wet float64) {
	k := p.Batch.Species
	if !p.Up() {
		if !p.viable {
			return
		}
		if wet < 0.12 {
			if p.thirst += hour; p.thirst > 0.6 && p.need < p.Batch.need50*0.9 {
				p.viable = false
			}
			return
		}
		p.need -= k.emerging(t.Room.air.c) * min(1, 0.4+wet)
		if p.need <= 0 {
			p.up, p.dry, p.thirst = s.hour, k.SeedlingG*p.vigour, 0
		}
		return
	}
	if wet < 0.1 {
		if p.thirst += hour * min(2.5, t.Room.air.vpdKPa/0.8); p.thirst > 1.25 {
			p.die(s.hour, LostDry)
		}
	} else {
		p.thirst = max(0, p.thirst-2*hour)
	}
	if age := s.hour - p.up; age < 14*24 && wet > 0.85 {
		risk := 0.0009 * (wet - 0.85) / 0.15 * (1 - float64(age)/(14*24))
		if dice(s.Seed, p.number, s.hour, diceDamp) < risk*float64(1+min(3, len(x.Plants)-1)) {
			p.die(s.hour, LostDamping)
		}
	}
}
