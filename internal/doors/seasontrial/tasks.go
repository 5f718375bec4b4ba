package seasontrial

import (
	"maps"
	"slices"
	"strings"

	"ulpa/core/sim"
	"ulpa/core/sim/play"
	"ulpa/core/tray"
)

type task struct {
	Key       string                    `json:"key"`
	Kind      string                    `json:"kind"`
	What      string                    `json:"what"`
	Why       string                    `json:"why"`
	When      string                    `json:"when"`
	Subject   struct{ Kind, ID string } `json:"subject"`
	Batch     string                    `json:"batch"`
	StaysOpen bool                      `json:"stays_open"`
	Amounts   []struct {
		ID     string  `json:"id"`
		Litres float64 `json:"litres"`
	} `json:"amounts"`
}

// causes are Ulpa's words for those of which plants die here.
var causes = map[string]string{
	sim.LostDamping: "damping-off", sim.LostDry: "dried-out", sim.LostCold: "too-cold", sim.LostShock: "dried-out", sim.LostBound: "outgrown",
	sim.LostDrowned: "drowned", sim.LostSolution: "burnt-by-salt",
}

// round walks today's round, and again what what was done has brought up: water that was poured is
// read.
func (u *Ulpa) round(w *play.World) {
	asked := map[string]bool{}
	for range 3 {
		before := len(asked)
		if u.walk(w, asked); len(asked) == before {
			return
		}
	}
}

func (u *Ulpa) walk(w *play.World, asked map[string]bool) {
	var r struct {
		Stops []struct {
			Tasks []task `json:"tasks"`
		} `json:"stops"`
	}
	if !u.did(u.ask.get("/round", &r)) {
		return
	}
	var all []task
	for _, s := range r.Stops {
		all = append(all, s.Tasks...)
	}
	urgent := map[string]int{"now": 0, "today": 1, "soon": 2}
	slices.SortStableFunc(all, func(a, b task) int { return urgent[a.When] - urgent[b.When] })
	for _, t := range all {
		if u.err != nil {
			return
		}
		if asked[t.Key] {
			continue
		}
		asked[t.Key] = true
		b := u.batches[t.Batch]
		w.Hear(b, t.Kind)
		if do := doings[t.Kind]; do != nil {
			do(u, w, t, b)
		}
	}
}

// doings are what is done about each kind of task; what is not here is not done.
var doings = map[string]func(u *Ulpa, w *play.World, t task, b *play.Batch){
	"sow": (*Ulpa).sow, "count": (*Ulpa).count, "count_tray": (*Ulpa).countTray, "look": (*Ulpa).look, "move": (*Ulpa).move, "care": (*Ulpa).care,
	"water_trays": (*Ulpa).waterTrays,
	"reading":     (*Ulpa).reading, "fill": (*Ulpa).treat, "treat": (*Ulpa).treat, "rescue": (*Ulpa).treat, "dip": (*Ulpa).dip,
	"close_batch": (*Ulpa).closeBatch, "harden": (*Ulpa).openFrame, "take_out": (*Ulpa).takeOut, "bring_in": (*Ulpa).bringIn, "to_frame": (*Ulpa).takeOut,
}

func (u *Ulpa) tick(t task) {
	u.did(u.ask.post("/round/ticks", u.act(some{"task": t.Key}), nil))
}

// sow sows what is planned, in the first tray with room for it, or in as many cells as there are.
func (u *Ulpa) sow(w *play.World, t task, _ *play.Batch) {
	p, ok := u.planned[t.Subject.ID]
	if !ok || u.wants[p.goal] == nil {
		return
	}
	want := u.wants[p.goal]
	at, cells := u.room(w, p.cells)
	if len(cells) == 0 {
		return
	}
	b, ok := w.Sow(want, p.by, at, cells, p.seeds)
	if !ok {
		return
	}
	var names []string
	for _, x := range b.Cells {
		names = append(names, cellOf(x, u.columns))
	}
	in := u.act(some{
		"lot": idOf("lots", want.Crop), "tray": idOf("trays", at.Name), "cells": names, "seeds_per_cell": p.seeds, "wanted": want.Plants,
		"planned": t.Subject.ID, "ready_by": p.by,
	})
	var out batchOut
	if u.did(u.ask.post("/batches", in, &out)) {
		u.batches[out.ID] = b
	}
}

