package people_test

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/core/field"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/people"
)

var ctx = context.Background()

const right = "long enough a secret"

// house is a school with a coordinator and crews, whose wrong tries can be made older.
type house struct {
	testdb.DB
	ann   who.Who
	login string
	crews []who.Who
	owner *pgx.Conn
}

func newHouse(t *testing.T, crews int) house {
	h := house{DB: testdb.Empty(t)}
	school := h.School(t, "north")
	h.ann = h.Person(t, school, who.Coordinator, "ann")
	h.login = "ann@" + school.String()[30:] + ".example"
	for i := range crews {
		h.crews = append(h.crews, h.Person(t, school, who.Crew, fmt.Sprint("crew ", i)))
	}
	var err error
	h.owner, err = pgx.Connect(ctx, h.OwnerURL)
	require.NoError(t, err)
	t.Cleanup(func() { _ = h.owner.Close(ctx) })
	return h
}

func (h house) pass(t *testing.T, d time.Duration) {
	_, err := h.owner.Exec(ctx, "UPDATE sign_in_attempt SET last_failed = last_failed - $1::interval", d)
	require.NoError(t, err)
}

// Any number at once take the memory of a few; nobody is told a wrong thing.
func TestSignInsAtOnceAreBounded(t *testing.T) {
	h := newHouse(t, 0)
	var most, kept, busy atomic.Uint64
	stop := make(chan struct{})
	var watch, wg sync.WaitGroup
	watch.Go(func() {
		var m runtime.MemStats
		for {
			runtime.ReadMemStats(&m)
			most.Store(max(most.Load(), m.HeapInuse))
			select {
			case <-stop:
				return
			case <-time.After(5 * time.Millisecond):
			}
		}
	})
	for i := range 150 {
		wg.Go(func() {
			_, err := people.SignIn(ctx, h.Store, people.From{Address: "192.0.2.1", Device: fmt.Sprint("tablet ", i)}, h.login, right)
			var full bound.Full
			switch {
			case err == nil:
				kept.Add(1)
			case errors.As(err, &full):
				busy.Add(1)
			default:
				t.Error(err)
			}
		})
	}
	wg.Wait()
	close(stop)
	watch.Wait()
	require.EqualValues(t, 150, kept.Load()+busy.Load())
	require.NotZero(t, kept.Load())
	require.NotZero(t, busy.Load())
	require.Less(t, most.Load(), uint64(1<<30), "bytes; all at once take 2.9 GB, and what is done with waits for the collector")
}

// patient comes again when many sign in at once, as people are told to; a slow machine
// makes them wait.
func patient(signIn func() (who.Who, error)) (w who.Who, err error) {
	for range 60 {
		var full bound.Full
		if w, err = signIn(); !errors.As(err, &full) {
			break
		}
	}
	return w, err
}

// Tablets with the right PIN at once are let in, all of them, whoever guesses meanwhile.
func TestTheRightPINIsNeverTooMuch(t *testing.T) {
	h := newHouse(t, 1)
	for range 4 {
		var wg sync.WaitGroup
		for i := range 8 {
			wg.Go(func() {
				from := people.From{Address: "192.0.2.1", Device: fmt.Sprint("tablet ", i)}
				_, err := patient(func() (who.Who, error) {
					return people.SignInCrew(ctx, h.Store, from, "north", h.crews[0].Person, "4096")
				})
				if err != nil {
					t.Error(err)
				}
			})
		}
		wg.Wait()
	}
	// Wrong ones at once: three count, then everybody waits; none fails otherwise.
	var wrong, soon atomic.Int64
	var wg sync.WaitGroup
	for range 20 {
		wg.Go(func() {
			_, err := patient(func() (who.Who, error) {
				return people.SignInCrew(ctx, h.Store, people.From{Address: "192.0.2.2", Device: "elsewhere"}, "north", h.crews[0].Person, "0000")
			})
			var w people.TooSoon
			switch {
			case errors.Is(err, people.ErrWrong):
				wrong.Add(1)
			case errors.As(err, &w):
				soon.Add(1)
			default:
				t.Error(err)
			}
		})
	}
	wg.Wait()
	require.EqualValues(t, 20, wrong.Load()+soon.Load())
	require.LessOrEqual(t, wrong.Load(), int64(5), "those that were compared at once are no more than the slots")
	lines, err := trail.Read(ctx, h.Store, h.ann, nil)
	require.NoError(t, err)
	require.Contains(t, lines.Lines[0].Says, "Wrong password or PIN", "noted when it failed, not at a later success")
}

