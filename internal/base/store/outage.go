package store

import (
	"context"
	"errors"
	"io"
	"net"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
)

// Outage is what keeps the database from answering, as far as somebody at a
// tablet needs to know.
type Outage int

// Away: it stopped, starts or lost the connection. Busy: too many ask at once,
// or for too long. Full: it has no room left to write.
const (
	None Outage = iota
	Away
	Busy
	Full
)

// OutageOf tells an error of the database's own state from one of what was asked.
func OutageOf(err error) Outage {
	var pg *pgconn.PgError
	var connect *pgconn.ConnectError
	var network net.Error
	switch {
	case err == nil || errors.Is(err, context.Canceled):
		return None
	case errors.As(err, &pg):
		return outageOfCode(pg.Code)
	case errors.Is(err, context.DeadlineExceeded):
		return Busy
	case errors.As(err, &connect),
		errors.As(err, &network),
		errors.Is(err, io.EOF),
		errors.Is(err, io.ErrUnexpectedEOF),
		errors.Is(err, net.ErrClosed),
		errors.Is(err, pgconn.ErrConnClosed):
		return Away
	}
	return None
}

func outageOfCode(code string) Outage {
	switch code {
	case "53100", "58030": // disk full; the disk does not answer
		return Full
	case "53000", "53200", "53300", "53400", "40001", "40P01", "55P03", "57014": // too much at once, or in each other's way
		return Busy
	case "57P01", "57P02", "57P03", "57P05":
		return Away
	}
	if strings.HasPrefix(code, "08") {
		return Away
	}
	return None
}
