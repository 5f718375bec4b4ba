package demo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	pgxuuid "github.com/vgarvardt/pgx-google-uuid/v5"
	"golang.org/x/sync/errgroup"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/tank"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	tanks "ulpa/internal/work/solution"
)

// Size is how much a busy school has gathered.
type Size struct {
	Years                                                  int
	Batches, Open, Trays, Tanks, Entries, Series, Readings int
}

// Busy is a school with so many years behind it.
func Busy(years int) Size {
	return Size{
		Years:    years,
		Batches:  400 * years,
		Open:     60 * years,
		Trays:    60 * years,
		Tanks:    20,
		Entries:  40_000 * years,
		Series:   10,
		Readings: 1_000_000 * years,
	}
}

// grower writes years of facts straight into the tables, in bulk: the acts are
// applied to the same books that the verbs keep, so that the facts fold to what
// stands beside them.
type grower struct {
	ctx     context.Context
	conn    *pgx.Conn
	r       *rand.Rand
	size    Size
	school  uuid.UUID
	people  []uuid.UUID
	places  []uuid.UUID
	lots    []lotRow
	today   time.Time
	next    uint64
	entries [][]any
	about   [][]any
	batches [][]any
	cells   [][]any
	parts   [][]any
}

type lotRow struct {
	ID, Variety uuid.UUID
	Crop        string
}

// Grow puts years of a busy school behind the demo, the same on every run. It
// connects as the owner of the tables, twice over: bulk loading passes by row-level
// security, and what meters wrote down does not wait for what people did.
func Grow(ctx context.Context, ownerURL string, school uuid.UUID, today calendar.Day, size Size) error {
	g := &grower{ctx: ctx, r: dice(0), size: size, school: school, today: today.UTC().Add(9 * time.Hour)}
	var meters *pgx.Conn
	for _, c := range []**pgx.Conn{&g.conn, &meters} {
		conn, err := pgx.Connect(ctx, ownerURL)
		if err != nil {
			return err
		}
		defer conn.Close(ctx)
		pgxuuid.Register(conn.TypeMap())
		// The notebook's index on parts of words takes a great many at once far better.
		if _, err := conn.Exec(ctx, "SET gin_pending_list_limit = '512MB'; SET maintenance_work_mem = '512MB'; SET work_mem = '64MB'"); err != nil {
			return err
		}
		*c = conn
	}
	for _, step := range []func() error{g.know, g.trays, g.grow, g.tanks, g.notes} {
		if err := step(); err != nil {
			return err
		}
	}
	if err := g.store(meters); err != nil {
		return err
	}
	// What was worked out before holds no longer.
	if _, err := g.conn.Exec(ctx, "UPDATE stamp SET mark = gen_random_uuid(), shape = $2 WHERE school_id = $1", school, store.Shape()); err != nil {
		return err
	}
	_, err := g.conn.Exec(ctx, "ANALYZE")
	return err
}

// dice are the same every time, and others for each that asks.
func dice(of int) *rand.Rand {
	return rand.New(rand.NewPCG(11, 23+uint64(of))) // #nosec G404 G115 -- the same school every time
}

// id counts on: the same ids on every run, in the order of writing.
func (g *grower) id() uuid.UUID {
	g.next++
	return uuid.NewSHA1(g.school, fmt.Appendf(nil, "years %d", g.next))
}

func (g *grower) know() error {
	ids := func(q string) (out []uuid.UUID, err error) {
		rows, err := g.conn.Query(g.ctx, q, g.school)
		if err != nil {
			return nil, err
		}
		return pgx.CollectRows(rows, pgx.RowTo[uuid.UUID])
	}
	var err error
	if g.people, err = ids("SELECT id FROM person WHERE school_id = $1 ORDER BY name"); err != nil {
		return err
	}
	if g.places, err = ids("SELECT id FROM place WHERE school_id = $1 ORDER BY walk_order"); err != nil {
		return err
	}
	rows, err := g.conn.Query(
		g.ctx,
		"SELECT l.id, l.variety_id, v.crop FROM seed_lot l JOIN variety v ON v.school_id = l.school_id AND v.id = l.variety_id WHERE l.school_id = $1 "+
			"ORDER BY l.name",
		g.school,
	)
	if err != nil {
		return err
	}
	g.lots, err = pgx.CollectRows(rows, pgx.RowToStructByPos[lotRow])
	return err
}

func (g *grower) copy(table string, columns []string, rows [][]any) error {
	_, err := g.conn.CopyFrom(g.ctx, pgx.Identifier{table}, columns, pgx.CopyFromRows(rows))
	if err != nil {
		return fmt.Errorf("%s: %w", table, err)
	}
	return nil
}

