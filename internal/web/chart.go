package web

import (
	"strconv"
	"strings"
)

// points are those of a line in SVG.
type points []byte

func (p *points) add(x, y float64) {
	*p = append(pair(*p, x, y), ' ')
}

func (p points) String() string { return strings.TrimSuffix(string(p), " ") }

// dots are a path in SVG whose round ends are the dots.
type dots []byte

func (d *dots) dot(x, y float64) {
	*d = append(pair(append(*d, 'M'), x, y), "h0"...)
}

func (d dots) String() string { return string(d) }

// pair writes a point to a tenth, which nobody can tell from nearer.
func pair(to []byte, x, y float64) []byte {
	to = strconv.AppendFloat(to, x, 'f', 1, 64)
	return strconv.AppendFloat(append(to, ','), y, 'f', 1, 64)
}

// label is a text at a point.
type label struct {
	X, Y float64
	Text string
}
