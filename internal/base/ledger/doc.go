// Package ledger writes facts and keeps the present state beside them.
//
// The idea: what happened is an entry, and an entry is never changed. A mistake is corrected by
// another entry that corrects it and takes its place in line. All else follows: what stands where,
// how full a tank is, how many came up are folded from the entries in the order in which things
// happened, and kept beside them only so that pages need not fold. [Audit] folds everything anew
// and compares.
//
// A first program declares what can be written, with what a form asks for and what the notebook
// says of it, and then writes one inside a transaction of the school:
//
//	type Draught struct{ Window string }
//
//	var Felt = ledger.Declare(ledger.Kind[Draught]{
//		Name:   "draught",
//		Says:   func(d Draught) say.Text { return say.T("A draught from %s", say.Name(d.Window)) },
//		Fields: []ledger.Field[Draught]{ledger.Short("window", "From where", func(d *Draught) *string { return &d.Window })},
//	})
//
//	err := ledger.Once(ctx, store, who, ledger.Sent{ID: id, Verb: "site.Felt", What: draught}, func(tx *store.Tx) error {
//		_, err := ledger.Write(ctx, tx, ledger.Fact{ID: id, Kind: Felt.Name, About: []uuid.UUID{place}, Data: draught})
//		return err
//	})
//
// At the edges: an id that was written before is not written again, and another content under it is
// refused (Once). A moment of nought is now. An entry about a retired thing, or about none that the
// school has, is refused. A kind that nobody declared is an error at every door.
package ledger
