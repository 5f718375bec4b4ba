package ledger

import (
	"sync"

	"github.com/google/uuid"

	"ulpa/core/unit"
	"ulpa/internal/store"
)

// said holds sentences of entries. An entry never changes, so what it says to
// readers of the same units holds; when there are many, it begins anew.
var said struct {
	sync.Mutex
	by map[saidKey]string
}

type saidKey struct {
	school, entry uuid.UUID
	prefs         unit.Prefs
}

const mostSaid = 8192

// Said is the Sentence of an entry that is stored, in the reader's units.
func Said(tx *store.Tx, entry uuid.UUID, kind string, data []byte) string {
	key := saidKey{tx.Who.School, entry, tx.Who.Prefs}
	said.Lock()
	s, ok := said.by[key]
	said.Unlock()
	if ok {
		return s
	}
	s = Sentence(tx.Who.Prefs, kind, data)
	said.Lock()
	defer said.Unlock()
	if said.by == nil || len(said.by) >= mostSaid {
		said.by = map[saidKey]string{}
	}
	said.by[key] = s
	return s
}

// Sentence says in words what an entry holds, in the reader's units.
func Sentence(p unit.Prefs, kind string, data []byte) string {
	k, err := kindOf(kind)
	if err != nil {
		return "An entry of another release: " + kind
	}
	s, err := k.says(p, data)
	if err != nil {
		return "Unreadable entry"
	}
	return s
}
