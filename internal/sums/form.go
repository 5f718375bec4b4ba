package sums

import (
	"encoding/json"
	"fmt"
	"math"
	"net/url"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ulpa/core/calc"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/unit"
)

// Input is one field of a screen.
type Input struct {
	ID, Name, Label, Unit, Value, Error, Hint string
	Kind                                      string // decimal, int, text, date; select, checks, lines
	Big                                       bool
	Options                                   []Option
}

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

// typed is what a form holds, in the units it was shown in.
type typed struct {
	values url.Values
	prefs  unit.Prefs
	errors map[string]string // by input
	moved  map[string]string // path in the contract's object → input, where blank rows were left out
}

func (t *typed) text(name string) string { return strings.TrimSpace(t.values.Get(name)) }

// object reads fields as the contract's object; a field left empty is left out.
func (t *typed) object(fields []calc.Field, at string) map[string]any {
	out := map[string]any{}
	for _, f := range fields {
		if f.OnScreen == "" {
			continue
		}
		if v, ok := t.value(f, at+f.Name); ok {
			out[f.Name] = v
		}
	}
	return out
}

func (t *typed) value(f calc.Field, name string) (any, bool) {
	switch {
	case f.Kind == "object":
		o := t.object(f.Parts, name+".")
		return o, len(o) > 0 || f.Needed
	case f.Kind == "list" && f.Long:
		return t.lines(f, name)
	case f.Kind == "list" && f.Parts != nil:
		return t.rows(f, name), true
	case f.Kind == "list" && f.Choices != nil:
		return t.checked(f, name), true
	case f.Kind == "list":
		return t.list(f, name)
	}
	s := t.text(name)
	if s == "" {
		return nil, false
	}
	if f.Kind == "text" || f.Kind == "date" {
		return s, true
	}
	return t.number(f, name, s)
}

// number reads a figure in the form's unit.
func (t *typed) number(f calc.Field, name, s string) (any, bool) {
	v, err := unit.Read(s)
	if err != nil {
		t.errors[name] = fmt.Sprintf("%q is not a number; it takes one like 6.4", s)
		return nil, false
	}
	return inward(v, f.Unit, t.prefs), true
}

// inward is a figure of the screen as the contract counts it, without the dust
// that converting leaves in the last digits.
func inward(v float64, u string, p unit.Prefs) float64 {
	if u == share {
		return tidy(v / 100)
	}
	if x := p.In(v, u); x != v {
		return tidy(x)
	}
	return v
}

func outward(v float64, u string, p unit.Prefs) string {
	if u == share {
		v *= 100
	} else {
		v = p.Out(v, u)
	}
	return strconv.FormatFloat(tidy(v), 'f', -1, 64)
}

const share = "share"

// tidy keeps nine significant digits.
func tidy(v float64) float64 {
	if v == 0 || math.IsInf(v, 0) || math.IsNaN(v) {
		return v
	}
	scale := math.Pow(10, 8-math.Floor(math.Log10(math.Abs(v))))
	if math.IsInf(scale, 0) || scale == 0 {
		return v
	}
	return math.Round(v*scale) / scale
}

// rowsOf are the numbers of the rows that the form holds, in order.
func (t *typed) rowsOf(name string) (rows []int) {
	seen := map[int]bool{}
	for key := range t.values {
		if rest, ok := strings.CutPrefix(key, name+"."); ok {
			n, _, _ := strings.Cut(rest, ".")
			if i, err := strconv.Atoi(n); err == nil && i >= 0 && i < 100 && !seen[i] {
				seen[i] = true
				rows = append(rows, i)
			}
		}
	}
	sort.Ints(rows)
	return rows
}

func (t *typed) rows(f calc.Field, name string) []any {
	out := []any{}
	for _, i := range t.rowsOf(name) {
		at := fmt.Sprintf("%s.%d", name, i)
		o := t.object(f.Parts, at+".")
		if len(o) == 0 && !t.refusedIn(at) {
			continue
		}
		t.moved[fmt.Sprintf("%s.%d", name, len(out))] = at
		out = append(out, o)
	}
	return out
}

func (t *typed) refusedIn(at string) bool {
	for name := range t.errors {
		if strings.HasPrefix(name, at+".") {
			return true
		}
	}
	return false
}

func (t *typed) checked(f calc.Field, name string) []any {
	out := []any{}
	for _, v := range t.values[name] {
		if n, err := strconv.Atoi(v); err == nil {
			out = append(out, n)
		} else if slices.Contains(f.Choices, v) {
			out = append(out, v)
		}
	}
	return out
}

func (t *typed) list(f calc.Field, name string) (any, bool) {
	words := strings.FieldsFunc(t.text(name), func(r rune) bool { return r == ' ' || r == ';' || r == '\n' || r == '\t' })
	out := []any{}
	for _, s := range words {
		v, ok := t.number(f, name, strings.Trim(s, "%,"))
		if !ok {
			return nil, false
		}
		out = append(out, v)
	}
	return out, len(out) > 0
}

