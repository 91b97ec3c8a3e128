package exchange

import (
	"bytes"
	"encoding/binary"
	"errors"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"oldburrow/core/refuse"
)

// half is a picture that is black on its left half and white on its right.
func half(w, h int) image.Image {
	p := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			shade := uint8(0)
			if x >= w/2 {
				shade = 255
			}
			p.Set(x, y, color.RGBA{shade, shade, shade, 255})
		}
	}
	return p
}

// withEXIF puts an EXIF block with an orientation and a place into a JPEG: 46°30' N, 105°15' W.
func withEXIF(t *testing.T, picture image.Image, turn uint16) []byte {
	t.Helper()
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, picture, nil); err != nil {
		t.Fatal(err)
	}
	var tiff bytes.Buffer
	put := func(values ...any) {
		for _, v := range values {
			if err := binary.Write(&tiff, binary.BigEndian, v); err != nil {
				t.Fatal(err)
			}
		}
	}
	tiff.WriteString("MM\x00\x2a")
	put(uint32(8))
	const gps = 8 + 2 + 2*12 + 4
	put(uint16(2), uint16(0x0112), uint16(3), uint32(1), turn, uint16(0), uint16(0x8825), uint16(4), uint32(1), uint32(gps), uint32(0))
	const values = gps + 2 + 4*12 + 4
	put(uint16(4))
	put(uint16(1), uint16(2), uint32(2), []byte("N\x00\x00\x00"))
	put(uint16(2), uint16(5), uint32(3), uint32(values))
	put(uint16(3), uint16(2), uint32(2), []byte("W\x00\x00\x00"))
	put(uint16(4), uint16(5), uint32(3), uint32(values+24), uint32(0))
	for _, rational := range []uint32{46, 30, 0, 105, 15, 0} {
		put(rational, uint32(1))
	}
	block := append([]byte("Exif\x00\x00"), tiff.Bytes()...)
	head := []byte{0xFF, 0xD8, 0xFF, 0xE1, byte((len(block) + 2) >> 8), byte(len(block) + 2)}
	return append(append(head, block...), plain.Bytes()[2:]...)
}

func TestPhotoIsTurnedAndSaysItsPlace(t *testing.T) {
	photo, err := ReadPhoto(withEXIF(t, half(80, 40), 6), time.UTC)
	if err != nil {
		t.Fatal(err)
	}
	if photo.Width != 40 || photo.Height != 80 {
		t.Errorf("turned to %d by %d", photo.Width, photo.Height)
	}
	kept, err := jpeg.Decode(bytes.NewReader(photo.JPEG))
	if err != nil {
		t.Fatal(err)
	}
	top, _, _, _ := kept.At(20, 10).RGBA()
	bottom, _, _, _ := kept.At(20, 70).RGBA()
	if top > 0x3000 || bottom < 0xC000 {
		t.Errorf("the left half belongs on top: %x over %x", top, bottom)
	}
	if photo.LatDeg == nil || *photo.LatDeg != 46.5 || *photo.LonDeg != -105.25 {
		t.Errorf("its place is %v, %v", photo.LatDeg, photo.LonDeg)
	}
	if bytes.Contains(photo.JPEG, []byte("Exif")) {
		t.Error("what the file carried beside the picture is kept")
	}
}

// takenAt puts an EXIF block with a time, and what the camera says of its offset, into a JPEG; blank says nothing.
func takenAt(t *testing.T, when, offset string) []byte {
	t.Helper()
	var plain, tiff bytes.Buffer
	if err := jpeg.Encode(&plain, half(8, 8), nil); err != nil {
		t.Fatal(err)
	}
	put := func(values ...any) {
		for _, v := range values {
			if err := binary.Write(&tiff, binary.LittleEndian, v); err != nil {
				t.Fatal(err)
			}
		}
	}
	tiff.WriteString("II\x2a\x00")
	put(uint32(8))
	const exif = 8 + 2 + 12 + 4
	put(uint16(1), uint16(0x8769), uint16(4), uint32(1), uint32(exif), uint32(0))
	const values = exif + 2 + 2*12 + 4
	put(uint16(2), uint16(0x9003), uint16(2), uint32(20), uint32(values), uint16(0x9011), uint16(2), uint32(len(offset)+1), uint32(values+20), uint32(0))
	tiff.WriteString(when + "\x00" + offset + "\x00")
	block := append([]byte("Exif\x00\x00"), tiff.Bytes()...)
	head := []byte{0xFF, 0xD8, 0xFF, 0xE1, byte((len(block) + 2) >> 8), byte(len(block) + 2)}
	return append(append(head, block...), plain.Bytes()[2:]...)
}

// A photo's time to the second: by the offset that the camera says, else by the line's own clock, also across a change of clocks.
func TestWhenAPhotoWasTaken(t *testing.T) {
	denver, err := time.LoadLocation("America/Denver")
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct{ when, offset, utc string }{
		{"2026:12:04 06:52:37", "", "2026-12-04T13:52:37Z"}, {"2026:07:04 06:52:37", "", "2026-07-04T12:52:37Z"},
		{"2026:12:04 06:52:37", "+05:45", "2026-12-04T01:07:37Z"}, {"2026:12:04 06:52:37", "-03:30", "2026-12-04T10:22:37Z"}, {"2026:12:04 06:52:37", "+00:00", "2026-12-04T06:52:37Z"},
		{"2026:12:04 06:52:37", "noonish", "2026-12-04T13:52:37Z"}, {"2026:12:04 06:52:37", "   :  ", "2026-12-04T13:52:37Z"},
	} {
		photo, err := ReadPhoto(takenAt(t, c.when, c.offset), denver)
		if err != nil || photo.TakenAt == nil || photo.TakenAt.Format(time.RFC3339) != c.utc {
			t.Errorf("%s %q: %v, want %s (%v)", c.when, c.offset, photo.TakenAt, c.utc, err)
		}
	}
	for _, when := range []string{"0000:00:00 00:00:00", "2026:13:04 06:52:37", "1970:01:01 00:00:00"} {
		if photo, err := ReadPhoto(takenAt(t, when, ""), denver); err != nil || photo.TakenAt != nil {
			t.Errorf("%s: %v, %v", when, photo.TakenAt, err)
		}
	}
}

