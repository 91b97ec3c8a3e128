package exchange

import (
	"bytes"
	"fmt"
	"image"
	_ "image/gif" // formats that are read
	"image/jpeg"
	_ "image/png"
	"math"
	"sync"
	"time"

	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp"

	"oldburrow/core/refuse"
)

// Photo is a picture made ready to keep: turned upright, small, and without what the file carried beside the picture.
type Photo struct {
	JPEG           []byte
	Width, Height  int
	LatDeg, LonDeg *float64   // from the picture's EXIF, when it says
	TakenAt        *time.Time // likewise
}

const (
	mostSide     = 16384
	mostDecoded  = 200 << 20 // bytes that decoding may need
	longestSide  = 1600
	largestPhoto = 400 << 10
)

// decoding lets one picture be decoded at a time, so that many at once need no more memory than one.
var decoding sync.Mutex

// ReadPhoto reads a JPEG, PNG, GIF or WebP picture; zone is that of the camera's clock. It refuses, under the field "photo",
// what is none of these or is too large to be a photo.
func ReadPhoto(raw []byte, zone *time.Location) (Photo, error) {
	config, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil {
		return Photo{}, refuse.Field("photo", "is not a picture that can be read: save it as JPEG, PNG or WebP")
	}
	most := mostDecoded / bytesEach(format, raw)
	if config.Width <= 0 || config.Height <= 0 || max(config.Width, config.Height) > mostSide || float64(config.Width)*float64(config.Height) > most {
		return Photo{}, refuse.Field("photo", "is %d by %d, too large: make it at most %d across and %.0f megapixels", config.Width, config.Height, mostSide, most/1e6)
	}
	decoding.Lock()
	defer decoding.Unlock()
	picture, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return Photo{}, refuse.Field("photo", "is broken or cut off: take or save it again")
	}
	said, turn := readEXIF(raw, zone)
	upright := turned(smaller(picture), turn)
	var size image.Rectangle
	said.JPEG, size, err = encode(upright)
	said.Width, said.Height = size.Dx(), size.Dy()
	return said, err
}

// bytesEach is how many bytes the decoder may need for a pixel.
func bytesEach(format string, raw []byte) float64 {
	switch format {
	case "gif":
		return 1
	case "png":
		return 8
	case "jpeg":
		return jpegBytes(raw)
	}
	return 16
}

// jpegBytes reads from its frame how finely a JPEG samples its colours, and whether it comes in several passes, for which each
// sample is kept in four bytes more.
func jpegBytes(raw []byte) float64 {
	const most = 20
	for at := 2; at+4 <= len(raw) && raw[at] == 0xFF && raw[at+1] != 0xDA; {
		marker, length := raw[at+1], int(raw[at+2])<<8|int(raw[at+3])
		if marker == 0xFF { // padding
			at++
			continue
		}
		if marker < 0xC0 || marker > 0xC2 {
			at += 2 + length
			continue
		}
		if at+2+length > len(raw) || length < 11 {
			return most
		}
		samples, finest := 0.0, 1.0
		for part := at + 10; part+3 <= at+2+length; part += 3 {
			n := float64(raw[part+1]>>4) * float64(raw[part+1]&15)
			samples, finest = samples+n, math.Max(finest, n)
		}
		if marker == 0xC2 {
			samples *= 5
		}
		return samples / finest
	}
	return most
}

// smaller brings a picture to its longest side: first by whole blocks of pixels, strip by strip, then smoothly.
func smaller(picture image.Image) image.Image {
	b := picture.Bounds()
	if by := max(b.Dx(), b.Dy()) / longestSide; by > 1 {
		picture = blocks(picture, by)
		b = picture.Bounds()
	}
	scale := math.Min(1, longestSide/float64(max(b.Dx(), b.Dy())))
	small := image.NewRGBA(image.Rect(0, 0, max(1, int(scale*float64(b.Dx()))), max(1, int(scale*float64(b.Dy())))))
	draw.ApproxBiLinear.Scale(small, small.Bounds(), picture, b, draw.Src, nil)
	return small
}

// blocks makes one pixel, their mean, of every square of pixels; what is left over at two edges is dropped.
func blocks(picture image.Image, by int) *image.RGBA {
	b := picture.Bounds()
	out := image.NewRGBA(image.Rect(0, 0, max(1, b.Dx()/by), max(1, b.Dy()/by)))
	strip := image.NewRGBA(image.Rect(0, 0, b.Dx(), by))
	for y := range out.Rect.Dy() {
		draw.Draw(strip, strip.Rect, picture, image.Pt(b.Min.X, b.Min.Y+y*by), draw.Src)
		for x := range out.Rect.Dx() {
			var sum [4]int
			wide, high := min(by, b.Dx()-x*by), min(by, b.Dy()-y*by)
			for row := range high {
				at := strip.PixOffset(x*by, row)
				for k, v := range strip.Pix[at : at+4*wide] {
					sum[k%4] += int(v)
				}
			}
			for c, v := range sum {
				out.Pix[out.PixOffset(x, y)+c] = uint8(v / (wide * high))
			}
		}
	}
	return out
}

// turned puts a picture upright by its EXIF orientation, 1 to 8.
func turned(picture image.Image, turn int) image.Image {
	b := picture.Bounds()
	w, h := b.Dx(), b.Dy()
	from := map[int]func(x, y int) (int, int){
		2: func(x, y int) (int, int) { return w - 1 - x, y },
		3: func(x, y int) (int, int) { return w - 1 - x, h - 1 - y },
		4: func(x, y int) (int, int) { return x, h - 1 - y },
		5: func(x, y int) (int, int) { return y, x },
		6: func(x, y int) (int, int) { return y, h - 1 - x },
		7: func(x, y int) (int, int) { return w - 1 - y, h - 1 - x },
		8: func(x, y int) (int, int) { return w - 1 - y, x },
	}[turn]
	if from == nil {
		return picture
	}
	size := image.Rect(0, 0, w, h)
	if turn >= 5 {
		size = image.Rect(0, 0, h, w)
	}
	out := image.NewRGBA(size)
	for y := range size.Dy() {
		for x := range size.Dx() {
			fx, fy := from(x, y)
			out.Set(x, y, picture.At(b.Min.X+fx, b.Min.Y+fy))
		}
	}
	return out
}

// encode writes a picture as finely as there is room for it; one that is all grain becomes smaller.
func encode(picture image.Image) ([]byte, image.Rectangle, error) {
	for {
		for quality := 85; quality >= 25; quality -= 15 {
			var out bytes.Buffer
			if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: quality}); err != nil {
				return nil, image.Rectangle{}, fmt.Errorf("encode a photo: %w", err)
			}
			if out.Len() <= largestPhoto {
				return out.Bytes(), picture.Bounds(), nil
			}
		}
		b := picture.Bounds()
		small := image.NewRGBA(image.Rect(0, 0, b.Dx()*3/4, b.Dy()*3/4))
		draw.ApproxBiLinear.Scale(small, small.Bounds(), picture, b, draw.Src, nil)
		picture = small
	}
}
