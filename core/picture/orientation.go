package picture

import (
	"bytes"
	"encoding/binary"
)

// orientation is how a JPEG file says that its picture is turned: tag 0x0112 of the first
// directory of its Exif segment (JEITA CP-3451); 1 where it says nothing.
func orientation(file []byte) int {
	if !bytes.HasPrefix(file, []byte{0xFF, 0xD8}) {
		return 1
	}
	for at := 2; at+4 <= len(file) && file[at] == 0xFF; {
		marker, size := file[at+1], int(binary.BigEndian.Uint16(file[at+2:]))
		if marker == 0xDA || size < 2 || at+2+size > len(file) { // the picture itself begins
			return 1
		}
		segment := file[at+4 : at+2+size]
		if marker == 0xE1 && bytes.HasPrefix(segment, []byte("Exif\x00\x00")) {
			return ofTIFF(segment[6:])
		}
		at += 2 + size
	}
	return 1
}

func ofTIFF(b []byte) int {
	if len(b) < 8 {
		return 1
	}
	var order binary.ByteOrder = binary.LittleEndian
	if b[0] == 'M' {
		order = binary.BigEndian
	}
	at := int64(order.Uint32(b[4:]))
	if at+2 > int64(len(b)) {
		return 1
	}
	for range order.Uint16(b[at:]) {
		entry := at + 2
		if entry+12 > int64(len(b)) {
			return 1
		}
		if order.Uint16(b[entry:]) == 0x0112 {
			if v := int(order.Uint16(b[entry+8:])); v >= 1 && v <= 8 {
				return v
			}
			return 1
		}
		at += 12
	}
	return 1
}
