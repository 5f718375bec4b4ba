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
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// typed is what a form holds, in the units it was shown in.
type typed struct {
	values url.Values
	prefs  say.Reader
	errors map[string]string // by input
	whole  map[string]bool   // those that were given as JSON
	moved  map[string]string // path in the contract's object → input, where blank rows were left out
}

func newTyped(values url.Values, p say.Reader) *typed {
	return &typed{values: values, prefs: p, errors: map[string]string{}, whole: map[string]bool{}, moved: map[string]string{}}
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
	case f.AsJSON:
		return t.json(name)
	case f.Kind == "list" && f.Parts != nil:
		rows := t.rows(f, name)
		return rows, f.Needed || len(rows) > 0
	case f.Kind == "list" && f.Choices != nil:
		return t.checked(f, name), true
	case f.Kind == "list" && f.Names:
		return t.names(name)
	case f.Kind == "list":
		return t.list(f, name)
	}
	s := t.text(name)
	if s == "" {
		return nil, false
	}
	if f.Kind == "yes" {
		return true, true
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
		t.errors[name] = t.prefs.T("%q is not a number; it takes one like 6.4", s)
		return nil, false
	}
	return inward(v, f.Unit, t.prefs), true
}

// inward is a figure of the screen as the contract counts it, without the dust
// that converting leaves in the last digits.
func inward(v float64, u string, p say.Reader) float64 {
	if u == share {
		return tidy(v / 100)
	}
	if x := p.In(v, u); x != v {
		return tidy(x)
	}
	return v
}

func outward(v float64, u string, p say.Reader) string {
	if u == share {
		v *= 100
	} else {
		v = p.Out(v, u)
	}
	return p.Mark(strconv.FormatFloat(tidy(v), 'f', -1, 64))
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
		for _, part := range f.Parts {
			if _, ticked := o[part.Name]; !ticked && part.Kind == "yes" && part.Needed {
				o[part.Name] = false
			}
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
	if f.Single && len(out) == 1 {
		return out[0], true
	}
	return out, len(out) > 0
}

// names reads texts with commas between them.
func (t *typed) names(name string) (any, bool) {
	out := []any{}
	for s := range strings.SplitSeq(t.text(name), ",") {
		if s = strings.TrimSpace(s); s != "" {
			out = append(out, s)
		}
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
			t.errors[name] = t.prefs.T("line %d needs %d values, like %s", i+1, len(f.Parts), "2024-04-02, -1.5")
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
				t.errors[name] = t.prefs.T("line %d: %q is not a number", i+1, words[n])
				return nil, false
			}
			o[part.Name] = inward(v, part.Unit, t.prefs)
		}
		t.moved[fmt.Sprintf("%s.%d", name, len(out))] = fmt.Sprintf("%s, line %d", name, i+1)
		out = append(out, o)
	}
	return out, true
}

// json reads a list as the other faces take it.
func (t *typed) json(name string) (any, bool) {
	var out []any
	if err := json.Unmarshal([]byte(t.text(name)), &out); err != nil {
		t.errors[name] = t.prefs.T("is not JSON: give a list like the example")
		return nil, false
	}
	t.whole[name] = true
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
		message := t.prefs.Say(r.Message)
		if long, line, ok := strings.Cut(name, ", line "); ok {
			name, message = long, t.prefs.T("line %s %s", strings.ReplaceAll(line, ".", ", "), message)
		}
		for !inputs[name] && strings.Contains(name, ".") {
			name = name[:strings.LastIndex(name, ".")]
		}
		if t.whole[name] {
			message = r.Field + " " + message
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
func Fill(k calc.Calculator, input map[string]any, p say.Reader) url.Values {
	v := url.Values{}
	fill(v, k.Fields, input, "", p)
	return v
}

func fill(v url.Values, fields []calc.Field, input map[string]any, at string, p say.Reader) {
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
		case bool:
			if x {
				v.Set(name, "yes")
			}
		default:
			v.Set(name, fmt.Sprint(x))
		}
	}
}

func fillList(v url.Values, f calc.Field, list []any, name string, p say.Reader) {
	var words []string
	for i, x := range list {
		switch x := x.(type) {
		case map[string]any:
			if f.AsJSON {
				b, _ := json.Marshal(x) // as it was read
				words = append(words, string(b))
				continue
			}
			if f.Long {
				line := []string{}
				for _, part := range f.Parts { // commas part a line's values
					one := url.Values{}
					fill(one, []calc.Field{part}, x, "", say.Reader{Prefs: p.Prefs})
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
	case f.AsJSON:
		v.Set(name, "["+strings.Join(words, ",\n")+"]")
	case f.Long:
		v.Set(name, strings.Join(words, "\n"))
	case f.Names:
		v.Set(name, strings.Join(words, ", "))
	case len(words) > 0:
		v.Set(name, strings.Join(words, " "))
	}
}

// example is the calculator's example as a form holds it, with the defaults.
func example(k calc.Calculator, p say.Reader) url.Values {
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
	return Fill(k, named(input, p).(map[string]any), p)
}

// exampleNames are what examples call their stages and arms.
var exampleNames = map[string]say.Words{"germinate": "germinate", "grow on": "grow on", "plain": "plain", "soaked": "soaked"}

// named is an example with its names in the reader's language.
func named(v any, p say.Reader) any {
	switch x := v.(type) {
	case string:
		if w, ok := exampleNames[x]; ok {
			return p.Say(w)
		}
	case []any:
		for i := range x {
			x[i] = named(x[i], p)
		}
	case map[string]any:
		for k := range x {
			x[k] = named(x[k], p)
		}
	}
	return v
}