// lines reads a long list: its parts in a line, apart by commas, semicolons or spaces.
func (t *typed) lines(f calc.Field, name string) (any, bool) {
	out := []any{}
	for i, line := range strings.Split(t.values.Get(name), "\n") {
		words := strings.FieldsFunc(line, func(r rune) bool { return r == ',' || r == ';' || r == '\t' || r == ' ' || r == '\r' })
		if len(words) == 0 {
			continue
		}
		if len(words) != len(f.Parts) {
			t.errors[name] = fmt.Sprintf("line %d takes %d values, like %s", i+1, len(f.Parts), "2024-04-02, -1.5")
			return nil, false
		}
		o := map[string]any{}
		for n, part := range f.Parts {
			if part.Kind == "date" {
				o[part.Name] = words[n]
				continue
			}
			v, err := unit.Read(words[n])
			if err != nil {
				t.errors[name] = fmt.Sprintf("line %d: %q is not a number", i+1, words[n])
				return nil, false
			}
			o[part.Name] = inward(v, part.Unit, t.prefs)
		}
		t.moved[fmt.Sprintf("%s.%d", name, len(out))] = fmt.Sprintf("%s, line %d", name, i+1)
		out = append(out, o)
	}
	return out, true
}

// refuse puts the core's refusals beside the inputs they are about, and returns
// those that have none.
func (t *typed) refuse(refused field.Errors, inputs map[string]bool) (rest []string) {
	for _, r := range refused {
		name := r.Field
		for from, to := range t.moved {
			if rest, ok := strings.CutPrefix(name, from); ok && (rest == "" || rest[0] == '.') {
				name = to + rest
			}
		}
		message := r.Message
		if long, line, ok := strings.Cut(name, ", line "); ok {
			name, message = long, "line "+strings.ReplaceAll(line, ".", ", ")+" "+message
		}
		for !inputs[name] && strings.Contains(name, ".") {
			name = name[:strings.LastIndex(name, ".")]
		}
		switch {
		case !inputs[name]:
			rest = append(rest, r.Field+" "+message)
		case t.errors[name] == "":
			t.errors[name] = message
		}
	}
	return rest
}

// Fill is an input of the contract as a form holds it, in a person's units.
func Fill(k calc.Calculator, input map[string]any, p unit.Prefs) url.Values {
	v := url.Values{}
	fill(v, k.Fields, input, "", p)
	return v
}

func fill(v url.Values, fields []calc.Field, input map[string]any, at string, p unit.Prefs) {
	for _, f := range fields {
		x, ok := input[f.Name]
		if !ok || x == nil {
			continue
		}
		name := at + f.Name
		switch x := x.(type) {
		case map[string]any:
			fill(v, f.Parts, x, name+".", p)
		case []any:
			fillList(v, f, x, name, p)
		case float64:
			v.Set(name, outward(x, f.Unit, p))
		case int:
			v.Set(name, outward(float64(x), f.Unit, p))
		default:
			v.Set(name, fmt.Sprint(x))
		}
	}
}

func fillList(v url.Values, f calc.Field, list []any, name string, p unit.Prefs) {
	var words []string
	for i, x := range list {
		switch x := x.(type) {
		case map[string]any:
			if f.Long {
				line := []string{}
				for _, part := range f.Parts {
					one := url.Values{}
					fill(one, []calc.Field{part}, x, "", p)
					line = append(line, one.Get(part.Name))
				}
				words = append(words, strings.Join(line, ", "))
				continue
			}
			fill(v, f.Parts, x, fmt.Sprintf("%s.%d.", name, i), p)
		case float64:
			words = append(words, outward(x, f.Unit, p))
		default:
			words = append(words, fmt.Sprint(x))
		}
	}
	switch {
	case f.Choices != nil:
		v[name] = words
	case f.Long:
		v.Set(name, strings.Join(words, "\n"))
	case len(words) > 0:
		v.Set(name, strings.Join(words, " "))
	}
}

// example is the calculator's example as a form holds it, with the defaults.
func example(k calc.Calculator, p unit.Prefs) url.Values {
	input := map[string]any{}
	for _, f := range k.Fields {
		if f.Default != "" {
			var v any
			if json.Unmarshal([]byte(f.Default), &v) == nil {
				input[f.Name] = v
			}
		}
	}
	_ = json.Unmarshal([]byte(k.Example), &input) // a test runs every example
	if k.Name == "frost" {
		input["daily_minima"] = madeUpNights()
	}
	return Fill(k, input, p)
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
	for _, f := range k.Fields {
		if f.OnScreen == "" || hides(k.Name, f.Name, t.text("shape")) {
			continue
		}
		switch {
		case f.Kind == "object":
			flush()
			b := Block{Heading: heading(f), Error: t.errors[f.Name]}
			for _, part := range f.Parts {
				in := t.input(part, f.Name+"."+part.Name)
				if f.Unit != "" { // the heading says it for all of them
					in.Label = chemical(in.Label)
				}
				b.Inputs = append(b.Inputs, in)
			}
			out = append(out, b)
		case f.Kind == "list" && f.Parts != nil && !f.Long:
			flush()
			out = append(out, t.table(f))
		case f.Kind == "list" && (f.Choices != nil || f.Long):
			flush()
			out = append(out, Block{Inputs: []Input{t.input(f, f.Name)}})
		default:
			plain.Inputs = append(plain.Inputs, t.input(f, f.Name))
		}
	}
	flush()
	return out
}