// room is the first tray with so many cells that are free, to the eye and at Ulpa's, else that with
// the most.
func (u *Ulpa) room(w *play.World, n int) (at *sim.Tray, cells []*sim.Spot) {
	taken := map[string]bool{}
	for id := range u.inOrder() {
		var b batchOut
		if !u.did(u.ask.get("/batches/"+id, &b)) {
			return nil, nil
		}
		for _, x := range b.Where {
			if x.Kind == "cell" {
				taken[x.In+x.Name] = true
			}
		}
	}
	for _, t := range w.Trays {
		free := slices.DeleteFunc(w.Free(t), func(x *sim.Spot) bool { return taken[idOf("trays", t.Name)+cellOf(x, u.columns)] })
		if len(free) >= n {
			return t, free[:n]
		}
		if len(free) > len(cells) {
			at, cells = t, free
		}
	}
	return at, cells
}

// count looks into the cells of a batch and writes down what has changed.
func (u *Ulpa) count(w *play.World, t task, b *play.Batch) {
	if b == nil {
		return
	}
	up, dead, told := w.Count(b)
	if !told {
		return
	}
	var out batchOut
	if !u.did(u.ask.get("/batches/"+t.Batch, &out)) {
		return
	}
	was := map[string]string{}
	for _, x := range out.Where {
		if x.Kind == "cell" {
			was[x.Name] = x.State
		}
	}
	is := map[string]string{}
	for _, x := range up {
		is[cellOf(x, u.columns)] = "sprouted"
	}
	for _, x := range dead {
		is[cellOf(x, u.columns)] = "lost"
	}
	var marks []some
	last := strings.HasPrefix(t.What, "Mark")
	for _, name := range slices.Sorted(maps.Keys(was)) {
		state := is[name]
		switch {
		case state == "lost" && (was[name] == "sprouted" || was[name] == "thinned" || was[name] == "sown"):
			marks = append(marks, some{"tray": idOf("trays", b.Tray.Name), "cell": name, "state": "lost", "cause": "damping-off"})
		case state == "sprouted" && was[name] == "sown":
			marks = append(marks, some{"tray": idOf("trays", b.Tray.Name), "cell": name, "state": "sprouted"})
		case state == "" && was[name] == "sown" && last:
			marks = append(marks, some{"tray": idOf("trays", b.Tray.Name), "cell": name, "state": "empty"})
		}
	}
	u.did(u.ask.post("/batches/"+t.Batch+"/counts", u.act(some{"marks": marks, "tray": idOf("trays", b.Tray.Name)}), nil))
	if last {
		w.ClearEmpty(b)
		u.wash(b)
	}
}

// countTray counts what is still to come up in a tray, batch by batch.
func (u *Ulpa) countTray(w *play.World, t task, _ *play.Batch) {
	for id, b := range u.inOrder() {
		var out batchOut
		if b.Tray == nil || idOf("trays", b.Tray.Name) != t.Subject.ID || !u.did(u.ask.get("/batches/"+id, &out)) {
			continue
		}
		if slices.ContainsFunc(out.Where, func(x spotOut) bool { return x.State == "sown" }) {
			w.Hear(b, "count")
			t.Batch = id
			u.count(w, t, b)
		}
	}
}

// wash frees cells in which nothing stands any more.
func (u *Ulpa) wash(b *play.Batch) {
	u.did(u.ask.post("/trays/"+idOf("trays", b.Tray.Name)+"/wash", u.act(nil), nil))
}

// look counts leaves and looks at the roots.
func (u *Ulpa) look(w *play.World, t task, b *play.Batch) {
	if b == nil {
		return
	}
	if leaves, cm, roots, told := w.Look(b); told {
		u.did(u.ask.post("/batches/"+t.Batch+"/looks", u.act(some{"leaves": leaves, "height_cm": cm, "roots": roots}), nil))
	}
}

// move takes plants from their cells to where they grow on.
func (u *Ulpa) move(w *play.World, t task, b *play.Batch) {
	if b == nil {
		return
	}
	list := w.InCells(b)
	if len(list) == 0 {
		return
	}
	cells := map[*sim.Plant]string{}
	for _, p := range list {
		cells[p] = cellOf(p.Where, u.columns)
	}
	if b.Want.Where != "bed" { // the best, and no more than there is use for
		list = play.Heaviest(list)[:min(len(list), b.Want.Plants+2)]
	}
	moved := w.Settle(b, list)
	byPlace := map[string][2][]any{}
	for _, p := range moved {
		to, port := u.standing(w, p)
		x := byPlace[to]
		x[0] = append(x[0], some{"kind": "cell", "in": idOf("trays", b.Tray.Name), "name": cells[p]})
		x[1] = append(x[1], port)
		byPlace[to] = x
	}
	for _, to := range slices.Sorted(maps.Keys(byPlace)) {
		in := u.act(some{"from": byPlace[to][0], "to": idOf("places", to), "sure": true})
		if to == bench {
			in["pot"] = idOf("pots", "Litre pots")
		} else {
			in["ports"] = byPlace[to][1]
		}
		u.did(u.ask.post("/batches/"+t.Batch+"/moves", in, nil))
	}
	if len(moved) == len(list) && b.Want.Where != "bed" {
		u.surplus(w, t.Batch, b)
	}
}

