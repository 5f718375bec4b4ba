package sim

// field is what a day outside does to plants in a frame, a bed or a pot: water, cold and wind.
func (x *Spot) field(s *School, day sums, rainMM float64) {
	p := x.alive()
	if p == nil {
		return
	}
	holds := 22.0 * min(1, 0.25+p.dry/3) // mm that its roots reach in a bed: more as they grow
	leaf := min(3.5, p.leafM2()*x.PerM2)
	drawn := s.drawnOf[x.Room] * min(1, 0.25+leaf*0.5)
	if x.potL > 0 {
		holds = 1
		drawn = drawn * p.leafM2() * 1.1 / (x.potL * 0.42) / max(0.2, min(1, leaf))
	} else if x.Room.outside() {
		x.soil += rainMM
	}
	x.soil = min(holds, x.soil-drawn)
	if x.soil < 0 {
		p.thirst += min(1, -x.soil/max(drawn, 1e-6)) * min(2, 0.4+day.vpd)
		x.soil = 0
		if p.thirst > 2.5 {
			p.die(s.hour, LostDry)
		}
	} else if p.thirst = max(0, p.thirst-0.7); x.soil < 0.25*holds {
		p.weak = min(p.weak+0.3, 4)
	}
}

// alive is the plant there.
func (x *Spot) alive() *Plant {
	for _, p := range x.Plants {
		if !p.Dead && p.Up() {
			return p
		}
	}
	return nil
}

// shock is the first day in the open: a disturbed root gives less than dry air, sun and wind take,
// the less so the harder the plant is, the better it was watered and the less it is outgrown.
func (p *Plant) shock(s *School, x *Spot, watered bool) {
	k := p.Batch.Species
	takes := s.drawnAhead(x.Room, 30) * p.leafM2() * 1000 // mL until tomorrow evening
	has := 9.0 + 14*min(1, p.Batch.plugML/120)
	if watered {
		has *= 1.7
	}
	stress := takes / has / k.Tough * (1.5 - 0.9*p.hardy)
	if p.bound > 8 {
		stress *= 1.35
	}
	p.weak += min(12, 1+3*stress)
	if stress > 1 && dice(s.Seed, p.number, s.hour, diceShock) < min(0.85, 0.22*(stress-1)) {
		p.die(s.hour, LostShock)
	}
	// Leaves that never saw the sun burn.
	if p.hardy < 0.25 && x.Room.outside() && dice(s.Seed, p.number, s.hour, diceShock+10) < 0.16-0.5*p.hardy {
		p.die(s.hour, LostShock)
	}
}
