package seasontrial

import (
	"errors"
	"maps"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/sim"
	"ulpa/core/sim/play"
	"ulpa/core/tray"
	"ulpa/internal/doors/demo"
)

// Ulpa looks after a school by what /api/v1 says, and writes down there what was done. Where it is
// silent its people do what habit has them do: they water what stands in pots on each day.
type Ulpa struct {
	ask     asker
	clock   *demo.Clock
	zone    *time.Location
	log     func(string)
	err     error
	begun   bool
	n       int
	columns int                   // of a tray
	wants   map[string]*play.Want // by the ids of goals
	batches map[string]*play.Batch
	planned map[string]plannedBatch
	kept    calendar.Day         // when the plan was last looked at
	outside calendar.Day         // the first on which something is planned to go to the frame
	where   map[*sim.Spot]string // ports by their names
	seen    map[*sim.Plant]bool  // deaths that are written down
}

// Name is how it is called in a table.
func (*Ulpa) Name() string { return "Ulpa" }

// Day does what the round says, in its order, as far as there is time.
func (u *Ulpa) Day(w *play.World) error {
	u.clock.Stand(w.Day().At(10, 5, u.zone))
	if !u.begun {
		u.begun = true
		u.wants, u.batches, u.planned = map[string]*play.Want{}, map[string]*play.Batch{}, map[string]plannedBatch{}
		u.where, u.seen = map[*sim.Spot]string{}, map[*sim.Plant]bool{}
		u.columns = w.Columns
		if err := u.setUp(w); err != nil {
			return err
		}
	}
	u.nights(w)
	if w.Open(w.Day()) {
		u.deliver(w)
	}
	if w.Day()-u.kept >= 7 || w.Day().Weekday() == time.Monday {
		u.plan(w)
	}
	u.tidy(w)
	u.habit(w)
	u.round(w)
	return u.err
}

// did is told whether Ulpa took what was written down; a refusal is no end of the season, and is
// shown to whoever wants to see it.
func (u *Ulpa) did(err error) bool {
	var no refused
	if errors.As(err, &no) && no.status < http.StatusInternalServerError {
		if u.log != nil {
			u.log(u.clock.Now().Format(time.DateOnly) + " " + no.Error())
		}
		return false
	}
	u.err = errors.Join(u.err, err)
	return err == nil
}

// act is the head of what is written down.
func (u *Ulpa) act(more some) some {
	u.n++
	x := some{"id": idOf("act", u.n)}
	maps.Copy(x, more)
	return x
}

// nights writes down the lows that are forecast for the nights to come, once something is to go out
// of doors within days.
func (u *Ulpa) nights(w *play.World) {
	if u.outside == 0 || w.Day() < u.outside-nightsBefore {
		return
	}
	if did, _ := w.Takes(1, "forecast"); !did {
		return
	}
	var nights []some
	for i := range 4 {
		nights = append(nights, some{"day": w.Day() + calendar.Day(i), "forecast_c": w.Weather.ForecastC(w.Day(), i)})
	}
	u.did(u.ask.do(http.MethodPut, "/nights", some{"nights": nights}, nil))
}

const nightsBefore = 3

type plannedBatch struct {
	goal         string
	cells, seeds int
	by           calendar.Day
}

type seasonPlan struct {
	Plan    string   `json:"plan"`
	Changes []string `json:"changes"`
	Goals   []struct {
		Goal    string `json:"goal"`
		Batches []struct {
			ID    string       `json:"id"`
			Cells int          `json:"cells"`
			Seeds int          `json:"seeds_per_cell"`
			By    calendar.Day `json:"ready_by"`
			Moves []struct {
				On    calendar.Day `json:"on"`
				Place string       `json:"place"`
			} `json:"moves"`
		} `json:"batches"`
	} `json:"goals"`
}

// plan looks at the season's plan, and saves what it would change.
func (u *Ulpa) plan(w *play.World) {
	did, _ := w.Takes(2, "plan")
	if !did {
		return
	}
	var s seasonPlan
	if !u.did(u.ask.get("/season", &s)) {
		return
	}
	u.kept = w.Day()
	for _, g := range s.Goals {
		for _, b := range g.Batches {
			u.planned[b.ID] = plannedBatch{g.Goal, b.Cells, b.Seeds, b.By}
			for _, m := range b.Moves {
				if m.Place == w.Frame.Name && (u.outside == 0 || m.On < u.outside) {
					u.outside = m.On
				}
			}
		}
	}
	if len(s.Changes) > 0 {
		u.did(u.ask.post("/season/keep", some{"plan": s.Plan}, nil))
	}
}

