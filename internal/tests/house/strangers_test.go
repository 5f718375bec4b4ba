package house_test

import (
	"bytes"
	"errors"
	"go/ast"
	"go/parser"
	"go/token"
	"image"
	"image/png"
	"io/fs"
	"path/filepath"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/climate"
	"ulpa/core/crop"
	"ulpa/core/fish"
	"ulpa/core/gauge"
	"ulpa/core/plan"
	"ulpa/core/raft"
	"ulpa/core/tank"
	"ulpa/core/tower"
	"ulpa/core/tray"
	"ulpa/core/water"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/labels"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/beds"
	"ulpa/internal/work/goals"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/mixing"
	"ulpa/internal/work/notebook"
	notebookview "ulpa/internal/work/notebook/view"
	"ulpa/internal/work/people"
	"ulpa/internal/work/pictures"
	"ulpa/internal/work/rafts"
	"ulpa/internal/work/round"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/sprouts"
	"ulpa/internal/work/trays"
	"ulpa/internal/work/troughs"
	"ulpa/internal/work/waters"
)

// withoutIDs are verbs that take no id of anything a school owns: they know
// their own school only.
var withoutIDs = strings.Fields(
	`batches.ReadOverview sowing.GetShelf seeds.AddLot seeds.OnShelf seeds.Look seeds.Take labels.Of
	harvest.ReadOverview site.All waters.All meters.All troughs.All mixing.Levels mixing.GetShelf 
	site.ReadPotting site.AddPlace season.PutNight season.PutNights season.PutSiteNight season.Close
		season.Closures season.Plan season.Plans site.ReadPlaces
	solution.All solution.Examine solution.Import round.Today round.Away crops.Get crops.Set trail.Note trail.Read people.SignOutEverywhere people.SetUnits
		people.SetSchoolUnits people.SetLanguage people.SetSchoolLanguage people.SetSchoolDay people.SetCrewsOnEnrolledOnly people.Enrol people.GetSchool
		people.FactsOf
			people.Add ledger.Once sowing.Begin view.ScheduleLink season.Nights season.ForgetNight people.Members people.SetSchool people.SetCrewMay people.SetProveTwice
			people.SetOwnSecret people.BeginProof people.ProofBegun people.Prove people.Proves people.AddKey people.Keys people.KeyUsed find.Everything find.Named
				demo.Furnish beds.Look beds.SetRule goals.SeedFor goals.IndoorTable goals.PastGoals
				goals.Courses season.LookAtFrost season.VarietyOf season.PutStation season.SetFrostRule goals.Look goals.Keep goals.ICalendar
				season.TakeCalendar season.ReadCalendar`,
)

// onePixel is the smallest picture, PNG.
var onePixel = func() []byte {
	var b bytes.Buffer
	_ = png.Encode(&b, image.NewGray(image.Rect(0, 0, 1, 1)))
	return b.Bytes()
}()

// verbs lists every verb in the code, as package and name: an exported function
// that is given the store and who asks.
func verbs(t *testing.T) (out []string) {
	require.NoError(t, filepath.WalkDir("../..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.Contains(path, "/pages/") {
			return err
		}
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			return err
		}
		for _, d := range f.Decls {
			fn, ok := d.(*ast.FuncDecl)
			if !ok || fn.Recv != nil || !fn.Name.IsExported() {
				continue
			}
			takes := map[string]bool{}
			for _, p := range fn.Type.Params.List {
				x := p.Type
				if star, ok := x.(*ast.StarExpr); ok {
					x = star.X
				}
				if sel, ok := x.(*ast.SelectorExpr); ok {
					takes[sel.X.(*ast.Ident).Name+"."+sel.Sel.Name] = true
				}
			}
			if takes["store.Store"] && takes["who.Who"] {
				out = append(out, f.Name.Name+"."+fn.Name.Name)
			}
		}
		return nil
	}))
	return out
}

