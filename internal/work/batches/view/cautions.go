package view

import (
	"ulpa/core/say"
	"ulpa/core/sprout"
)

// SproutCautions are said wherever sprouts are begun or tended.
func SproutCautions(p say.Reader) (out []string) {
	for _, x := range sprout.Cautions {
		out = append(out, p.Say(x))
	}
	return out
}
