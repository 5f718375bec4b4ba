// Package testdb gives each test a database of its own on the private server
// that the test command starts.
package testdb

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
	"ulpa/internal/work/people"
)

// DB is one test's database.
type DB struct {
	Store    *store.Store
	OwnerURL string
	AppURL   string
	Clock    *demo.Clock
}

var count atomic.Int64

// template is a database that is made once and then copied.
type template struct {
	once sync.Once
	name string
	now  time.Time
}

var empty, filled template

// Empty makes a migrated database without a school.
func Empty(t testing.TB) DB { return copyOf(t, &empty, func(DB) {}) }

// Demo makes a database that holds the made-up school.
func Demo(t testing.TB) DB {
	return copyOf(t, &filled, func(db DB) {
		require.NoError(t, demo.Load(context.Background(), db.Store, db.Clock, db.School(t, "ferrywharf"), demo.Day))
		require.NoError(t, demo.LetPrograms(context.Background(), db.Store, db.School(t, "ferrywharf")))
	})
}

// Bare makes a database with nothing in it, and says its owner's and the
// application's addresses and the application's password.
func Bare(t testing.TB) (ownerURL, appURL, password string) {
	owner, password := os.Getenv("ULPA_TEST_OWNER_URL"), os.Getenv("ULPA_TEST_APP_PASSWORD")
	name := fmt.Sprintf("t_%d_%d", os.Getpid(), count.Add(1))
	do := func(sql string) error {
		return admin(t, func(ctx context.Context, c *pgx.Conn) error {
			_, err := c.Exec(ctx, sql)
			return err
		})
	}
	require.NoError(t, do("CREATE DATABASE "+name))
	t.Cleanup(func() { _ = do("DROP DATABASE IF EXISTS " + name + " WITH (FORCE)") })
	return at(t, owner, name, nil), at(t, owner, name, url.UserPassword("ulpa_app", password)), password
}

func copyOf(t testing.TB, of *template, fill func(DB)) DB {
	of.once.Do(func() {
		db := create(t, "")
		fill(db)
		of.now = db.Clock.Now()
		db.Store.Close() // a database in use cannot be copied
		of.name = name(db.OwnerURL)
	})
	require.NotEmpty(t, of.name, "the template was not made")
	db := create(t, of.name)
	db.Clock.Set(of.now)
	t.Cleanup(func() {
		db.Store.Close()
		_ = admin(t, func(ctx context.Context, c *pgx.Conn) error {
			_, err := c.Exec(ctx, "DROP DATABASE IF EXISTS "+name(db.OwnerURL)+" WITH (FORCE)")
			return err
		})
	})
	return db
}

func name(address string) string {
	u, _ := url.Parse(address) // made by at
	return strings.TrimPrefix(u.Path, "/")
}

// admin connects to the server's own database.
func admin(t testing.TB, do func(context.Context, *pgx.Conn) error) error {
	owner := os.Getenv("ULPA_TEST_OWNER_URL")
	require.NotEmpty(t, owner, "run the tests beside a database: make test, or bin/ulpa with-postgres go test ./...")
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, owner)
	require.NoError(t, err)
	defer func() { _ = conn.Close(ctx) }()
	return do(ctx, conn)
}

// Alone does what makes or changes roles, which belong to the whole server: packages
// that migrate or restore at once must not meet there.
func Alone(t testing.TB, do func() error) {
	require.NoError(t, admin(t, func(ctx context.Context, conn *pgx.Conn) error {
		if _, err := conn.Exec(ctx, "SELECT pg_advisory_lock(7)"); err != nil {
			return err
		}
		return do() // the lock ends with the connection
	}))
}

// create makes a database: a copy, or from nothing by the migrations.
func create(t testing.TB, of string) DB {
	owner, password := os.Getenv("ULPA_TEST_OWNER_URL"), os.Getenv("ULPA_TEST_APP_PASSWORD")
	name := fmt.Sprintf("t_%d_%d", os.Getpid(), count.Add(1))
	db := DB{Clock: &demo.Clock{}}
	require.NoError(t, admin(t, func(ctx context.Context, conn *pgx.Conn) error {
		db.OwnerURL, db.AppURL = at(t, owner, name, nil), at(t, owner, name, url.UserPassword("ulpa_app", password))
		if of != "" {
			if _, err := conn.Exec(ctx, "CREATE DATABASE "+name+" TEMPLATE "+of+" STRATEGY FILE_COPY"); err != nil {
				return err
			}
			_, err := conn.Exec(ctx, "REVOKE TEMPORARY ON DATABASE "+name+" FROM PUBLIC") // a copy has the usual rights
			return err
		}
		_, err := conn.Exec(ctx, "CREATE DATABASE "+name)
		return err
	}))
	if of == "" {
		Alone(t, func() error { _, err := store.Migrate(context.Background(), db.OwnerURL, password); return err })
	}
	db.Clock.Set(time.Date(2027, 3, 18, 10, 5, 0, 0, time.UTC))
	var err error
	db.Store, err = store.Open(context.Background(), db.AppURL, db.Clock.Now)
	require.NoError(t, err)
	return db
}

// RootURL is the database's address for the server's superuser, who may ask PostgreSQL
// about itself.
func (db DB) RootURL(t testing.TB) string {
	return at(t, os.Getenv("ULPA_TEST_ROOT_URL"), name(db.OwnerURL), nil)
}

// School makes a school with that short name.
func (db DB) School(t testing.TB, slug string) uuid.UUID {
	id, err := store.EnsureSchool(
		context.Background(),
		db.OwnerURL,
		store.NewSchool{Slug: slug, Name: slug, Zone: "Europe/London", UnitSystem: "metric", Latitude: new(52.0), Longitude: new(1.0)},
	)
	require.NoError(t, err)
	return id
}

// Person adds somebody to a school.
func (db DB) Person(t testing.TB, school uuid.UUID, kind who.Kind, name string) who.Who {
	n := people.NewPerson{Kind: kind, Name: name, Login: name + "@" + school.String()[30:] + ".example", Secret: "long enough a secret"}
	if kind == who.Crew {
		n.Secret = "4096"
	}
	p, err := people.Prepare(context.Background(), n) // crews of a test have one PIN
	require.NoError(t, err)
	id, err := p.Add(context.Background(), db.Store, who.Who{School: school, Kind: who.Coordinator, Zone: time.UTC})
	require.NoError(t, err)
	w, err := people.Load(context.Background(), db.Store, who.Who{School: school, Person: id})
	require.NoError(t, err)
	return w
}

// Ines is the made-up school's coordinator.
func (db DB) Ines(t testing.TB) who.Who {
	w, err := people.SignIn(context.Background(), db.Store, people.From{}, demo.People[0].Login, demo.People[0].Secret)
	require.NoError(t, err)
	return w
}

func at(t testing.TB, base, database string, user *url.Userinfo) string {
	u, err := url.Parse(base)
	require.NoError(t, err)
	u.Path = "/" + database
	if user != nil {
		u.User = user
	}
	return u.String()
}

// As is an address for another role.
func As(t testing.TB, address, role, password string) string {
	return at(t, address, name(address), url.UserPassword(role, password))
}
