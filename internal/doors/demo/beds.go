package demo

import (
	"fmt"

	"github.com/google/uuid"

	"ulpa/internal/base/things"
	"ulpa/internal/work/beds"
)

// beds are the made-up school's landing boxes by sections, and what grew in them for two years.
func (b *builder) beds() {
	past := [][2]string{
		{"pea", "tomato"}, {"lettuce", "kale"}, {"marigold", "pea"}, {"tomato", "lettuce"}, {"beet", "marigold"}, {"kale", "nasturtium"}, {"onion", "bean"},
	}
	var ids []uuid.UUID
	for i := range past {
		s := beds.Section{
			ID: b.id(), Name: fmt.Sprintf("Box %d", i+1), Place: b.ids["Landing boxes"], XCM: float64(i%4)*100 + 2, YCM: float64(i/4)*30 + 1,
			LengthCM: 96, WidthCM: 28, Sun: []string{"full", "full", "part", "part"}[i%4],
		}
		ids = append(ids, s.ID)
		b.do("section", func() error {
			_, err := beds.SectionKind.Put(b.ctx, b.store, b.me, s, things.New)
			return err
		})
	}
	year := (Day + b.shift).UTC().Year()
	for n := range 2 {
		var put []beds.Put
		for i, p := range past {
			put = append(put, beds.Put{Section: ids[i], Crop: p[n]})
		}
		put = append(put, beds.Put{Section: ids[1], Crop: "radish", How: "between"})
		b.do("what grew", func() error {
			_, err := beds.Grew(b.ctx, b.store, b.me, year-1-n, put)
			return err
		})
	}
	b.do("rule", func() error { return beds.SetRule(b.ctx, b.store, b.me, beds.UsualRule) })
}
