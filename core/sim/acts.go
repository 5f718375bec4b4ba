package sim

import (
	"errors"
	"fmt"
	"slices"
)

// Free are the cells of a tray with nothing alive in them.
func (s *School) Free(t *Tray) (out []*Spot) {
	for _, x := range t.Spots {
		if !slices.ContainsFunc(x.Plants, func(p *Plant) bool { return !p.Dead }) {
			out = append(out, x)
		}
	}
	return out
}

// Sow puts so many seeds in each of some cells.
func (s *School) Sow(species string, lot *Lot, t *Tray, cells []*Spot, seeds int) (*Batch, error) {
	k := Kinds[species]
	if k == nil || lot == nil || lot.Species != k {
		return nil, errors.New("there is no such seed")
	}
	s.sowings[species]++
	n := s.sowings[species]
	b := &Batch{School: s, Name: fmt.Sprint(species, " ", n), Species: k, Sown: s.Day(), need50: k.EmergeCDays * lot.slow}
	luck := ChanceOf(s.Seed, "seed", species, n)
	for i, x := range cells {
		if x.Tray != t {
			return nil, errors.New("that cell is in another tray")
		}
		x.Plants = nil
		for j := range seeds {
			p := &Plant{
				Batch: b, Where: x, up: -1, need: b.need50 * luck.Spread(k.EmergeSpread), viable: luck.Happens(lot.germinates),
				vigour: luck.Spread(0.16), hurry: luck.Spread(0.06), number: n*100_000 + i*32 + j,
			}
			x.Plants = append(x.Plants, p)
			b.Plants = append(b.Plants, p)
		}
	}
	t.wet = max(t.wet, 0.85)
	s.Batches = append(s.Batches, b)
	t.look()
	return b, nil
}

// Alive are its plants that are up and live.
func (s *School) Alive(b *Batch) (out []*Plant) {
	for _, p := range b.Plants {
		if p.Up() && !p.Dead {
			out = append(out, p)
		}
	}
	return out
}

// Shows tells what somebody sees in a cell: "up", "dead" or "".
func (x *Spot) Shows() string {
	out := ""
	for _, p := range x.Plants {
		if p.Up() && !p.Dead {
			return "up"
		}
		if p.Up() {
			out = "dead"
		}
	}
	return out
}

// Thin leaves the strongest of a cell; the others were never wanted, and are no losses.
func (s *School) Thin(x *Spot) *Plant {
	var best *Plant
	for _, p := range x.Plants {
		if p.Up() && !p.Dead && (best == nil || p.dry > best.dry) {
			best = p
		}
	}
	if best != nil {
		for _, p := range x.Plants {
			if p != best {
				p.Dead, p.Cause = true, ""
			}
		}
		x.Plants = []*Plant{best}
	}
	return best
}

// leave takes a plant off its place.
func (x *Spot) leave(p *Plant) {
	gone := func(o *Plant) bool { return o == p }
	x.Plants = slices.DeleteFunc(x.Plants, gone)
	if x.Jar != nil {
		x.Jar.PlantIt = nil
	}
	if x.Tank != nil {
		x.Tank.Plants = slices.DeleteFunc(x.Tank.Plants, gone)
	}
}

// Move takes a plant to another place: into a port, a jar, a pot in a frame, or a bed.
func (s *School) Move(p *Plant, to *Spot, watered bool) error {
	switch {
	case p.Dead || !p.Up():
		return errors.New("nothing lives there")
	case to.alive() != nil:
		return errors.New("something stands there already")
	}
	ballL := 0.0
	if from := p.Where; from != nil {
		ballL = max(from.Litres, from.potL)
		from.leave(p)
		p.goes(from.Room, to.Room)
	}
	p.Where, to.Plants = to, []*Plant{p}
	p.bound = max(0, p.bound-10)
	switch {
	case to.Tank != nil:
		if to.Jar != nil {
			to.Jar.PlantIt, to.Jar.roots, to.Jar.drowned = p, 0, 0
		}
		to.Tank.Plants = append(to.Tank.Plants, p)
		to.Tank.look()
		p.weak++
	case to.potL > 0 || to.Tray != nil:
		p.weak++
	case to.Room.outside():
		p.shock(s, to, ballL, watered)
	}
	if watered || to.soil < 6 {
		to.soil = 12
	}
	return nil
}

// PotOn puts a plant into a pot of so many litres, in another room.
func (s *School) PotOn(p *Plant, r *Room, litres, perM2 float64) error {
	x := s.AddSpot(Spot{Name: r.Name, Room: r, PerM2: perM2})
	x.potL, x.soil = litres, 1
	return s.Move(p, x, true)
}

// Wet waters a place outside trays.
func (s *School) Wet(x *Spot) {
	if x.potL > 0 {
		x.soil = 1
		return
	}
	x.soil += 10
}

// Cut takes what can be cut of a plant, g; Take takes all of it.
func (s *School) Cut(p *Plant) float64 {
	p.TookG = p.FreshG() * 0.6
	p.dry *= 0.45
	p.weak++
	return p.TookG
}

// Take takes a whole plant, g.
func (s *School) Take(p *Plant) float64 {
	p.TookG = p.FreshG()
	p.Dead, p.Cause = true, ""
	if p.Where != nil {
		p.Where.leave(p)
	}
	return p.TookG
}

// Carry takes a plant to another room as it stands: in its pot, or in its cell with those beside it.
func (s *School) Carry(p *Plant, to *Room) {
	if p.Dead || p.Where == nil {
		return
	}
	p.goes(p.Where.Room, to)
	if p.Where.Tray != nil { // its cell goes along
		x := s.AddSpot(Spot{Name: to.Name, Room: to, PerM2: p.Where.PerM2})
		x.potL, x.soil = p.Where.Litres, p.Where.Tray.wet
		p.Where.leave(p)
		p.Where, x.Plants = x, []*Plant{p}
		return
	}
	p.Where.Room = to
}

// Discard throws a plant away that nobody has a use for; it is no loss.
func (s *School) Discard(p *Plant) {
	if !p.Dead {
		p.Dead, p.Cause = true, ""
	}
}
