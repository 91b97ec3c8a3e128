// Package archive takes a data file out into one archive, a zip of JSON lines and photos, and in again: whole, to move to another computer,
// or a line without what others need not see. docs/archive.md says how it is written.
package archive

import (
	"archive/zip"
	"bufio"
	"bytes"
	"crypto/sha256"
	"encoding/binary"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"regexp"
	"time"
	"unicode/utf8"

	"oldburrow/core/refuse"
	"oldburrow/exchange"
)

// schema is the form in which archives are written.
const schema = 1

// Manifest says what an archive holds and where it comes from. Form is the form of its records, as the data file counts them; LeftOut is
// what was left out of an archive that is meant for others.
type Manifest struct {
	Schema  int       `json:"schema"`
	Form    int64     `json:"form"`
	Program string    `json:"program"`
	File    string    `json:"file"`
	Epoch   string    `json:"epoch"`
	At      time.Time `json:"at"`
	LeftOut []string  `json:"leftOut"`
	Files   []Entry   `json:"files"`
}

// Entry is one file in an archive: its size when unpacked, its checksum in hexadecimal, and how many records stand in it.
type Entry struct {
	Name    string `json:"name"`
	Bytes   int64  `json:"bytes"`
	SHA256  string `json:"sha256"`
	Records int    `json:"records"`
}

// What an archive may hold at most.
const (
	mostUnpacked  = 8 << 30
	mostEntries   = 300_000
	mostManifest  = 4 << 20
	mostOfALine   = 1 << 20
	mostRatio     = 200
	mostDirectory = 64 << 20
	firstForm     = 13 // in which archives were first written
	manifestName  = "manifest.json"
)

// archiveNames are the names that can stand in an archive. None of them leads out of it.
var archiveNames = regexp.MustCompile(`^([a-z_]{1,40}\.jsonl|known\.json|manifest\.json|photos/[0-7][0-9A-HJKMNP-TV-Z]{25}\.jpg)$`)

// photoName is the name under which a photo's picture stands in an archive.
func photoName(id string) string { return "photos/" + id + ".jpg" }

// recordsName is the name under which the records of a table stand there, a line of JSON each.
func recordsName(table string) string { return table + ".jsonl" }

// writer writes an archive, one file after another.
type writer struct {
	zip   *zip.Writer
	files []Entry
}

// newWriter begins an archive.
func newWriter(w io.Writer) *writer { return &writer{zip: zip.NewWriter(w)} }

// records writes a file of records: write hands over each, on one line without its end.
func (a *writer) records(name string, write func(record func(raw []byte) error) error) error {
	return a.entry(name, zip.Deflate, func(w io.Writer, e *Entry) error {
		lines := bufio.NewWriterSize(w, 64<<10)
		err := write(func(raw []byte) error {
			if len(raw) > mostOfALine {
				return fmt.Errorf("a record of %s is too long to be read again: at most %d bytes, not %d", name, mostOfALine, len(raw))
			}
			e.Records++
			_, err := lines.Write(append(raw, '\n'))
			return err
		})
		return errors.Join(err, lines.Flush())
	})
}

// picture writes a picture, as it is.
func (a *writer) picture(name string, raw []byte) error {
	return a.entry(name, zip.Store, func(w io.Writer, _ *Entry) error {
		_, err := w.Write(raw)
		return err
	})
}

// value writes something else, as JSON.
func (a *writer) value(name string, value any) error {
	return a.entry(name, zip.Deflate, func(w io.Writer, _ *Entry) error { return json.NewEncoder(w).Encode(value) })
}

// close ends the archive with what it holds.
func (a *writer) close(m Manifest) (Manifest, error) {
	m.Schema, m.Files, m.LeftOut = schema, a.files, append([]string{}, m.LeftOut...)
	raw, err := json.MarshalIndent(m, "", " ")
	if err != nil {
		return m, err
	}
	if len(raw) > mostManifest {
		return m, fmt.Errorf("the file holds too much for one archive: %d photos and lists", len(a.files))
	}
	w, err := a.zip.Create(manifestName)
	if err == nil {
		_, err = w.Write(raw)
	}
	return m, errors.Join(err, a.zip.Close())
}

func (a *writer) entry(name string, method uint16, write func(io.Writer, *Entry) error) error {
	w, err := a.zip.CreateHeader(&zip.FileHeader{Name: name, Method: method})
	if err != nil {
		return err
	}
	e := Entry{Name: name}
	sum := &summed{to: w, hash: sha256.New()}
	if err := write(sum, &e); err != nil {
		return err
	}
	e.Bytes, e.SHA256 = sum.n, hex.EncodeToString(sum.hash.Sum(nil))
	a.files = append(a.files, e)
	return nil
}

// summed counts and sums what is written through it.
type summed struct {
	to   io.Writer
	hash hash.Hash
	n    int64
}

