package server

import (
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/archive"
	"oldburrow/core/page"
	"oldburrow/demo"
	"oldburrow/store"
)

// standsAt is a clock that stands.
type standsAt time.Time

func (c standsAt) Now() time.Time { return time.Time(c) }

// large opens a large made-up line. It takes a while to make: one of each size is kept in the folder for what is temporary.
func large(b testing.TB, size demo.Large) (x *Server, line string) {
	b.Helper()
	path := filepath.Join(os.TempDir(), fmt.Sprintf("oldburrow-large-%s-%d-%d.db", store.Form(), size.Seasons, size.Sets))
	if _, err := os.Stat(path); err != nil {
		making := path + ".making"
		os.Remove(making)
		s, err := store.Open(making)
		if err != nil {
			b.Fatal(err)
		}
		if err := LoadLarge(s, size); err != nil {
			b.Fatal(err)
		}
		if err := tellPromises(b.Context(), s, demo.Start(), page.Usual()); err != nil {
			b.Fatal(err)
		}
		if err := s.Close(); err != nil {
			b.Fatal(err)
		}
		if err := os.Rename(making, path); err != nil {
			b.Fatal(err)
		}
	}
	s, err := store.Open(path)
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(func() { s.Close() })
	err = s.Read(b.Context(), func(v store.View) error {
		lines, err := v.Lines()
		line = lines[0].ID
		return err
	})
	if err != nil {
		b.Fatal(err)
	}
	return &Server{Store: s, Clock: standsAt(demo.Start())}, line
}

// atTheTable is a request of a page on the program's own machine, without a wire between.
func atTheTable(method, path, body string) *http.Request {
	request := httptest.NewRequest(method, "http://127.0.0.1/api"+path, strings.NewReader(body))
	request.RemoteAddr = "127.0.0.1:9"
	request.Header.Set("Content-Type", "application/json")
	return request
}

// Each page of a large line, in its first season and in later ones, as it is read for the first time after a write; what is asked
// of all seasons stands apart. OLDBURROW_SETS gives another number of sets than 60.
func BenchmarkSeasons(b *testing.B) {
	sets := 60
	if n, err := strconv.Atoi(os.Getenv("OLDBURROW_SETS")); err == nil {
		sets = n
	}
	for _, seasons := range []int{1, 2, 5, 10} {
		x, line := large(b, demo.Large{Seasons: seasons, Sets: sets})
		h := x.Handler()
		for _, page := range []string{"", "/ground", "/book", "/rack", "/shelf", "/kit/2026-12-05", "/weather", "/apart", "/book?season=all", "/apart?season=all", "/ground?season=all"} {
			b.Run(fmt.Sprintf("%d/line%s", seasons, page), func(b *testing.B) {
				size := 0
				for b.Loop() {
					b.StopTimer()
					asked := store.Asked{ID: ulid.Make().String()} // whatever is remembered is of before this write
					if _, err := x.Store.Write(asked, demo.Start(), func(*store.Tx) (any, error) { return nil, nil }); err != nil {
						b.Fatal(err)
					}
					b.StartTimer()
					answer := httptest.NewRecorder()
					h.ServeHTTP(answer, atTheTable("GET", "/lines/"+line+page, ""))
					if size = answer.Body.Len(); answer.Code != 200 {
						b.Fatalf("%d %s", answer.Code, answer.Body)
					}
				}
				b.ReportMetric(float64(size)/1000, "kB")
			})
		}
	}
}

// The open season as a phone takes it along, the first time: how long it takes, and how much it is, also packed; before is what of it is left by
// earlier seasons.
func BenchmarkBundle(b *testing.B) {
	for _, seasons := range []int{1, 10} {
		x, line := large(b, demo.Large{Seasons: seasons, Sets: 60})
		h := x.Handler()
		b.Run(fmt.Sprint(seasons), func(b *testing.B) {
			var plain []byte
			for b.Loop() {
				answer := httptest.NewRecorder()
				if h.ServeHTTP(answer, atTheTable("POST", "/lines/"+line+"/bundle", "{}")); answer.Code != 200 {
					b.Fatalf("%d %s", answer.Code, answer.Body)
				}
				plain = answer.Body.Bytes()
			}
			b.ReportMetric(float64(len(plain))/1000, "kB")
			b.ReportMetric(float64(len(packedBy(b, plain)))/1000, "kB-packed")
			before, _ := leftBefore(b, plain)
			b.ReportMetric(float64(before)/1000, "kB-before")
		})
	}
}

// Ten seasons out into an archive, and in again into a new file.
func BenchmarkArchive(b *testing.B) {
	x, _ := large(b, demo.Large{Seasons: 10, Sets: 60})
	out := filepath.Join(b.TempDir(), "all.zip")
	quiet := func(int, int) {}
	b.Run("out", func(b *testing.B) {
		for b.Loop() {
			os.Remove(out)
			if _, err := archive.SaveAs(b.Context(), x.Store, out, archive.Ask{At: demo.Start()}, quiet); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("in", func(b *testing.B) {
		for b.Loop() {
			s, err := store.Open(filepath.Join(b.TempDir(), ulid.Make().String()+".db"))
			if err != nil {
				b.Fatal(err)
			}
			took, err := takeFile(b.Context(), s, out)
			if err != nil || took.Records < 10000 {
				b.Fatal(took, err)
			}
			b.ReportMetric(float64(took.Records), "records")
			s.Close()
		}
	})
}

func takeFile(ctx context.Context, s *store.Store, path string) (archive.TakenIn, error) {
	f, err := os.Open(path)
	if err != nil {
		return archive.TakenIn{}, err
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return archive.TakenIn{}, err
	}
	a, err := archive.Open(f, info.Size(), store.FormNumber())
	if err != nil {
		return archive.TakenIn{}, err
	}
	return archive.Take(ctx, s, a, store.Asked{ID: ulid.Make().String()}, demo.Start(), false, func(int, int) {})
}

// All that is worth doing over sixty sets and their free spots, weighed from the start: the first time in a process no feet are kept, after that they are.
func BenchmarkWeighed(b *testing.B) {
	x, lineID := large(b, demo.Large{Seasons: 1, Sets: 60})
	for b.Loop() {
		b.StopTimer()
		var keys []string
		err := x.Store.Read(b.Context(), func(v store.View) error {
			kept, err := v.Weighed(lineID)
			for _, one := range kept {
				keys = append(keys, one.Key)
			}
			return err
		})
		if err != nil {
			b.Fatal(err)
		}
		if err := x.Store.Keep(func(t *store.Tx) error { return t.KeepWeighed(lineID, nil, keys) }); err != nil {
			b.Fatal(err)
		}
		b.StartTimer()
		if err := weigh(b.Context(), x.Store, lineID, x.Clock, x.with()); err != nil {
			b.Fatal(err)
		}
	}
}
