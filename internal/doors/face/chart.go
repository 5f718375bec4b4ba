package face

import (
	"strconv"
	"strings"
)

// Points are those of a line in SVG.
type Points []byte

// Add is the next point of the line.
func (p *Points) Add(x, y float64) {
	*p = append(pair(*p, x, y), ' ')
}

func (p Points) String() string { return strings.TrimSuffix(string(p), " ") }

// Dots are a path in SVG whose round ends are the dots.
type Dots []byte

// Dot is one more dot, by its middle.
func (d *Dots) Dot(x, y float64) {
	*d = append(pair(append(*d, 'M'), x, y), "h0"...)
}

func (d Dots) String() string { return string(d) }

// pair writes a point to a tenth, which nobody can tell from nearer.
func pair(to []byte, x, y float64) []byte {
	to = strconv.AppendFloat(to, x, 'f', 1, 64)
	return strconv.AppendFloat(append(to, ','), y, 'f', 1, 64)
}

// Label is a text at a point.
type Label struct {
	X, Y float64
	Text string
}
