package ledger

import (
	"maps"
	"math"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
)

// InputType is how a field is typed.
type InputType string

// A figure, a whole number, a text of several lines or of one, one of what there is, a day,
// yes or no.
const (
	Figure InputType = "figure"
	Whole  InputType = "whole"
	Long   InputType = "long"
	Line   InputType = "line"
	Pick   InputType = "pick"
	Date   InputType = "date"
	Flag   InputType = "flag"
)

// Input is a field as a form asks for it.
type Input struct {
	Name     string
	Label    say.Words
	Hint     say.Words
	Type     InputType
	Quantity string   // of a figure: its unit in what is stored
	Options  []Option // of a pick, where they are always the same
	Folded   bool     // asked only of those who want to say more
	For      string   // "FIELD VALUE ...": asked only where another field has one of these values
}

// Option is one of those to pick: what is kept, and what is read.
type Option struct {
	Value string
	Name  say.Text
}

// Field is an input and where in the data its value is. Its value is a *float64 for a
// figure (nil: left empty), an int, a bool for yes or no, or a string.
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

// More is the field folded: it can be left as it begins.
func (f Field[T]) More() Field[T] {
	f.Folded = true
	return f
}

// Where is the field asked only where another has one of these values.
func (f Field[T]) Where(other string, values ...string) Field[T] {
	f.For = strings.Join(append([]string{other}, values...), " ")
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

// Held is a figure that a map holds under the field's own name; left empty, or 0, it is not
// there. The map is never changed in place: what was copied before keeps its own.
func Held[T any, M ~map[string]float64](name string, label say.Words, quantity string, at func(*T) *M) Field[T] {
	return Field[T]{
		Input{Name: name, Label: label, Type: Figure, Quantity: quantity},
		func(v *T) any {
			if x, there := (*at(v))[name]; there {
				return &x
			}
			return (*float64)(nil)
		},
		func(v *T, x any) {
			m := maps.Clone(*at(v))
			if m == nil {
				m = M{}
			}
			delete(m, name)
			if p, ok := x.(*float64); ok && p != nil && *p != 0 {
				m[name] = *p
			}
			*at(v) = m
		},
	}
}

// Number is a whole number.
func Number[T any](name string, label say.Words, at func(*T) *int) Field[T] {
	return Field[T]{Input{Name: name, Label: label, Type: Whole}, func(v *T) any { return *at(v) }, func(v *T, x any) { *at(v), _ = x.(int) }}
}

// Text is a text of several lines.
func Text[T any](name string, label say.Words, at func(*T) *string) Field[T] {
	return text(Input{Name: name, Label: label, Type: Long}, at)
}

// Short is a text of one line.
func Short[T any](name string, label say.Words, at func(*T) *string) Field[T] {
	return text(Input{Name: name, Label: label, Type: Line}, at)
}

// PickOf is one of what there is: those, or where they are none, what the form is shown.
func PickOf[T any](name string, label say.Words, options []Option, at func(*T) *string) Field[T] {
	return text(Input{Name: name, Label: label, Type: Pick, Options: options}, at)
}

func text[T any](i Input, at func(*T) *string) Field[T] {
	return Field[T]{i, func(v *T) any { return *at(v) }, func(v *T, x any) { *at(v), _ = x.(string) }}
}

// PickID is PickOf for what has an id.
func PickID[T any](name string, label say.Words, at func(*T) *uuid.UUID) Field[T] {
	return Field[T]{
		Input{Name: name, Label: label, Type: Pick},
		func(v *T) any { return at(v).String() },
		func(v *T, x any) {
			s, _ := x.(string)
			*at(v), _ = uuid.Parse(s)
		},
	}
}

// Day is a day of the calendar.
func Day[T any](name string, label say.Words, at func(*T) *calendar.Day) Field[T] {
	return Field[T]{
		Input{Name: name, Label: label, Type: Date},
		func(v *T) any {
			if *at(v) == 0 {
				return ""
			}
			return at(v).String()
		},
		func(v *T, x any) {
			s, _ := x.(string)
			*at(v), _ = calendar.ParseDay(s)
		},
	}
}

// Yes is yes or no.
func Yes[T any](name string, label say.Words, at func(*T) *bool) Field[T] {
	return Field[T]{Input{Name: name, Label: label, Type: Flag}, func(v *T) any { return *at(v) }, func(v *T, x any) { *at(v), _ = x.(bool) }}
}

// MaybeNumber is a whole number that may be left empty.
func MaybeNumber[T any](name string, label say.Words, at func(*T) **int) Field[T] {
	return Field[T]{
		Input{Name: name, Label: label, Type: Figure},
		func(v *T) any {
			if p := *at(v); p != nil {
				x := float64(*p)
				return &x
			}
			return (*float64)(nil)
		},
		func(v *T, x any) {
			*at(v) = nil
			if p, ok := x.(*float64); ok && p != nil {
				n := int(math.Round(*p))
				*at(v) = &n
			}
		},
	}
}

// Percent is a share that is typed in per cent and may be left empty.
func Percent[T any](name string, label say.Words, at func(*T) **float64) Field[T] {
	scaled := func(x any, by float64) *float64 {
		p, _ := x.(*float64)
		if p == nil {
			return nil
		}
		v := *p * by
		return &v
	}
	return Field[T]{
		Input{Name: name, Label: label, Type: Figure, Quantity: "%"},
		func(v *T) any { return scaled(*at(v), 100) }, func(v *T, x any) { *at(v) = scaled(x, 0.01) },
	}
}

// Of is the field's value in v.
func (f Field[T]) Of(v *T) any { return f.get(v) }

// Put puts a value into v.
func (f Field[T]) Put(v *T, x any) { f.set(v, x) }

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

// Plain are values as JSON has them (numbers, words, true and false) as the fields of those
// names take them; one of another name or type is refused.
func Plain(list []Input, values map[string]any) (map[string]any, error) {
	var e field.Errors
	out := map[string]any{}
	types := map[string]InputType{}
	for _, i := range list {
		types[i.Name] = i.Type
	}
	for name, v := range values {
		t, known := types[name]
		if !known {
			e.Add(name, "is not one of this entry’s values")
			continue
		}
		x, ok := plain(t, v)
		e.Require(ok, name, "is of the wrong type")
		out[name] = x
	}
	return out, e.Err()
}

func plain(t InputType, v any) (x any, ok bool) {
	number, isNumber := v.(float64)
	switch t {
	case Figure:
		if v == nil {
			return (*float64)(nil), true
		}
		return &number, isNumber
	case Whole:
		return int(number), isNumber && number == math.Trunc(number) && math.Abs(number) < 1e9
	case Flag:
		x, ok = v.(bool)
	default:
		x, ok = v.(string)
	}
	return x, ok
}

// IDWords is an id as it is picked; "" is none.
func IDWords(id *uuid.UUID) string {
	if id == nil {
		return ""
	}
	return id.String()
}

// IDOf is the other way.
func IDOf(words string) *uuid.UUID {
	id, err := uuid.Parse(words)
	if err != nil {
		return nil
	}
	return &id
}