func TestEveryOrientation(t *testing.T) {
	dark := map[uint16][2]float64{1: {.25, .5}, 2: {.75, .5}, 3: {.75, .5}, 4: {.25, .5}, 5: {.5, .25}, 6: {.5, .25}, 7: {.5, .75}, 8: {.5, .75}}
	for turn, at := range dark {
		photo, err := ReadPhoto(withEXIF(t, half(64, 32), turn), time.UTC)
		if err != nil {
			t.Fatal(err)
		}
		kept, _ := jpeg.Decode(bytes.NewReader(photo.JPEG))
		shade, _, _, _ := kept.At(int(at[0]*float64(photo.Width)), int(at[1]*float64(photo.Height))).RGBA()
		if shade > 0x4000 {
			t.Errorf("orientation %d: the dark half is not where it should be", turn)
		}
	}
}

func TestLargePhotosAreMadeSmall(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	noise := image.NewRGBA(image.Rect(0, 0, 1700, 1275))
	rng := rand.New(rand.NewPCG(1, 1))
	for i := range noise.Pix {
		noise.Pix[i] = uint8(rng.Uint32())
	}
	var raw bytes.Buffer
	if err := png.Encode(&raw, noise); err != nil {
		t.Fatal(err)
	}
	photo, err := ReadPhoto(raw.Bytes(), time.UTC)
	if err != nil {
		t.Fatal(err)
	}
	if photo.Width != 1600 || photo.Height != 1200 || len(photo.JPEG) > largestPhoto {
		t.Errorf("%d by %d, %d bytes", photo.Width, photo.Height, len(photo.JPEG))
	}
}

func TestBadPhotos(t *testing.T) {
	good := withEXIF(t, half(80, 40), 1)
	for name, raw := range map[string][]byte{"nothing": nil, "text": []byte("no picture"), "cut off": good[:len(good)/2]} {
		var p refuse.Problems
		if _, err := ReadPhoto(raw, time.UTC); !errors.As(err, &p) || p[0].Field != "photo" {
			t.Errorf("%s: %v", name, err)
		}
	}
	// A hostile block beside a good picture takes nothing from the picture.
	hostile := bytes.Replace(good, []byte("MM\x00\x2a\x00\x00\x00\x08"), []byte("MM\x00\x2a\xff\xff\xff\xff"), 1)
	if photo, err := ReadPhoto(hostile, time.UTC); err != nil || photo.LatDeg != nil {
		t.Errorf("a broken EXIF block: %v, %+v", err, photo.LatDeg)
	}
}

// Directories that point at each other, and at themselves, lead nowhere; a picture that is small in the file and huge in memory
// is refused before it is decoded.
func TestHostilePictures(t *testing.T) {
	good := withEXIF(t, half(80, 40), 6)
	at := bytes.Index(good, []byte("MM\x00\x2a"))
	for _, pointer := range []uint32{0, 8, 10, 1 << 31} {
		round := bytes.Clone(good)
		binary.BigEndian.PutUint32(round[at+8+2+12+8:], pointer) // where the place stands
		binary.BigEndian.PutUint16(round[at+8+2+12:], 0x8769)    // or the time
		binary.BigEndian.PutUint32(round[at+8+2+24:], 8)         // the next directory is the first
		if photo, err := ReadPhoto(round, time.UTC); err != nil || photo.Height != 80 {
			t.Errorf("pointing at %d: %v, %d high", pointer, err, photo.Height)
		}
	}
	var raw bytes.Buffer
	if err := png.Encode(&raw, image.NewGray(image.Rect(0, 0, 2, 1))); err != nil {
		t.Fatal(err)
	}
	for _, size := range [][2]uint32{{84_000_000, 1}, {1, 84_000_000}, {16000, 16000}} {
		huge := bytes.Clone(raw.Bytes())
		binary.BigEndian.PutUint32(huge[16:], size[0])
		binary.BigEndian.PutUint32(huge[20:], size[1])
		binary.BigEndian.PutUint32(huge[29:], crc32.ChecksumIEEE(huge[12:29]))
		var p refuse.Problems
		if _, err := ReadPhoto(huge, time.UTC); !errors.As(err, &p) || !strings.Contains(p[0].Says, "too large") {
			t.Errorf("%d by %d: %v", size[0], size[1], err)
		}
	}
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, half(16, 16), nil); err != nil {
		t.Fatal(err)
	}
	if got := jpegBytes(plain.Bytes()); got != 1.5 { // colours at a quarter
		t.Errorf("a common JPEG is decoded into %g bytes a pixel", got)
	}
	passes := bytes.Replace(plain.Bytes(), []byte{0xFF, 0xC0}, []byte{0xFF, 0xC2}, 1)
	if got := jpegBytes(passes); got != 7.5 {
		t.Errorf("one in several passes into %g", got)
	}
}

func FuzzEXIF(f *testing.F) {
	f.Add([]byte("MM\x00\x2a\x00\x00\x00\x08\x00\x00"))
	f.Fuzz(func(_ *testing.T, raw []byte) {
		readEXIF(append([]byte("\xff\xd8\xff\xe1\xff\xf0Exif\x00\x00"), append(raw, make([]byte, 1<<16)...)...), time.UTC)
	})
}
