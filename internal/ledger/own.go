package ledger

import (
	"context"
	"strings"
	"unicode/utf8"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/unit"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
)

// Note is the data of a note.
type Note struct {
	Text string `json:"text"`
}

// Noted is a note about anything; every area may leave one.
var Noted = Declare(Kind[Note]{
	Name:   "note",
	Says:   func(_ unit.Prefs, n Note) string { return n.Text },
	Fields: []Field[Note]{Text("text", "Note", func(n *Note) *string { return &n.Text })},
	Right:  func(_ context.Context, _ *store.Tx, _ db.GetEntryRow, n Note) (Note, error) { return NewNote(n.Text) },
})

// Void takes an entry back; its note says what that said.
var Void = Declare(Kind[Note]{Name: "void", Says: func(_ unit.Prefs, n Note) string { return "Took back: " + n.Text }})

// NewNote is a note as it is kept, at first and when it is put right.
func NewNote(text string) (Note, error) {
	n := Note{Text: strings.TrimSpace(text)}
	if n.Text == "" || utf8.RuneCountInString(n.Text) > 4000 {
		return n, field.Refuse("text", "takes 1 to 4,000 letters")
	}
	return n, nil
}

// RightAct checks an act on a batch that is put right; the fold says the rest.
func RightAct(_ context.Context, _ *store.Tx, _ db.GetEntryRow, a batch.Act) (batch.Act, error) {
	return a, a.Check()
}