func heading(f calc.Field) string {
	if f.Unit != "" {
		return f.OnScreen + ", " + f.Unit
	}
	return f.OnScreen
}

// table shows the rows there are and room for two more.
func (t *typed) table(f calc.Field) Block {
	b := Block{Heading: f.OnScreen, Error: t.errors[f.Name]}
	for _, part := range f.Parts {
		label := part.OnScreen
		if u := unitName(part.Unit, t.prefs); u != "" {
			label += ", " + u
		}
		b.Columns = append(b.Columns, label)
	}
	rows, filled := 3, t.rowsOf(f.Name)
	for _, i := range filled {
		if slices.ContainsFunc(f.Parts, func(p calc.Field) bool { return t.text(fmt.Sprintf("%s.%d.%s", f.Name, i, p.Name)) != "" }) {
			rows = max(rows, i+3)
		}
	}
	for i := range min(rows, 100) {
		var row []Input
		for _, part := range f.Parts {
			in := t.input(part, fmt.Sprintf("%s.%d.%s", f.Name, i, part.Name))
			in.Label = fmt.Sprintf("%s, row %d", part.OnScreen, i+1)
			row = append(row, in)
		}
		b.Rows = append(b.Rows, row)
	}
	return b
}

func (t *typed) input(f calc.Field, name string) Input {
	in := Input{ID: "f-" + strings.ReplaceAll(name, ".", "-"), Name: name, Label: f.OnScreen, Unit: unitName(f.Unit, t.prefs), Value: t.text(name), Error: t.errors[name]}
	in.Kind = map[string]string{"number": "decimal", "integer": "int", "date": "date"}[f.Kind]
	switch {
	case f.Kind == "list" && f.Long:
		in.Kind, in.Value, in.Hint = "lines", t.values.Get(name), "Paste a station’s nights over these; ten years are better than two."
	case f.Kind == "list" && f.Choices != nil:
		in.Kind = "checks"
		for _, c := range f.Choices {
			in.Options = append(in.Options, Option{c, choiceName(f.Name, c), slices.Contains(t.values[name], c)})
		}
	case f.Offers() != nil:
		in.Kind = "select"
		for _, c := range f.Offers() {
			in.Options = append(in.Options, Option{c, choiceName(f.Name, c), c == in.Value})
		}
	case in.Kind == "":
		in.Kind = "text"
	}
	if f.Kind == "number" && f.Takes != "" && strings.Contains(f.Takes, ";") {
		_, in.Hint, _ = strings.Cut(f.Takes, "; ")
	}
	return in
}

func unitName(u string, p unit.Prefs) string {
	if u == share {
		return "%"
	}
	return p.Name(u)
}

// choiceName is a choice as a person reads it.
func choiceName(of, id string) string {
	switch of {
	case "crop":
		if c, ok := crop.Find(id); ok {
			return c.Name
		}
	case "workdays":
		if n, err := strconv.Atoi(id); err == nil && n >= 1 && n <= 7 {
			return [...]string{"Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"}[n-1]
		}
	case "shape":
		return map[string]string{"box": "Box", "cylinder": "Cylinder", "round_taper": "Bucket, wider at the top", "square_taper": "Tub with sloping sides", "marks": "By marks on its side"}[id]
	}
	switch id {
	case "iron_dtpa_11":
		return "iron DTPA, 11 %"
	case "iron_eddha_6":
		return "iron EDDHA, 6 %"
	}
	return strings.ReplaceAll(id, "_", " ")
}

// chemical writes an ion or a form of nitrogen as chemists do.
func chemical(name string) string {
	if s, ok := map[string]string{"NO3_N": "NO₃-N", "NH4_N": "NH₄-N", "NH4": "NH₄⁺", "NO3": "NO₃⁻", "H2PO4": "H₂PO₄⁻", "SO4": "SO₄²⁻", "HCO3": "HCO₃⁻"}[name]; ok {
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

// hides tells the sizes that belong to another shape of vessel.
func hides(calculator, name, shape string) bool {
	if calculator != "vessel" || name == "shape" || name == "depth_cm" || name == "litres" {
		return false
	}
	return !slices.Contains(calc.SizesOf(shape), name)
}
