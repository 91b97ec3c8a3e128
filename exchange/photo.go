package exchange

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	_ "image/gif" // formats that are read
	"image/jpeg"
	_ "image/png"
	"math"
	"time"

	"github.com/rwcarlsen/goexif/exif"
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
	mostPixels   = 80 << 20
	longestSide  = 1600
	largestPhoto = 400 << 10
)

// ReadPhoto reads a JPEG, PNG, GIF or WebP picture. It refuses, under the field "photo", what is none of these or is too
// large to be a photo.
func ReadPhoto(raw []byte) (Photo, error) {
	config, _, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil {
		return Photo{}, refuse.Field("photo", "is not a picture that can be read: save it as JPEG, PNG or WebP")
	}
	if config.Width <= 0 || config.Height <= 0 || config.Width > mostPixels/config.Height {
		return Photo{}, refuse.Field("photo", "is %d by %d, too large: make it smaller than 80 megapixels", config.Width, config.Height)
	}
	picture, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return Photo{}, refuse.Field("photo", "is broken or cut off: %s", err)
	}
	said, turn := readEXIF(raw)
	upright := turned(smaller(picture), turn)
	said.Width, said.Height = upright.Bounds().Dx(), upright.Bounds().Dy()
	said.JPEG, err = encode(upright)
	return said, err
}

// readEXIF reads place, time and orientation. A hostile file can make the reader panic: then the picture says nothing.
func readEXIF(raw []byte) (p Photo, turn int) {
	defer func() {
		if recover() != nil {
			p, turn = Photo{}, 1
		}
	}()
	turn = 1
	x, err := exif.Decode(bytes.NewReader(raw))
	if err != nil {
		return p, turn
	}
	if lat, lon, err := x.LatLong(); err == nil && onGlobe(lon, lat) && !math.IsNaN(lat) {
		p.LatDeg, p.LonDeg = &lat, &lon
	}
	if at, err := x.DateTime(); err == nil && at.Year() > 1990 {
		at = at.UTC()
		p.TakenAt = &at
	}
	if tag, err := x.Get(exif.Orientation); err == nil {
		if v, err := tag.Int(0); err == nil && v >= 1 && v <= 8 {
			turn = v
		}
	}
	return p, turn
}

func smaller(picture image.Image) image.Image {
	b := picture.Bounds()
	scale := math.Min(1, longestSide/float64(max(b.Dx(), b.Dy())))
	small := image.NewRGBA(image.Rect(0, 0, max(1, int(scale*float64(b.Dx()))), max(1, int(scale*float64(b.Dy())))))
	draw.CatmullRom.Scale(small, small.Bounds(), picture, b, draw.Src, nil)
	return small
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

func encode(picture image.Image) ([]byte, error) {
	for quality := 85; quality >= 25; quality -= 15 {
		var out bytes.Buffer
		if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: quality}); err != nil {
			return nil, fmt.Errorf("encode a photo: %w", err)
		}
		if out.Len() <= largestPhoto {
			return out.Bytes(), nil
		}
	}
	return nil, errors.New("a photo cannot be made small enough")
}
