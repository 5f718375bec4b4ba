// Package apart runs work on what anybody may send in a process of its own, with limits of
// memory and of the processor's time that the system keeps, and with nothing of this one's: no
// settings, no connections, no secrets. What goes wrong there ends there.
//
//	var shrink = apart.Declare("shrink", apart.Limits{Memory: 640 << 20, Seconds: 8, Answer: 4 << 20}, work)
//	answer, err := shrink.Run(ctx, file)
package apart

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"runtime/debug"
	"syscall"
	"time"
)

// Limits of a piece of work.
type Limits struct {
	Memory  uint64 // bytes that it may write to
	Seconds uint64 // of the processor
	Answer  int    // bytes
}

// Work is done apart.
type Work struct {
	name string
	Limits
}

// ErrRefused is the answer when the work itself gave an error; ErrEnded when it took more than
// it may; ErrLate when its time by the clock was over, which says nothing of the work: the
// machine had other things to do.
var (
	ErrRefused = errors.New("the work apart was refused")
	ErrEnded   = errors.New("the work apart took too much and was ended")
	ErrLate    = errors.New("the work apart did not get done in time")
)

// asked says to a process for which work it was started.
const asked = "ULPA_APART"

// behind is the priority of work apart: pages come first, three times as often. The lowest there
// is would not come at all while a machine is busy.
const behind = 5

// refused is how a process ends whose work gave an error.
const refused = 3

// Declare names work, as a variable of its package. The process that is this one's program once
// more, started for that work, does it there and then, and ends.
func Declare(name string, l Limits, work func(in []byte) ([]byte, error)) Work {
	if os.Getenv(asked) == name {
		if err := l.keep(); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		in, err := io.ReadAll(os.Stdin)
		if err != nil {
			os.Exit(1)
		}
		out, err := work(in)
		if err != nil {
			os.Exit(refused)
		}
		if _, err := os.Stdout.Write(out); err != nil {
			os.Exit(1)
		}
		os.Exit(0)
	}
	return Work{name, l}
}

// keep has the system hold the limits. Collecting garbage begins shortly before the bound.
func (l Limits) keep() error {
	debug.SetGCPercent(-1)
	debug.SetMemoryLimit(int64(l.Memory / 100 * 85)) // #nosec G115 -- some hundreds of megabytes
	for what, most := range map[int]uint64{
		syscall.RLIMIT_DATA: l.Memory, syscall.RLIMIT_CPU: l.Seconds, syscall.RLIMIT_CORE: 0, syscall.RLIMIT_FSIZE: 0, syscall.RLIMIT_NOFILE: 16,
	} {
		if err := syscall.Setrlimit(what, &syscall.Rlimit{Cur: most, Max: most}); err != nil {
			return fmt.Errorf("limit %d: %w", what, err)
		}
	}
	return syscall.Setpriority(syscall.PRIO_PROCESS, 0, behind)
}

// Run does the work apart, until the context is done.
func (w Work) Run(ctx context.Context, in []byte) ([]byte, error) {
	program, err := os.Executable()
	if err != nil {
		return nil, err
	}
	out := &bounded{most: w.Answer}
	c := exec.CommandContext(ctx, program) // #nosec G204 -- it is this program
	c.Args = []string{"ulpa", w.name}
	c.Env = []string{asked + "=" + w.name, "GOMAXPROCS=1"} // a core at most
	c.Stdin, c.Stdout, c.WaitDelay = bytes.NewReader(in), out, time.Second
	if err := c.Start(); err != nil {
		return nil, err
	}
	_ = syscall.Setpriority(syscall.PRIO_PROCESS, c.Process.Pid, behind) // from its first moment: pages come first
	err = c.Wait()
	var exit *exec.ExitError
	switch {
	case err == nil:
		return out.held.Bytes(), nil
	case errors.Is(ctx.Err(), context.Canceled):
		return nil, ctx.Err()
	case errors.As(err, &exit) && exit.ExitCode() == refused:
		return nil, ErrRefused
	case ctx.Err() != nil:
		return nil, ErrLate
	case errors.As(err, &exit), out.over:
		return nil, ErrEnded
	}
	return nil, err
}

// bounded holds so much and no more.
type bounded struct {
	held bytes.Buffer // not embedded: what is copied into it must pass by Write
	most int
	over bool
}

func (b *bounded) Write(p []byte) (int, error) {
	if b.held.Len()+len(p) > b.most {
		b.over = true
		return 0, io.ErrShortBuffer
	}
	return b.held.Write(p)
}