// Every verb, asked by the coordinator of another school with this school's ids:
// nothing of this school is seen, and not a row of it changes.
func TestNoVerbReachesAnotherSchool(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines, s := d.Ines(t), d.Store
	school := d.School(t, "elsewhere")
	stranger := d.Person(t, school, who.Coordinator, "stranger")
	owner, err := pgx.Connect(ctx, d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(ctx)
	id := func(q string) (id uuid.UUID) {
		require.NoError(t, owner.QueryRow(ctx, q).Scan(&id), q)
		return id
	}
	planned := uuid.New()
	require.NoError(
		t,
		season.Plan(
			ctx,
			s,
			ines,
			season.Planned{ID: planned, Crop: "lettuce", Wanted: 3, SowOn: ines.Day(d.Clock.Now()) + 1, ReadyBy: ines.Day(d.Clock.Now()) + 40},
		),
	)
	waiting, err := solution.Examine(ctx, s, ines, "log.csv", strings.NewReader("time,series,value,unit\n2027-03-17T10:00:00Z,New logger,21.5,°C\n"))
	require.NoError(t, err)
	require.NotEqual(t, uuid.Nil, waiting.Draft)
	walk, err := round.Today(ctx, s, ines)
	require.NoError(t, err)
	task := walk.Stops[0].Tasks[0].Key
	tablet := uuid.New()
	require.NoError(t, people.Enrol(ctx, s, ines, tablet, "the token of a tablet", "Bench tablet"))
	var trayID, batchID uuid.UUID
	var row, col int
	require.NoError(
		t,
		owner.QueryRow(ctx, "SELECT tray_id, batch_id, row, col FROM cell WHERE state = 'sprouted' ORDER BY 1, 3, 4 LIMIT 1").
			Scan(&trayID, &batchID, &row, &col),
	)
	plant := []batch.Spot{{Kind: batch.InCell, In: trayID.String(), Row: row, Col: col}}
	place, vat, lot := id(
		"SELECT id FROM place WHERE kind = 'frame' LIMIT 1",
	), id(
		"SELECT id FROM tank ORDER BY name LIMIT 1",
	), id(
		"SELECT id FROM seed_lot ORDER BY name LIMIT 1",
	)
	note, cut := id("SELECT id FROM entry WHERE kind = 'note' LIMIT 1"), id("SELECT id FROM entry WHERE kind = 'harvest' LIMIT 1")
	section := id("SELECT id FROM bed_section LIMIT 1")
	at, ph := d.Clock.Now(), 6.2
	var written bytes.Buffer

	swims := id("SELECT id FROM trough LIMIT 1")
	asked := map[string]func() error{
		"goals.Say": func() error {
			return goals.Say(ctx, s, stranger, planned, plan.Pin{Stage: plan.StageTray, Place: "Nursery bench"})
		},
		"goals.Free": func() error { return goals.Free(ctx, s, stranger, planned, "") },
		"goals.Skip": func() error { return goals.Skip(ctx, s, stranger, planned) },
		"goals.Go":   func() error { return goals.Go(ctx, s, stranger, planned, plan.WayLater) },
		"seeds.Get":  func() error { _, err := seeds.Get(ctx, s, stranger, lot); return err },
		"seeds.BeginTest": func() error {
			return seeds.BeginTest(ctx, s, stranger, seeds.NewTest{ID: uuid.New(), Lot: lot, Begun: seeds.Begun{Seeds: 10, On: "paper", Light: "dark"}})
		},
		"seeds.CountTest": func() error {
			return seeds.CountTest(ctx, s, stranger, seeds.SawTest{ID: uuid.New(), Lot: lot, Test: planned})
		},
		"trays.KeepGap": func() error {
			k := trays.Keep{ID: uuid.New(), Tray: trayID, Cells: []tray.Cell{{Row: row, Col: col}}, Crop: "lettuce", On: ines.Day(at) + 3}
			return trays.KeepGap(ctx, s, stranger, k)
		},
		"trays.DropGap": func() error { return trays.DropGap(ctx, s, stranger, id("SELECT id FROM tray_gap LIMIT 1")) },
		"site.AddTrays": func() error {
			return site.AddTrays(ctx, s, stranger, uuid.New(), site.TraySetup{Place: place, Rows: 2, Columns: 2, CellML: 9}, 3)
		},
		"labels.Follow": func() error { _, err := labels.Follow(ctx, s, stranger, "LET-01"); return err },
		"labels.FollowShort": func() error {
			_, err := labels.FollowShort(ctx, s, stranger, labels.Short(lot)[len(labels.ThingPath):])
			return err
		},
		"labels.Printed":  func() error { return labels.Printed(ctx, s, stranger, []uuid.UUID{lot}) },
		"batches.KnownOf": func() error { _, _, err := batches.KnownOf(ctx, s, stranger, batchID); return err },
		"batches.NoteAilment": func() error {
			return batches.NoteAilment(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: batchID, At: at}, batches.Ailment{Sign: "webs", Cause: "mites"})
		},
		"trays.Shift": func() error {
			return trays.Shift(ctx, s, stranger, trays.ShiftRequest{ID: uuid.New(), Tray: trayID, From: []tray.Cell{{Row: row, Col: col}}, Into: trayID})
		},
		"seeds.Recount": func() error { n := 4; return seeds.Recount(ctx, s, stranger, lot, &n, nil) },
		"seeds.Finish":  func() error { return seeds.Finish(ctx, s, stranger, lot, "too-old") },
		"seeds.Merge":   func() error { return seeds.Merge(ctx, s, stranger, seeds.Pouring{From: lot, Into: planned}) },
		"beds.Grew": func() error {
			_, err := beds.Grew(ctx, s, stranger, 2026, []beds.Put{{Section: section, Crop: "kale"}})
			return err
		},
		"people.Change": func() error {
			return people.Change(ctx, s, stranger, people.Member{ID: ines.Person, Kind: who.Staff, Name: "x", Login: "x"})
		},
		"people.Leave":     func() error { return people.Leave(ctx, s, stranger, ines.Person) },
		"people.ComeBack":  func() error { return people.ComeBack(ctx, s, stranger, ines.Person) },
		"people.SetSecret": func() error { return people.SetSecret(ctx, s, stranger, ines.Person, "oyster lamp gravel") },
		"site.FillShelf":   func() error { _, err := site.FillShelf(ctx, s, stranger, vat); return err },
		"sowing.Adopt": func() error {
			_, err := sowing.Adopt(ctx, s, stranger, sowing.AdoptRequest{
				ID: uuid.New(), Crop: "basil", Variety: "x", Since: ines.Day(at), Plants: 1, Place: place,
			})
			return err
		},
		"people.WithdrawKey": func() error { return people.WithdrawKey(ctx, s, stranger, id("SELECT id FROM program_key LIMIT 1")) },
		"people.WayBack":     func() error { _, err := people.WayBack(ctx, s, stranger, ines.Person); return err },
		"people.EndProof":    func() error { return people.EndProof(ctx, s, stranger, ines.Person) },
		"pictures.Add": func() error {
			return pictures.Add(ctx, s, stranger, pictures.New{ID: uuid.New(), File: onePixel, About: &batchID})
		},
		"pictures.Read": func() error {
			_, err := pictures.Read(ctx, s, stranger, id("SELECT id FROM picture LIMIT 1"), true)
			return err
		},
		"pictures.Get": func() error {
			_, _, err := pictures.Get(ctx, s, stranger, id("SELECT id FROM picture LIMIT 1"))
			return err
		},
		"trays.Care": func() error {
			_, err := trays.Care(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: trayID, At: at}, tray.Done{Did: []string{tray.Turned}})
			return err
		},
		"meters.Get": func() error { _, err := meters.Get(ctx, s, stranger, id("SELECT id FROM meter LIMIT 1")); return err },
		"meters.Calibrate": func() error {
			b := meters.Buffers{Points: []gauge.Point{{Buffer: "7.00", Shown: 7, TemperatureC: 20}, {Buffer: "4.01", Shown: 4, TemperatureC: 20}}}
			_, err := meters.Calibrate(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: id("SELECT id FROM meter LIMIT 1"), At: at}, b)
			return err
		},
		"mixing.Work": func() error {
			_, err := mixing.Work(ctx, s, stranger, mixing.Question{Recipe: id("SELECT id FROM recipe LIMIT 1"), Water: id("SELECT id FROM water LIMIT 1"), Litres: 9})
			return err
		},
		"mixing.Mix": func() error {
			q := mixing.Question{Recipe: id("SELECT id FROM recipe LIMIT 1"), Water: id("SELECT id FROM water LIMIT 1"), Litres: 9}
			return mixing.Mix(ctx, s, stranger, mixing.Done{ID: uuid.New(), Question: q})
		},
		"waters.Get": func() error { _, err := waters.Get(ctx, s, stranger, id("SELECT id FROM water LIMIT 1")); return err },
		"waters.Analyse": func() error {
			a := water.Analysis{By: water.Drops, Values: map[string]float64{"alkalinity": 9}}
			return waters.Analyse(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: id("SELECT id FROM water LIMIT 1"), At: at}, a)
		},
		"sprouts.AskSoak": func() error {
			_, err := sprouts.AskSoak(ctx, s, stranger, sprouts.SoakQuestion{Lot: lot, Vessels: 1})
			return err
		},
		"sprouts.Soak": func() error {
			_, err := sprouts.Soak(ctx, s, stranger, sprouts.SoakRequest{ID: uuid.New(), Lot: lot, Place: place, Vessels: 1, Grams: 9, Sure: true})
			return err
		},
		"sprouts.Tend": func() error {
			return sprouts.Tend(ctx, s, stranger, sprouts.TendRequest{ID: uuid.New(), Batch: batchID, Did: []string{batch.Rinsed}, At: at})
		},
		"batches.Look": func() error {
			return batches.Look(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: batchID, At: at}, batches.Looks{Leaves: 3, HeightCM: 5})
		},
		"trays.Wash": func() error { return trays.Wash(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: trayID, At: at}) },
		"batches.PlannedLike": func() error {
			list, err := batches.PlannedLike(ctx, s, stranger, batches.Batch{ID: batchID, Crop: crop.Crop{ID: "lettuce"}})
			require.Empty(t, list)
			return errors.Join(err, store.ErrNotFound)
		},
		"batches.Describe":   func() error { return batches.Describe(ctx, s, stranger, batches.Described{Batch: batchID, Wanted: 3}) },
		"notebook.UndoVisit": func() error { return notebook.UndoVisit(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: note}) },
		"seeds.Reshelve":     func() error { return seeds.Reshelve(ctx, s, stranger, lot, nil, nil) },
		"batches.HandOver": func() error {
			return batches.HandOver(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: batchID, At: at}, plant, "sold")
		},
		"batches.Lose": func() error {
			return batches.Lose(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: batchID, At: at}, plant, "eaten")
		},
		"batches.Close": func() error { return batches.Close(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: batchID, At: at}) },
		"batches.Get":   func() error { _, err := batches.Get(ctx, s, stranger, batchID); return err },
		"trays.Get":     func() error { _, err := trays.Get(ctx, s, stranger, trayID); return err },
		"sowing.HowMuch": func() error {
			_, err := sowing.HowMuch(ctx, s, stranger, sowing.SowQuestion{Lot: lot, Wanted: 3})
			return err
		},
		"trays.Count": func() error {
			return trays.Count(
				ctx,
				s,
				stranger,
				trays.CountRequest{ID: uuid.New(), Tray: trayID, Marks: []batch.Mark{{Row: row, Col: col, State: batch.Lost}}},
			)
		},
		"sowing.Sow": func() error {
			_, err := sowing.Sow(
				ctx,
				s,
				stranger,
				sowing.SowRequest{ID: uuid.New(), Lot: lot, Wanted: 1, SeedsPerCell: 1, Tray: trayID, Cells: []tray.Cell{{Row: 1, Col: 1}}},
			)
			return err
		},
		"troughs.Get": func() error { _, err := troughs.Get(ctx, s, stranger, swims); return err },
		"troughs.LogReading": func() error {
			return troughs.LogReading(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: swims}, fish.Reading{TAN: new(0.1)})
		},
		"troughs.Restock": func() error {
			return troughs.Restock(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: swims}, fish.Stock{Why: fish.PutIn, Fish: 1, MassG: 5})
		},
		"troughs.Weigh": func() error {
			return troughs.Weigh(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: swims}, fish.Sample{Fish: 1, Grams: 5})
		},
		"troughs.Feed": func() error {
			return troughs.Feed(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: swims}, fish.Fed{Grams: 5})
		},
		"troughs.Change": func() error {
			return troughs.Change(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: swims}, fish.Added{ChangeL: 5})
		},
		"site.ReadAir": func() error {
			return site.ReadAir(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: place}, climate.Seen{TempC: new(20.0)})
		},
		"site.ClimateOf": func() error { _, err := site.ClimateOf(ctx, s, stranger, place); return err },
		"site.Check": func() error {
			return site.Check(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: place}, tower.Ticks{List: "clean", Steps: []string{"off"}})
		},
		"site.MoveBoards": func() error {
			return site.MoveBoards(ctx, s, stranger, site.BoardsRequest{ID: uuid.New(), Place: place, Moved: raft.Moved{Order: []int{2, 1}}})
		},
		"rafts.Get":     func() error { _, err := rafts.Get(ctx, s, stranger, place, rafts.Asked{}); return err },
		"rafts.BoardOf": func() error { _, err := rafts.BoardOf(ctx, s, stranger, place, 1); return err },
		"rafts.Plant": func() error {
			return rafts.Plant(ctx, s, stranger, rafts.PlantRequest{ID: uuid.New(), Place: place, Batch: batchID, Board: 1, Plants: 1})
		},
		"rafts.Harvest": func() error {
			return rafts.Harvest(ctx, s, stranger, rafts.HarvestRequest{ID: uuid.New(), Place: place, Batch: batchID, Board: 1, Grams: 5})
		},
		"site.Get": func() error { _, err := site.Get(ctx, s, stranger, place); return err },
		"site.Move": func() error {
			return site.Move(ctx, s, stranger, site.MoveRequest{ID: uuid.New(), Batch: batchID, From: plant, To: place})
		},
		"site.AddTray": func() error {
			return site.AddTray(ctx, s, stranger, site.TraySetup{ID: uuid.New(), Name: "x", Place: place, Rows: 2, Columns: 2, CellML: 9})
		},
		"site.AddTank": func() error {
			return site.AddTank(ctx, s, stranger, site.TankSetup{ID: uuid.New(), Place: place, Name: "x", Spec: plainSpec})
		},
		"harvest.Weigh": func() error {
			return harvest.Weigh(ctx, s, stranger, harvest.Request{ID: uuid.New(), Batch: batchID, Grams: 5})
		},
		"solution.Get":        func() error { _, err := solution.Get(ctx, s, stranger, vat); return err },
		"solution.Jars":       func() error { _, err := solution.Jars(ctx, s, stranger, place); return err },
		"solution.ReadScreen": func() error { _, err := solution.ReadScreen(ctx, s, stranger, vat, solution.Spans[0]); return err },
		"solution.ReadSpan":   func() error { _, err := solution.ReadSpan(ctx, s, stranger, vat, solution.Spans[3]); return err },
		"solution.Confirm":    func() error { _, err := solution.Confirm(ctx, s, stranger, waiting.Draft); return err },
		"solution.LogReading": func() error {
			return solution.LogReading(ctx, s, stranger, solution.ReadingRequest{ID: uuid.New(), Tank: vat, Reading: tank.Reading{PH: &ph}, Sure: true})
		},
		"solution.TreatAll": func() error {
			return solution.TreatAll(ctx, s, stranger, []solution.TreatRequest{{ID: uuid.New(), Tank: vat, Done: tank.Treatment{WaterL: 1}}})
		},
		"solution.Treat": func() error {
			return solution.Treat(ctx, s, stranger, solution.TreatRequest{ID: uuid.New(), Tank: vat, Done: tank.Treatment{WaterL: 1}})
		},
		"notebook.Note": func() error {
			for _, id := range []uuid.UUID{batchID, place, vat, trayID, lot} {
				if err := notebook.Note(ctx, s, stranger, notebook.NoteRequest{ID: uuid.New(), Text: "x", About: []uuid.UUID{id}}); err == nil {
					return nil
				}
			}
			return store.ErrNotFound
		},
		"notebook.Thing":   func() error { _, err := notebook.Thing(ctx, s, stranger, vat); return err },
		"notebook.Undo":    func() error { return notebook.Undo(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: note}) },
		"notebook.Entry":   func() error { _, err := notebook.Entry(ctx, s, stranger, note); return err },
		"notebook.Correct": func() error { return notebook.Correct(ctx, s, stranger, ledger.Act{ID: uuid.New(), On: cut}, grams(1)) },
		"round.Give":       func() error { return round.Give(ctx, s, stranger, []round.Gift{{Key: task, To: ines.Person}}) },
		"round.Tick": func() error {
			_, err := round.Tick(ctx, s, stranger, round.TickRequest{ID: uuid.New(), Task: task.String(), Unwritten: true})
			return err
		},
		"season.GetPlanned": func() error { _, err := season.GetPlanned(ctx, s, stranger, planned); return err },
		"people.Dismiss":    func() error { return people.Dismiss(ctx, s, stranger, tablet) },
		"people.Load":       func() error { _, err := people.Load(ctx, s, who.Who{School: school, Person: ines.Person}); return err },
	}
	// These answer with nothing rather than with a refusal.
	empty := map[string]func() error{
		"notebook.Read": func() error {
			lines, err := notebook.Read(ctx, s, stranger, notebook.Filter{About: &batchID})
			require.Empty(t, lines)
			return err
		},
		"notebook.CSV": func() error {
			err := notebook.CSV(ctx, s, stranger, notebook.Filter{About: &place}, &written)
			require.Equal(t, 1, strings.Count(written.String(), "\n"), "the heading only")
			return err
		},
		"view.LinesAbout": func() error {
			lines, err := notebookview.LinesAbout(ctx, s, stranger, notebook.Filter{About: &batchID})
			require.Empty(t, lines)
			return err
		},
		"site.Lists": func() error {
			lists, err := site.Lists(ctx, s, stranger, place)
			for _, l := range lists {
				require.Empty(t, l.Done)
			}
			return err
		},
		"season.Ramp": func() error {
			ramp, err := season.Ramp(ctx, s, stranger, batchID)
			require.Empty(t, ramp)
			return err
		},
		"beds.Forget": func() error { return beds.Forget(ctx, s, stranger, planned) },
		"season.Drop": func() error { return season.Drop(ctx, s, stranger, planned) },
	}
	for _, verb := range verbs(t) {
		known := asked[verb] != nil || empty[verb] != nil || strings.Contains(" "+strings.Join(withoutIDs, " ")+" ", " "+verb+" ")
		require.True(t, known, "%s: the test does not know how to ask it", verb)
	}

	before := ownRows(t, owner, ines.School)
	for name, ask := range asked {
		require.Error(t, ask(), "%s took another school's ids", name)
	}
	for name, ask := range empty {
		require.NoError(t, ask(), name)
	}
	require.Equal(t, before, ownRows(t, owner, ines.School))
	require.Equal(t, ines.Day(at)+1, must(season.GetPlanned(ctx, s, ines, planned)).SowOn, "what was planned still is")
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

// ownRows are one hash for each table of what a school holds in it.
func ownRows(t *testing.T, owner *pgx.Conn, school uuid.UUID) map[string]string {
	rows, err := owner.Query(
		ctx,
		"SELECT table_name FROM information_schema.columns JOIN pg_class c ON c.relname = table_name AND c.relkind IN ('r', 'p') AND NOT "+
			"c.relispartition WHERE table_schema = 'public' AND column_name = 'school_id'",
	)
	require.NoError(t, err)
	tables, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	require.Greater(t, len(tables), 15)
	out := map[string]string{}
	for _, name := range tables {
		var hash string
		q := "SELECT coalesce(md5(string_agg(x::text, '|' ORDER BY x::text)), '') FROM " + pgx.Identifier{name}.Sanitize() + " x WHERE school_id = $1"
		require.NoError(t, owner.QueryRow(ctx, q, school).Scan(&hash))
		out[name] = hash
	}
	return out
}
