// Package sums is a calculator's screen: it reads what was typed as the
// contract's object, asks the calculator, and says the answer in words, figures
// and a picture. It adds nothing to the arithmetic.
package sums

import (
	"context"
	"encoding/json"
	"errors"
	"net/url"
	"slices"
	"strings"
	"time"

	"ulpa/core/calc"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
	"ulpa/internal/base/timer"
)

// Screen is a calculator with what was typed and what came of it.
type Screen struct {
	Calculator calc.Calculator
	Blocks     []Block
	Rest       []string // refusals without an input of their own
	Answer     *Answer
	Still      []string // fields that still hold the example's figures
	Values     url.Values
}

// Answer is what came of it. Its figures are in the person's units.
type Answer struct {
	Big      string
	Now      bool // says that something is wrong
	Says     []string
	Figures  []Figure
	Picture  Picture
	Steps    []working.Step
	Cautions []string
	Adult    bool       // the act is for an adult
	Use      url.Values // what a page that can use the answer is given
}

// Figure is one line of the answer.
type Figure struct{ Name, Value string }

// asker runs the calculator again with some inputs changed, for a curve.
type asker func(change map[string]any) (result, error)

// result is an answer of the contract: as JSON, and as it was told.
type result struct {
	json []byte
	told map[string]any
}

// text is a text of the answer; nil without one.
func (r result) text(name string) say.Text {
	t, _ := r.told[name].(say.Text)
	return t
}

// texts are a list of them.
func (r result) texts(name string) []say.Text {
	t, _ := r.told[name].([]say.Text)
	return t
}

// teller says an answer.
type teller func(p say.Reader, in map[string]any, out result, ask asker) (Answer, error)

var tellers = map[string]teller{}

// tells has a calculator's answers said; each file's init names its own.
func tells(calculator string, t teller) { tellers[calculator] = t }

// Read makes the screen of a calculator from a form's values in a person's
// units. With no values it shows the calculator's example.
func Read(ctx context.Context, k calc.Calculator, values url.Values, p say.Reader) (Screen, error) {
	s := Screen{Calculator: k, Values: values}
	example := example(k, p)
	if fresh := !given(k, values); fresh || values.Get("example") != "" {
		if fresh {
			s.Values = example
		}
		s.Still = unchanged(k, s.Values, example, p)
	}
	t := newTyped(s.Values, p)
	err := s.answer(ctx, t)
	var refused field.Errors
	if errors.As(err, &refused) {
		s.Rest, err = t.refuse(refused, names(t.blocks(k))), nil
	}
	s.Blocks = t.blocks(k)
	return s, err
}

func (s *Screen) answer(ctx context.Context, t *typed) error {
	k := s.Calculator
	in := t.object(t.shown(k), "")
	if len(t.errors) > 0 {
		return nil
	}
	ask := func(change map[string]any) (result, error) {
		body := map[string]any{}
		for name, v := range in {
			body[name] = v
		}
		for name, v := range change {
			if body[name] = v; v == nil {
				delete(body, name)
			}
		}
		b, err := json.Marshal(body)
		if err != nil {
			return result{}, err
		}
		told, err := k.Timed(timer.Of(ctx, time.Second)).Run(b)
		if err != nil {
			return result{}, err
		}
		b, err = json.Marshal(told)
		return result{b, told}, err
	}
	out, err := ask(nil)
	if err != nil {
		return err
	}
	a, err := tellers[k.Name](t.prefs, in, out, ask)
	if err != nil {
		return err
	}
	switch steps := out.told["steps"].(type) {
	case []working.Step:
		a.Steps = steps
	case interface{ Working() []working.Step }: // with more in each of them
		a.Steps = steps.Working()
	}
	a.Cautions = t.prefs.All(out.texts("cautions"))
	if len(a.Cautions) > 0 { // the box says it over them
		a.Cautions[0] = strings.TrimPrefix(a.Cautions[0], t.prefs.T("Adult only.")+" ")
	}
	s.Answer = &a
	return nil
}

// unchanged names the fields that hold what the example does; defaults do not count.
func unchanged(k calc.Calculator, values, example url.Values, p say.Reader) (labels []string) {
	for _, f := range k.Fields {
		if f.OnScreen == "" || f.Default != "" || f.Name == "shape" {
			continue
		}
		same, any := true, false
		for name, list := range example {
			if name == f.Name || strings.HasPrefix(name, f.Name+".") {
				any = true
				same = same && slices.Equal(values[name], list)
			}
		}
		if any && same {
			label, _, _ := strings.Cut(p.Say(f.OnScreen), ":")
			labels = append(labels, label)
		}
	}
	return labels
}

// given tells whether a form holds any of the calculator's fields.
func given(k calc.Calculator, values url.Values) bool {
	for name := range values {
		for _, f := range k.Fields {
			if name == f.Name || strings.HasPrefix(name, f.Name+".") {
				return true
			}
		}
	}
	return false
}

func names(blocks []Block) map[string]bool {
	all := map[string]bool{}
	for _, b := range blocks {
		for _, in := range b.Inputs {
			all[in.Name] = true
		}
		for _, row := range b.Rows {
			for _, in := range row {
				all[in.Name] = true
			}
		}
	}
	return all
}

// Link is the address of a calculator filled in with an input of the contract,
// in a person's units.
func Link(name string, input map[string]any, p say.Reader) string {
	k, ok := calc.Find(name)
	if !ok {
		return "/sums"
	}
	v := Fill(k, input, p)
	v.Set("units", p.System()+"/"+p.Scale())
	return "/sums/" + name + "?" + v.Encode()
}

// InUnits is a form's values shown in other units; false when one of them is no
// number and all stay as they were typed.
func InUnits(k calc.Calculator, values url.Values, from, to say.Reader) (url.Values, bool) {
	t := newTyped(values, from)
	b, err := json.Marshal(t.object(k.Fields, ""))
	var plain map[string]any
	if err != nil || len(t.errors) > 0 || json.Unmarshal(b, &plain) != nil {
		return values, false
	}
	return Fill(k, plain, to), true
}
