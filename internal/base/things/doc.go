// Package things is what a school has and its people change: places, trays, tanks, packets, closed
// days, and whatever comes.
//
// The idea: a kind of thing is declared once, with its area; its section of the settings, its part
// of the API and its lines in the trail follow from that. A thing is changed whole, under the tag
// of what it was changed from, so that two people who change one at once never lose either's
// change without a word.
//
// A first program declares tools and puts one on the shelf:
//
//	var Kind = &things.Kind[Tool]{
//		Name: "tools", One: "tool", Add: "Add a tool", Title: "Tools", May: who.Plan,
//		Fields: []ledger.Field[Tool]{ledger.Short("name", "Name", func(t *Tool) *string { return &t.Name })},
//		ID:     func(t *Tool) *uuid.UUID { return &t.ID },
//		All:    all, Check: check, Keep: keep, Label: label, Says: says,
//	}
//
//	tag, err := Kind.Put(ctx, store, who, Tool{ID: id, Name: "Dibber"}, things.New)
//	tag, err = Kind.Put(ctx, store, who, Tool{ID: id, Name: "Long dibber"}, tag)
//
// At the edges: what is already so is not written again and gives the same tag. What was changed
// meanwhile is Stale. What is unusual is Asked about, and kept when it is sent again as sure. What
// something refers to is retired and never deleted.
package things