const trayRows, trayColumns, sownCells = 8, 13, 60

func (g *grower) tray(i int) uuid.UUID {
	return uuid.NewSHA1(g.school, fmt.Appendf(nil, "years tray %d", i))
}

func (g *grower) trays() error {
	var rows [][]any
	for i := range g.size.Trays {
		rows = append(rows, []any{g.school, g.tray(i), fmt.Sprintf("Shelf tray %d", i+1), g.places[i%2], trayRows, trayColumns, 40.0})
	}
	return g.copy("tray", []string{"school_id", "id", "name", "place_id", "rows", "columns", "cell_ml"}, rows)
}

// write adds a fact.
func (g *grower) write(kind string, at time.Time, batchID, place, tank *uuid.UUID, data any, about string) error {
	b, err := json.Marshal(data)
	if err != nil {
		return err
	}
	id := g.id()
	g.entries = append(g.entries, []any{g.school, id, kind, at, at, g.people[g.r.IntN(len(g.people))], json.RawMessage(b), ledger.Found(about, kind, b, "")})
	for _, thing := range []*uuid.UUID{batchID, place, tank} {
		if thing != nil {
			g.about = append(g.about, []any{id, *thing})
		}
	}
	return nil
}

// grow writes the batches: most closed years ago, one open in each tray.
func (g *grower) grow() error {
	codes := map[string]int{}
	for n := range g.size.Batches {
		open := n >= g.size.Batches-g.size.Open
		lot := g.lots[g.r.IntN(len(g.lots))]
		c, _ := crop.Find(lot.Crop)
		codes[c.Letters]++
		id, code := g.id(), fmt.Sprintf("%s-%d", c.Letters, 1000+codes[c.Letters])
		trayNo := n % g.size.Trays
		sown := g.today.AddDate(0, 0, -60-g.r.IntN(365*g.size.Years))
		if open {
			trayNo = n - (g.size.Batches - g.size.Open)
			sown = g.today.AddDate(0, 0, -2-g.r.IntN(24))
		}
		state, latest, err := g.life(id, g.tray(trayNo), g.places[trayNo%2], sown, open, code+" "+c.ID)
		if err != nil {
			return fmt.Errorf("%s: %w", code, err)
		}
		b, err := json.Marshal(state)
		if err != nil {
			return err
		}
		l, err := json.Marshal(latest)
		if err != nil {
			return err
		}
		g.batches = append(
			g.batches,
			[]any{g.school, id, code, c.ID, lot.Variety, lot.ID, "", sownCells / 2, sown, json.RawMessage(b), !open, json.RawMessage(l)},
		)
		if !open {
			continue
		}
		for _, p := range ledger.Parts(state.Cells) {
			g.parts = append(g.parts, []any{g.school, g.tray(trayNo), id, p.Waiting, p.Standing, p.Used})
		}
		for spot, cell := range state.Cells {
			g.cells = append(g.cells, []any{g.school, g.tray(trayNo), spot.Row, spot.Col, id, string(cell.State), cell.Cause})
		}
	}
	return nil
}

// life is one batch from sowing to where it is now.
func (g *grower) life(id, trayID, place uuid.UUID, sown time.Time, open bool, about string) (s *batch.State, latest ledger.Latest, err error) {
	s = batch.New()
	day := 0
	do := func(a batch.Act, after int) error {
		at := sown.AddDate(0, 0, day+after)
		if at.After(g.today) {
			return nil
		}
		day += after
		if err := s.Apply(a); err != nil {
			return err
		}
		latest.See(a, at, &place)
		return g.write(string(a.Kind), at, &id, &place, nil, a, about)
	}
	var spots []batch.Spot
	for i := range sownCells {
		spots = append(spots, batch.Spot{Kind: batch.InCell, In: trayID.String(), Row: i / trayColumns, Col: i % trayColumns})
	}
	if err := do(batch.Act{Kind: batch.Sow, Cells: spots, SeedsPerCell: 1}, 0); err != nil {
		return nil, latest, err
	}
	for from := 0; from < sownCells; from += 20 { // three visits, each finds more of them up
		var marks []batch.Mark
		for _, at := range spots[from : from+20] {
			state := batch.Sprouted
			if g.r.IntN(7) == 0 {
				state = batch.Empty
			}
			marks = append(marks, batch.Mark{In: at.In, Row: at.Row, Col: at.Col, State: state})
		}
		if err := do(batch.Act{Kind: batch.Count, Marks: marks}, 3+g.r.IntN(2)); err != nil {
			return nil, latest, err
		}
	}
	if err := do(batch.Act{Kind: batch.Look, Leaves: 2 + g.r.IntN(3), HeightCM: 4 + float64(g.r.IntN(60))/10}, 4); err != nil || open {
		return s, latest, err
	}
	for range 1 + g.r.IntN(4) {
		if err := do(batch.Act{Kind: batch.Harvest, Grams: 50 + float64(g.r.IntN(9000))/10}, 6); err != nil {
			return nil, latest, err
		}
	}
	var left []batch.Spot
	for _, at := range spots {
		if s.Cells[at].State == batch.Sprouted {
			left = append(left, at)
		}
	}
	if err := do(batch.Act{Kind: batch.Harvest, Grams: 800, Whole: true, From: left}, 5); err != nil {
		return nil, latest, err
	}
	return s, latest, do(batch.Act{Kind: batch.Close}, 1)
}

