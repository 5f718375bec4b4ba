package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/notebook"
)

// entryOperations read the notebook, write in it and correct it.
func entryOperations() []operation {
	get, post := http.MethodGet, http.MethodPost
	return []operation{
		{
			Method: get, Path: "/entries", Line: bound.Finding, LineFor: "find", Summary: "Read the notebook, newest first",
			Out: listOut[entryOut]{}, Query: append([]param{
				{"about", "the id of a batch, place, tank, tray or packet"}, {"find", "words that stand in it"},
			}, paging...), Do: entries,
		},
		{Method: post, Path: "/entries", Summary: "Write a note", In: noteIn{}, Status: http.StatusCreated, Out: entryOut{}, Do: note},
		{Method: post, Path: "/entries/:id/undo", Summary: "Undo an entry", In: done{}, Do: func(c *call) (any, error) {
			entry, err := c.id("id")
			if err != nil {
				return nil, err
			}
			var in done
			if err := c.read(&in); err != nil {
				return nil, err
			}
			return nil, notebook.Undo(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: entry})
		}},
		{Method: get, Path: "/entries/:id/values", Summary: "Read which values of an entry can be corrected", Out: valuesOut{}, Do: entryValues},
		{
			Method: post, Path: "/entries/:id/correct", Summary: "Correct an entry: both can still be read, and the newer one counts",
			In: correctIn{}, Do: correct,
		},
	}
}

type entryOut struct {
	ID         uuid.UUID       `json:"id"`
	Kind       string          `json:"kind"`
	HappenedAt time.Time       `json:"happened_at"`
	WrittenAt  time.Time       `json:"written_at"`
	Person     string          `json:"person"`
	Says       string          `json:"says"`
	About      []aboutOut      `json:"about"`
	Corrects   *uuid.UUID      `json:"corrects,omitempty"`
	Corrected  bool            `json:"corrected"`
	Data       json.RawMessage `json:"data" jsonschema:"type=object"`
}

type aboutOut struct {
	ID   uuid.UUID `json:"id"`
	Kind string    `json:"kind"`
	Name string    `json:"name"`
}

type noteIn struct {
	done
	Text  string      `json:"text"`
	About []uuid.UUID `json:"about,omitempty"`
}

type valuesOut struct {
	Kind   string     `json:"kind"`
	Values []valueOut `json:"values" jsonschema_description:"none: undo the entry and enter it again"`
}

type valueOut struct {
	Name  string `json:"name"`
	Label string `json:"label"`
	Type  string `json:"type"`
	Unit  string `json:"unit,omitempty"`
	Value any    `json:"value"`
}

type correctIn struct {
	ID     uuid.UUID      `json:"id"`
	Values map[string]any `json:"values" jsonschema_description:"by name; a value that is not named stays as it is"`
}

func entryValues(c *call) (any, error) {
	id, err := c.id("id")
	if err != nil {
		return nil, err
	}
	e, err := notebook.Entry(c.ctx, c.Store, c.w, id)
	if err != nil {
		return nil, err
	}
	values, err := ledger.ValuesOf(e.Kind, e.Data)
	out := valuesOut{Kind: e.Kind, Values: []valueOut{}}
	for _, i := range ledger.InputsOf(e.Kind) {
		out.Values = append(out.Values, valueOut{i.Name, string(i.Label), string(i.Type), i.Quantity, values[i.Name]})
	}
	return out, err
}

func correct(c *call) (any, error) {
	entry, err := c.id("id")
	if err != nil {
		return nil, err
	}
	var in correctIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	e, err := notebook.Entry(c.ctx, c.Store, c.w, entry)
	if err != nil {
		return nil, err
	}
	values, err := ledger.Plain(ledger.InputsOf(e.Kind), in.Values)
	if err != nil {
		return nil, err
	}
	return nil, notebook.Correct(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: entry}, values)
}

func entryOf(l notebook.Line) entryOut {
	e := entryOut{
		ID: l.ID, Kind: l.Kind, HappenedAt: l.HappenedAt.UTC(), WrittenAt: l.WrittenAt.UTC(), Person: l.Person, Says: l.Says.String(),
		Corrects: l.Corrects, Corrected: l.Corrected, Data: l.Data, About: []aboutOut{},
	}
	for _, a := range l.About {
		e.About = append(e.About, aboutOut{a.ID, string(a.Kind), a.Name})
	}
	return e
}

// entries pages by the moment and the number of the last entry that was sent.
func entries(c *call) (any, error) {
	limit, err := c.number("limit", usualItems, 1, mostItems)
	if err != nil {
		return nil, err
	}
	f := notebook.Filter{Find: strings.TrimSpace(c.gin.Query("find")), Most: limit + 1}
	if about := c.gin.Query("about"); about != "" {
		id, err := uuid.Parse(about)
		if err != nil {
			return nil, field.Refuse("about", "must be the id of something")
		}
		if _, err := notebook.Thing(c.ctx, c.Store, c.w, id); err != nil {
			return nil, err
		}
		f.About = &id
	}
	if cursor := c.gin.Query("cursor"); cursor != "" {
		at, seq, ok := strings.Cut(cursor, "_")
		micros, err1 := strconv.ParseInt(at, 10, 64)
		n, err2 := strconv.ParseInt(seq, 10, 64)
		if !ok || err1 != nil || err2 != nil {
			return nil, field.Refuse("cursor", "is not one that was sent")
		}
		before := time.UnixMicro(micros)
		f.Before, f.BeforeSeq = &before, n
	}
	lines, err := notebook.Read(c.ctx, c.Store, c.w, f)
	if err != nil {
		return nil, err
	}
	out := listOut[entryOut]{Items: []entryOut{}}
	for i, l := range lines {
		if i == limit {
			last := lines[limit-1]
			next := fmt.Sprintf("%d_%d", last.HappenedAt.UnixMicro(), last.Seq)
			out.Next = &next
			break
		}
		out.Items = append(out.Items, entryOf(l))
	}
	return out, nil
}

func note(c *call) (any, error) {
	var in noteIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	if err := notebook.Note(c.ctx, c.Store, c.w, notebook.NoteRequest{ID: in.ID, Text: in.Text, About: in.About, At: in.At}); err != nil {
		return nil, err
	}
	e, err := notebook.Entry(c.ctx, c.Store, c.w, in.ID)
	if err != nil {
		return nil, err
	}
	return entryOf(notebook.Line{Entry: e, Says: ledger.Sentence(e.Kind, e.Data)}), nil
}
