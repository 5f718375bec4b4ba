package demo

import (
	"time"

	"ulpa/core/calendar"
	"ulpa/internal/goals"
	"ulpa/internal/things"
)

// goals are what the made-up school wants from its spring and summer; one is wanted too soon.
func (b *builder) goals() {
	day := func(month time.Month, d int) calendar.Day { return calendar.Date(2027, month, d) + b.shift }
	for _, g := range []goals.Setup{
		{
			Name: "Kitchen lettuce", Kind: "weekly", Crop: "lettuce", Wanted: 12, From: day(5, 10), By: day(6, 18), Harvest: true, Missing: "must",
			Whom: "The kitchen, for Thursday lunch",
		},
		{
			Name: "Kitchen rocket", Kind: "weekly", Crop: "rocket", Wanted: 8, From: day(5, 3), By: day(5, 28), Harvest: true, Missing: "should",
			Whom: "The kitchen",
		},
		{Name: "Planting day", Kind: "ready", Crop: "tomato", Wanted: 24, From: day(5, 17), By: day(5, 21), Missing: "must", Whom: "Year 9"},
		{Name: "Fair: basil pots", Kind: "ready", Crop: "basil", Wanted: 30, From: day(6, 14), By: day(6, 17), Missing: "should", Whom: "Summer fair"},
		{Name: "Fair: chives", Kind: "ready", Crop: "chives", Wanted: 20, From: day(6, 14), By: day(6, 17), Missing: "nice", Whom: "Summer fair"},
		{Name: "Leaf lesson", Kind: "class", Crop: "pakchoi", Wanted: 10, From: day(4, 29), By: day(4, 29), Missing: "should", Whom: "Science, room 4"},
		{Name: "Landing boxes peas", Kind: "ready", Crop: "pea", Wanted: 30, From: day(6, 21), By: day(7, 2), Harvest: true, Missing: "should"},
		{
			Name: "Chillies for the chutney", Kind: "ready", Crop: "chilli", Wanted: 12, From: day(5, 10), By: day(5, 21), Harvest: true, Missing: "nice",
			Whom: "Food club",
		},
	} {
		b.do("goal", func() error {
			g.ID = b.id()
			_, err := goals.Kind.Put(b.ctx, b.store, b.me, g, things.New)
			return err
		})
	}
}