// tanks adds tanks until there are enough, and five years of their readings.
func (g *grower) tanks() error {
	rows, err := g.conn.Query(g.ctx, "SELECT id, spec FROM tank WHERE school_id = $1 ORDER BY name", g.school)
	if err != nil {
		return err
	}
	type tankRow struct {
		ID   uuid.UUID
		Spec json.RawMessage
	}
	have, err := pgx.CollectRows(rows, pgx.RowToStructByPos[tankRow])
	if err != nil {
		return err
	}
	for i := len(have); i < g.size.Tanks; i++ {
		var spec tank.Spec
		if err := json.Unmarshal(have[len(have)-1].Spec, &spec); err != nil {
			return err
		}
		id, state := g.id(), tank.State{}
		for d := 5 + g.r.IntN(3); d < 365*g.size.Years; d += 1 + g.r.IntN(3) {
			at := g.today.AddDate(0, 0, d-365*g.size.Years)
			num := func(v float64) *float64 { v = math.Round(v*100) / 100; return &v }
			reading := tank.Reading{
				PH:     num(5.6 + g.r.Float64()),
				ECMS:   num(1.2 + 0.6*g.r.Float64()),
				TempC:  num(16 + 6*g.r.Float64()),
				LevelL: num(spec.FillToL * (0.6 + 0.4*g.r.Float64())),
			}
			state.Read(spec, reading, at)
			if err := g.write(tanks.Read.Name, at, nil, nil, &id, reading, ""); err != nil {
				return err
			}
			if g.r.IntN(3) == 0 {
				t := tank.Treatment{WaterL: math.Round(spec.FillToL-*reading.LevelL) + 0.5, StockML: float64(5 + g.r.IntN(30))}
				state.Treat(spec, t, at.Add(10*time.Minute))
				if err := g.write(tanks.Treated.Name, at.Add(10*time.Minute), nil, nil, &id, t, ""); err != nil {
					return err
				}
			}
		}
		kept, err := json.Marshal(state)
		if err != nil {
			return err
		}
		if err := g.copy("tank", []string{"school_id", "id", "place_id", "name", "position", "spec", "state"},
			[][]any{{g.school, id, g.places[i%len(g.places)], fmt.Sprintf("Vat %d", i+1), i, have[len(have)-1].Spec, json.RawMessage(kept)}}); err != nil {
			return err
		}
	}
	return nil
}

// notes fills the notebook up to its size with what was seen on the walk.
func (g *grower) notes() error {
	seen := []string{
		"Leaves look well",
		"Aphids under two leaves, wiped off",
		"Lid propped a hand wide",
		"Slug by the drain, moved",
		"Roots white and hairy",
		"Pump hums, cleaned the filter",
		"Label faded, written anew",
		"Tip burn on three heads",
	}
	for len(g.entries) < g.size.Entries {
		at := g.today.Add(-time.Duration(g.r.Int64N(int64(g.size.Years) * 365 * 24 * int64(time.Hour))))
		place := g.places[g.r.IntN(len(g.places))]
		if err := g.write(ledger.Noted.Name, at, nil, &place, nil, ledger.Note{Text: fmt.Sprintf("%s, number %d", seen[g.r.IntN(len(seen))],
			g.r.IntN(1000))}, ""); err != nil {
			return err
		}
	}
	return nil
}

// store brings the facts and the meters' readings into the tables, side by side.
func (g *grower) store(meters *pgx.Conn) error {
	logs, err := g.series()
	if err != nil {
		return err
	}
	todo := make(chan meterLog, len(logs))
	for _, l := range logs {
		todo <- l
	}
	close(todo)
	both, ctx := errgroup.WithContext(g.ctx)
	both.Go(func() error { return writeLogs(ctx, meters, todo) })
	both.Go(func() error {
		if err := g.facts(); err != nil {
			return err
		}
		return writeLogs(ctx, g.conn, todo)
	})
	return both.Wait()
}