func (s *summed) Write(raw []byte) (int, error) {
	s.hash.Write(raw)
	n, err := s.to.Write(raw)
	s.n += int64(n)
	return n, err
}

// Archive is an archive that can be read: what it says of itself fits what is in it.
type Archive struct {
	Manifest
	entries map[string]*zip.File
	said    map[string]Entry
}

func noArchive(format string, args ...any) error { return refuse.Field("file", format, args...) }

// Open reads what an archive of so many bytes says of itself, and refuses, under the field "file", one that is none, that is damaged,
// too large, or newer than a program that keeps records in a form.
func Open(r io.ReaderAt, size, form int64) (*Archive, error) {
	if err := smallDirectory(r, size); err != nil {
		return nil, err
	}
	packed, err := zip.NewReader(r, size)
	if err != nil {
		return nil, noArchive("is no archive of this program, or was cut off: choose the whole file that was saved")
	}
	a := &Archive{entries: map[string]*zip.File{}, said: map[string]Entry{}}
	if err := a.list(packed.File); err != nil {
		return nil, err
	}
	if err := a.readManifest(form); err != nil {
		return nil, err
	}
	return a, nil
}

// list takes the entries of an archive, each once and none that leads anywhere else.
func (a *Archive) list(files []*zip.File) error {
	if len(files) > mostEntries {
		return noArchive("holds %d files: an archive holds at most %d", len(files), mostEntries)
	}
	unpacked := uint64(0)
	for _, f := range files {
		switch {
		case !archiveNames.MatchString(f.Name):
			return noArchive("is no archive of this program: a file in it is called %q", shortName(f.Name))
		case a.entries[f.Name] != nil:
			return noArchive("is damaged: %s is in it twice", f.Name)
		case !f.Mode().IsRegular() || f.Flags&1 != 0 || f.Method != zip.Store && f.Method != zip.Deflate:
			return noArchive("cannot be read: %s is a link, or is locked, or packed in a way that is not read here", f.Name)
		case f.UncompressedSize64 > mostUnpacked || f.UncompressedSize64 > 4096+mostRatio*f.CompressedSize64:
			return noArchive("cannot be read: %s unpacks to more than it can hold", f.Name)
		}
		a.entries[f.Name] = f
		unpacked += f.UncompressedSize64
	}
	if unpacked > mostUnpacked {
		return noArchive("unpacks to %d MB: an archive may hold at most %d MB", unpacked>>20, uint64(mostUnpacked)>>20)
	}
	return nil
}

func shortName(name string) string {
	if runes := []rune(name); len(runes) > 60 {
		return string(runes[:60]) + "…"
	}
	return name
}

func (a *Archive) readManifest(form int64) error {
	f := a.entries[manifestName]
	if f == nil {
		return noArchive("is no archive of this program: it does not say what it holds")
	}
	if f.UncompressedSize64 > mostManifest {
		return noArchive("is damaged: what it says of itself is too long")
	}
	raw, err := unpacked(f, mostManifest)
	if err != nil {
		return err
	}
	var only struct{ Schema, Form int64 }
	if err := json.Unmarshal(raw, &only); err != nil {
		return noArchive("is damaged: what it says of itself cannot be read")
	}
	if only.Schema > schema || only.Form > form {
		return noArchive("was written by a newer program (its form is %d, this one knows %d): open it with that one", only.Form, form)
	}
	reader := json.NewDecoder(bytes.NewReader(raw))
	reader.DisallowUnknownFields()
	if err := reader.Decode(&a.Manifest); err != nil || a.Schema != schema || a.Form < firstForm || a.At.IsZero() {
		return noArchive("is damaged: what it says of itself cannot be read")
	}
	for _, e := range a.Files {
		f := a.entries[e.Name]
		if _, twice := a.said[e.Name]; f == nil || twice || e.Name == manifestName || e.Bytes < 0 || uint64(e.Bytes) != f.UncompressedSize64 || e.Records < 0 {
			return noArchive("is damaged: %s is not in it as it says", shortName(e.Name))
		}
		a.said[e.Name] = e
	}
	if len(a.said) != len(a.entries)-1 {
		return noArchive("is damaged: there is more in it than it says")
	}
	return nil
}

// Unpacked is how large everything in the archive is together, bytes.
func (a *Archive) Unpacked() (n int64) {
	for _, e := range a.Files {
		n += e.Bytes
	}
	return n
}

// entry is what is said of a file in the archive; false where it is not there.
func (a *Archive) entry(name string) (Entry, bool) {
	e, ok := a.said[name]
	return e, ok
}

