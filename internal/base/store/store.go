// Package store is the one door to the data. Everything a school owns is read
// inside Read and written inside InSchool, where row-level security sees to it
// that no other school's rows exist.
//
//	err := s.InSchool(ctx, who, func(tx *store.Tx) error { return tx.AddTray(ctx, tray) })
//	err = s.Read(ctx, who, func(tx *store.Tx) error { trays, err = tx.ListTrays(ctx); return err })
package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	pgxuuid "github.com/vgarvardt/pgx-google-uuid/v5"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/memo"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
)

// ErrNotFound is the answer for what is not there, or not this school's.
var ErrNotFound = errors.New("there is no such thing in this school")

// Store holds the connections and the clock.
type Store struct {
	pool *pgxpool.Pool
	now  func() time.Time
	kept *keeper
}

// Tx is one transaction of one person on one school's data.
type Tx struct {
	*db.Queries
	Who   who.Who
	Now   time.Time
	Sent  []byte // what the record that is being written is told apart by
	conn  pgx.Tx
	kept  *keeper               // of a transaction that changes nothing
	at    map[Topic]memo.Moment // what it sees, once that was asked for
	notes *[]memo.Rows          // what is being worked out hangs on, the outermost first
}

// Open connects as the application's role. It fails when the role could pass
// by row-level security: then nothing would keep the schools apart.
func Open(ctx context.Context, url string, now func() time.Time) (*Store, error) {
	cfg, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", err)
	}
	s, err := open(ctx, cfg, now)
	if err != nil {
		return nil, err
	}
	if err := s.Fits(ctx); err != nil {
		s.Close()
		return nil, err
	}
	return s, nil
}

func open(ctx context.Context, cfg *pgxpool.Config, now func() time.Time) (*Store, error) {
	cfg.MaxConns = max(cfg.MaxConns, 10)
	cfg.ConnConfig.Tracer = watch{}
	cfg.MaxConnIdleTime = 5 * time.Minute
	Tune(cfg)
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return nil, fmt.Errorf("database: %w", err)
	}
	s := &Store{pool: pool, now: now, kept: newKeeper()}
	if err := s.bounded(ctx); err != nil {
		pool.Close()
		return nil, fmt.Errorf("database: %w", err)
	}
	return s, nil
}

// bounded tells whether the role is kept to one school: row-level security is active for
// it in every table, it is no member of a role that owns one, and it may make nothing of
// its own that could stand before the tables.
func (s *Store) bounded(ctx context.Context) error {
	var passes, makes bool
	err := s.pool.QueryRow(ctx, `SELECT r.rolsuper OR r.rolbypassrls OR r.rolcreaterole OR EXISTS (SELECT FROM pg_class c
			WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p', 'v', 'm', 'S', 'f')
			  AND (pg_has_role(r.oid, c.relowner, 'MEMBER') OR c.relrowsecurity AND NOT row_security_active(c.oid))),
			has_database_privilege(current_database(), 'TEMP') OR has_schema_privilege('public', 'CREATE')
		FROM pg_roles r WHERE r.rolname = current_user`).Scan(&passes, &makes)
	switch {
	case err != nil:
		return err
	case passes:
		return errors.New("this role could see every school's data; connect as ulpa_app")
	case makes:
		return errors.New("this role may make tables of its own; run ulpa migrate, which takes that from it")
	}
	return nil
}

// Tune has every query planned once for a connection: row-level security makes
// planning dearer than the work. It takes data to lie on disks without arms. Ids
// go as their sixteen bytes, where they would go by way of their text.
func Tune(c *pgxpool.Config) {
	for name, value := range map[string]string{"plan_cache_mode": "force_generic_plan", "random_page_cost": "1.1", "jit": "off"} {
		c.ConnConfig.RuntimeParams[name] = value
	}
	c.AfterConnect = func(_ context.Context, conn *pgx.Conn) error {
		pgxuuid.Register(conn.TypeMap())
		return nil
	}
}

// watch tells a request's watcher of each statement.
type watch struct{}

type watchKey struct{}

// Watch is a context in which f is told of every statement that is sent.
func Watch(ctx context.Context, f func(sql string, args []any)) context.Context {
	before, _ := ctx.Value(watchKey{}).(func(string, []any))
	return context.WithValue(ctx, watchKey{}, func(sql string, args []any) {
		if f(sql, args); before != nil {
			before(sql, args)
		}
	})
}

// TraceQueryStart tells.
func (watch) TraceQueryStart(ctx context.Context, _ *pgx.Conn, q pgx.TraceQueryStartData) context.Context {
	if f, ok := ctx.Value(watchKey{}).(func(string, []any)); ok {
		f(q.SQL, q.Args)
	}
	return ctx
}

// TraceQueryEnd has nothing to do.
func (watch) TraceQueryEnd(context.Context, *pgx.Conn, pgx.TraceQueryEndData) {}

