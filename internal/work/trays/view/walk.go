package view

import (
	"net/url"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/site"
)

// mostInWalk trays are counted one after the other.
const mostInWalk = 60

// Walk is where one is among trays that are counted one after the other.
type Walk struct {
	Rest string // the trays that follow, as the form sends them
	Left int
	Skip string // the address of the next without counting this one
}

// WalkOf reads the trays that follow from an address or a form; nil: this one is counted alone.
func WalkOf(text string) *Walk {
	if text == "" {
		return nil
	}
	v := &Walk{}
	var ids []string
	for _, x := range strings.Split(text, " ") {
		if id, err := uuid.Parse(x); err == nil && len(ids) < mostInWalk {
			ids = append(ids, id.String())
		}
	}
	v.Rest, v.Left, v.Skip = strings.Join(ids, " "), len(ids), "/nursery"
	if len(ids) > 0 {
		v.Skip = walkPath(ids)
	}
	return v
}

// walkPath is the address of the first of some trays, with the others to follow: "-" is none.
func walkPath(ids []string) string {
	rest := strings.Join(ids[1:], " ")
	if rest == "" {
		rest = "-"
	}
	return "/trays/" + ids[0] + "?walk=" + url.QueryEscape(rest)
}

// Through is the address at which the trays of some batches begin to be counted, and how
// many they are; fewer than two are not walked through.
func Through(lines []*batches.Line, trays []site.Tray, in map[uuid.UUID][]uuid.UUID) (path string, many int) {
	used := map[uuid.UUID]bool{}
	for _, l := range lines {
		for _, t := range in[l.ID] {
			used[t] = true
		}
	}
	var ids []string
	for _, t := range trays {
		if used[t.ID] && len(ids) < mostInWalk {
			ids = append(ids, t.ID.String())
		}
	}
	if len(ids) < 2 {
		return "", 0
	}
	return walkPath(ids), len(ids)
}

// Says is how many trays are still to come.
func (v *Walk) Says(r say.Reader) string {
	if v.Left == 0 {
		return r.T("The last one of these.")
	}
	return r.T("%s still to do after this.", say.Plural(v.Left, "tray"))
}

// After is where one goes on once a tray was counted.
func (v *Walk) After(here string) string {
	if v == nil {
		return here
	}
	return v.Skip
}
