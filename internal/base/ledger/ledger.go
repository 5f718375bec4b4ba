package ledger

import (
	"context"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/words"
)

// Fact is an entry about to be written.
type Fact struct {
	ID         uuid.UUID // made by whoever writes; the same id twice is one entry
	Kind       string
	HappenedAt time.Time   // zero: now
	About      []uuid.UUID // what it is about: things of the school
	Data       any
	Uses       []uuid.UUID // what is taken for it beside, such as a packet
	Names      string      // to find the entry by, beside its own sentence

	corrects *uuid.UUID
	inLine   *int64
}

// Write stores a fact. It says again when the id is there already: then
// nothing is stored, and the caller has nothing more to do.
func Write(ctx context.Context, tx *store.Tx, f Fact) (again bool, err error) {
	if f.ID == uuid.Nil {
		return false, field.Refuse("id", "is missing; load the page again")
	}
	k, err := kindOf(f.Kind)
	if err != nil {
		return false, err
	}
	if !k.holds(f.Data) {
		return false, fmt.Errorf("an entry of kind %s cannot hold %T", f.Kind, f.Data)
	}
	if f.HappenedAt.IsZero() {
		f.HappenedAt = tx.Now
	}
	if f.HappenedAt.After(tx.Now.Add(time.Minute)) {
		return false, field.Refuse("when", "must not be in the future")
	}
	data, err := json.Marshal(f.Data)
	if err != nil {
		return false, err
	}
	if f.corrects == nil && !k.free() {
		if err := inUse(ctx, tx, f, data); err != nil {
			return false, err
		}
	}
	n, err := tx.AddEntry(ctx, db.AddEntryParams{
		SchoolID: tx.Who.School, ID: f.ID, Kind: f.Kind, HappenedAt: f.HappenedAt, WrittenAt: tx.Now, PersonID: tx.Who.Person,
		Corrects: f.corrects, PlaceInLine: f.inLine, Data: data, Words: Found(f.Names, f.Kind, data, tx.Who.Name), Sent: tx.Sent, About: f.About,
	})
	if n > 0 || err != nil {
		return false, err
	}
	return Known(ctx, tx, f.ID)
}

// ids are those that stand in an entry's data.
var ids = regexp.MustCompile(`"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}"`)

// inUse refuses an entry that names something that is retired, wherever it names it. Once holds
// off whoever would retire it in the same moment.
func inUse(ctx context.Context, tx *store.Tx, f Fact, data []byte) error {
	named := slices.Concat(f.About, f.Uses)
	for _, x := range ids.FindAll(data, -1) {
		if id, err := uuid.ParseBytes(x[1 : len(x)-1]); err == nil {
			named = append(named, id)
		}
	}
	gone, err := tx.RetiredAmong(ctx, named)
	if err != nil || len(gone) == 0 {
		return err
	}
	return field.Refuse("retired", "%s is retired: restore it first", say.Name(gone[0]))
}

// Found is what an entry is found by: the names of what it is about, what it says in every
// language, and who wrote it, as search compares texts (name.Found).
func Found(names, kind string, data []byte, person string) string {
	return name.Found(names + " " + words.Everywhere(Sentence(kind, data)) + " " + person)
}

// FoundToday is what an entry of an earlier release is found by: what it said then, which people
// may remember, and what it says today.
func FoundToday(kind string, data []byte, then string) string {
	then, today := name.Found(then), Found("", kind, data, "")
	if strings.Contains(then, today) {
		return then
	}
	return then + " " + today
}

// Correct puts an entry right: values in its fields take the place of its own. What came
// later must still be possible; otherwise it is refused.
func Correct(ctx context.Context, tx *store.Tx, id, wrong uuid.UUID, values map[string]any) error {
	return replace(ctx, tx, id, wrong, func(old Entry, k kind) (string, any, error) {
		if len(k.Inputs()) == 0 {
			return "", nil, field.Refuse("entry", "cannot be corrected: undo it and enter it again")
		}
		data, err := k.right(ctx, tx, old, values)
		return old.Kind, data, err
	})
}

// TakeBack undoes an entry, under the same condition.
func TakeBack(ctx context.Context, tx *store.Tx, id, wrong uuid.UUID) error {
	return replace(ctx, tx, id, wrong, func(old Entry, k kind) (string, any, error) {
		return Void.Name, Taken{Kind: old.Kind, Data: old.Data}, k.gone(ctx, tx, old.Data)
	})
}

// replace writes an entry that takes the place of another, and folds anew what that was about.
func replace(ctx context.Context, tx *store.Tx, id, wrong uuid.UUID, by func(Entry, kind) (string, any, error)) error {
	old, err := Get(ctx, tx, wrong)
	if err != nil {
		return err
	}
	if old.Corrected {
		return field.Refuse("entry", "has been corrected already; correct the newer one")
	}
	if old.Kind == Void.Name {
		return field.Refuse("entry", "is itself an undo and cannot be undone; write down what happened instead")
	}
	k, err := kindOf(old.Kind)
	if err != nil {
		return err
	}
	var before batchBooks
	ofBatch, ofTank := old.About.A(ABatch), old.About.A(ATank)
	if ofBatch != nil {
		if _, err := tx.LockBatch(ctx, ofBatch.ID); err != nil {
			return err
		}
		if before, err = foldBatch(ctx, tx, ofBatch.ID); err != nil {
			return err
		}
	}
	if ofTank != nil {
		if _, err := tx.LockTank(ctx, ofTank.ID); err != nil {
			return err
		}
	}
	f := Fact{
		ID: id, HappenedAt: old.HappenedAt, About: old.About.IDs(),
		Names: "correction " + firstWord(old.words), corrects: &old.ID, inLine: old.inLine,
	}
	if f.Kind, f.Data, err = by(old, k); err != nil {
		return err
	}
	if f.inLine == nil {
		f.inLine = &old.seq
	}
	if _, err := Write(ctx, tx, f); err != nil {
		return err
	}
	if ofBatch != nil {
		if err := refoldBatch(ctx, tx, ofBatch.ID, before.state, true); err != nil {
			return err
		}
	}
	if ofTank != nil {
		if _, err := refoldTank(ctx, tx, ofTank.ID); err != nil {
			return err
		}
	}
	return k.settle(ctx, tx, old.About)
}

func firstWord(s string) string {
	w, _, _ := strings.Cut(s, " ")
	return w
}
