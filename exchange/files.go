package exchange

import (
	"bytes"
	"strings"

	"oldburrow/core/refuse"
)

// beginnings are how files begin that are none of those that are read here, with what they are and what to do.
var beginnings = []struct {
	begins, holds string
	says          string
}{
	{"pk\x03\x04", ".kml", "is a KMZ, a packed KML: open it where it was made and save it as GPX or GeoJSON"},
	{"pk\x03\x04", "xl/", "is a workbook: save the sheet that is wanted as CSV, and choose that"},
	{"pk\x03\x04", "", "is packed: unpack it, and choose the file that is in it"},
	{"\xd0\xcf\x11\xe0", "", "is an old workbook: save the sheet that is wanted as CSV, and choose that"},
	{"\x1f\x8b", "", "is packed: unpack it, and choose the file that is in it"},
	{"%pdf", "", "is a PDF: choose the file that it was printed from"},
	{"\x89png", "", "is a picture: a photo goes to a spot or a sign"},
	{"\xff\xd8\xff", "", "is a picture: a photo goes to a spot or a sign"},
	{"<!doctype html", "", webPage},
	{"<html", "", webPage},
	{"<kml", "", "is KML: save it as GPX or GeoJSON where it was made"},
	{"<?xml", "<kml", "is KML: save it as GPX or GeoJSON where it was made"},
}

const webPage = "is a web page, most likely one that asks to sign in: sign in where the file lies, and fetch it again"

// farthestIn is how far into a file it is looked for what says which kind it is.
const farthestIn = 4096

// Known refuses, under the field "file", what is plainly another kind of file than those that are read here, and says which.
func Known(raw []byte) error {
	start := bytes.Clone(bytes.TrimSpace(bytes.TrimPrefix(raw[:min(len(raw), farthestIn)], []byte("\xef\xbb\xbf"))))
	for i, b := range start { // letters alone: what is no text stays as it is
		if 'A' <= b && b <= 'Z' {
			start[i] = b + 'a' - 'A'
		}
	}
	head := string(start)
	for _, b := range beginnings {
		if strings.HasPrefix(head, b.begins) && strings.Contains(head, b.holds) {
			return refuse.Field("file", "%s", b.says)
		}
	}
	return nil
}
