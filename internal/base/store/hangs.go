package store

import (
	"context"
	"regexp"
	"slices"
	"strings"
	"sync"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"ulpa/internal/base/memo"
	"ulpa/internal/base/store/db"
)

// told are the tables of which every write tells what it changed (migration 40). Meters' readings
// are a topic of their own; whatever else a statement names is not told, and what hangs on it
// holds until anybody writes.
var told = strings.Fields(`about entry batch bed_crop bed_rule bed_section cell closure crop_value goal job labelled meter mix night own_crop period
	person picture place planned port pot recipe round_given salt school school_days seed_lot series stand station stock tank thing tray tray_gap
	tray_part trough variety water wish`)

var (
	readings = []string{"reading", "rollup"}
	untold   = strings.Fields("change crew_device device import_draft import_part program_key second_proof session sign_in_attempt stamp trail way_back")
)

// ofThings are statements that read rows of the things they are given the ids of, and of no
// others, with the tables that is true of.
var ofThings = map[string][]string{
	"FactsAbout": {memo.AnyEntry}, "FishFacts": {memo.AnyEntry}, "TankWritten": {memo.AnyEntry}, "Notebook": {memo.AnyEntry},
	"AirOf": {"entry:air"}, "CheckedAt": {"entry:checked"}, "CameTo": {"entry:move", "entry:adopt"},
	"BoardsNow": {"entry:boards_moved"}, "BoardMoves": {"entry:boards_moved"},
	"StockMixes": {"entry:mixed"}, "StockUses": {"entry:treat"},
	"GetBatches": {"batch"}, "CellsOfBatches": {"cell"}, "PortsOfBatches": {"port"}, "StandsOfBatches": {"stand"},
	"GetTank": {"tank"}, "GetPlace": {"place"}, "CellsOfTray": {"cell"}, "PortsOfPlaces": {"port"},
}

// ofKinds are statements that read entries of some kinds, whatever they are about.
var ofKinds = map[string][]string{
	"TicksOf": {"entry:tick"}, "HarvestsSince": {"entry:harvest"}, "TrayCare": {"entry:tray_care"}, "FirstCuts": {"entry:harvest"},
	"LooksBefore": {"entry:look"}, "Decided": {"entry:tick", "entry:skip"},
}

// hang is what a statement's answer hangs on.
type hang struct{ things, any []string }

var (
	hangs     sync.Map // by statement
	words     = regexp.MustCompile(`\b[a-z_]+\b`)
	nameOf    = regexp.MustCompile(`^-- name: (\w+)`)
	pageOfAll = "notebook_page" // a function that reads entries
)

// hangOf reads in a statement which tables it reads: those of which it has the name.
func hangOf(sql string) hang {
	if h, ok := hangs.Load(sql); ok {
		return h.(hang)
	}
	name := ""
	if m := nameOf.FindStringSubmatch(sql); m != nil {
		name = m[1]
	}
	h := hang{things: ofThings[name], any: slices.Clone(ofKinds[name])}
	seen, entries := map[string]bool{}, false
	for _, w := range words.FindAllString(sql, -1) {
		switch {
		case seen[w] || slices.Contains(h.things, w):
		case w == "about" || w == "entry" || w == pageOfAll:
			entries = true
		case slices.Contains(told, w):
			h.any = append(h.any, w)
		case slices.Contains(untold, w):
			h.any = append(h.any, anyWrite)
		}
		seen[w] = true
	}
	own := func(of string) bool { return strings.HasPrefix(of, "entry:") }
	if entries && !slices.ContainsFunc(h.things, own) && !slices.ContainsFunc(h.any, own) {
		h.any = append(h.any, memo.AnyEntry)
	}
	hangs.Store(sql, h)
	return h
}

// reader sends statements, and notes what their answers hang on for whoever keeps what is worked
// out from them.
type reader struct {
	db.DBTX
	notes *[]memo.Rows
}

func (r reader) note(sql string, args []any) {
	if len(*r.notes) == 0 {
		return
	}
	rows, h := (*r.notes)[len(*r.notes)-1], hangOf(sql)
	for _, of := range h.any {
		rows[memo.Row{Of: of}] = true
	}
	for _, of := range h.things {
		for _, a := range args {
			switch id := a.(type) {
			case uuid.UUID:
				rows[memo.Row{Of: of, Thing: id}] = true
			case *uuid.UUID: // nil: of any thing
				var thing uuid.UUID
				if id != nil {
					thing = *id
				}
				rows[memo.Row{Of: of, Thing: thing}] = true
			case []uuid.UUID:
				for _, id := range id {
					rows[memo.Row{Of: of, Thing: id}] = true
				}
			}
		}
	}
}

// Exec sends a statement.
func (r reader) Exec(ctx context.Context, sql string, args ...any) (pgconn.CommandTag, error) {
	r.note(sql, args)
	return r.DBTX.Exec(ctx, sql, args...)
}

// Query asks for rows.
func (r reader) Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error) {
	r.note(sql, args)
	return r.DBTX.Query(ctx, sql, args...)
}

// QueryRow asks for a row.
func (r reader) QueryRow(ctx context.Context, sql string, args ...any) pgx.Row {
	r.note(sql, args)
	return r.DBTX.QueryRow(ctx, sql, args...)
}
