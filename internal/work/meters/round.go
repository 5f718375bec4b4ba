package meters

import (
	"context"

	"ulpa/core/round"
	"ulpa/internal/base/store"
	walk "ulpa/internal/work/round"
)

// Pens that are to be put into their buffers are part of the round.
var _ = walk.Declare(walk.Part[round.Meter]{
	Order: 90, Read: toCalibrate,
	Due:   func(d round.Day, m round.Meter) []round.Task { return d.OfMeter(m) },
	Pages: map[*round.Kind]walk.Page{round.Calibrate: walk.At("/meters/", "", "Open")},
})

func toCalibrate(ctx context.Context, tx *store.Tx) (out []round.Meter, err error) {
	pens, err := Read(ctx, tx)
	for _, m := range pens {
		if m.Due == 0 {
			continue
		}
		x := round.Meter{ID: m.ID.String(), Name: m.Name, Place: m.Place.String(), Due: m.Due}
		if last, ok := m.Last(); ok {
			x.Last = last.On
		}
		out = append(out, x)
	}
	return out, err
}
