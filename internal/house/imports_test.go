package house_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/notebook"
	"ulpa/internal/people"
	"ulpa/internal/solution"
	"ulpa/internal/store"
	"ulpa/internal/testdb"
	"ulpa/internal/who"
)

func countReadings(t *testing.T, d testdb.DB, w who.Who) int {
	return read(t, d, w, func(tx *store.Tx) (n int, err error) {
		return n, tx.Conn().QueryRow(ctx, "SELECT count(*) FROM reading").Scan(&n)
	})
}

func TestAFileIsStoredWholeOrNotAndOnce(t *testing.T) {
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
	require.Contains(t, problems[0].Message.String(), "has been kept in pH so far")
	crew := d.Person(t, w.School, who.Crew, "Dory")
	_, err = solution.Examine(ctx, d.Store, crew, "log.csv", bytes.NewReader(file.Bytes()))
	require.ErrorIs(t, err, who.ErrNotAllowed)
}

func TestSignInSlowsAfterFailures(t *testing.T) {
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
