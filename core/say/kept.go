package say

import (
	"encoding/json"
	"fmt"
	"time"
)

// Kept is a text as a fact holds it: its words with what stands in them, in no language and
// no units.
type Kept struct{ Text }

// stored is any text, or what stands in one.
type stored struct {
	Words  *string   `json:"words,omitempty"`
	Name   *string   `json:"name,omitempty"`
	Args   []stored  `json:"args,omitempty"`
	Value  *float64  `json:"value,omitempty"` // a figure, with its unit where it has one
	Unit   *string   `json:"unit,omitempty"`
	Bare   bool      `json:"bare,omitempty"`
	Whole  *int      `json:"whole,omitempty"` // alone, or of what Words count
	Count  bool      `json:"count,omitempty"` // Whole counts Words, or what Args name
	Day    *string   `json:"day,omitempty"`
	Layout string    `json:"layout,omitempty"`
	Join   *[2]Words `json:"join,omitempty"` // Args with these between them
	Large  *bool     `json:"large,omitempty"`
}

// MarshalJSON keeps the text.
func (k Kept) MarshalJSON() ([]byte, error) {
	s, err := store(k.Text)
	if err != nil {
		return nil, err
	}
	return json.Marshal(s)
}

// UnmarshalJSON reads a kept text; a plain string, as it was kept once, is a Name.
func (k *Kept) UnmarshalJSON(b []byte) error {
	var old string
	if json.Unmarshal(b, &old) == nil {
		if k.Text = nil; old != "" {
			k.Text = Name(old)
		}
		return nil
	}
	var s stored
	if err := json.Unmarshal(b, &s); err != nil {
		return err
	}
	t, _ := s.arg().(Text)
	k.Text = t
	return nil
}

func store(v any) (s stored, err error) {
	text := func(w string) *string { return &w }
	all := func(list []any) (out []stored, err error) {
		for _, v := range list {
			x, err := store(v)
			if err != nil {
				return nil, err
			}
			out = append(out, x)
		}
		return out, nil
	}
	switch x := v.(type) {
	case nil:
	case Words:
		s.Words = text(string(x))
	case Name:
		s.Name = text(string(x))
	case string:
		s.Name = text(x)
	case int:
		s.Whole = &x
	case float64:
		s.Value = &x
	case amount:
		s.Value, s.Unit, s.Bare = &x.value, &x.unit, x.bare
	case count:
		s.Whole, s.Words, s.Count = &x.n, text(string(x.one)), true
	case date:
		s.Day, s.Layout = text(x.t.Format(time.RFC3339)), x.layout
	case sentence:
		s.Words = text(string(x.words))
		s.Args, err = all(x.args)
	case joined:
		s.Join = &[2]Words{x.sep, x.last}
		list := make([]any, len(x.list))
		for i, t := range x.list {
			list[i] = t
		}
		s.Args, err = all(list)
	case many:
		s.Whole, s.Count = &x.n, true
		s.Args, err = all([]any{x.noun})
	case cased:
		s.Large = &x.large
		s.Args, err = all([]any{x.text})
	default:
		return s, fmt.Errorf("a %T cannot be kept", v)
	}
	return s, err
}

// arg is a kept text or figure again.
func (s stored) arg() any {
	var args []any
	var texts []Text
	for _, a := range s.Args {
		v := a.arg()
		t, _ := v.(Text)
		args, texts = append(args, v), append(texts, t)
	}
	switch {
	case s.Large != nil && len(texts) == 1:
		return cased{texts[0], *s.Large}
	case s.Join != nil:
		return joined{s.Join[0], s.Join[1], texts}
	case s.Count && s.Whole != nil && s.Words != nil:
		return count{*s.Whole, Words(*s.Words)}
	case s.Count && s.Whole != nil && len(texts) == 1:
		return many{*s.Whole, texts[0]}
	case s.Words != nil:
		return T(Words(*s.Words), args...)
	case s.Name != nil:
		return Name(*s.Name)
	case s.Whole != nil:
		return *s.Whole
	case s.Value != nil && s.Unit != nil:
		return amount{*s.Value, *s.Unit, s.Bare}
	case s.Value != nil:
		return *s.Value
	case s.Day != nil:
		if t, err := time.Parse(time.RFC3339, *s.Day); err == nil {
			return date{t, s.Layout}
		}
	}
	return nil
}
