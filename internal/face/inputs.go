package face

import (
	"slices"
	"strconv"

	"ulpa/core/say"
	"ulpa/internal/ledger"
)

// InputView is a field of a kind of entry, as a form shows it.
type InputView struct {
	FieldView
	Type    ledger.InputType
	Choices []ChoiceView
}

// ChoiceView is one of the choices of a field: what is kept, and what is read.
type ChoiceView struct{ Value, Name string }

// ChoicesOf are choices that are kept by their English words.
func ChoicesOf(p say.Reader, list []say.Words) (out []ChoiceView) {
	for _, w := range list {
		out = append(out, ChoiceView{string(w), p.Say(w)})
	}
	return out
}

// Inputs are the fields of a kind of entry with what stands in them: ledger.Field says
// which, so that a page, its handler and putting right ask the same. Named are those that
// are asked; none named are all.
func (f Form) Inputs(kind string, named ...string) []InputView { return f.inputs(kind, "", named) }

// BigInputs are the same for wet hands.
func (f Form) BigInputs(kind string) []InputView { return f.inputs(kind, "big", nil) }

func (f Form) inputs(kind, size string, named []string) (out []InputView) {
	for _, i := range ledger.InputsOf(kind) {
		if len(named) > 0 && !slices.Contains(named, i.Name) {
			continue
		}
		how := size
		if i.Type == ledger.Whole {
			how += "int"
		}
		in := f.Prefs.Name(i.Quantity)
		if in == string(i.Label) { // pH is its own
			in = ""
		}
		out = append(out, InputView{MakeField(f, i.Name, f.Prefs.Say(i.Label), in, how, f.Prefs.Say(i.Hint)), i.Type, ChoicesOf(f.Prefs, i.Choices)})
	}
	return out
}

// Own are the names of a kind's fields, for what is refused elsewhere on the form.
func (f Form) Own(kind string) (names []string) {
	for _, i := range ledger.InputsOf(kind) {
		names = append(names, i.Name)
	}
	return names
}

// Refill is a form with what an entry holds, in the reader's units.
func Refill(kind string, data []byte, p say.Reader) (Form, error) {
	f := BlankForm(p)
	values, err := ledger.ValuesOf(kind, data)
	for _, i := range ledger.InputsOf(kind) {
		f.Values.Set(i.Name, shownInput(i, values[i.Name], p))
	}
	return f, err
}

// shownInput is a value as somebody would type it.
func shownInput(i ledger.Input, v any, p say.Reader) string {
	switch x := v.(type) {
	case *float64:
		if x != nil {
			return p.Figure(*x, i.Quantity)
		}
	case int:
		return strconv.Itoa(x)
	case string:
		return x
	}
	return ""
}

// Typed are the values of a kind's fields as they were typed. One that still says what it
// showed (was, nil for a new entry) is what it was: showing a figure rounds it.
func (f Form) Typed(kind string, was map[string]any) map[string]any {
	out := map[string]any{}
	for _, i := range ledger.InputsOf(kind) {
		if v, ok := was[i.Name]; ok && f.Get(i.Name) == shownInput(i, v, f.Prefs) {
			out[i.Name] = v
			continue
		}
		switch i.Type {
		case ledger.Figure:
			out[i.Name] = f.Number(i.Name, i.Quantity)
		case ledger.Whole:
			out[i.Name] = f.Int(i.Name, 0)
		default:
			out[i.Name] = f.Get(i.Name)
		}
	}
	return out
}

// Entered is the data of a new entry as it was typed.
func Entered[T any](f Form, k *ledger.Kind[T]) (v T) {
	k.Set(&v, f.Typed(k.Name, nil))
	return v
}
