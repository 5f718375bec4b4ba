package ledger

import "ulpa/core/say"

// InputType is how a field is typed.
type InputType string

// A figure, a whole number, one of a list, a text of several lines.
const (
	Figure InputType = "figure"
	Whole  InputType = "whole"
	Choice InputType = "choice"
	Long   InputType = "long"
)

// Input is a field as a form asks for it.
type Input struct {
	Name     string
	Label    say.Words
	Hint     say.Words
	Type     InputType
	Quantity string // of a figure: its unit in what is stored
	Choices  []say.Words
}

// Field is an input and where in the data its value is. Its value is a *float64 for a
// figure (nil: left empty), an int, or a string.
type Field[T any] struct {
	Input
	get func(*T) any
	set func(*T, any)
}

// Hinted is the field with a hint below it.
func (f Field[T]) Hinted(hint say.Words) Field[T] {
	f.Hint = hint
	return f
}

// Maybe is a figure that may be left empty: nothing is not zero.
func Maybe[T any](name string, label say.Words, quantity string, at func(*T) **float64) Field[T] {
	return Field[T]{
		Input{Name: name, Label: label, Type: Figure, Quantity: quantity},
		func(v *T) any { return *at(v) }, func(v *T, x any) { *at(v), _ = x.(*float64) },
	}
}

// Amount is a figure of which nothing is left empty.
func Amount[T any](name string, label say.Words, quantity string, at func(*T) *float64) Field[T] {
	return Field[T]{
		Input{Name: name, Label: label, Type: Figure, Quantity: quantity},
		func(v *T) any {
			if x := *at(v); x != 0 {
				return &x
			}
			return (*float64)(nil)
		},
		func(v *T, x any) {
			*at(v) = 0
			if p, ok := x.(*float64); ok && p != nil {
				*at(v) = *p
			}
		},
	}
}

// Number is a whole number.
func Number[T any](name string, label say.Words, at func(*T) *int) Field[T] {
	return Field[T]{Input{Name: name, Label: label, Type: Whole}, func(v *T) any { return *at(v) }, func(v *T, x any) { *at(v), _ = x.(int) }}
}

// OneOf is one of a list.
func OneOf[T any](name string, label say.Words, list []say.Words, at func(*T) *string) Field[T] {
	return Field[T]{
		Input{Name: name, Label: label, Type: Choice, Choices: list},
		func(v *T) any { return *at(v) },
		func(v *T, x any) { *at(v), _ = x.(string) },
	}
}

// Text is a text of several lines.
func Text[T any](name string, label say.Words, at func(*T) *string) Field[T] {
	return Field[T]{Input{Name: name, Label: label, Type: Long}, func(v *T) any { return *at(v) }, func(v *T, x any) { *at(v), _ = x.(string) }}
}

// Inputs are what the kind's forms ask for.
func (k *Kind[T]) Inputs() (out []Input) {
	for _, f := range k.Fields {
		out = append(out, f.Input)
	}
	return out
}

// Values are what data holds in its fields, by name.
func (k *Kind[T]) Values(data []byte) (map[string]any, error) {
	v, err := k.read(data)
	out := map[string]any{}
	for _, f := range k.Fields {
		out[f.Name] = f.get(&v)
	}
	return out, err
}

// Set puts values into the fields; one that is not named stays.
func (k *Kind[T]) Set(v *T, values map[string]any) {
	for _, f := range k.Fields {
		if x, ok := values[f.Name]; ok {
			f.set(v, x)
		}
	}
}
