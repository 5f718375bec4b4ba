package pages

import (
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/tray"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/site"
)

// readMove reads which plants go, and which were lost on the way: an input for each
// place they can be taken from.
func readMove(f *face.Form, of uuid.UUID, at time.Time) site.MoveRequest {
	r := site.MoveRequest{
		At:       at,
		ID:       f.ID("id"),
		Batch:    of,
		Ports:    f.Cells("ports", 60, 60),
		Fill:     f.Get("fill") != "",
		Cause:    batch.CauseOf(f.Get("cause")),
		RampDays: f.Int("ramp", 0),
	}
	for name, id := range map[string]*uuid.UUID{"pot": &r.Pot, "mix": &r.Mix} {
		if f.Get(name) != "" {
			*id = f.ID(name)
		}
	}
	var err error
	if r.To, err = uuid.Parse(f.Get("to")); err != nil {
		f.Wrong("to", "choose where they go")
	}
	trays := chosenIn{in: map[tray.Cell][]string{}}
	sources := 0
	for _, name := range slices.Sorted(maps.Keys(f.Values)) {
		from, ok := strings.CutPrefix(name, "from_")
		kind, in, named := strings.Cut(from, "_")
		if !ok || !named {
			continue
		}
		if sources++; sources > 40 || len(r.From) > 60*60 {
			f.Wrong("to", "has room for fewer plants at once")
			break
		}
		switch batch.SpotKind(kind) {
		case batch.InStand:
			if n := f.Int(name, 0); n > 0 {
				place, pot := batch.SplitStand(in)
				r.From = append(r.From, batch.Spot{Kind: batch.InStand, In: place, Pot: pot, N: n})
			}
		case batch.InOpen:
			in, section, _ := strings.Cut(in, "/")
			at, err := tray.Parse(section)
			if n := f.Int(name, 0); n > 0 && err == nil {
				r.From = append(r.From, batch.Spot{Kind: batch.InOpen, In: in, Row: at.Row, Col: at.Col, N: n})
			}
		case batch.InPort:
			r.From = append(r.From, spots(batch.InPort, in, f.Cells(name, 60, 60))...)
		case batch.InCell:
			cells := f.Cells(name, 60, 60)
			trays.add(in, cells)
			r.From = append(r.From, spots(batch.InCell, in, cells)...)
		}
	}
	r.Lost = trays.lost(f)
	r.From = slices.DeleteFunc(r.From, func(s batch.Spot) bool { return slices.Contains(r.Lost, s) })
	return r
}

func spots(kind batch.SpotKind, in string, cells []tray.Cell) (out []batch.Spot) {
	for _, c := range cells {
		out = append(out, batch.Spot{Kind: kind, In: in, Row: c.Row, Col: c.Col})
	}
	return out
}

// chosenIn is which trays each cell was chosen in. The lost are typed as cells alone,
// so it says which tray lost them.
type chosenIn struct {
	in    map[tray.Cell][]string
	trays []string
}

func (x *chosenIn) add(in string, cells []tray.Cell) {
	x.trays = append(x.trays, in)
	for _, c := range cells {
		x.in[c] = append(x.in[c], in)
	}
}

func (x *chosenIn) lost(f *face.Form) (out []batch.Spot) {
	for _, c := range f.Cells("lost", 60, 60) {
		in := x.in[c]
		if len(in) == 0 && len(x.trays) == 1 {
			in = x.trays // where there is one tray, the lost need not have been chosen
		}
		switch len(in) {
		case 0:
			f.Wrong("lost", "%s is not among the chosen plants", c.Name())
		case 1:
			out = append(out, batch.Spot{Kind: batch.InCell, In: in[0], Row: c.Row, Col: c.Col})
		default:
			f.Wrong("lost", "%s is chosen in several trays; write the loss down on the batch’s own page", c.Name())
		}
	}
	return out
}
