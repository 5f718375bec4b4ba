package sim

// field is what a day does to plants outside trays and solutions: water, cold and wind.
func (x *Spot) field(s *School, day sums, rainMM float64) {
	p := x.alive()
	if p == nil {
		return
	}
	// A bed gives what roots reach, mm, more as they grow; a pot what half of its medium holds.
	holds, drawn := 22.0*min(1, 0.25+p.dry/3), s.drawnOf[x.Room]*min(1, 0.25+0.5*min(3.5, p.leafM2()*x.PerM2))
	if x.potL > 0 {
		holds = 1
		drawn = s.drawnOf[x.Room] * min(p.leafM2()*1.1, 2/x.PerM2) / (x.potL * 0.42)
	} else if x.Room.outside() {
		x.soil += rainMM
	}
	x.soil = min(holds, x.soil)
	// As it dries leaves close, and less is drawn.
	for range 4 {
		x.soil -= min(x.soil, drawn/4*min(1, 0.08+1.8*x.soil/holds))
	}
	switch wet := x.soil / holds; {
	case wet < 0.06:
		p.weak = min(p.weak+1, 5)
		if p.thirst += min(1.6, 0.5+0.6*day.vpd); p.thirst > 4 {
			p.die(s.hour, LostDry)
		}
	default:
		p.thirst = max(0, p.thirst-0.8)
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
// the less so the harder the plant is, the larger its ball and the less it is outgrown.
func (p *Plant) shock(s *School, x *Spot, ballL float64, watered bool) {
	k := p.Batch.Species
	takes := s.drawnAhead(x.Room, 30) * min(p.leafM2(), 2/x.PerM2) * 1000 // mL until tomorrow evening
	has := 6 + 300*ballL
	if watered {
		has *= 1.8
	}
	stress := takes / has / k.Tough * (1.25 - 0.85*p.hardy)
	if p.bound > 8 {
		stress *= 1.35
	}
	p.weak += min(12, 1+2.5*stress)
	if stress > 1 && dice(s.Seed, p.number, s.hour, diceShock) < min(0.85, 0.25*(stress-1)) {
		p.die(s.hour, LostShock)
	}
	// Leaves that never saw the sun burn.
	if p.hardy < 0.3 && dice(s.Seed, p.number, s.hour, diceShock+10) < 0.3-p.hardy {
		p.die(s.hour, LostShock)
	}
}