// Whoever guesses all day from elsewhere keeps nobody from a device they know, and from a
// new one for a minute at most.
func TestNobodyIsLockedOutFromElsewhere(t *testing.T) {
	h := newHouse(t, 0)
	home, known, fresh := people.From{
		Address: "192.0.2.7",
		Device:  "home",
	}, store.Asker{
		Login:   h.login,
		Address: "192.0.2.7",
		Device:  "home",
	}, store.Asker{
		Login:   h.login,
		Address: "192.0.2.8",
		Device:  "new",
	}
	_, err := people.SignIn(ctx, h.Store, home, h.login, right)
	require.NoError(t, err)
	guesser := store.Asker{Login: h.login, Address: "198.51.100.1", Device: "guesser"}
	guesses, free := 0, 0
	for range 1200 { // forty minutes
		h.pass(t, 2*time.Second)
		asked, err := h.Store.SignInTry(ctx, guesser)
		require.NoError(t, err)
		if asked.Wait == 0 {
			require.NotEmpty(t, asked.Hash)
			require.NoError(t, h.Store.SignInFailed(ctx, guesser))
			guesses++
		}
		mine, err := h.Store.SignInTry(ctx, known)
		require.NoError(t, err)
		require.Zero(t, mine.Wait, "the rightful person, where they are known")
		other, err := h.Store.SignInTry(ctx, fresh)
		require.NoError(t, err)
		require.LessOrEqual(t, other.Wait, time.Minute)
		if other.Wait == 0 {
			free++
		}
	}
	require.Less(t, guesses, 50)
	require.Greater(t, free, 60, "there is room for them on a new device too")
	// On the known device wrong tries count as well.
	for range 12 {
		require.NoError(t, h.Store.SignInFailed(ctx, known))
	}
	mine, err := h.Store.SignInTry(ctx, known)
	require.NoError(t, err)
	require.Greater(t, mine.Wait, time.Minute)
	require.Empty(t, mine.Hash)
	h.pass(t, time.Hour+time.Second)
	mine, err = h.Store.SignInTry(ctx, known)
	require.NoError(t, err)
	require.Zero(t, mine.Wait, "an hour forgets them")
	require.NoError(t, people.SignOutEverywhere(ctx, h.Store, h.ann))
	mine, err = h.Store.SignInTry(ctx, known)
	require.NoError(t, err)
	require.False(t, mine.Known, "signed out everywhere: no device is known")
}

// Guesses at PINs do not multiply by crews or by addresses.
func TestGuessesDoNotMultiply(t *testing.T) {
	h := newHouse(t, 12)
	guesses := 0
	for hour := range 360 { // an hour in steps of ten seconds, each from an address of its own
		h.pass(t, 10*time.Second)
		for _, crew := range h.crews {
			a := store.Asker{School: "north", Crew: crew.Person, Address: fmt.Sprint("198.51.100.", hour%250), Device: "guesser"}
			asked, err := h.Store.SignInTry(ctx, a)
			require.NoError(t, err)
			if asked.Wait == 0 {
				guesses++
				require.NoError(t, h.Store.SignInFailed(ctx, a))
			}
		}
	}
	require.Less(t, guesses, 40)
	require.GreaterOrEqual(t, guesses, 20)
}

// Where the school asks for it, crews are not even named on a device that nobody enrolled.
func TestCrewsOnEnrolledDevices(t *testing.T) {
	h := newHouse(t, 1)
	here := people.From{Address: "192.0.2.1", Device: "the shared tablet of bench two"}
	in := func() error {
		_, err := people.SignInCrew(ctx, h.Store, here, "north", h.crews[0].Person, "4096")
		return err
	}
	named := func() int {
		crews, err := h.Store.SignInCrews(ctx, "north", here.Device)
		require.NoError(t, err)
		return len(crews.List)
	}
	require.NoError(t, in())
	require.ErrorIs(t, people.SetCrewsOnEnrolledOnly(ctx, h.Store, h.crews[0], false), who.ErrNotAllowed)
	require.NoError(t, people.SetCrewsOnEnrolledOnly(ctx, h.Store, h.ann, true))
	require.ErrorIs(t, in(), people.ErrShut)
	require.Zero(t, named())
	id := uuid.New()
	require.NoError(t, people.Enrol(ctx, h.Store, h.ann, id, here.Device, "Bench two"))
	require.NoError(t, in())
	require.Equal(t, 1, named())
	require.NoError(t, people.Dismiss(ctx, h.Store, h.ann, id))
	require.ErrorIs(t, in(), people.ErrShut)
	_, err := people.SignIn(ctx, h.Store, here, h.login, right)
	require.NoError(t, err, "adults sign in anywhere")
}

func TestPINsThatEverybodyTriesAreRefused(t *testing.T) {
	for _, pin := range []string{"1111", "1212", "1234", "4321", "0123", "7890", "1998", "2027", "2580", "4747", "3443", "112211", "123123", "88888888"} {
		_, err := people.Prepare(ctx, people.NewPerson{Kind: who.Crew, Name: "Punt", Secret: pin})
		var refused field.Errors
		require.ErrorAs(t, err, &refused, pin)
		require.Equal(t, "secret", refused[0].Field, pin)
	}
	for _, pin := range []string{"4096", "1302", "70518", "839204"} {
		_, err := people.Prepare(ctx, people.NewPerson{Kind: who.Crew, Name: "Punt", Secret: pin})
		require.NoError(t, err, pin)
	}
}
