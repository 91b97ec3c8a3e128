package archive

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"image/jpeg"
	"regexp"
	"slices"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/plain"
	"oldburrow/core/refuse"
	"oldburrow/store"
)

// Counts is how many records of a kind came in, or were there already just so.
type Counts struct {
	Kind string `json:"kind"`
	New  int    `json:"new"`
	Same int    `json:"same"`
}

// TakenIn says what came of an archive that was taken in, or what would come of it. LeftOut is what it lacks, being meant for others.
type TakenIn struct {
	At      time.Time `json:"at"`
	Bytes   int64     `json:"bytes"` // unpacked
	LeftOut []string  `json:"leftOut"`
	Counts  []Counts  `json:"counts"`
	Records int       `json:"records"`
	// Already is an archive of which everything is in the file: nothing was changed.
	Already bool `json:"already"`
}

// Other is returned for a file that holds other records than an archive: the two are not put together. First is the first of them in words.
type Other struct{ First string }

func (o Other) Error() string {
	return fmt.Sprintf("this file holds other records (first: %s): open the archive in a new file", o.First)
}

// errTried ends a change that was only tried.
var errTried = errors.New("only tried")

// Take takes an archive into a file that holds no record, in one transaction; into one that holds all of its records just so it takes nothing.
// Any other file is refused, and nothing of it changed. try only says what would come of it. It ends when the context does.
func Take(ctx context.Context, s *store.Store, a *Archive, asked store.Asked, now time.Time, try bool, tell Progress) (r TakenIn, err error) {
	in := &taking{ctx: ctx, Archive: a, tell: tell, words: newWording()}
	in.report = TakenIn{At: a.At, Bytes: a.Unpacked(), LeftOut: append([]string{}, a.LeftOut...), Counts: []Counts{}}
	empty := false
	err = s.Read(ctx, func(v store.View) error {
		lines, err := v.Lines()
		if empty = len(lines) == 0; err != nil || empty {
			return err
		}
		return in.compare(v)
	})
	if err != nil || !empty {
		return in.report, err
	}
	if free, known := s.Free(); known && free < 2*a.Unpacked() {
		return in.report, noArchive("takes %d MB unpacked, and the disk has %d MB left: make room for twice as much", a.Unpacked()>>20, free>>20)
	}
	_, err = s.Write(asked, now, func(t *store.Tx) (any, error) {
		lines, err := t.Lines()
		if err != nil {
			return nil, err
		}
		if len(lines) > 0 { // one was begun meanwhile
			return nil, Other{"line " + lines[0].Name}
		}
		in.tx = t
		if err := t.Bring(in.all); err != nil {
			return nil, refused(err)
		}
		if try {
			return nil, errTried
		}
		return in.report, nil
	})
	if errors.Is(err, errTried) {
		err = nil
	}
	return in.report, err
}

// refused says what is wrong with an archive in the words of one.
func refused(err error) error {
	var strange store.Strangers
	if errors.As(err, &strange) {
		return noArchive("is damaged: %s", strange)
	}
	var taken store.Taken
	if errors.As(err, &taken) {
		return noArchive("is damaged: %s is in it twice", taken.What)
	}
	return err
}

// taking is an archive on its way in.
type taking struct {
	ctx context.Context
	*Archive
	tx     *store.Tx
	tell   Progress
	done   int
	words  *wording
	report TakenIn
}

// kinds are those that there were in the form of the archive.
func (in *taking) kinds() []store.Kind {
	return slices.DeleteFunc(store.Kinds(), func(k store.Kind) bool { return k.Since() > in.Form })
}

// each reads the records of a kind.
func (in *taking) each(k store.Kind, do func(store.Record) error) error {
	name := recordsName(k.Table)
	return in.records(name, func(n int, raw []byte) error {
		if err := in.ctx.Err(); err != nil {
			return err
		}
		if in.done++; in.done%every == 0 {
			in.tell(in.done, in.of())
		}
		r, err := k.Read(raw, in.Form < store.FormNumber())
		if err == nil && len(plain.CleanAll(r.Is)) > 0 {
			err = errors.New("is too long")
		}
		if err != nil {
			return noArchive("cannot be taken in: line %d of %s (%s) %s", n, name, k.Name(), inOneClause(err))
		}
		in.words.learn(r.Is)
		return do(r)
	})
}

// inOneClause is what is wrong with a record, as the end of a sentence.
func inOneClause(err error) string {
	var fields refuse.Problems
	if errors.As(err, &fields) && len(fields) > 0 {
		return fields[0].Field + " " + fields[0].Says
	}
	return err.Error()
}

