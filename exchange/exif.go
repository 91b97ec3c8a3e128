package exchange

import (
	"bytes"
	"encoding/binary"
	"math"
	"time"
)

// What a picture's EXIF is read for. The reader looks at one directory and the two that it points to, each once: no picture,
// however it is made, can lead it round.
const (
	tagTurn     = 0x0112
	tagExif     = 0x8769
	tagGPS      = 0x8825
	tagTakenAt  = 0x9003
	tagOffset   = 0x9011 // of that from UTC, where the camera knows it
	mostEntries = 500
	mostHeader  = 1 << 18 // the EXIF stands within the first bytes of a JPEG
)

// tiff is the part of a picture that EXIF is written in.
type tiff struct {
	raw   []byte
	order binary.ByteOrder
}

// entry is one value of a directory.
type entry struct {
	kind  uint16
	count uint32
	value []byte // the four bytes that hold it, or say where it stands
}

// readEXIF reads place, time and orientation of a JPEG. Times of cameras that say no offset are taken for the zone given. What
// is missing, broken or lies is left out; without a word the picture stands as it is, turn 1.
func readEXIF(raw []byte, zone *time.Location) (p Photo, turn int) {
	turn = 1
	t, ok := tiffOf(raw)
	if !ok {
		return p, turn
	}
	first := t.directory(t.u32(4))
	if v, ok := t.short(first[tagTurn]); ok && v >= 1 && v <= 8 {
		turn = int(v)
	}
	if at, ok := first[tagExif]; ok {
		taken := t.directory(t.order.Uint32(at.value))
		p.TakenAt = t.moment(taken[tagTakenAt], t.offset(taken[tagOffset], zone))
	}
	if at, ok := first[tagGPS]; ok {
		gps := t.directory(t.order.Uint32(at.value))
		lat, okLat := t.degrees(gps[1], gps[2], 'N', 'S')
		lon, okLon := t.degrees(gps[3], gps[4], 'E', 'W')
		if okLat && okLon && onGlobe(lon, lat) {
			p.LatDeg, p.LonDeg = &lat, &lon
		}
	}
	return p, turn
}

// tiffOf finds the EXIF segment of a JPEG.
func tiffOf(raw []byte) (tiff, bool) {
	raw = raw[:min(len(raw), mostHeader)]
	if len(raw) < 4 || raw[0] != 0xFF || raw[1] != 0xD8 {
		return tiff{}, false
	}
	for at := 2; at+4 <= len(raw) && raw[at] == 0xFF && raw[at+1] != 0xDA; {
		length := int(raw[at+2])<<8 | int(raw[at+3])
		if length < 2 || at+2+length > len(raw) {
			break
		}
		segment := raw[at+4 : at+2+length]
		if body, ok := bytes.CutPrefix(segment, []byte("Exif\x00\x00")); raw[at+1] == 0xE1 && ok && len(body) >= 8 {
			switch string(body[:4]) {
			case "II*\x00":
				return tiff{body, binary.LittleEndian}, true
			case "MM\x00*":
				return tiff{body, binary.BigEndian}, true
			}
			break
		}
		at += 2 + length
	}
	return tiff{}, false
}

func (t tiff) u32(at uint32) uint32 {
	if b := t.at(at, 4); b != nil {
		return t.order.Uint32(b)
	}
	return math.MaxUint32
}

// at gives some bytes, or nil where there are none.
func (t tiff) at(from uint32, length int) []byte {
	if uint64(from)+uint64(length) > uint64(len(t.raw)) {
		return nil
	}
	return t.raw[from : int(from)+length]
}

// directory reads the entries of one directory; it follows nothing.
func (t tiff) directory(at uint32) map[uint16]entry {
	found := map[uint16]entry{}
	head := t.at(at, 2)
	if head == nil {
		return found
	}
	for i := range min(int(t.order.Uint16(head)), mostEntries) {
		b := t.at(at+2+12*uint32(i), 12)
		if b == nil {
			break
		}
		found[t.order.Uint16(b)] = entry{t.order.Uint16(b[2:]), t.order.Uint32(b[4:]), b[8:12]}
	}
	return found
}

func (t tiff) short(e entry) (uint16, bool) {
	if e.kind != 3 || e.count != 1 {
		return 0, false
	}
	return t.order.Uint16(e.value), true
}

// offset is the zone that a camera says its clock goes by, or the one given.
func (t tiff) offset(e entry, zone *time.Location) *time.Location {
	if e.kind != 2 || e.count < 6 || e.count > 7 {
		return zone
	}
	at, err := time.Parse("-07:00", string(t.at(t.order.Uint32(e.value), 6)))
	if err != nil {
		return zone
	}
	return at.Location()
}

func (t tiff) moment(e entry, zone *time.Location) *time.Time {
	if e.kind != 2 || e.count < 19 || e.count > 20 {
		return nil
	}
	text := t.at(t.order.Uint32(e.value), 19)
	at, err := time.ParseInLocation("2006:01:02 15:04:05", string(text), zone)
	if err != nil || at.Year() <= 1990 || at.Year() > 2199 {
		return nil
	}
	at = at.UTC()
	return &at
}

// degrees reads three fractions, degrees, minutes and seconds, with the side of the globe.
func (t tiff) degrees(side, e entry, plus, minus byte) (float64, bool) {
	if e.kind != 5 || e.count != 3 || side.kind != 2 || side.value[0] != plus && side.value[0] != minus {
		return 0, false
	}
	b := t.at(t.order.Uint32(e.value), 24)
	if b == nil {
		return 0, false
	}
	sum := 0.0
	for i, of := range []float64{1, 60, 3600} {
		sum += float64(t.order.Uint32(b[8*i:])) / float64(t.order.Uint32(b[8*i+4:])) / of
	}
	if side.value[0] == minus {
		sum = -sum
	}
	return sum, !math.IsNaN(sum) && !math.IsInf(sum, 0)
}