// records hands over the records of a file one after another, each as it is written, with its number from 1. The last one has been handed
// over before it is known that the file is whole: what was done with them by then is undone where an error comes back.
func (a *Archive) records(name string, each func(n int, raw []byte) error) error {
	sum, shut, err := a.open(name)
	if err != nil {
		return err
	}
	defer shut()
	lines := bufio.NewReaderSize(sum, mostOfALine)
	count := 0
	for {
		raw, err := lines.ReadSlice('\n')
		if errors.Is(err, io.EOF) && len(raw) == 0 {
			break
		}
		count++
		if err != nil {
			return noArchive("is damaged: line %d of %s is cut off or too long", count, name)
		}
		raw = raw[:len(raw)-1]
		if !utf8.Valid(raw) || exchange.Shallow(raw) != nil {
			return noArchive("is damaged: line %d of %s is not written as text, or too deep", count, name)
		}
		if err := each(count, raw); err != nil {
			return err
		}
	}
	if count != a.said[name].Records {
		return noArchive("is damaged: %s holds %d records, not %d", name, count, a.said[name].Records)
	}
	return sum.whole()
}

// file gives a file that has at most so many bytes.
func (a *Archive) file(name string, most int64) ([]byte, error) {
	if e := a.said[name]; e.Bytes > most {
		return nil, noArchive("cannot be taken: %s is too large, at most %d KB", name, most>>10)
	}
	sum, shut, err := a.open(name)
	if err != nil {
		return nil, err
	}
	defer shut()
	raw, err := io.ReadAll(sum)
	if err != nil {
		return nil, damagedEntry(name)
	}
	return raw, sum.whole()
}

func (a *Archive) open(name string) (*checked, func(), error) {
	e, ok := a.said[name]
	if !ok {
		return nil, nil, noArchive("is damaged: %s is missing in it", name)
	}
	r, err := a.entries[name].Open()
	if err != nil {
		return nil, nil, damagedEntry(name)
	}
	return &checked{from: io.LimitReader(r, e.Bytes+1), hash: sha256.New(), said: e}, func() { r.Close() }, nil
}

func damagedEntry(name string) error { return noArchive("is damaged: %s cannot be unpacked", name) }

// checked sums what is read through it, and says at the end whether that is what was written.
type checked struct {
	from io.Reader
	hash hash.Hash
	n    int64
	said Entry
}

func (c *checked) Read(into []byte) (int, error) {
	n, err := c.from.Read(into)
	c.hash.Write(into[:n])
	c.n += int64(n)
	if err != nil && !errors.Is(err, io.EOF) {
		err = damagedEntry(c.said.Name)
	}
	return n, err
}

func (c *checked) whole() error {
	if c.n != c.said.Bytes || hex.EncodeToString(c.hash.Sum(nil)) != c.said.SHA256 {
		return noArchive("is damaged: %s is not as it was written", c.said.Name)
	}
	return nil
}

func unpacked(f *zip.File, most int64) ([]byte, error) {
	r, err := f.Open()
	if err != nil {
		return nil, damagedEntry(f.Name)
	}
	defer r.Close()
	raw, err := io.ReadAll(io.LimitReader(r, most))
	if err != nil {
		return nil, damagedEntry(f.Name)
	}
	return raw, nil
}

// smallDirectory refuses a file whose list of entries alone would need too much memory, before that is read.
func smallDirectory(r io.ReaderAt, size int64) error {
	const endLength, farthest = 22, 65557
	tail := make([]byte, min(size, farthest))
	if _, err := r.ReadAt(tail, size-int64(len(tail))); err != nil && !errors.Is(err, io.EOF) {
		return noArchive("cannot be read: choose it again")
	}
	at := bytes.LastIndex(tail, []byte("PK\x05\x06"))
	if at < 0 || len(tail)-at < endLength {
		return noArchive("is no archive of this program, or was cut off: choose the whole file that was saved")
	}
	directory := uint64(binary.LittleEndian.Uint32(tail[at+12:]))
	if directory == large {
		directory = largeDirectory(r, size-int64(len(tail))+int64(at))
	}
	if directory > mostDirectory {
		return noArchive("holds more files than an archive can: at most %d", mostEntries)
	}
	return nil
}

// large stands where a number is too large for its place, and is written out before the end.
const large = 0xFFFFFFFF

// largeDirectory is how long the list of entries is of an archive that is larger than the first form of zip can say; end is where its end
// begins. Where it cannot be read it is too long.
func largeDirectory(r io.ReaderAt, end int64) uint64 {
	locator, record := make([]byte, 20), make([]byte, 56)
	if _, err := r.ReadAt(locator, end-int64(len(locator))); err != nil || !bytes.HasPrefix(locator, []byte("PK\x06\x07")) {
		return large
	}
	if _, err := r.ReadAt(record, int64(binary.LittleEndian.Uint64(locator[8:]))); err != nil || !bytes.HasPrefix(record, []byte("PK\x06\x06")) {
		return large
	}
	return binary.LittleEndian.Uint64(record[40:])
}