// Forget drops all that was worked out: what is asked for next is worked out from what there is. A
// test compares the two.
func (s *Store) Forget() { s.kept.shelf.Forget() }

// Close lets the connections go once they are idle.
func (s *Store) Close() { s.pool.Close() }

// Now is the time by the clock the store was given.
func (s *Store) Now() time.Time { return s.now() }

// InSchool runs fn in one transaction that sees and changes the data of who's
// school and no other. When fn fails nothing is kept.
func (s *Store) InSchool(ctx context.Context, w who.Who, fn func(*Tx) error) error {
	return s.write(ctx, w, Books, fn)
}

// ReadIn is InSchool for meters' readings: what hangs on the books goes on holding, but for what is
// changed of them.
func (s *Store) ReadIn(ctx context.Context, w who.Who, fn func(*Tx) error) error {
	return s.write(ctx, w, Meters, fn)
}

// Aside is InSchool for what nothing that is kept hangs on: who signed in, from where.
func (s *Store) Aside(ctx context.Context, w who.Who, fn func(*Tx) error) error {
	return s.write(ctx, w, "aside", fn)
}

func (s *Store) write(ctx context.Context, w who.Who, t Topic, fn func(*Tx) error) error {
	return s.in(ctx, w, "BEGIN", func(tx *Tx) error {
		if err := fn(tx); err != nil {
			return err
		}
		// Last, so that writers wait for one another only while they commit.
		return tx.NewMark(ctx, db.NewMarkParams{School: w.School, Shape: shape, Topic: string(t)})
	})
}

// Read runs fn in one transaction that sees the data of who's school, all of it
// at one moment, and can change nothing. Within a Snapshot it joins that.
func (s *Store) Read(ctx context.Context, w who.Who, fn func(*Tx) error) error {
	x, _ := ctx.Value(snapshotKey{}).(*snapshot)
	if joined, err := x.read(ctx, w, fn); joined {
		return err
	}
	return s.in(ctx, w, beginRead, func(tx *Tx) error {
		return fn(s.reading(tx.conn, w))
	})
}

// reading is a transaction that changes nothing: what is worked out in it is kept.
func (s *Store) reading(conn pgx.Tx, w who.Who) *Tx {
	notes := &[]memo.Rows{}
	return &Tx{Queries: db.New(reader{conn, notes}), Who: w, Now: s.now(), conn: conn, kept: s.kept, notes: notes}
}

const beginRead = "BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY"

// inSchool goes with the beginning of a transaction: one trip for both.
func inSchool(w who.Who) string { return "; SET LOCAL ulpa.school = '" + w.School.String() + "'" }

func isPgError(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg)
}

func (s *Store) in(ctx context.Context, w who.Who, begin string, fn func(*Tx) error) error {
	err := pgx.BeginTxFunc(ctx, s.pool, pgx.TxOptions{BeginQuery: begin + inSchool(w)}, func(tx pgx.Tx) error {
		return fn(&Tx{Queries: db.New(tx), Who: w, Now: s.now(), conn: tx})
	})
	return translate(err)
}

// translate turns the database's refusals into what a person can act on.
func translate(err error) error {
	if errors.Is(err, pgx.ErrNoRows) {
		return ErrNotFound
	}
	var pg *pgconn.PgError
	if !errors.As(err, &pg) {
		return err
	}
	switch {
	case pg.Code == "23505" && pg.ConstraintName == "port_pkey":
		return field.Refuse("to", "somebody put a plant into one of these ports a moment ago; look again and choose others")
	case pg.Code == "23505" && pg.ConstraintName == "cell_pkey":
		return field.Refuse("cells", "one of these cells has been sown meanwhile; choose others")
	case pg.Code == shapeDiffers:
		return ErrShape{pg.Message}
	case pg.Code == "23505":
		return field.Refuse("name", "this is there already; choose another name")
	case pg.Code == "23503":
		return ErrNotFound
	}
	return err
}

// Missing turns "there is no such row" into a refusal beside a field. Any other
// error stays what it is: a database that went away refuses nobody.
func Missing(err error, name string, says say.Words) error {
	if errors.Is(err, pgx.ErrNoRows) || errors.Is(err, ErrNotFound) {
		return field.Refuse(name, says)
	}
	return err
}

// Conn is for the few statements that are no query of ours: COPY and temporary tables. What is
// worked out from them holds until anybody writes.
func (t *Tx) Conn() pgx.Tx {
	if t.notes != nil {
		t.hang(memo.Rows{{Of: anyWrite}: true})
	}
	return t.conn
}

// One is the only row of a list that was asked for by one id; ErrNotFound when it is empty.
func One[T any](rows []T, err error) (one T, _ error) {
	switch {
	case err != nil:
		return one, err
	case len(rows) == 0:
		return one, ErrNotFound
	}
	return rows[0], nil
}

// Needed tells whether a row could not go because others refer to it.
func Needed(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && pg.Code == "23503"
}