// deliver meets the orders of today, and writes down what was cut or planted out.
func (u *Ulpa) deliver(w *play.World) {
	for _, o := range w.Due() {
		took := map[string][]*sim.Plant{}
		for _, p := range w.Deliver(o, w.Of(o.Crop)) {
			for id, b := range u.batches {
				if b.Batch == p.Batch {
					took[id] = append(took[id], p)
				}
			}
		}
		for _, id := range slices.Sorted(maps.Keys(took)) {
			if o.Kind() == play.Plants {
				u.moveStands(id, len(took[id]), bed)
				continue
			}
			var from []some
			grams := 0.0
			for _, p := range took[id] {
				grams += p.TookG
				if x := u.spot(p); x != nil && p.Dead {
					from = append(from, x)
				}
			}
			u.did(u.ask.post("/batches/"+id+"/harvests", u.act(some{"grams": math.Round(grams), "from": from, "sure": true}), nil))
		}
	}
}

// spot is where a plant stands, as Ulpa calls it.
func (u *Ulpa) spot(p *sim.Plant) some {
	x := p.Where
	switch {
	case x.Tray != nil:
		return some{"kind": "cell", "in": idOf("trays", x.Tray.Name), "name": cellOf(x, u.columns)}
	case u.where[x] != "":
		place, name, _ := strings.Cut(u.where[x], "/")
		return some{"kind": "port", "in": idOf("places", place), "name": name}
	}
	return nil
}

// cellOf is the name of a cell of a tray.
func cellOf(x *sim.Spot, columns int) string {
	i := slices.Index(x.Tray.Spots, x)
	return tray.Cell{Row: i / columns, Col: i % columns}.Name()
}

// moveStands writes down that so many plants of a batch went from the pots in which they stood to
// another place, and gives whether that was taken.
func (u *Ulpa) moveStands(id string, n int, to string) bool {
	var b batchOut
	if !u.did(u.ask.get("/batches/"+id, &b)) {
		return false
	}
	var from []some
	for _, x := range b.Where {
		if x.Kind == "stand" && x.In != idOf("places", to) && n > 0 {
			k := min(n, x.Plants)
			from = append(from, some{"kind": "stand", "in": x.In, "plants": k, "pot": x.Pot})
			n -= k
		}
	}
	for _, x := range b.Where { // or out of their cells
		if x.Kind == "cell" && (x.State == "sprouted" || x.State == "thinned") && n > 0 {
			from = append(from, some{"kind": "cell", "in": x.In, "name": x.Name})
			n--
		}
	}
	return len(from) > 0 && u.did(u.ask.post("/batches/"+id+"/moves", u.act(some{"from": from, "to": idOf("places", to), "sure": true}), nil))
}

// spotOut is a place at which some of a batch stands.
type spotOut struct {
	Kind, In, Name, State, Pot string
	Plants                     int `json:"plants"`
}

type batchOut struct {
	ID    string    `json:"id"`
	Where []spotOut `json:"where"`
}

// tidy is a look along the ports and pots: what is dead is taken out and written down.
func (u *Ulpa) tidy(w *play.World) {
	if did, _ := w.Takes(0.7, "tidy"); !did {
		return
	}
	for id, b := range u.inOrder() {
		byCause := map[string][]some{}
		stands := map[string]int{}
		for _, p := range b.Plants {
			if !p.Dead || p.Cause == "" || u.seen[p] || p.Where == nil || p.Where.Tray != nil {
				continue
			}
			u.seen[p] = true
			cause := causes[p.Cause]
			if x := u.spot(p); x != nil {
				byCause[cause] = append(byCause[cause], x)
			} else {
				stands[cause]++
			}
		}
		for _, cause := range slices.Sorted(maps.Keys(byCause)) {
			u.did(u.ask.post("/batches/"+id+"/losses", u.act(some{"from": byCause[cause], "cause": cause}), nil))
		}
		if len(stands) > 0 {
			u.lose(id, stands)
		}
	}
}

// lose writes down deaths of plants that stand by number.
func (u *Ulpa) lose(id string, by map[string]int) {
	var b batchOut
	if !u.did(u.ask.get("/batches/"+id, &b)) {
		return
	}
	for _, cause := range slices.Sorted(maps.Keys(by)) {
		n := by[cause]
		for i := range b.Where {
			if x := &b.Where[i]; x.Kind == "stand" && n > 0 && x.Plants > 0 {
				k := min(n, x.Plants)
				x.Plants, n = x.Plants-k, n-k
				u.did(u.ask.post("/batches/"+id+"/losses", u.act(some{
					"from": []some{{"kind": "stand", "in": x.In, "plants": k, "pot": x.Pot}}, "cause": cause,
				}), nil))
			}
		}
	}
}

// inOrder are the batches by their ids, always in the same order.
func (u *Ulpa) inOrder() func(yield func(string, *play.Batch) bool) {
	return func(yield func(string, *play.Batch) bool) {
		for _, id := range slices.Sorted(maps.Keys(u.batches)) {
			if !yield(id, u.batches[id]) {
				return
			}
		}
	}
}

// habit is what people do where nobody says anything: water what stands in pots.
func (u *Ulpa) habit(w *play.World) { w.WaterPots(slices.Concat(w.In(w.Bench), w.In(w.Frame))) }
