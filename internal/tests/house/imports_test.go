package house_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/people"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
)

func countReadings(t *testing.T, d testdb.DB, w who.Who) int {
	return read(t, d, w, func(tx *store.Tx) (n int, err error) {
		return n, tx.Conn().QueryRow(ctx, "SELECT count(*) FROM reading").Scan(&n)
	})
}

func TestAFileIsStoredWholeOrNotAndOnce(t *testing.T) {
	t.Parallel()
	d := testdb.Empty(t)
	w := d.Person(t, d.School(t, "small"), who.Coordinator, "ines")
	var file bytes.Buffer
	file.WriteString("time,series,value,unit\n")
	start := time.Date(2026, 11, 30, 0, 0, 0, 0, time.UTC)
	const rows = 200_000
	for i := range rows / 2 {
		at := start.Add(time.Duration(i) * 30 * time.Second).Format(time.RFC3339)
		fmt.Fprintf(&file, "%s,tank ph,%.2f,pH\n%s,air,%.1f,°C\n", at, 5.5+float64(i%100)/100, at, 15+float64(i%80)/10)
	}
	bad := append(bytes.Clone(file.Bytes()), []byte("2027-01-01 10:00,tank ph,77,pH\n")...)
	p, err := solution.Examine(ctx, d.Store, w, "log.csv", bytes.NewReader(bad))
	require.NoError(t, err)
	require.Equal(t, rows+2, p.Problems[0].Line)
	require.Zero(t, countReadings(t, d, w))
	p, err = solution.Examine(ctx, d.Store, w, "log.csv", bytes.NewReader(file.Bytes()))
	require.NoError(t, err)
	require.Empty(t, p.Problems)
	require.Len(t, p.Series, 2)
	require.True(t, p.Series[0].New)
	done, err := solution.Confirm(ctx, d.Store, w, p.Draft)
	require.NoError(t, err)
	require.Equal(t, solution.Imported{File: "log.csv", Rows: rows, New: rows}, done)
	again, problems, err := solution.Import(ctx, d.Store, w, "log.csv", bytes.NewReader(file.Bytes()))
	require.NoError(t, err)
	require.Empty(t, problems)
	require.Zero(t, again.New)
	require.Equal(t, rows, countReadings(t, d, w))
	_, problems, err = solution.Import(ctx, d.Store, w, "log.csv", strings.NewReader("time,series,value,unit\n2027-01-01 10:00,tank ph,7,mS/cm\n"))
	require.NoError(t, err)
	require.Contains(t, problems[0].Message.String(), "has been recorded in pH so far")
	crew := d.Person(t, w.School, who.Crew, "Dory")
	_, err = solution.Examine(ctx, d.Store, crew, "log.csv", bytes.NewReader(file.Bytes()))
	require.ErrorIs(t, err, who.ErrNotAllowed)
}

// A place is as warm as its meter says; when that falls silent, as warm as the season.
func TestAPlaceIsAsWarmAsItsMeterSays(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	now := f.Clock.Now()
	var file strings.Builder
	file.WriteString("time,series,value,unit\n")
	for h := range 24 * 14 { // a week at 12, then a week that swings around 21
		c := 12.0
		if h < 24*7 {
			c = 21 + float64(h%2)*2 - 1
		}
		fmt.Fprintf(&file, "%s,Sill logger,%.1f,°C\n", now.Add(-time.Duration(h)*time.Hour-time.Minute).UTC().Format(time.RFC3339), c)
	}
	_, problems, err := solution.Import(ctx, f.Store, f.ines, "sill.csv", strings.NewReader(file.String()))
	require.NoError(t, err)
	require.Empty(t, problems)
	look, err := site.PlaceKind.Look(ctx, f.Store, f.ines, f.bench)
	require.NoError(t, err)
	meter := look.Options["meter"]
	require.Len(t, meter, 2, "none, or the only one that writes temperatures")
	c, winter := 15.0, 9.0
	at := func(meter string, when time.Time) site.Place {
		f.Clock.Set(when)
		p := site.PlaceSetup{ID: f.bench, Name: "Bench", Kind: "bench", TemperatureC: &c, WinterC: &winter, WalkOrder: 1, Meter: meter}
		look, err := site.PlaceKind.Look(ctx, f.Store, f.ines, f.bench)
		require.NoError(t, err)
		_, err = site.PlaceKind.Put(ctx, f.Store, f.ines, p, look.Tag)
		require.NoError(t, err)
		return read(t, f.DB, f.ines, func(tx *store.Tx) (site.Place, error) { return site.GetPlace(ctx, tx, f.bench) })
	}
	warm := at(meter[1].Value, now)
	require.True(t, warm.Measured)
	require.InDelta(t, 21, warm.TemperatureC, 0.1)
	require.InDelta(t, 15, at("", now).TemperatureC, 1e-9, "without a meter")
	silent := at(meter[1].Value, now.AddDate(0, 0, 20))
	require.False(t, silent.Measured)
	require.InDelta(t, 15, silent.TemperatureC, 1e-9, "the meter is silent")
}

func TestSignInSlowsAfterFailures(t *testing.T) {
	t.Parallel()
	d := testdb.Empty(t)
	w := d.Person(t, d.School(t, "small"), who.Coordinator, "ines")
	login := "ines@" + w.School.String()[30:] + ".example"
	_, err := people.SignIn(ctx, d.Store, people.From{}, login, "long enough a secret")
	require.NoError(t, err)
	for range 3 {
		_, err = people.SignIn(ctx, d.Store, people.From{}, login, "wrong")
		require.ErrorIs(t, err, people.ErrWrong)
	}
	var soon people.TooSoon
	_, err = people.SignIn(ctx, d.Store, people.From{}, login, "long enough a secret")
	require.ErrorAs(t, err, &soon, "even the right one waits")
	for range 4 {
		_, err = people.SignIn(ctx, d.Store, people.From{}, "nobody@nowhere.example", "wrong")
	}
	require.ErrorAs(t, err, &soon, "a login that does not exist is slowed the same way")
	_, err = people.Add(ctx, d.Store, w, people.NewPerson{Kind: who.Staff, Name: "Tam", Login: login, Secret: "another long secret"})
	require.ErrorContains(t, err, "is there already")
}

func TestTheNotebookIsSafeInASpreadsheet(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	id, err := uuid.NewV7()
	require.NoError(t, err)
	require.NoError(t, notebook.Note(ctx, d.Store, w, notebook.NoteRequest{ID: id, Text: `=HYPERLINK("x")`}))
	found, err := notebook.Read(ctx, d.Store, w, notebook.Filter{Find: "hyperlink"})
	require.NoError(t, err)
	require.Len(t, found, 1)
	found, err = notebook.Read(ctx, d.Store, w, notebook.Filter{Find: "%"})
	require.NoError(t, err)
	require.LessOrEqual(t, len(found), 5, "a percent sign is looked for, not a wildcard")
	var out bytes.Buffer
	require.NoError(t, notebook.CSV(ctx, d.Store, w, notebook.Filter{}, &out))
	require.Contains(t, out.String(), `"'=HYPERLINK(""x"")"`)
	require.Greater(t, bytes.Count(out.Bytes(), []byte("\n")), 150)
}
