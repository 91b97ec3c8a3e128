package exchange

import (
	"bytes"
	"encoding/binary"
	"errors"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math/rand/v2"
	"testing"

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
	photo, err := ReadPhoto(withEXIF(t, half(80, 40), 6))
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

func TestEveryOrientation(t *testing.T) {
	dark := map[uint16][2]float64{1: {.25, .5}, 2: {.75, .5}, 3: {.75, .5}, 4: {.25, .5}, 5: {.5, .25}, 6: {.5, .25}, 7: {.5, .75}, 8: {.5, .75}}
	for turn, at := range dark {
		photo, err := ReadPhoto(withEXIF(t, half(64, 32), turn))
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
	noise := image.NewRGBA(image.Rect(0, 0, 1700, 1275))
	rng := rand.New(rand.NewPCG(1, 1))
	for i := range noise.Pix {
		noise.Pix[i] = uint8(rng.Uint32())
	}
	var raw bytes.Buffer
	if err := png.Encode(&raw, noise); err != nil {
		t.Fatal(err)
	}
	photo, err := ReadPhoto(raw.Bytes())
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
		if _, err := ReadPhoto(raw); !errors.As(err, &p) || p[0].Field != "photo" {
			t.Errorf("%s: %v", name, err)
		}
	}
	// A hostile block beside a good picture takes nothing from the picture.
	hostile := bytes.Replace(good, []byte("MM\x00\x2a\x00\x00\x00\x08"), []byte("MM\x00\x2a\xff\xff\xff\xff"), 1)
	if photo, err := ReadPhoto(hostile); err != nil || photo.LatDeg != nil {
		t.Errorf("a broken EXIF block: %v, %+v", err, photo.LatDeg)
	}
}

func FuzzEXIF(f *testing.F) {
	f.Add([]byte("MM\x00\x2a\x00\x00\x00\x08\x00\x00"))
	f.Fuzz(func(_ *testing.T, raw []byte) { readEXIF(raw) })
}
