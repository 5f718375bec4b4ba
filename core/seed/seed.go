// Package seed answers what to expect of seeds: how many to sow, how long they
// take, and what a run of counts says.
//
//	g, err := seed.GerminationTime("lettuce", 18)
package seed
