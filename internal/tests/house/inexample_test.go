package house_test

import (
	"fmt"
	"testing"
)

// inExample is what an example gives where a test gives itself.
type inExample struct {
	testing.TB
	cleanup []func()
}

func (*inExample) Helper()                           {}
func (x *inExample) Cleanup(f func())                { x.cleanup = append(x.cleanup, f) }
func (*inExample) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (*inExample) FailNow()                          { panic("failed") }

func (x *inExample) end() {
	for _, f := range x.cleanup {
		f()
	}
}
