//go:build race

package solution

func init() { simulated = 12 } // the race detector takes ten times as long
