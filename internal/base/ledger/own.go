package ledger

import (
	"context"
	"encoding/json"
	"strings"
	"unicode/utf8"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/store"
)

// Note is the data of a note.
type Note struct {
	Text string `json:"text"`
}

// Noted is a note about anything; every area may leave one.
var Noted = Declare(Kind[Note]{
	Name:   "note",
	Free:   true,
	Says:   func(n Note) say.Text { return say.Name(n.Text) },
	Fields: []Field[Note]{Text("text", "Note", func(n *Note) *string { return &n.Text })},
	Right:  func(_ context.Context, _ *store.Tx, _ Entry, n Note) (Note, error) { return NewNote(n.Text) },
})

// Void undoes an entry; its note says what that said.
var Void = Declare(Kind[Taken]{Name: "void", Free: true, Says: func(t Taken) say.Text {
	if t.Kind == "" {
		return say.T("Undid: %s", t.Text)
	}
	return say.T("Undid: %s", Sentence(t.Kind, t.Data))
}})

// Taken is what was undone.
type Taken struct {
	Kind string          `json:"kind,omitempty"`
	Data json.RawMessage `json:"data,omitempty"`
	Text string          `json:"text,omitempty"` // its sentence, as earlier releases kept it
}

// NewNote is a note as it is kept, at first and when it is corrected.
func NewNote(text string) (Note, error) {
	n := Note{Text: strings.TrimSpace(text)}
	if n.Text == "" || utf8.RuneCountInString(n.Text) > 4000 {
		return n, field.Refuse("text", "must be 1 to 4,000 letters")
	}
	return n, nil
}

// RightAct checks an act on a batch that is corrected; the fold says the rest.
func RightAct(_ context.Context, _ *store.Tx, _ Entry, a batch.Act) (batch.Act, error) {
	return a, a.Check()
}
