package calc

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
)

// Bounds of what is read.
const (
	MaxBody = 4 << 20
	maxList = 100_000
)

// object reads the fields of one JSON object. Every field is named once; what
// nobody asked for is refused at the end.
type object struct {
	path   string
	fields map[string]any
	asked  map[string]bool
	errs   *field.Errors
	clock  Clock // of the whole body
}

// open reads a body that must be one JSON object and nothing after it.
func open(body []byte) (*object, error) {
	if len(body) > MaxBody {
		return nil, field.Refuse("body", "is larger than 4 MB")
	}
	d := json.NewDecoder(bytes.NewReader(body))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil {
		return nil, field.Refuse("body", "is not JSON: give one object like the example")
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return nil, field.Refuse("body", "must be one JSON object and nothing after it")
	}
	m, ok := v.(map[string]any)
	if !ok {
		return nil, field.Refuse("body", "must be one JSON object")
	}
	return &object{fields: m, asked: map[string]bool{}, errs: &field.Errors{}}, nil
}

func (o *object) at(name string) string {
	if o.path == "" {
		return name
	}
	return o.path + "." + name
}

func (o *object) refuse(name string, message say.Words, args ...any) {
	o.errs.Add(o.at(name), message, args...)
}

// has asks whether a field is given.
func (o *object) has(name string) bool {
	o.asked[name] = true
	_, ok := o.fields[name]
	return ok
}

// need is has, refusing when it is not.
func (o *object) need(name string, takes say.Words) bool {
	if o.has(name) {
		return true
	}
	o.refuse(name, "is missing: give %s", takes)
	return false
}

func (o *object) number(name string) float64 {
	if !o.need(name, "a number") {
		return 0
	}
	return o.asNumber(name, o.fields[name])
}

func (o *object) asNumber(name string, v any) float64 {
	n, ok := v.(json.Number)
	if !ok {
		o.refuse(name, "must be a number, not %s", kind(v))
		return 0
	}
	x, err := strconv.ParseFloat(n.String(), 64)
	if err != nil || math.IsInf(x, 0) || math.IsNaN(x) {
		o.refuse(name, "must be a finite number")
		return 0
	}
	return x
}

func (o *object) numberOr(name string, otherwise float64) float64 {
	if !o.has(name) {
		return otherwise
	}
	return o.number(name)
}

// positiveOr is an optional number that has no meaning at 0 or below.
func (o *object) positiveOr(name string, otherwise float64) float64 {
	if !o.has(name) {
		return otherwise
	}
	v := o.number(name)
	if v <= 0 {
		o.refuse(name, "must be a number above 0")
	}
	return v
}

func (o *object) integer(name string) int {
	if !o.need(name, "a whole number") {
		return 0
	}
	return o.asInteger(name, o.fields[name])
}

func (o *object) asInteger(name string, v any) int {
	before := len(*o.errs)
	x := o.asNumber(name, v)
	if len(*o.errs) > before {
		return 0
	}
	if x != math.Trunc(x) || math.Abs(x) > 1e15 {
		o.refuse(name, "must be a whole number")
		return 0
	}
	return int(x)
}

func (o *object) integerOr(name string, otherwise int) int {
	if !o.has(name) {
		return otherwise
	}
	return o.integer(name)
}

func (o *object) text(name string) string {
	if !o.need(name, "a text") {
		return ""
	}
	s, ok := o.fields[name].(string)
	if !ok {
		o.refuse(name, "must be a text, not %s", kind(o.fields[name]))
	}
	return s
}

func (o *object) day(name string) calendar.Day {
	if !o.need(name, "a date like 2027-03-18") {
		return 0
	}
	s, ok := o.fields[name].(string)
	if !ok {
		o.refuse(name, "must be a date like 2027-03-18, not %s", kind(o.fields[name]))
		return 0
	}
	d, err := calendar.ParseDay(s)
	if err != nil {
		o.refuse(name, "must be a date like 2027-03-18")
	}
	return d
}

