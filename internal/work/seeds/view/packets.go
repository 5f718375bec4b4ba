// Package view is what other areas' pages show of seed.
package view

import (
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/seeds"
)

// PacketOf is a packet to choose from a list: what it is and how much is in it.
func PacketOf(l seeds.Packet, p say.Reader) face.ChoiceView {
	says := p.T("%s, %s: %s, %d", face.CropName(l.Crop), l.Variety, l.Name, l.Packed)
	if l.SeedsLeft != nil {
		says = p.T("%s, %d seeds", says, *l.SeedsLeft)
	}
	if l.Taste != nil {
		says = p.T("%s, tasted %d of 5", says, *l.Taste)
	}
	return face.ChoiceView{Value: l.ID.String(), Name: says}
}
