package bound

import "time"

const mega = 1 << 20

// Whole is what all that is at work may take in memory, in bytes, beside the pages.
const Whole = 512 * mega

// The lines. On two cores two of what takes a core are at work: pages of other schools go on.
var (
	// Pictures are received, each in its own memory until it is shrunk.
	Pictures = line("pictures", &Line{AtOnce: 6, School: 3, Person: 2, Waiting: 60, Patience: 15 * time.Second, Lasts: 40 * time.Second, Memory: 18 * mega})
	// Shrinking is done by processes of their own, whose memory is bounded there.
	Shrinking = line("shrinking", &Line{AtOnce: 2, School: 1, Person: 1, Waiting: 60, Patience: 15 * time.Second, Lasts: 24 * time.Second, Memory: mega})
	// Files are meters' files, lists of packets and stations' nights that are read.
	Files = line("files", &Line{AtOnce: 2, School: 1, Person: 1, Waiting: 8, Patience: 10 * time.Second, Lasts: 100 * time.Second, Memory: 90 * mega})
	// Calendars are read, and their repeated events counted out.
	Calendars = line("calendars", &Line{AtOnce: 1, School: 1, Person: 1, Waiting: 8, Patience: 10 * time.Second, Lasts: 15 * time.Second, Memory: 60 * mega})
	// Papers are labels that are drawn.
	Papers = line("papers", &Line{AtOnce: 2, School: 1, Person: 1, Waiting: 12, Patience: 10 * time.Second, Lasts: 80 * time.Second, Memory: 8 * mega})
	// Exports are lists and books that go out, as fast as somebody takes them.
	Exports = line("exports", &Line{AtOnce: 6, School: 2, Person: 1, Waiting: 6, Patience: 2 * time.Second, Lasts: 100 * time.Second, Memory: 2 * mega})
	// Plans are searches for a season's plan or a bed's.
	Plans = line("plans", &Line{AtOnce: 2, School: 1, Person: 1, Waiting: 12, Patience: 10 * time.Second, Lasts: 20 * time.Second, Memory: 12 * mega, Late: true})
	// Finding is looking for words in all that a school has.
	Finding = line("finding", &Line{AtOnce: 3, School: 2, Person: 1, Waiting: 20, Patience: 8 * time.Second, Lasts: 8 * time.Second, Memory: 4 * mega})
	// Sums are calculators that only calculate; Searches those that look for the best.
	Sums     = line("sums", &Line{AtOnce: 3, School: 3, Person: 2, Waiting: 60, Patience: 10 * time.Second, Lasts: 20 * time.Second, Memory: 8 * mega})
	Searches = line("searches", &Line{AtOnce: 2, School: 2, Person: 1, Waiting: 24, Patience: 50 * time.Second, Lasts: 100 * time.Second, Memory: 12 * mega})
	// Secrets are compared with their hashes: argon2id, 19 MiB each. They have no school yet.
	Secrets = line("secrets", &Line{AtOnce: 2, School: 2, Person: 2, Waiting: 32, Patience: 5 * time.Second, Lasts: 10 * time.Second, Memory: 20 * mega})
)

// All are the lines there are.
func All() []*Line { return all }

var all []*Line

func line(name string, l *Line) *Line {
	l.Name = name
	all = append(all, l)
	return l
}
