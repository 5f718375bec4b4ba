package face

import (
	"errors"
	"math"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Form is what was typed, and what is wrong with it. Its figures are in the
// units the form was shown in, which it carries along.
type Form struct {
	Values url.Values
	Errors map[string]string
	Prefs  say.Reader
	prefix string          // tells the inputs of one page's forms apart
	told   map[string]bool // the fields whose refusal has been asked for, where that is watched
	needs  map[string]bool // the fields that must be given, which the page marks
}

// Need marks fields as ones that must be given.
func (f *Form) Need(names ...string) *Form {
	f.needs = map[string]bool{}
	for _, n := range names {
		f.needs[n] = true
	}
	return f
}

// As is the same form with ids of its own, for a page that holds several.
func (f *Form) As(prefix string) *Form {
	g := Form{}
	if f != nil {
		g = *f
	}
	g.prefix = prefix + "-"
	return &g
}

// BlankForm starts with values to show.
func BlankForm(p say.Reader, pairs ...string) *Form {
	f := &Form{Values: url.Values{}, Errors: map[string]string{}, Prefs: p}
	for i := 0; i+1 < len(pairs); i += 2 {
		f.Values.Set(pairs[i], pairs[i+1])
	}
	return f
}

// ReadForm reads what was posted. A page that answers it is in the form's units, also
// when others have been chosen since: what was typed stands there still.
func ReadForm(c *gin.Context, p say.Reader) *Form {
	posted := url.Values{}
	if err := c.Request.ParseForm(); err == nil {
		posted = c.Request.PostForm
	}
	f := FormOf(posted, p)
	if w, ok := c.Get("who"); ok && f.Prefs != p {
		w := w.(who.Who)
		w.Prefs = f.Prefs
		c.Set("who", w)
	}
	return f
}

// FormOf is a form of what was sent, in the units it says it was shown in, or else in p's.
func FormOf(sent url.Values, p say.Reader) *Form {
	for _, list := range sent {
		for i := range list {
			list[i] = printable(list[i])
		}
	}
	f := &Form{Values: sent, Errors: map[string]string{}, Prefs: p}
	if system, scale, ok := strings.Cut(f.Get("units"), "/"); ok {
		f.Prefs.Prefs = unit.Parse(system, scale)
	}
	return f
}

// printable leaves out what nobody types and no database stores: broken letters
// and the character of value 0.
func printable(s string) string {
	return strings.ReplaceAll(strings.ToValidUTF8(s, ""), "\x00", "")
}

// Get is what was typed. A page that has no form of its own has nil, in which nothing was.
func (f *Form) Get(name string) string {
	if f == nil {
		return ""
	}
	return f.Values.Get(name)
}

// Error is what is wrong with a field; "" when nothing is.
func (f *Form) Error(name string) string {
	if f == nil {
		return ""
	}
	if f.told != nil {
		f.told[name] = true
	}
	return f.Errors[name]
}

// Wrong says what is wrong with a field.
func (f *Form) Wrong(name string, says say.Words, args ...any) {
	f.Errors[name] = f.Prefs.T(says, args...)
}

// Day reads a date.
func (f *Form) Day(name string) calendar.Day {
	d, err := calendar.ParseDay(f.Text(name))
	if err != nil {
		f.Errors[name] = f.Prefs.Say(say.Why(err))
	}
	return d
}

// Any tells whether anything was refused.
func (f *Form) Any() bool { return f != nil && len(f.Errors) > 0 }

// Rest is what was refused that has no field of its own among the named.
func (f *Form) Rest(own ...string) (out []string) {
	if f == nil {
		return nil
	}
	for name, message := range f.Errors {
		mine := name == "when" // which stands in every form of an act
		for _, o := range own {
			mine = mine || o == name
		}
		if !mine {
			out = append(out, message)
		}
	}
	return out
}

// Text is what was typed, without spaces around it.
func (f *Form) Text(name string) string { return strings.TrimSpace(f.Get(name)) }

// ID reads an id; a missing or broken one is refused.
func (f *Form) ID(name string) uuid.UUID {
	id, err := uuid.Parse(f.Text(name))
	if err != nil {
		f.Errors[name] = f.Prefs.T("is missing; load the page again")
	}
	return id
}

// About is the thing that an entry is to be about: nil when none is named. One that cannot be
// there is refused, so that nothing is kept as if it were about nothing.
func (f *Form) About() *uuid.UUID {
	if f.Text("about") == "" {
		return nil
	}
	id, err := uuid.Parse(f.Text("about"))
	if err != nil {
		f.Errors["about"] = f.Prefs.T("is not there any more")
		return nil
	}
	return &id
}

// Number reads a figure in the form's units and returns it in metric; nil when left empty.
func (f *Form) Number(name, u string) *float64 {
	s := f.Text(name)
	if s == "" {
		return nil
	}
	v, err := unit.Read(s)
	if err != nil {
		f.Errors[name] = f.Prefs.T("%q is not a number; it takes one like 6.4", s)
		return nil
	}
	v = f.Prefs.In(v, u)
	return &v
}

// Amount is Number with nothing for empty.
func (f *Form) Amount(name, u string) float64 {
	if v := f.Number(name, u); v != nil {
		return *v
	}
	return 0
}

// Int reads a whole number; otherwise is what an empty field means.
func (f *Form) Int(name string, otherwise int) int {
	s := f.Text(name)
	if s == "" {
		return otherwise
	}
	v, err := strconv.Atoi(s)
	if err != nil || v > math.MaxInt32 || v < math.MinInt32 {
		f.Errors[name] = f.Prefs.T("%q is not a whole number", s)
		return otherwise
	}
	return v
}

// When is the moment that an act happened, by the school's clock; zero when it was just
// now. What is older than two years is a slip.
func (f *Form) When(w who.Who, now time.Time) time.Time {
	s := f.Text("when")
	if s == "" {
		return time.Time{}
	}
	at, err := time.ParseInLocation("2006-01-02T15:04", s, w.Zone)
	switch {
	case err != nil:
		f.Errors["when"] = f.Prefs.T("must be a day and hour, like 2027-03-17T15:30")
	case at.After(now):
		f.Errors["when"] = f.Prefs.T("must not be in the future")
	case at.Before(now.AddDate(-2, 0, 0)):
		f.Errors["when"] = f.Prefs.T("is more than two years ago")
	}
	return at
}

// ReadAct reads the form of an act on the thing in the page's address, with the entry's id and the
// moment, before anything can ask whether the form was refused.
func (s *Server) ReadAct(c *gin.Context) (*Form, ledger.Act, error) {
	_, w := s.Me(c)
	on, err := PathID(c)
	if err != nil {
		return nil, ledger.Act{}, err
	}
	f := ReadForm(c, w.Prefs)
	return f, ledger.Act{ID: f.ID("id"), On: on, At: f.When(w, s.Store.Now())}, nil
}

// Clock reads a time of the day, 08:30, in minutes after midnight.
func (f *Form) Clock(name string) int {
	t, err := time.Parse("15:04", f.Text(name))
	if err != nil {
		f.Errors[name] = f.Prefs.T("must be a time like 08:30")
		return 0
	}
	return t.Hour()*60 + t.Minute()
}

// Cells reads a list of cells like A1-A6, C3 in a grid of rows by columns.
func (f *Form) Cells(name string, rows, columns int) []tray.Cell {
	list, err := tray.ParseList(f.Get(name), rows, columns)
	if err != nil {
		f.Errors[name] = f.Prefs.Say(say.Why(err))
	}
	return list
}

// asksKey is under which a question stands among the errors of a form.
const asksKey = "sure"

// Refuse takes a verb's refusals into the form, and its question as that of "sure"; false
// when the error is of another kind.
func (f *Form) Refuse(err error) bool {
	var asked field.Question
	if errors.As(err, &asked) {
		f.Errors[asksKey] = f.Prefs.Say(asked.Why())
	}
	var refused field.Errors
	if !errors.As(err, &refused) {
		return asked != nil
	}
	for name, message := range refused.By() {
		f.Errors[name] = f.Prefs.Say(message)
	}
	return true
}

// PathID reads the id in a page's address.
func PathID(c *gin.Context) (uuid.UUID, error) {
	id, err := uuid.Parse(c.Param("id"))
	if err != nil {
		return id, store.ErrNotFound
	}
	return id, nil
}
