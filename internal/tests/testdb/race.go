//go:build race

package testdb

const raced = true