func (g *grower) facts() error {
	for _, t := range []struct {
		table   string
		columns string
		rows    [][]any
	}{
		{"batch", "school_id id code crop variety_id seed_lot_id purpose wanted sown_at state closed latest", g.batches},
		{"cell", "school_id tray_id row col batch_id state cause", g.cells},
		{"tray_part", "school_id tray_id batch_id waiting standing used", g.parts},
		{"entry", "school_id id kind happened_at written_at person_id data words", g.entries},
	} {
		if err := g.copy(t.table, strings.Fields(t.columns), t.rows); err != nil {
			return err
		}
	}
	if _, err := g.conn.Exec(g.ctx, "CREATE TEMP TABLE told (entry_id uuid, thing_id uuid)"); err != nil {
		return err
	}
	if err := g.copy("told", []string{"entry_id", "thing_id"}, g.about); err != nil {
		return err
	}
	_, err := g.conn.Exec(g.ctx, `INSERT INTO about SELECT e.school_id, e.id, t.thing_id, e.happened_at, e.seq, e.kind
		FROM told t JOIN entry e ON e.school_id = $1 AND e.id = t.entry_id`, g.school)
	return errors.Join(err, g.drop("told"))
}

func (g *grower) drop(table string) error {
	_, err := g.conn.Exec(g.ctx, "DROP TABLE "+table)
	return err
}

// meterLog is what one logger wrote down.
type meterLog struct {
	school, series uuid.UUID
	from           time.Time
	step           time.Duration
	readings       int
	r              *rand.Rand
}

// series makes the loggers' series, of which the first belongs to the last tank.
func (g *grower) series() (logs []meterLog, err error) {
	from := g.today.AddDate(-g.size.Years, 0, 0).Truncate(time.Hour)
	var tank uuid.UUID
	if err := g.conn.QueryRow(g.ctx, "SELECT id FROM tank WHERE school_id = $1 ORDER BY position DESC, name DESC LIMIT 1", g.school).Scan(&tank); err != nil {
		return nil, err
	}
	var rows [][]any
	for i := range g.size.Series {
		l := meterLog{school: g.school, series: g.id(), from: from, readings: g.size.Readings / g.size.Series, r: dice(i + 1)}
		l.step = g.today.Sub(from) / time.Duration(l.readings)
		row := []any{g.school, l.series, fmt.Sprintf("Logger %d", i+1), "°C", nil}
		if i == 0 {
			row[2], row[3], row[4] = "Vat pH", "pH", tank
		}
		rows, logs = append(rows, row), append(logs, l)
	}
	return logs, g.copy("series", []string{"school_id", "id", "name", "unit", "tank_id"}, rows)
}

// writeLogs writes readings and their roll-ups until nothing is left to do.
func writeLogs(ctx context.Context, conn *pgx.Conn, todo <-chan meterLog) error {
	for l := range todo {
		n := 0
		_, err := conn.CopyFrom(ctx, pgx.Identifier{"reading"}, []string{"school_id", "series_id", "at", "value"}, pgx.CopyFromFunc(func() ([]any, error) {
			if n == l.readings {
				return nil, nil
			}
			at := l.from.Add(time.Duration(n) * l.step)
			v := 6 + 0.4*math.Sin(float64(n)/900) + 0.1*l.r.Float64()
			n++
			return []any{l.school, l.series, at, math.Round(v*100) / 100}, nil
		}))
		if err != nil {
			return err
		}
		_, err = conn.Exec(ctx, `
			WITH q AS (INSERT INTO rollup SELECT school_id, series_id, 'q', date_bin('15 minutes', at, '2000-01-01 00:00Z') AS t, count(*), sum(value),
				min(value), max(value)
				FROM reading WHERE school_id = $1 AND series_id = $2 GROUP BY school_id, series_id, t RETURNING *),
			h AS (INSERT INTO rollup SELECT school_id, series_id, 'h', date_bin('1 hour', at, '2000-01-01 00:00Z') AS t, sum(n), sum(total), min(low),
				max(high) FROM q GROUP BY school_id, series_id, t RETURNING *)
			INSERT INTO rollup SELECT school_id, series_id, 'd', date_bin('1 day', at, '2000-01-01 00:00Z') AS t, sum(n), sum(total), min(low),
				max(high) FROM h GROUP BY school_id, series_id, t`, l.school, l.series)
		if err != nil {
			return err
		}
	}
	return nil
}
