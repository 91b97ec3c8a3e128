package archive_test

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"oldburrow/archive"
	"oldburrow/core/line"
	"oldburrow/store"
)

// entries are the files of an archive, by name.
func entries(t testing.TB, raw []byte) map[string][]byte {
	t.Helper()
	from, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		t.Fatal(err)
	}
	found := map[string][]byte{}
	for _, f := range from.File {
		r, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		if found[f.Name], err = io.ReadAll(r); err != nil {
			t.Fatal(err)
		}
	}
	return found
}

const manifest = "manifest.json"

// packed writes files as an archive. What it says of itself fits them, but for what say changes.
func packed(t testing.TB, files map[string][]byte, say func(*archive.Manifest)) []byte {
	t.Helper()
	var m archive.Manifest
	if err := json.Unmarshal(files[manifest], &m); err != nil {
		t.Fatal(err)
	}
	m.Files = nil
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	put := func(name string, content []byte) {
		f, err := w.Create(name)
		if err == nil {
			_, err = f.Write(content)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(files)) {
		if name == manifest {
			continue
		}
		content := files[name]
		put(name, content)
		sum := sha256.Sum256(content)
		e := archive.Entry{Name: name, Bytes: int64(len(content)), SHA256: hex.EncodeToString(sum[:])}
		if strings.HasSuffix(name, ".jsonl") {
			e.Records = bytes.Count(content, []byte("\n"))
		}
		m.Files = append(m.Files, e)
	}
	if say != nil {
		say(&m)
	}
	said, err := json.Marshal(m)
	if err != nil {
		t.Fatal(err)
	}
	put(manifest, said)
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// holds is everything that stands in a file.
func holds(t testing.TB, path string) string {
	var all strings.Builder
	for _, table := range tables(t, path) {
		fmt.Fprintln(&all, table, rows(t, path, table))
	}
	return all.String()
}

// noise is text that cannot be packed.
func noise(n int) []byte {
	rng := rand.New(rand.NewPCG(1, 1))
	raw := make([]byte, n)
	for i := range raw {
		raw[i] = byte('a' + rng.IntN(26))
	}
	return raw
}

// An archive whose files are whole and whose words are not is refused with what is wrong, and nothing is changed.
func TestWhatCannotBeTakenIn(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	s, _ := full(t)
	good := entries(t, saved(t, s, archive.Ask{}))
	into, path := fresh(t)
	before := holds(t, path)
	replaced := func(name, old, new string) func(map[string][]byte) {
		return func(files map[string][]byte) {
			if !bytes.Contains(files[name], []byte(old)) {
				t.Fatalf("%s does not say %s", name, old)
			}
			files[name] = bytes.Replace(files[name], []byte(old), []byte(new), 1)
		}
	}
	firstID := func(name string) string {
		var x struct{ ID string }
		first, _, _ := bytes.Cut(good[name], []byte("\n"))
		if err := json.Unmarshal(first, &x); err != nil {
			t.Fatal(err)
		}
		return x.ID
	}
	spot, design := firstID("spots.jsonl"), firstID("designs.jsonl")
	line1, _, _ := bytes.Cut(good["spots.jsonl"], []byte("\n"))
	for says, spoil := range map[string]func(map[string][]byte){
		"has a field too many or too few": replaced("spots.jsonl", `"swirls":false,`, ``),
		"is not written as it has to be":  replaced("spots.jsonl", `"swirls":false,`, `"swirls":false,"colour":"red",`),
		"line 1 of lines.jsonl (line)":    replaced("lines.jsonl", `"zone":"`, `"zone":"Nowhere/`),
		"has no version":                  replaced("lines.jsonl", `"version":1`, `"version":0`),
		"a spot names a property":         replaced("spots.jsonl", `"propertyId":"0`, `"propertyId":"1`),
		"a make names a design": func(f map[string][]byte) {
			f["makes.jsonl"] = bytes.Replace(f["makes.jsonl"], []byte(design), []byte(spot), 1)
		},
		"set is in it twice": replaced("sets.jsonl", `"number":24`, `"number":23`),
		"spot is in it twice": func(f map[string][]byte) {
			f["spots.jsonl"] = append(slices.Clone(line1), append([]byte("\n"), f["spots.jsonl"]...)...)
		},
		"not written as text": replaced("properties.jsonl", `Alder`, "Al\xffer"),
		"or too deep":         replaced("properties.jsonl", `"Alder Slough hayfield"`, strings.Repeat("[", 50)+strings.Repeat("]", 50)),
		"cut off or too long": func(f map[string][]byte) { f["lines.jsonl"] = bytes.TrimSuffix(f["lines.jsonl"], []byte("\n")) },
		"line 2 of lines.jsonl is cut off": func(f map[string][]byte) {
			f["lines.jsonl"] = append(slices.Clone(f["lines.jsonl"]), noise(2<<20)...)
		},
		"makes.jsonl is missing": func(f map[string][]byte) { delete(f, "makes.jsonl") },
		"it holds others.jsonl":  func(f map[string][]byte) { f["others.jsonl"] = nil },
		"0 pictures for 1 photos": func(f map[string][]byte) {
			maps.DeleteFunc(f, func(name string, _ []byte) bool { return strings.HasPrefix(name, "photos/") })
		},
		"is not the picture that it says":  replaced("photos.jsonl", `"width":40`, `"width":41`),
		"known.json cannot be read":        func(f map[string][]byte) { f["known.json"] = []byte(`{"x":"y"}`) },
		"a file in it is called":           func(f map[string][]byte) { f["../evil.jsonl"] = nil },
		"is called \"photos/x.jpg\"":       func(f map[string][]byte) { f["photos/x.jpg"] = nil },
		"unpacks to more than it can hold": func(f map[string][]byte) { f["known.json"] = bytes.Repeat([]byte(" "), 30<<20) },
		"holds no record": func(f map[string][]byte) {
			for name := range f {
				if strings.HasSuffix(name, ".jsonl") {
					f[name] = nil
				}
			}
			maps.DeleteFunc(f, func(name string, _ []byte) bool { return strings.HasPrefix(name, "photos/") })
		},
	} {
		files := maps.Clone(good)
		spoil(files)
		if _, err := take(t, into, packed(t, files, nil)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %s", err, says)
		}
	}
	for says, say := range map[string]func(*archive.Manifest){
		"newer program":            func(m *archive.Manifest) { m.Form++ },
		"was written by a newer":   func(m *archive.Manifest) { m.Schema++ },
		"cannot be read":           func(m *archive.Manifest) { m.Form = 12 },
		"is not as it was written": func(m *archive.Manifest) { m.Files[3].SHA256 = strings.Repeat("0", 64) },
		"is not in it as it says":  func(m *archive.Manifest) { m.Files[3].Bytes++ },
		"more in it than it says":  func(m *archive.Manifest) { m.Files = m.Files[1:] },
		"records, not": func(m *archive.Manifest) {
			m.Files[slices.IndexFunc(m.Files, func(e archive.Entry) bool { return e.Name == "visits.jsonl" })].Records++
		},
		"lines.jsonl is not in it": func(m *archive.Manifest) {
			m.Files = append(m.Files, m.Files[slices.IndexFunc(m.Files, func(e archive.Entry) bool { return e.Name == "lines.jsonl" })])
		},
		"manifest.json is not in i": func(m *archive.Manifest) { m.Files[0].Name = manifest },
	} {
		if _, err := take(t, into, packed(t, good, say)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %s", err, says)
		}
	}
	if after := holds(t, path); after != before {
		t.Error("the file was changed")
	}
	// As it was it is taken in.
	if _, err := take(t, into, packed(t, good, nil)); err != nil {
		t.Error(err)
	}
}

// Entries that no archive of ours has: in a form that is not read, twice, a folder, a link, locked.
func TestEntriesThatAreNone(t *testing.T) {
	for says, h := range map[string][]zip.FileHeader{
		"is in it twice":     {{Name: "known.json"}, {Name: "known.json"}},
		"is a link":          {{Name: "known.json", ExternalAttrs: 0o120777 << 16, CreatorVersion: 3 << 8}},
		"or is locked":       {{Name: "known.json", Flags: 1}},
		"called \"photos/\"": {{Name: "photos/"}},
		"say what it holds":  {{Name: "known.json"}},
	} {
		var raw bytes.Buffer
		w := zip.NewWriter(&raw)
		for _, one := range h {
			if _, err := w.CreateHeader(&one); err != nil {
				t.Fatal(err)
			}
		}
		if err := w.Close(); err != nil {
			t.Fatal(err)
		}
		if _, err := archive.Open(bytes.NewReader(raw.Bytes()), int64(raw.Len()), store.FormNumber()); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %s", err, says)
		}
	}
}

// Archives that are cut, or in which bits are turned, are refused or are as they were; nothing of them is kept.
func TestDamagedArchives(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	n := 50
	if os.Getenv("OLDBURROW_LONG") != "" {
		n = 1000
	}
	s, _ := full(t)
	good := saved(t, s, archive.Ask{})
	into, path := fresh(t)
	before := holds(t, path)
	rng := rand.New(rand.NewPCG(26, 11))
	refused := 0
	for i := range n {
		raw := slices.Clone(good)
		if i%3 == 0 {
			raw = raw[:rng.IntN(len(raw))]
		} else {
			for range 1 + rng.IntN(4) {
				raw[rng.IntN(len(raw))] ^= 1 << rng.IntN(8)
			}
		}
		a, err := archive.Open(bytes.NewReader(raw), int64(len(raw)), store.FormNumber())
		if err == nil {
			_, err = archive.Take(t.Context(), into, a, store.Asked{ID: id()}, at, true, quiet)
		}
		if err == nil {
			continue // what was turned says nothing: a time of an entry
		}
		refused++
		if strings.Contains(err.Error(), "sql") || strings.Contains(err.Error(), "zip:") || strings.Contains(err.Error(), "json:") {
			t.Errorf("said in the words of no trapper: %v", err)
		}
	}
	if refused < n*9/10 {
		t.Errorf("%d of %d were refused", refused, n)
	}
	if holds(t, path) != before {
		t.Error("the file was changed")
	}
	t.Logf("%d of %d were refused", refused, n)
}

func FuzzOpen(f *testing.F) {
	s, _ := full(f)
	good := saved(f, s, archive.Ask{})
	f.Add(good)
	f.Add(good[:len(good)/2])
	f.Fuzz(func(t *testing.T, raw []byte) {
		_, _ = archive.Open(bytes.NewReader(raw), int64(len(raw)), store.FormNumber())
	})
}

// What a record names has to be of its own line.
func TestARecordOfAnotherLine(t *testing.T) {
	s, _ := fresh(t)
	var lands []string
	write(t, s, func(tx *store.Tx) error {
		for _, name := range []string{"Upper", "Lower"} {
			l := line.Line{ID: id(), Name: name, Zone: "UTC"}
			p := line.Property{ID: id(), LineID: l.ID, Name: name + " land"}
			lands = append(lands, p.ID)
			if _, err := tx.PutLine(l); err != nil {
				return err
			}
			if _, err := tx.PutProperty(p); err != nil {
				return err
			}
			if _, err := tx.PutSpot(line.Spot{ID: id(), LineID: l.ID, PropertyID: p.ID, Name: name + " spot"}); err != nil {
				return err
			}
		}
		return nil
	})
	files := entries(t, saved(t, s, archive.Ask{}))
	into, path := fresh(t)
	before := holds(t, path)
	files["spots.jsonl"] = bytes.Replace(files["spots.jsonl"], []byte(lands[0]), []byte(lands[1]), 1)
	if _, err := take(t, into, packed(t, files, nil)); err == nil || !strings.Contains(err.Error(), "a spot names a property that is not there, or that is another line's") {
		t.Errorf("%v", err)
	}
	if holds(t, path) != before {
		t.Error("the file was changed")
	}
}
