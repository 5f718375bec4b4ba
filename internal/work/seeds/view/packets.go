// Package view is what other areas' pages show of seed.
package view

import (
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/seeds"
)

// Packet is one in a list to choose from.
type Packet struct{ ID, Says string }

// PacketOf says what a packet is and how much is in it.
func PacketOf(l seeds.Packet, p say.Reader) Packet {
	says := p.T("%s, %s: %s, %d", face.CropName(l.Crop), l.Variety, l.Name, l.Packed)
	if l.SeedsLeft != nil {
		says = p.T("%s, %d seeds", says, *l.SeedsLeft)
	}
	return Packet{l.ID.String(), says}
}
