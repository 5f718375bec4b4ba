//go:build !race

package testdb

const raced = false
