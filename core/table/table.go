// Package table reads files of lines and columns as people and services make them: with
// commas, semicolons or tabs between, a heading, and lines before it that are none.
//
//	t, err := table.Read(text)
//	fmt.Println(t.Head, len(t.Rows), t.Line[0])
package table

import (
	"encoding/csv"
	"strings"

	"ulpa/core/field"
)

// Table is a file's columns by name, and its lines.
type Table struct {
	Head []string
	Rows [][]string
	Line []int // in the file, of each row
}

// A century of days has 36,500 lines, and services send some dozens of columns.
const mostLines, mostColumns = 100_000, 200

// Read reads a file; lines that begin with # or have other numbers of columns than most are
// left out. It refuses with field.Errors what is no table of two columns or more.
func Read(text string) (Table, error) {
	text = strings.TrimPrefix(strings.ReplaceAll(text, "\r\n", "\n"), "\ufeff")
	comma, most := ',', 0
	for _, c := range []rune{',', ';', '\t'} {
		if n := strings.Count(text[:min(len(text), 4096)], string(c)); n > most {
			comma, most = c, n
		}
	}
	lines := 0
	for line := range strings.Lines(text) {
		if lines++; lines > mostLines || strings.Count(line, string(comma)) > mostColumns {
			return Table{}, field.Refuse("text", "has more than %d lines or %d columns: take the part of it that is needed", mostLines, mostColumns)
		}
	}
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.Comment, r.FieldsPerRecord, r.LazyQuotes, r.TrimLeadingSpace = comma, '#', -1, true, true
	all, err := r.ReadAll()
	if err != nil || len(all) < 2 {
		return Table{}, field.Refuse("text", "is not a table: it needs a heading line and a line for each, with commas, semicolons or tabs between columns")
	}
	widths := map[int]int{}
	for _, row := range all {
		widths[len(row)]++
	}
	width := 0
	for n, many := range widths {
		if many > widths[width] || many == widths[width] && n > width {
			width = n
		}
	}
	t := Table{}
	for i, row := range all {
		switch {
		case len(row) != width:
		case t.Head == nil:
			for k := range row {
				t.Head = append(t.Head, strings.TrimSpace(row[k]))
			}
		default:
			t.Rows, t.Line = append(t.Rows, row), append(t.Line, i+1)
		}
	}
	if width < 2 || len(t.Rows) == 0 {
		return Table{}, field.Refuse("text", "needs at least two columns in a line")
	}
	return t, nil
}
