// Package labels is what is written on sticks, pots, trays, packets and places, with a code
// that a tablet's camera opens.
//
//	list, err := labels.Of(ctx, store, who, labels.Without)
//	err = labels.Write(ctx, file, sheet, list, labels.Print{First: 3, Copies: 1})
package labels

import (
	"context"
	"encoding/base64"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/label"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
)

// Label is what one says: a code to be read from afar, lines below it, and a short address.
type Label struct {
	ID      uuid.UUID
	Code    string
	Lines   []string
	Address string // a path of this house
	On      calendar.Day
	Printed bool
}

// Plain is paper without labels, to cut.
var Plain = label.Sheet{PageW: 210, PageH: 297, Columns: 2, Rows: 8, W: 95, H: 34, Left: 10, Top: 12, Cut: true}

// What labels there are to choose from.
const (
	Without = "new" // batches that have none yet
	Batches = "batches"
	Trays   = "trays"
	Packets = "packets"
	Places  = "places"
)

// Sort is a sort of labels, as it is chosen.
type Sort struct {
	ID   string
	Name say.Words
}

// Sorts are all of them.
var Sorts = []Sort{
	{Without, "batches without a label"}, {Batches, "all batches that grow"}, {Trays, "trays"}, {Packets, "packets of seed"}, {Places, "places"},
}

// Of reads the labels of a sort, in the order in which one walks or sowed.
func Of(ctx context.Context, s *store.Store, w who.Who, sort string) (out []Label, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = of(ctx, tx, sort)
		return err
	})
	return out, err
}

func of(ctx context.Context, tx *store.Tx, sort string) (out []Label, err error) {
	done, err := tx.Labelled(ctx)
	if err != nil {
		return nil, err
	}
	r := tx.Who.Prefs
	add := func(l Label) {
		l.Printed = slices.Contains(done, l.ID)
		out = append(out, l)
	}
	switch sort {
	case Trays:
		list, err := site.Trays(ctx, tx)
		if err != nil {
			return nil, err
		}
		for _, t := range list {
			size := r.T("%d × %d, each %s", t.Rows, t.Columns, say.Of(t.CellML, unit.Millilitre))
			add(Label{ID: t.ID, Code: t.Name, Lines: []string{size}, Address: Short(t.ID)})
		}
	case Packets:
		list, err := seeds.Packets(ctx, tx)
		if err != nil {
			return nil, err
		}
		book, err := crops.Load(ctx, tx)
		if err != nil {
			return nil, err
		}
		for _, p := range list {
			add(Label{
				ID: p.ID, Code: p.Name, Lines: []string{r.Say(book.Find(p.Crop).Name), p.Variety, r.T("packed %d", p.Packed)}, Address: Short(p.ID),
			})
		}
	case Places:
		list, err := site.Places(ctx, tx)
		if err != nil {
			return nil, err
		}
		for _, p := range list {
			if !p.Retired {
				add(Label{ID: p.ID, Code: p.Name, Lines: []string{r.Say(say.Capital(site.KindWords(p.Kind)))}, Address: Short(p.ID)})
			}
		}
	case Batches, Without:
		list, err := batches.Lines(ctx, tx)
		if err != nil {
			return nil, err
		}
		for _, l := range list {
			if sort == Without && slices.Contains(done, l.ID) {
				continue
			}
			add(Label{
				ID: l.ID, Code: l.Code, Lines: []string{r.Say(l.Crop.Name), l.Variety, r.Say(say.Date(l.Sown.UTC(), "2 Jan 2006"))}, Address: BatchPath + l.Code,
				On: l.Sown,
			})
		}
	default:
		return nil, field.Refuse("sort", "must be one of these")
	}
	return out, nil
}

// Paths of short addresses: a batch goes by its code, everything else by its id.
const (
	BatchPath = "/b/"
	ThingPath = "/s/"
)

// Short is the short address of a thing.
func Short(id uuid.UUID) string { return ThingPath + base64.RawURLEncoding.EncodeToString(id[:]) }

// pages are where things are looked at.
var pages = map[ledger.ThingKind]string{
	ledger.ABatch: "/batches/", ledger.APlace: "/places/", ledger.ATank: "/tanks/", ledger.ATray: "/trays/", ledger.ALot: "/seeds/",
}

// Follow is the page that a batch's code leads to.
func Follow(ctx context.Context, s *store.Store, w who.Who, code string) (path string, err error) {
	return path, s.Read(ctx, w, func(tx *store.Tx) error {
		id, err := tx.BatchByCode(ctx, code)
		path = pages[ledger.ABatch] + id.String()
		return err
	})
}

// FollowShort is the page that the short address of anything else leads to.
func FollowShort(ctx context.Context, s *store.Store, w who.Who, short string) (path string, err error) {
	b, err := base64.RawURLEncoding.DecodeString(short)
	if err != nil {
		return "", store.ErrNotFound
	}
	id, err := uuid.FromBytes(b)
	if err != nil {
		return "", store.ErrNotFound
	}
	return path, s.Read(ctx, w, func(tx *store.Tx) error {
		t, err := tx.GetThing(ctx, id)
		if err != nil {
			return err
		}
		if path = pages[ledger.ThingKind(t.Kind)] + id.String(); pages[ledger.ThingKind(t.Kind)] == "" {
			return store.ErrNotFound
		}
		return nil
	})
}

// Printed remembers of which things there is a label now.
func Printed(ctx context.Context, s *store.Store, w who.Who, ids []uuid.UUID) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	if len(ids) == 0 {
		return field.Refuse("of", "choose at least one")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		for _, id := range ids {
			if _, err := tx.GetThing(ctx, id); err != nil {
				return err
			}
		}
		return tx.PutLabelled(ctx, db.PutLabelledParams{SchoolID: w.School, Things: ids, At: tx.Now.Truncate(time.Microsecond)})
	})
}
