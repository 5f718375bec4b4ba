package sums

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"ulpa/core/calc"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/say"
)

// Input is one field of a screen.
type Input struct {
	ID, Name, Label, Unit, Value, Error, Hint string
	Kind                                      string // decimal, int, text, date, yes; select, checks, lines
	Big                                       bool
	Options                                   []Option
}

// Needed tells whether it must be given: never, for every one has a figure to begin with.
func (Input) Needed() bool { return false }

// Option is one of the choices of an input.
type Option struct {
	Value, Label string
	On           bool
}

// Block is what stands together on a screen: one input, several under a
// heading, or a table of them.
type Block struct {
	Heading string
	Error   string
	Inputs  []Input
	Columns []string // of a table
	Rows    [][]Input
}

// blocks lays the fields out.
func (t *typed) blocks(k calc.Calculator) (out []Block) {
	var plain Block
	flush := func() {
		if len(plain.Inputs) > 0 {
			out = append(out, plain)
		}
		plain = Block{}
	}
	for _, f := range t.shown(k) {
		if f.OnScreen == "" {
			continue
		}
		switch {
		case f.Kind == "object":
			flush()
			out = append(out, t.set(f)...)
		case isTable(f):
			flush()
			out = append(out, t.table(f, f.Name))
		case f.Kind == "list" && (f.Choices != nil || f.Long || f.AsJSON):
			flush()
			out = append(out, Block{Inputs: []Input{t.input(f, f.Name)}})
		default:
			plain.Inputs = append(plain.Inputs, t.input(f, f.Name))
		}
	}
	flush()
	return out
}

func isTable(f calc.Field) bool { return f.Kind == "list" && f.Parts != nil && !f.Long && !f.AsJSON }

// set is an object: its parts under its heading, and the tables among them below.
func (t *typed) set(f calc.Field) []Block {
	b := Block{Heading: heading(f, t.prefs), Error: t.errors[f.Name]}
	var tables []Block
	for _, part := range f.Parts {
		at := f.Name + "." + part.Name
		if isTable(part) {
			tables = append(tables, t.table(part, at))
			continue
		}
		in := t.input(part, at)
		if f.Unit != "" { // the heading says it for all of them
			in.Label = chemical(in.Label)
		}
		b.Inputs = append(b.Inputs, in)
	}
	return append([]Block{b}, tables...)
}

// shown are a calculator's fields without the sizes that belong to another shape of vessel.
func (t *typed) shown(k calc.Calculator) []calc.Field {
	of := func(fields []calc.Field, shape string) []calc.Field {
		sizes := calc.SizesOf(shape)
		return slices.DeleteFunc(slices.Clone(fields), func(f calc.Field) bool { return calc.IsSize(f.Name) && !slices.Contains(sizes, f.Name) })
	}
	if k.Name == "vessel" {
		return of(k.Fields, t.text("shape"))
	}
	if k.Name == "calibrate" {
		return ofPen(k.Fields, t.text("kind"))
	}
	fields := slices.Clone(k.Fields)
	for i, f := range fields {
		if f.Name == "vessel" {
			fields[i].Parts = of(f.Parts, t.text("vessel.shape"))
		}
	}
	return fields
}

func heading(f calc.Field, p say.Reader) string {
	if f.Unit != "" {
		return p.Say(f.OnScreen) + ", " + f.Unit
	}
	return p.Say(f.OnScreen)
}

// table shows the rows there are and room for two more.
func (t *typed) table(f calc.Field, name string) Block {
	b := Block{Heading: t.prefs.Say(f.OnScreen), Error: t.errors[name]}
	f.Parts = slices.DeleteFunc(slices.Clone(f.Parts), func(p calc.Field) bool { return p.OnScreen == "" })
	for _, part := range f.Parts {
		label := t.prefs.Say(part.OnScreen)
		if u := unitName(part.Unit, t.prefs); u != "" {
			label += ", " + u
		}
		b.Columns = append(b.Columns, label)
	}
	rows, filled := 3, t.rowsOf(name)
	for _, i := range filled {
		if slices.ContainsFunc(f.Parts, func(p calc.Field) bool { return t.text(fmt.Sprintf("%s.%d.%s", name, i, p.Name)) != "" }) {
			rows = max(rows, i+3)
		}
	}
	for i := range min(rows, 100) {
		var row []Input
		for _, part := range f.Parts {
			in := t.input(part, fmt.Sprintf("%s.%d.%s", name, i, part.Name))
			in.Label = t.prefs.T("%s, row %d", part.OnScreen, i+1)
			row = append(row, in)
		}
		b.Rows = append(b.Rows, row)
	}
	return b
}

