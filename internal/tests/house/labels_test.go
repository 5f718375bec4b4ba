package house_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/label"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/labels"
	"ulpa/internal/tests/testdb"
)

// words are the words of a text, in any order of lines.
var words = regexp.MustCompile(`\S+`)

// Labels as they are printed, read back by programs that know nothing of ours: every word is
// there, on its page, and every code leads to its thing.
func TestLabelsAreReadBack(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	const address = "https://ulpa.ferrywharf.example"
	for name, sheet := range map[string]label.Sheet{
		"sheet": {PageW: 210, PageH: 297, Columns: 3, Rows: 8, W: 70, H: 37, Top: 0.5},
		"roll":  {PageW: 57, PageH: 32, Columns: 1, Rows: 1, W: 57, H: 32},
		"stick": {PageW: 210, PageH: 297, Columns: 1, Rows: 12, W: 190, H: 22, Left: 10, Top: 16, Cut: true},
		"small": {PageW: 210, PageH: 297, Columns: 5, Rows: 13, W: 38.1, H: 21.2, Left: 4.75, Top: 10.7, GapX: 2.5},
	} {
		list, err := labels.Of(ctx, d.Store, ines, labels.Packets)
		require.NoError(t, err)
		list = append(list[:3:3], labels.Label{
			Code: "LET-105", Lines: []string{"Lettuce", "Harbour Frill of the long and windy quay, second sowing", "18 Mar 2027"}, Address: labels.BatchPath + "LET-105",
		})
		var pdf bytes.Buffer
		require.NoError(t, labels.Write(ctx, &pdf, sheet, list, labels.Print{First: 1, Copies: 1, Address: address}))
		dir := t.TempDir()
		file := filepath.Join(dir, "labels.pdf")
		require.NoError(t, os.WriteFile(file, pdf.Bytes(), 0o600))
		text, err := exec.CommandContext(ctx, "pdftotext", "-layout", file, "-").Output()
		require.NoError(t, err)
		there := map[string]int{}
		for _, w := range words.FindAllString(string(text), -1) {
			there[w]++
		}
		for _, l := range list {
			for _, w := range words.FindAllString(l.Code+" "+strings.Join(l.Lines, " "), -1) {
				require.Positive(t, there[w], "%s: %q in %s", name, w, text)
				there[w]--
			}
		}
		if label.CodeSide(sheet.W, sheet.H) == 0 {
			continue
		}
		_, err = exec.CommandContext(ctx, "pdftoppm", "-r", "300", "-png", file, filepath.Join(dir, "page")).Output()
		require.NoError(t, err)
		pages, err := filepath.Glob(filepath.Join(dir, "*.png"))
		require.NoError(t, err)
		read, err := exec.CommandContext(ctx, "zbarimg", append([]string{"--quiet", "--raw"}, pages...)...).Output()
		require.NoError(t, err, name)
		var want []string
		for _, l := range list {
			want = append(want, address+l.Address)
		}
		require.ElementsMatch(t, want, strings.Fields(string(read)), name)
	}
}

// What stands on a label leads to its thing for whoever belongs there, and to nothing for
// anybody else; what was printed is not asked for again.
func TestALabelLeadsToItsThing(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	stranger := d.Person(t, d.School(t, "elsewhere"), who.Coordinator, "stranger")
	for _, sort := range labels.Sorts {
		list, err := labels.Of(ctx, d.Store, ines, sort.ID)
		require.NoError(t, err)
		require.NotEmpty(t, list, sort.ID)
		l := list[len(list)-1]
		follow := labels.FollowShort
		address := strings.TrimPrefix(l.Address, labels.ThingPath)
		if code, ok := strings.CutPrefix(l.Address, labels.BatchPath); ok {
			follow, address = labels.Follow, code
		}
		path, err := follow(ctx, d.Store, ines, address)
		require.NoError(t, err)
		require.True(t, strings.HasSuffix(path, l.ID.String()), path)
		_, err = follow(ctx, d.Store, stranger, address)
		require.ErrorIs(t, err, store.ErrNotFound)
		require.Error(t, labels.Printed(ctx, d.Store, stranger, []uuid.UUID{l.ID}))
	}
	list, err := labels.Of(ctx, d.Store, ines, labels.Without)
	require.NoError(t, err)
	require.NoError(t, labels.Printed(ctx, d.Store, ines, []uuid.UUID{list[0].ID}))
	after, err := labels.Of(ctx, d.Store, ines, labels.Without)
	require.NoError(t, err)
	require.Len(t, after, len(list)-1)
	_, err = labels.FollowShort(ctx, d.Store, ines, "nothing at all")
	require.ErrorIs(t, err, store.ErrNotFound)
}