// of is how many records the archive says that it holds.
func (in *taking) of() (n int) {
	for _, e := range in.Files {
		n += e.Records
	}
	return n
}

func (in *taking) all() error {
	if err := in.onlyKnown(); err != nil {
		return err
	}
	for _, k := range in.kinds() {
		counts := Counts{Kind: k.Table}
		err := in.each(k, func(r store.Record) (err error) {
			if p, ok := r.Is.(*line.Photo); ok {
				if r.Picture, err = in.jpeg(p); err != nil {
					return err
				}
			}
			counts.New++
			return k.Put(in.tx, r)
		})
		if err != nil {
			return err
		}
		in.count(counts)
	}
	if in.report.Records == 0 {
		return noArchive("holds no record")
	}
	in.tell(in.of(), in.of())
	return nil
}

func (in *taking) count(c Counts) {
	in.report.Records += c.New + c.Same
	in.report.Counts = append(in.report.Counts, c)
}

// onlyKnown refuses an archive with lists or photos that are not known here, or with a list less.
func (in *taking) onlyKnown() error {
	lists := map[string]bool{"known.json": true}
	for _, k := range in.kinds() {
		lists[recordsName(k.Table)] = true
	}
	for name := range lists {
		if _, ok := in.entry(name); !ok {
			return noArchive("is damaged: %s is missing in it", name)
		}
	}
	pictures := 0
	for _, e := range in.Files {
		switch {
		case !lists[e.Name] && !isPhoto.MatchString(e.Name):
			return noArchive("is no archive of this program: it holds %s", e.Name)
		case !lists[e.Name]:
			pictures++
		}
	}
	if photos, _ := in.entry(recordsName("photos")); photos.Records != pictures {
		return noArchive("is damaged: it holds %d pictures for %d photos", pictures, photos.Records)
	}
	return in.known()
}

var (
	isPhoto   = regexp.MustCompile(`^photos/`)
	isContent = regexp.MustCompile(`^[0-9a-f]{16}$`)
)

// known reads what the file that went out last shared with another. All that comes in is shared from then on.
func (in *taking) known() error {
	raw, err := in.file("known.json", mostUnpacked)
	if err != nil {
		return err
	}
	shared := map[string]string{}
	if err := json.Unmarshal(raw, &shared); err != nil {
		return noArchive("is damaged: known.json cannot be read")
	}
	for id, content := range shared {
		if !line.IsID(id) || !isContent.MatchString(content) {
			return noArchive("is damaged: known.json cannot be read")
		}
	}
	return nil
}

// largestPicture is how large a kept photo is at most, bytes.
const largestPicture = 400 << 10

// jpeg is the picture of a photo, of the size that it says.
func (in *taking) jpeg(p *line.Photo) ([]byte, error) {
	name := photoName(p.ID)
	raw, err := in.file(name, largestPicture)
	if err != nil {
		return nil, err
	}
	is, err := jpeg.DecodeConfig(bytes.NewReader(raw))
	if err != nil || is.Width != p.Width || is.Height != p.Height {
		return nil, noArchive("is damaged: %s is not the picture that it says", name)
	}
	return raw, nil
}

// compare finds that everything in an archive is in a file just so, or says what is not.
func (in *taking) compare(v store.View) error {
	if err := in.onlyKnown(); err != nil {
		return err
	}
	if len(in.LeftOut) > 0 {
		return noArchive("is meant for others, without %s: it is opened in a new file only", spoken(in.LeftOut))
	}
	for _, k := range in.kinds() {
		counts := Counts{Kind: k.Table}
		here, err := k.Contents(v)
		if err != nil {
			return err
		}
		err = in.each(k, func(r store.Record) error {
			counts.Same++
			same, err := isHere(k, r, here)
			if err == nil && !same {
				err = Other{in.words.of(k, r.Is)}
			}
			return err
		})
		if err != nil {
			return err
		}
		in.count(counts)
	}
	in.report.Already = true
	return nil
}

// isHere tells whether a record stands in a file just so. Of an hour of weather any will do, and a forecast is no record.
func isHere(k store.Kind, r store.Record, here map[string]string) (bool, error) {
	if h, ok := r.Is.(*store.HourOfWeather); ok {
		_, known := here[r.ID]
		return known || h.Forecast, nil
	}
	content, err := k.Content(r)
	return content == here[r.ID], err
}
