package faults_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"strconv"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/work/people"
)

const writers = 50

// Fifty people write while servers are killed and connections break. After each
// round every acknowledged record is there once, nothing that was refused is
// there, and the present is what the facts say. ULPA_FAULTS says for how long
// (30s), ULPA_SEED which faults.
func TestNothingIsLostAndNothingDoubled(t *testing.T) {
	long, err := time.ParseDuration(os.Getenv("ULPA_FAULTS"))
	if err != nil {
		long = 30 * time.Second
	}
	seed, err := strconv.ParseUint(os.Getenv("ULPA_SEED"), 10, 64)
	if err != nil {
		seed = 1
	}
	r := newRig(t)
	x := rand.New(rand.NewPCG(seed, 1))
	all := everybody(t, r, seed)
	round := max(6*time.Second, min(30*time.Second, long/4))
	kept := func() (n int) {
		for _, w := range all {
			n += len(w.kept)
		}
		return n
	}
	// On a slow machine it goes on until enough was written to prove something.
	for began, n := time.Now(), 1; n == 1 || time.Since(began) < long || kept() <= 200 && time.Since(began) < long+2*time.Minute; n++ {
		r.say("round", n)
		s, err := look(t.Context(), r.owner())
		require.NoError(t, err)
		var over atomic.Bool
		var writing sync.WaitGroup
		for _, w := range all {
			writing.Go(func() {
				for !over.Load() {
					w.act(s)
					time.Sleep(time.Duration(w.x.IntN(60)) * time.Millisecond)
				}
			})
		}
		for until := time.Now().Add(round); time.Now().Before(until); {
			time.Sleep(time.Duration(50+x.IntN(500)) * time.Millisecond)
			f := choose(x)
			r.say(f.name)
			f.do(r, x)
		}
		over.Store(true)
		writing.Wait() // what was begun is sent until there is an answer
		check(t, r, all)
		require.Empty(t, r.wrong)
	}
	refused := 0
	for _, w := range all {
		refused += len(w.refuse)
	}
	faults := 0
	for name, n := range r.counts {
		if name != "round" {
			faults += n
		}
	}
	fmt.Printf(
		"# seed %d: %d faults in %d rounds %v; %d records acknowledged, %d refused, 0 lost, 0 doubled; pages back %v after the database\n",
		seed,
		faults,
		r.counts["round"],
		r.counts,
		kept(),
		refused,
		r.slow.Round(time.Millisecond),
	)
	require.Greater(t, kept(), 200, "too little was written to prove anything")
	require.Greater(t, faults, 20)
	require.Less(t, r.slow, 20*time.Second)
}

// everybody signs in: coordinator, staff and a crew, at fifty tablets.
func everybody(t *testing.T, r *rig, seed uint64) (all []*writer) {
	var crew string
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, r.owner())
	require.NoError(t, err)
	defer conn.Close(ctx)
	require.NoError(t, conn.QueryRow(ctx, "SELECT id::text FROM person WHERE name = 'Skiff'").Scan(&crew))
	for n := range writers {
		w := newWriter(r, n, seed)
		p, as := demo.People[n%2], ""
		if n%3 == 2 {
			p, as = demo.Person{Name: "Skiff", Secret: "1302"}, crew
		}
		if n < 6 {
			require.NoError(t, w.signIn(p, as))
		} else {
			w.cookie = all[n%6].cookie // shared tablets: the password is costly to check
		}
		all = append(all, w)
	}
	return all
}

func check(t *testing.T, r *rig, all []*writer) {
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, r.owner())
	require.NoError(t, err)
	defer conn.Close(ctx)
	ids := func(q string) (out []uuid.UUID) {
		rows, err := conn.Query(ctx, q)
		require.NoError(t, err)
		out, err = pgx.CollectRows(rows, pgx.RowTo[uuid.UUID])
		require.NoError(t, err)
		return out
	}
	there := map[uuid.UUID]int{}
	for _, id := range ids("SELECT id FROM entry") {
		there[id]++
	}
	sown := map[uuid.UUID]int{}
	for _, id := range ids("SELECT b.id FROM batch b JOIN about a ON a.thing_id = b.id JOIN entry e ON e.id = a.entry_id WHERE e.kind = 'sow'") {
		sown[id]++
	}
	found := func(rec record) int {
		id := uuid.MustParse(rec.id)
		if rec.kind == "sow" {
			return sown[id]
		}
		return there[id]
	}
	for _, w := range all {
		for _, rec := range w.kept {
			if n := found(rec); n != 1 {
				r.note("%s was acknowledged and is there %d times", rec.sent, n)
			}
		}
		for _, rec := range w.refuse {
			if n := found(rec); n != 0 {
				r.note("%s was refused and is there %d times", rec.sent, n)
			}
		}
	}
	if twice := ids("SELECT min(id::text)::uuid FROM entry e WHERE kind = 'note' GROUP BY data->>'text', happened_at, " +
		"ARRAY(SELECT thing_id FROM about a WHERE a.entry_id = e.id ORDER BY 1) HAVING count(*) > 1"); len(
		twice,
	) > 0 {
		r.note("notes stand twice: %v", twice)
	}
	s, err := store.Open(ctx, r.pg.AppURL("ulpa"), time.Now)
	require.NoError(t, err)
	defer s.Close()
	w, err := people.SignIn(ctx, s, people.From{}, demo.People[0].Login, demo.People[0].Secret)
	require.NoError(t, err)
	require.NoError(t, s.Read(ctx, w, func(tx *store.Tx) error {
		wrong, err := ledger.Audit(ctx, tx)
		for _, x := range wrong {
			r.note("%s", x)
		}
		return err
	}))
}
