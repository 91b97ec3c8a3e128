package archive

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"oldburrow/core/line"
	"oldburrow/store"
)

// Ask is what is to go out: all of the file, or the line that is named; and what of it others need not see. Program and At say what wrote it
// and when.
type Ask struct {
	Line    string
	Without []string
	Program string
	At      time.Time
}

// What can be left out of an archive that is meant for others.
const (
	Places     = "places"
	Names      = "names"
	Permission = "permission"
	Notes      = "notes"
)

// Parts are what can be left out.
func Parts() []string { return []string{Places, Names, Permission, Notes} }

// Progress is told how many records, of how many, have gone out or come in.
type Progress func(done, of int)

// every is after how many records progress is told.
const every = 200

// Save writes what is asked for of a file as it stands at one moment, and gives what the archive says of itself. It ends when the context
// does.
func Save(ctx context.Context, s *store.Store, w io.Writer, ask Ask, tell Progress) (m Manifest, err error) {
	hidden, err := hiding(ask)
	if err != nil {
		return m, err
	}
	stands, err := s.Standing()
	if err != nil {
		return m, err
	}
	m = Manifest{Form: store.FormNumber(), Program: ask.Program, At: ask.At.UTC(), LeftOut: hidden.parts()}
	if hidden == nil {
		m.File, m.Epoch, _ = strings.Cut(stands.File, "/")
	}
	err = s.Read(ctx, func(v store.View) error {
		out := saving{ctx: ctx, View: v, line: ask.Line, hidden: hidden, writer: newWriter(w), tell: tell}
		if err := out.all(); err != nil {
			return err
		}
		m, err = out.close(m)
		return err
	})
	return m, err
}

// saving is an archive on its way out.
type saving struct {
	ctx context.Context
	store.View
	line   string
	hidden *hidden // nil where all goes out
	*writer
	tell     Progress
	done, of int
	photos   []line.Photo
}

func (s *saving) all() error {
	if s.line != "" {
		if _, err := s.Line(s.line); err != nil {
			return fmt.Errorf("the line %q is not in the file", s.line)
		}
	}
	for _, k := range store.Kinds() {
		n, err := k.Count(s.View, s.line)
		if err != nil {
			return err
		}
		s.of += n
	}
	for _, k := range store.Kinds() {
		if err := s.kind(k); err != nil {
			return err
		}
	}
	for _, p := range s.photos {
		jpeg, err := s.Photo(p.LineID, p.ID)
		if err == nil {
			err = s.picture(photoName(s.hidden.id(p.ID)), jpeg)
		}
		if err == nil {
			err = s.ctx.Err()
		}
		if err != nil {
			return fmt.Errorf("save the photo %s: %w", p.ID, err)
		}
	}
	shared := map[string]string{}
	if s.hidden == nil {
		var err error
		if shared, err = s.Known(); err != nil {
			return err
		}
	}
	s.tell(s.of, s.of)
	return s.value("known.json", shared)
}

func (s *saving) kind(k store.Kind) error {
	return s.records(recordsName(k.Table), func(record func([]byte) error) error {
		return k.Each(s.View, s.line, func(r store.Record) error {
			if err := s.ctx.Err(); err != nil {
				return err
			}
			if s.done++; s.done%every == 0 {
				s.tell(s.done, s.of)
			}
			if !s.hidden.shows(r.Is) {
				return nil
			}
			if p, ok := r.Is.(*line.Photo); ok {
				s.photos = append(s.photos, *p)
			}
			raw, err := k.Write(r)
			if err != nil {
				return err
			}
			return record(s.hidden.ids(raw))
		})
	})
}

// SaveAs is Save into a file that is not there yet: half an archive is never left under its name.
func SaveAs(ctx context.Context, s *store.Store, path string, ask Ask, tell Progress) (m Manifest, err error) {
	if _, err := os.Lstat(path); err == nil {
		return m, fmt.Errorf("%q is there already: name a file that is not", path)
	}
	part := path + ".part"
	f, err := os.OpenFile(part, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return m, fmt.Errorf("%q may not be made: see to the rights of its folder", path)
	}
	defer os.Remove(part) // it is no longer there where all went well
	m, err = Save(ctx, s, f, ask, tell)
	if err == nil {
		err = f.Sync()
	}
	if shut := f.Close(); err == nil {
		err = shut
	}
	if err == nil {
		err = os.Rename(part, path)
	}
	if err == nil {
		err = syncFolder(path)
	}
	return m, store.InWords(err)
}

func syncFolder(path string) error {
	folder, err := os.Open(filepath.Dir(path))
	if err != nil {
		return err
	}
	defer folder.Close()
	return folder.Sync()
}
