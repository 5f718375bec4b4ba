//go:build race

package tank

func init() { simulated = 12 } // the race detector takes ten times as long
