package face

import (
	"slices"
	"strconv"

	"ulpa/core/say"
	"ulpa/internal/base/ledger"
)

// InputView is a field of a kind of entry, as a form shows it.
type InputView struct {
	FieldView
	Type    ledger.InputType
	Choices []ChoiceView
	For     string // where it is asked, as ledger.Input says
}

// ChoiceView is one of the choices of a field: what is kept, and what is read.
type ChoiceView struct{ Value, Name string }

// Called is the choice's name, for lists in the order of the alphabet (say.Sort).
func (c ChoiceView) Called() string { return c.Name }

// TickView is one of several that can be ticked.
type TickView struct {
	ID, Name string
	On       bool
}

// ChoicesOf says options for whoever chooses.
func ChoicesOf(p say.Reader, list []ledger.Option) (out []ChoiceView) {
	for _, o := range list {
		out = append(out, ChoiceView{o.Value, p.Say(o.Name)})
	}
	return out
}

// Inputs are the fields of a kind of entry with what stands in them: ledger.Field says
// which, so that a page, its handler and putting right ask the same. Named are those that
// are asked; none named are all.
func (f *Form) Inputs(kind string, named ...string) []InputView { return f.inputs(kind, "", named) }

// BigInputs are the same for wet hands.
func (f *Form) BigInputs(kind string, named ...string) []InputView {
	return f.inputs(kind, "big", named)
}

func (f *Form) inputs(kind, size string, named []string) []InputView {
	list := ledger.InputsOf(kind)
	if len(named) > 0 {
		list = slices.DeleteFunc(slices.Clone(list), func(i ledger.Input) bool { return !slices.Contains(named, i.Name) })
	}
	return f.Show(list, size, nil)
}

// Show is a list of inputs as a form shows them; options are what there is to pick, by field.
func (f *Form) Show(list []ledger.Input, size string, options map[string][]ledger.Option) (out []InputView) {
	for _, i := range list {
		how := size
		switch i.Type {
		case ledger.Whole:
			how += "int"
		case ledger.Line:
			how += "text"
		case ledger.Date:
			how += "date"
		}
		in := f.Prefs.Name(i.Quantity)
		if in == string(i.Label) { // pH is its own
			in = ""
		}
		choices := ChoicesOf(f.Prefs, slices.Concat(i.Options, options[i.Name]))
		out = append(out, InputView{MakeField(f, i.Name, f.Prefs.Say(i.Label), in, how, f.Prefs.Say(i.Hint)), i.Type, choices, i.For})
	}
	return out
}

// Own are the names of a kind's fields, for what is refused elsewhere on the form.
func (f *Form) Own(kind string) (names []string) {
	for _, i := range ledger.InputsOf(kind) {
		names = append(names, i.Name)
	}
	return names
}

// Refill is a form with what an entry holds, in the reader's units.
func Refill(kind string, data []byte, p say.Reader) (*Form, error) {
	values, err := ledger.ValuesOf(kind, data)
	return Filled(ledger.InputsOf(kind), values, p), err
}

// Filled is a form with values in its fields, in the reader's units.
func Filled(list []ledger.Input, values map[string]any, p say.Reader) *Form {
	f := BlankForm(p)
	for _, i := range list {
		f.Values.Set(i.Name, shownInput(i, values[i.Name], p))
	}
	return f
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
	case bool:
		if x {
			return "on"
		}
	case string:
		return x
	}
	return ""
}

// Typed are the values of a kind's fields as they were typed. A field in which nobody changed what
// it showed keeps the value it had (was; nil for a new entry), because showing a figure rounds it.
func (f *Form) Typed(kind string, was map[string]any) map[string]any {
	return f.TypedIn(ledger.InputsOf(kind), was)
}

// TypedIn is Typed for a list of inputs.
func (f *Form) TypedIn(list []ledger.Input, was map[string]any) map[string]any {
	out := map[string]any{}
	for _, i := range list {
		if v, ok := was[i.Name]; ok && f.Get(i.Name) == shownInput(i, v, f.Prefs) {
			out[i.Name] = v
			continue
		}
		switch i.Type {
		case ledger.Figure:
			out[i.Name] = f.Number(i.Name, i.Quantity)
		case ledger.Whole:
			out[i.Name] = f.Int(i.Name, 0)
		case ledger.Flag:
			out[i.Name] = f.Get(i.Name) != ""
		case ledger.Date:
			out[i.Name] = ""
			if day := f.Day(i.Name); f.Errors[i.Name] == "" {
				out[i.Name] = day.String()
			}
		default:
			out[i.Name] = f.Get(i.Name)
		}
	}
	return out
}

// Entered is the data of a new entry as it was typed.
func Entered[T any](f *Form, k *ledger.Kind[T]) (v T) {
	k.Set(&v, f.Typed(k.Name, nil))
	return v
}