// surplus gives away what nobody has a use for.
func (u *Ulpa) surplus(w *play.World, id string, b *play.Batch) {
	var from []some
	for _, p := range w.InCells(b) {
		from = append(from, some{"kind": "cell", "in": idOf("trays", b.Tray.Name), "name": cellOf(p.Where, u.columns)})
	}
	w.ClearCells(b)
	if len(from) > 0 {
		u.did(u.ask.post("/batches/"+id+"/handovers", u.act(some{"from": from, "way": "given-away"}), nil))
	}
	var out batchOut
	if !u.did(u.ask.get("/batches/"+id, &out)) {
		return
	}
	var marks []some
	for _, x := range out.Where {
		if x.Kind == "cell" && x.State == "sown" {
			marks = append(marks, some{"tray": x.In, "cell": x.Name, "state": "empty"})
		}
	}
	if len(marks) > 0 && u.did(u.ask.post("/batches/"+id+"/counts", u.act(some{"marks": marks}), nil)) {
		u.wash(b)
	}
}

// standing is where a plant stands now, and its port.
func (u *Ulpa) standing(w *play.World, p *sim.Plant) (place, port string) {
	for name, list := range map[string][]*sim.Spot{tower: w.Tower, raft: w.Raft, jars: w.Jarred} {
		i := slices.Index(list, p.Where)
		if i < 0 {
			continue
		}
		columns := map[string]int{tower: w.TowerColumn, raft: w.RaftColumns, jars: len(w.Jarred)}[name]
		port = tray.Cell{Row: i / columns, Col: i % columns}.Name()
		u.where[p.Where] = name + "/" + port
		return name, port
	}
	return bench, ""
}

// care does what a tray wants.
func (u *Ulpa) care(w *play.World, t task, _ *play.Batch) {
	i := slices.IndexFunc(w.Trays, func(x *sim.Tray) bool { return idOf("trays", x.Name) == t.Subject.ID })
	if i < 0 || !strings.Contains(strings.ToLower(t.What), "water") {
		return
	}
	x := w.Trays[i]
	share := 0.35
	switch {
	case strings.Contains(t.What, "until it drips"):
		share = 0.7
	case strings.Contains(t.What, "no water"):
		share = 0
	}
	if share == 0 || w.WaterTray(x, share) {
		u.tick(t)
	}
}

// waterTrays pours what each tray is said to have used; by hand, nothing on a heavy one and twice as
// much on a dry one.
func (u *Ulpa) waterTrays(w *play.World, t task, _ *play.Batch) {
	for _, a := range t.Amounts {
		for _, x := range w.Trays {
			if idOf("trays", x.Name) != a.ID {
				continue
			}
			share := a.Litres * 1000 / (0.5 * x.CellML * float64(len(x.Spots)))
			switch x.Weighs() {
			case "heavy":
				continue
			case "dry":
				share *= 2
			}
			w.WaterTray(x, share)
		}
	}
	u.tick(t)
}

// closeBatch closes a batch of which nothing is left.
func (u *Ulpa) closeBatch(w *play.World, t task, _ *play.Batch) {
	if did, _ := w.Takes(1, "close"); did {
		u.did(u.ask.post("/batches/"+t.Batch+"/close", u.act(nil), nil))
	}
}

// openFrame opens the frame for the hours of the day.
func (u *Ulpa) openFrame(w *play.World, t task, _ *play.Batch) {
	w.OpenFrame()
	w.LeaveOpen = t.StaysOpen
	u.tick(t)
}

// takeOut carries plants to the frame; bringIn carries them back.
func (u *Ulpa) takeOut(w *play.World, t task, b *play.Batch) {
	u.carry(w, t, b, w.Bench, w.Frame, frame)
}

func (u *Ulpa) bringIn(w *play.World, t task, b *play.Batch) {
	w.Evening(func() {
		u.clock.Stand(w.Day().At(15, 0, u.zone))
		u.carry(w, t, b, w.Frame, w.Bench, bench)
	})
}

func (u *Ulpa) carry(w *play.World, t task, b *play.Batch, from, to *sim.Room, place string) {
	if b == nil {
		return
	}
	var list []*sim.Plant
	for _, p := range w.Alive(b.Batch) {
		if p.Where.Room == from {
			list = append(list, p)
		}
	}
	if w.Carry(list, to) {
		u.moveStands(t.Batch, len(list), place)
	}
}
