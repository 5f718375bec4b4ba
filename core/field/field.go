// Package field names what is wrong with what was typed, and where.
//
//	var e field.Errors
//	e.Require(ph <= 14, "ph", "takes 0 to 14")
//	return e.Err()
package field

import (
	"errors"
	"strings"

	"ulpa/core/say"
)

// Error says what is wrong with one field and what it takes.
type Error struct {
	Field   string   `json:"field"` // dotted path; a place in a list by its index from 0
	Message say.Text `json:"message"`
}

// Errors is a list of refused fields; it is an error when it is not empty.
type Errors []Error

// Error joins the refusals, one a line.
func (e Errors) Error() string {
	lines := make([]string, len(e))
	for i, x := range e {
		lines[i] = x.Field + ": " + x.Message.String()
	}
	return strings.Join(lines, "\n")
}

// Why is the first refusal, as people read it.
func (e Errors) Why() say.Text { return e[0].Message }

// Add refuses a field.
func (e *Errors) Add(field string, message say.Words, args ...any) {
	*e = append(*e, Error{field, say.T(message, args...)})
}

// Tell refuses a field with a text that is there already.
func (e *Errors) Tell(field string, message say.Text) { *e = append(*e, Error{field, message}) }

// Require refuses a field when ok is false.
func (e *Errors) Require(ok bool, field string, message say.Words, args ...any) {
	if !ok {
		e.Add(field, message, args...)
	}
}

// Join takes over the refusals of another check, if it refused anything.
func (e *Errors) Join(err error) {
	if more, ok := err.(Errors); ok {
		*e = append(*e, more...)
	}
}

// Err is nil when nothing was refused.
func (e Errors) Err() error {
	if len(e) == 0 {
		return nil
	}
	return e
}

// Refuse is the short way to refuse one field.
func Refuse(field string, message say.Words, args ...any) error {
	return Errors{{field, say.T(message, args...)}}
}

// By maps each refused field to its first message.
func (e Errors) By() map[string]say.Text {
	m := map[string]say.Text{}
	for _, x := range e {
		if _, ok := m[x.Field]; !ok {
			m[x.Field] = x.Message
		}
	}
	return m
}

// Under says of an error about one of several things which of them it is about: its name goes before
// the field. Other errors stay as they are.
func Under(name string, err error) error {
	var refused Errors
	if !errors.As(err, &refused) {
		return err
	}
	out := make(Errors, 0, len(refused))
	for _, e := range refused {
		out = append(out, Error{name + "." + e.Field, e.Message})
	}
	return out
}