func (t *typed) input(f calc.Field, name string) Input {
	in := Input{
		ID:    "f-" + strings.ReplaceAll(name, ".", "-"),
		Name:  name,
		Label: t.prefs.Say(f.OnScreen),
		Unit:  unitName(f.Unit, t.prefs),
		Value: t.text(name),
		Error: t.errors[name],
	}
	in.Kind = map[string]string{"number": "decimal", "integer": "int", "date": "date", "yes": "yes"}[f.Kind]
	switch {
	case f.Kind == "list" && f.Long:
		in.Kind, in.Value, in.Hint = "lines", t.values.Get(name), t.prefs.T("Paste a station’s nights over these; ten years are better than two.")
	case f.AsJSON:
		in.Kind, in.Value = "lines", t.values.Get(name)
	case f.Kind == "list" && f.Choices != nil:
		in.Kind = "checks"
		for _, c := range f.Choices {
			in.Options = append(in.Options, Option{c, t.choice(f, c), slices.Contains(t.values[name], c)})
		}
	case f.Offers() != nil:
		in.Kind = "select"
		for _, c := range f.Offers() {
			in.Options = append(in.Options, Option{c, t.choice(f, c), c == in.Value})
		}
	case in.Kind == "":
		in.Kind = "text"
	}
	if f.Hint != "" {
		in.Hint = t.prefs.Say(f.Hint)
	}
	return in
}

func unitName(u string, p say.Reader) string {
	if u == share {
		return "%"
	}
	return p.Name(u)
}

// choice is what one of a field's choices is called.
func (t *typed) choice(f calc.Field, id string) string {
	if w := f.Called[id]; w != "" {
		return t.prefs.Say(w)
	}
	return choiceName(t.prefs, f.Name, id)
}

// choiceName is a choice as a person reads it.
func choiceName(p say.Reader, of, id string) string {
	switch of {
	case "crop":
		if c, ok := crop.Find(id); ok {
			return p.Say(c.Name)
		}
	case "workdays":
		if n, err := strconv.Atoi(id); err == nil && n >= 1 && n <= 7 {
			return p.Say(say.Date(calendar.Date(2027, 3, 14+n).UTC(), "Mon"))
		}
	case "shape":
		return p.Say(map[string]say.Words{
			"box": "Box", "cylinder": "Cylinder", "round_taper": "Bucket, wider at the top", "square_taper": "Tub with sloping sides", "marks": "By marks on its side",
		}[id])
	}
	switch id {
	case "ph":
		return "pH"
	case "ec":
		return p.T("conductivity")
	case "iron_dtpa_11":
		return p.T("iron DTPA, 11 %")
	case "iron_eddha_6":
		return p.T("iron EDDHA, 6 %")
	}
	return p.Say(say.Words(strings.ReplaceAll(id, "_", " ")))
}

// chemical writes an ion or a form of nitrogen as chemists do.
func chemical(name string) string {
	written := map[string]string{
		"NO3_N": "NO₃-N", "NH4_N": "NH₄-N", "NH4": "NH₄⁺", "NO3": "NO₃⁻", "H2PO4": "H₂PO₄⁻", "SO4": "SO₄²⁻", "HCO3": "HCO₃⁻",
	}
	if s, ok := written[name]; ok {
		return s
	}
	return name
}

// madeUpNights stand in the frost sum as its example: five years of a station
// that never was, with a late frost or an early one now and then.
func madeUpNights() (list []any) {
	for d, n := day("2022-01-01"), 0; n < 5*365+1; d, n = d+1, n+1 {
		season := math.Cos(2 * math.Pi * (float64(n) - 20) / 365.25)
		wobble := 3.2*math.Sin(float64(n)/5.3) + 1.9*math.Sin(float64(n)/2.1+float64(n)/97)
		wobble += 1.6 * math.Sin(2.3*float64(n/365)) // some years are colder
		list = append(list, map[string]any{"date": d.String(), "c": math.Round(10*(6.5-8*season+wobble)) / 10})
	}
	return list
}
