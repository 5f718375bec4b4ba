package ledger

import (
	"sync"

	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/base/store"
)

// said holds sentences of entries. An entry never changes, so what it says to
// readers of the same units holds; when there are many, it begins anew.
var said struct {
	sync.Mutex
	by map[saidKey]say.Text
}

type saidKey struct {
	school, entry uuid.UUID
}

const mostSaid = 8192

// Said is the Sentence of an entry that is stored, in the reader's units.
func Said(tx *store.Tx, entry uuid.UUID, kind string, data []byte) say.Text {
	key := saidKey{tx.Who.School, entry}
	said.Lock()
	s, ok := said.by[key]
	said.Unlock()
	if ok {
		return s
	}
	s = Sentence(kind, data)
	said.Lock()
	defer said.Unlock()
	if said.by == nil || len(said.by) >= mostSaid {
		said.by = map[saidKey]say.Text{}
	}
	said.by[key] = s
	return s
}

// Sentence says in words what an entry holds, in the reader's units.
func Sentence(kind string, data []byte) say.Text {
	k, err := kindOf(kind)
	if err != nil {
		return say.T("An entry from another version of Ulpa: %s", kind)
	}
	s, err := k.says(data)
	if err != nil {
		return say.T("Unreadable entry")
	}
	return s
}