// object opens a field that is itself an object.
func (o *object) object(name string) *object {
	sub := &object{path: o.at(name), fields: map[string]any{}, asked: map[string]bool{}, errs: o.errs}
	if !o.need(name, "an object") {
		return sub
	}
	m, ok := o.fields[name].(map[string]any)
	if !ok {
		o.refuse(name, "must be an object, not %s", kind(o.fields[name]))
		return sub
	}
	sub.fields = m
	return sub
}

// numbers reads an object of numbers by name; nil when it is not given.
func (o *object) numbers(name string) map[string]float64 {
	if !o.has(name) {
		return nil
	}
	sub := o.object(name)
	out := map[string]float64{}
	for _, key := range sub.names() {
		out[key] = sub.number(key)
	}
	return out
}

func (o *object) names() []string {
	var names []string
	for n := range o.fields {
		names = append(names, n)
	}
	sort.Strings(names)
	return names
}

// list reads a field that is a list.
func (o *object) list(name string) []any {
	if !o.need(name, "a list") {
		return nil
	}
	l, ok := o.fields[name].([]any)
	if !ok {
		o.refuse(name, "must be a list, not %s", kind(o.fields[name]))
		return nil
	}
	if len(l) > maxList {
		o.refuse(name, "is longer than 100,000")
		return nil
	}
	return l
}

// byDay reads a number, or a list of numbers.
func (o *object) byDay(name string) (out []float64) {
	if _, list := o.fields[name].([]any); !list {
		return []float64{o.number(name)}
	}
	for i, v := range o.list(name) {
		out = append(out, o.asNumber(fmt.Sprintf("%s.%d", name, i), v))
	}
	return out
}

// each opens every object of a list.
func (o *object) each(name string, read func(i int, item *object)) {
	for i, v := range o.list(name) {
		if len(*o.errs) > 100 {
			return
		}
		at := fmt.Sprintf("%s.%d", name, i)
		m, ok := v.(map[string]any)
		if !ok {
			o.refuse(at, "must be an object, not %s", kind(v))
			continue
		}
		item := &object{path: o.at(at), fields: m, asked: map[string]bool{}, errs: o.errs}
		read(i, item)
		item.done()
	}
}

// yes reads an optional true or false; false when it is not given.
func (o *object) yes(name string) bool {
	if !o.has(name) {
		return false
	}
	v, ok := o.fields[name].(bool)
	if !ok {
		o.refuse(name, "must be true or false, not %s", kind(o.fields[name]))
	}
	return v
}

// under is a refusal of the core with its fields under a path; those named are left
// where they are.
func under(path string, err error, except ...string) error {
	refused, ok := err.(field.Errors)
	if !ok {
		return err
	}
	var out field.Errors
	for _, r := range refused {
		if !slices.Contains(except, r.Field) {
			r.Field = path + "." + r.Field
		}
		out = append(out, r)
	}
	return out
}

// done refuses the fields that nobody asked for.
func (o *object) done() {
	for _, n := range o.names() {
		if !o.asked[n] {
			o.refuse(n, "is not a field of this calculator")
		}
	}
}

// err closes the whole body.
func (o *object) err() error {
	o.done()
	return o.errs.Err()
}

func (o *object) choice(name string, takes ...string) string {
	s := o.text(name)
	if o.has(name) && !slices.Contains(takes, s) && s != "" {
		o.refuse(name, "must be one of %s", strings.Join(takes, ", "))
	}
	if s == "" && o.has(name) {
		o.refuse(name, "must be one of %s", strings.Join(takes, ", "))
	}
	return s
}

func kind(v any) say.Words {
	switch v.(type) {
	case nil:
		return "null"
	case bool:
		return "true or false"
	case string:
		return "a text"
	case json.Number:
		return "a number"
	case []any:
		return "a list"
	}
	return "an object"
}
