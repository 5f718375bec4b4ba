package ledger

import (
	"time"

	"github.com/google/uuid"
)

// Act is what every verb is told that writes one entry about one thing.
type Act struct {
	ID uuid.UUID // of the entry, made by whoever writes: sent twice it is kept once
	On uuid.UUID // the thing that it is about, or the entry that is corrected or undone
	At time.Time // when it happened; zero: now
}
