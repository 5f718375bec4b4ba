package web

import (
	"errors"
	"fmt"
	"math"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/store"
	"ulpa/internal/who"
)

// form is what was typed, and what is wrong with it. Its figures are in the
// units the form was shown in, which it carries along.
type form struct {
	values url.Values
	errors map[string]string
	prefs  unit.Prefs
	prefix string // tells the inputs of one page's forms apart
}

// As is the form with ids of its own, for a page that holds several.
func (f form) As(prefix string) form {
	f.prefix = prefix + "-"
	return f
}

// blankForm starts with values to show.
func blankForm(p unit.Prefs, pairs ...string) form {
	f := form{values: url.Values{}, errors: map[string]string{}, prefs: p}
	for i := 0; i+1 < len(pairs); i += 2 {
		f.values.Set(pairs[i], pairs[i+1])
	}
	return f
}

// readForm reads what was posted. A page that answers it is in the form's units, also
// when others have been chosen since: what was typed stands there still.
func readForm(c *gin.Context, p unit.Prefs) form {
	f := form{values: url.Values{}, errors: map[string]string{}, prefs: p}
	if err := c.Request.ParseForm(); err == nil {
		f.values = c.Request.PostForm
	}
	for _, list := range f.values {
		for i := range list {
			list[i] = printable(list[i])
		}
	}
	if system, scale, ok := strings.Cut(f.values.Get("units"), "/"); ok {
		f.prefs = unit.Parse(system, scale)
		if w, ok := c.Get("who"); ok && f.prefs != p {
			w := w.(who.Who)
			w.Prefs = f.prefs
			c.Set("who", w)
		}
	}
	return f
}

// printable leaves out what nobody types and no database stores: broken letters
// and the character of value 0.
func printable(s string) string {
	return strings.ReplaceAll(strings.ToValidUTF8(s, ""), "\x00", "")
}

// Get is what was typed.
func (f form) Get(name string) string { return f.values.Get(name) }

// Error is what is wrong with a field; "" when nothing is.
func (f form) Error(name string) string { return f.errors[name] }

// Any tells whether anything was refused.
func (f form) Any() bool { return len(f.errors) > 0 }

// Rest is what was refused that has no field of its own among the named.
func (f form) Rest(own ...string) (out []string) {
	for name, message := range f.errors {
		mine := false
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
func (f form) Text(name string) string { return strings.TrimSpace(f.values.Get(name)) }

// ID reads an id; a missing or broken one is refused.
func (f form) ID(name string) uuid.UUID {
	id, err := uuid.Parse(f.Text(name))
	if err != nil {
		f.errors[name] = "is missing; load the page again"
	}
	return id
}

// Number reads a figure in the form's units and returns it in metric; nil when left empty.
func (f form) Number(name, u string) *float64 {
	s := f.Text(name)
	if s == "" {
		return nil
	}
	v, err := unit.Read(s)
	if err != nil {
		f.errors[name] = fmt.Sprintf("%q is not a number; it takes one like 6.4", s)
		return nil
	}
	v = f.prefs.In(v, u)
	return &v
}

// Amount is Number with nothing for empty.
func (f form) Amount(name, u string) float64 {
	if v := f.Number(name, u); v != nil {
		return *v
	}
	return 0
}

// Int reads a whole number; otherwise is what an empty field means.
func (f form) Int(name string, otherwise int) int {
	s := f.Text(name)
	if s == "" {
		return otherwise
	}
	v, err := strconv.Atoi(s)
	if err != nil || v > math.MaxInt32 || v < math.MinInt32 {
		f.errors[name] = fmt.Sprintf("%q is not a whole number", s)
		return otherwise
	}
	return v
}

// Clock reads a time of the day, 08:30, in minutes after midnight.
func (f form) Clock(name string) int {
	t, err := time.Parse("15:04", f.Text(name))
	if err != nil {
		f.errors[name] = "takes a time like 08:30"
		return 0
	}
	return t.Hour()*60 + t.Minute()
}

// Cells reads a list of cells like A1-A6, C3 in a grid of rows by columns.
func (f form) Cells(name string, rows, columns int) []tray.Cell {
	list, err := tray.ParseList(f.Get(name), rows, columns)
	if err != nil {
		f.errors[name] = err.Error()
	}
	return list
}

// Refuse takes a verb's refusals into the form; false when the error is of another kind.
func (f form) Refuse(err error) bool {
	var refused field.Errors
	if !errors.As(err, &refused) {
		return false
	}
	for name, message := range refused.By() {
		f.errors[name] = message
	}
	return true
}

// pathID reads the id in a page's address.
func pathID(c *gin.Context) (uuid.UUID, error) {
	id, err := uuid.Parse(c.Param("id"))
	if err != nil {
		return id, store.ErrNotFound
	}
	return id, nil
}
