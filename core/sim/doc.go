// Package sim is a made-up school by its own nature: weather, rooms, seed, plants, water and the
// people who look after them. What it does is not known to those who play it; they see what a
// school would see, and their loss is what really died.
//
// The idea: everything of chance comes from one seed and a name, so that two players meet the
// same weather, the same packets and the same luck, and only what they do differs. Time goes by
// the hour for weather, trays and water, and by the day for plants. No constant here is taken from
// what the planner or the advice assumes; docs/practice.md says which published formulas are
// shared, and which must not be.
//
// A first program grows a tray of lettuce for three weeks and counts what is alive:
//
//	s := sim.NewSchool(sim.Setting{Seed: 1, From: calendar.Date(2027, 1, 4), Climate: sim.Temperate})
//	bench := s.AddRoom(sim.Room{Name: "bench", HeatC: 18, Transmits: 0.6})
//	tray := s.AddTray("tray", bench, 24, 40)
//	b, err := s.Sow("lettuce", s.Lot("lettuce", 0.9), tray, s.Free(tray)[:12], 2)
//	for s.Day() < from+21 {
//		s.Water(tray, 500)
//		s.Pass(24)
//	}
//	fmt.Println(len(s.Alive(b)))
//
// At the edges: what is not there cannot be done, and acts that a person could not do give an
// error and change nothing. Hours before the first and after the last of the weather are as the
// nearest.
package sim
