package e2e

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"math/rand/v2"
	"net/http"
	"strings"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/exchange"
)

// says tells the scripted program how to answer use this correction.
func (s *scripted) says(change func(s *scripted)) {
	s.lock.Lock()
	defer s.lock.Unlock()
	s.got = nil
	change(s)
}

// Something else at the program's address is not listened to, whatever it answers: nothing counts as taken, nothing is set aside, nothing of it
// is read.
func TestSomethingElseAnswers(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	s.says(func(s *scripted) { s.strange = true })
	if got := w.do(`async () => [(await L.act('/lines/L/visits/A', { n: 1 }, 'a look')).state, await L.get('/lines/L').catch((e) => e.message)]`); got != `["kept","The program does not answer."]` {
		t.Errorf("it is %s", got)
	}
	if got := w.do(`() => L.keptNow().map((k) => [k.takenAt, k.refused])`); got != `[[null,null]]` {
		t.Errorf("kept as %s", got)
	}
	s.says(func(s *scripted) { s.strange = false })
	w.until("it is taken by the program", func() bool { return s.taken() == `/lines/L/visits/A {"n":1}` })

	// The program with another file open answers for that, and is not listened to either.
	w.do(`() => L.setFile('one')`)
	s.says(func(s *scripted) { s.file = "two" })
	if got := w.do(`async () => [(await L.act('/lines/L/visits/B', { n: 2 }, 'a look')).state, await L.get('/lines/L').catch((e) => e.message)]`); got != `["kept","The program does not answer."]` {
		t.Errorf("by another file it is %s", got)
	}
	for _, status := range []int{401, 403, 421, 429, 500, 502, 503} {
		s.says(func(s *scripted) {
			s.file = "one"
			s.answer = func(string, map[string]any) (int, any) { return problem(status) }
		})
		if got := w.do(`async () => { await L.act('/lines/L/visits/C', {}, 'a look'); return L.keptNow().filter((k) => k.refused).length; }`); got != `0` {
			t.Errorf("by a %d %s are set aside", status, got)
		}
	}
}

// What was refused holds what follows it in its set, and what names it; everything else goes on. Sent again it all goes in its order.
func TestWhatFollowsWaits(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	s.says(func(s *scripted) {
		s.answer = func(path string, body map[string]any) (int, any) {
			if strings.Contains(path, "/bad") {
				return problem(http.StatusUnprocessableEntity)
			}
			return accept(path, body)
		}
	})
	w.do(`async () => {
		const look = (id, set, make) => L.act('/lines/L/visits/' + id, { makeId: make }, id, { set });
		await look('bad1', 'S1', 'M1');
		await look('good', 'S2', 'M2');
		await L.act('/lines/L/makes/N', { setId: 'S1', designId: 'D' }, 'N');
		await look('after', 'S1', 'N');
		await L.act('/lines/L/makes/bad2', { setId: 'S3', designId: 'D3' }, 'bad2');
		await look('named', '', 'bad2');
		await L.act('/lines/L/visits/bad1/undo', {}, 'undo');
		await look('other', 'S4', 'M4');
		await L.act('/lines/L/spots/edited', { version: 3, setId: 'S4' }, 'edit');
	}`)
	taken := func() string {
		var paths []string
		for _, one := range strings.Split(s.taken(), "\n") {
			path, _, _ := strings.Cut(one, " ")
			paths = append(paths, strings.TrimPrefix(path, "/lines/L/"))
		}
		return strings.Join(paths, " ")
	}
	if got := taken(); got != "visits/good visits/other spots/edited" {
		t.Errorf("taken: %s", got)
	}
	w.until("the rest waits, and that is said", func() bool {
		return w.do(`() => L.keptNow().filter((k) => k.takenAt === null && k.refused === null).map((k) => k.what + (k.stalled ? '' : ' unsaid'))`) == `["N","after","named","undo"]`
	})
	s.says(func(s *scripted) { s.answer = accept })
	w.do(`() => L.sendAllAgain()`)
	w.until("all is taken in its order", func() bool {
		return taken() == "visits/bad1 makes/N visits/after makes/bad2 visits/named visits/bad1/undo"
	})
	// What could not be taken back stands, and holds nothing; nor does what a form was refused and still holds.
	s.says(func(s *scripted) {
		s.answer = func(path string, body map[string]any) (int, any) {
			if strings.HasSuffix(path, "/undo") || body["wrong"] == true {
				return problem(http.StatusUnprocessableEntity)
			}
			return accept(path, body)
		}
	})
	w.do(`async () => {
		await L.act('/lines/L/makes/K/undo', {}, 'taking back', { set: 'S9' });
		await L.write('/lines/L/visits/W1', { makeId: 'K', wrong: true }, 'a row', { set: 'S9' }).catch(() => undefined);
		await L.write('/lines/L/visits/W2', { makeId: 'K' }, 'the row again', { set: 'S9' });
	}`)
	if got := taken(); got != "visits/W2" {
		t.Errorf("after what was refused: %s", got)
	}
	w.do(`() => L.dropPath('/lines/L/makes/K/undo')`)
	// Whoever lets go of an act lets go of what took it back.
	s.says(func(s *scripted) { s.answer = func(string, map[string]any) (int, any) { return problem(422) } })
	w.do(`async () => {
		await L.act('/lines/L/visits/Z', { makeId: 'M' }, 'Z', { set: 'S' });
		await L.act('/lines/L/visits/Z/undo', {}, 'undo', { set: 'S' });
	}`)
	w.until("it is set aside", func() bool {
		return w.do(`() => L.keptNow().some((k) => k.what === 'Z' && k.refused !== null)`) == "true"
	})
	w.do(`() => L.drop(L.keptNow().find((k) => k.what === 'Z').mutation)`)
	w.until("neither is left", func() bool { return w.do(`() => L.keptNow().filter((k) => k.takenAt === null).length`) == "0" })
}

// A photo that the program will not take stays aside with its reason, and its look goes without it; one that it cannot take does not hold the
// look for ever.
func TestALookGoesWithoutARefusedPhoto(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	const photo, look = `'/lines/L/photos/P'`, `'/lines/L/visits/V'`
	for _, status := range []int{http.StatusUnprocessableEntity, http.StatusInternalServerError} {
		s.says(func(s *scripted) {
			s.answer = func(path string, body map[string]any) (int, any) {
				if strings.Contains(path, "/photos/") {
					return problem(status)
				}
				return accept(path, body)
			}
		})
		w.do(`() => {
			void L.act(` + photo + `, new Blob(['x'], { type: 'image/jpeg' }), 'a photo');
			void L.act(` + look + `, { makeId: 'M', photoId: 'P' }, 'a look', { set: 'S' });
		}`)
		w.until("the look is taken", func() bool { return s.taken() == `/lines/L/visits/V {"makeId":"M","photoId":null}` })
		want := fmt.Sprintf(`[["a photo",%d,true]]`, status)
		w.until("the photo alone is left, with its reason", func() bool {
			return w.do(`() => L.keptNow().filter((k) => k.takenAt === null).map((k) => [k.what, k.refused?.status, k.body instanceof Blob])`) == want
		})
		w.do(`() => L.drop(L.keptNow().find((k) => k.refused).mutation)`)
		w.do(`() => L.dropPath(` + look + `)`)
	}
}

// Photos are made as small as the program keeps them before they are kept: upright, with their place and time, however grainy.
func TestPhotosAreShrunkBeforeTheyAreKept(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	rng := rand.New(rand.NewPCG(5, 6))
	for name, c := range map[string]struct {
		width, height int
		grain         bool
	}{"large": {4000, 3000, false}, "grainy": {2200, 1600, true}, "small": {300, 200, false}} {
		picture := image.NewRGBA(image.Rect(0, 0, c.width, c.height))
		for i := range picture.Pix {
			if picture.Pix[i] = 90; c.grain {
				picture.Pix[i] = uint8(rng.Uint32())
			}
		}
		picture.Set(0, 0, color.White)
		var raw bytes.Buffer
		if err := jpeg.Encode(&raw, picture, &jpeg.Options{Quality: 95}); err != nil {
			t.Fatal(err)
		}
		// Held on its side, on 2 November 2026.
		exif := "\xff\xe1\x00\x68Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x02\x01\x12\x00\x03\x00\x00\x00\x01\x00\x06\x00\x00\x87\x69\x00\x04\x00\x00\x00\x01\x00\x00\x00\x26\x00\x00\x00\x00" +
			"\x00\x01\x90\x03\x00\x02\x00\x00\x00\x14\x00\x00\x00\x38\x00\x00\x00\x002026:11:02 14:30:00\x00" + strings.Repeat("\x00", 20)
		exif = exif[:2] + string([]byte{byte((len(exif) - 2) >> 8), byte(len(exif) - 2)}) + exif[4:]
		sent := raw.String()[:2] + exif + raw.String()[2:]
		small := w.do(`async (text) => {
			const raw = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
			const blob = await L.shrunk(new Blob([raw], { type: 'image/jpeg' }));
			const bytes = new Uint8Array(await blob.arrayBuffer());
			let out = '';
			for (let i = 0; i < bytes.length; i += 8192) out += String.fromCharCode(...bytes.slice(i, i + 8192));
			return btoa(out);
		}`, base64.StdEncoding.EncodeToString([]byte(sent)))
		var text string
		if err := json.Unmarshal([]byte(small), &text); err != nil {
			t.Fatal(err)
		}
		got, err := base64.StdEncoding.DecodeString(text)
		if err != nil {
			t.Fatal(err)
		}
		config, _, err := image.DecodeConfig(bytes.NewReader(got))
		if err != nil || len(got) > 400<<10 || max(config.Width, config.Height) > 1600 {
			t.Errorf("%s: %d bytes, %d by %d, %v", name, len(got), config.Width, config.Height, err)
		}
		if config.Height <= config.Width {
			t.Errorf("%s is not upright: %d by %d", name, config.Width, config.Height)
		}
		kept, err := exchange.ReadPhoto(got, time.UTC)
		if err != nil || kept.TakenAt == nil || kept.TakenAt.Day() != 2 || kept.Height <= kept.Width {
			t.Errorf("%s: the program reads %d by %d, taken %v, %v", name, kept.Width, kept.Height, kept.TakenAt, err)
		}
	}
	if got := w.do(`() => L.shrunk(new Blob(['no picture'])).catch((e) => e.message)`); !strings.Contains(got, "no picture that can be read here") {
		t.Errorf("no picture: %s", got)
	}
}

// A file that has taken fewer writes than were seen is an older copy: what it lacks is known here, and goes again as it was, oldest first;
// what was only edited is told by its words. It may be left, too.
func TestAnOlderCopyIsNoticed(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	s.says(func(s *scripted) { s.file = "one/1" })
	w.do(`() => L.setFile('one/1')`)
	w.do(`async () => {
		await L.act('/lines/L/visits/A', { n: 1 }, 'a');
		await L.act('/lines/L/visits/B', { n: 2 }, 'b');
		await L.write('/lines/L/spots/S', { n: 3, version: 0 }, 'a new spot');
		await L.write('/lines/L/spots/S', { n: 4, version: 1 }, 'a spot changed');
		await L.act('/lines/L/visits/C', { n: 5 }, 'c');
		await L.putAway(Date.now() + 1000);
	}`)
	if got := w.do(`() => [L.keptNow().length, L.olderNow()]`); got != `[0,null]` {
		t.Errorf("lying over what was read, and older: %s", got)
	}
	s.says(func(s *scripted) { s.writes, s.done = 1, map[string]any{} })
	w.do(`() => L.get('/lines/L')`)
	lost := func() string { return w.do(`async () => [L.olderNow(), (await L.lostNow()).map((k) => k.what)]`) }
	w.until("it is noticed", func() bool { return lost() == `[1,["b","a new spot","a spot changed","c"]]` })
	w.do(`async () => { await L.sendLost((await L.lostNow()).filter((k) => !(k.body.version > 0))); }`)
	w.until("what it lacks is taken again", func() bool {
		return s.taken() == "/lines/L {}\n/lines/L/visits/B {\"n\":2}\n/lines/L/spots/S {\"n\":3,\"version\":0}\n/lines/L/visits/C {\"n\":5}" || strings.HasSuffix(s.taken(), "/lines/L/visits/B {\"n\":2}\n/lines/L/spots/S {\"n\":3,\"version\":0}\n/lines/L/visits/C {\"n\":5}")
	})
	if got := lost(); !strings.HasSuffix(got, `["a spot changed"]]`) {
		t.Errorf("left are %s", got)
	}
	w.do(`async () => { await L.leaveLost(); L.settled(); }`)
	if got := lost(); got != `[null,[]]` {
		t.Errorf("left alone: %s", got)
	}
	// Answers that overtake each other make no file older.
	w.do(`async () => { await Promise.all([...Array(12).keys()].map((n) => n % 2 ? L.get('/lines/L') : L.act('/lines/L/visits/X' + n, { n }, 'x'))); }`)
	if got := lost(); got != `[null,[]]` {
		t.Errorf("after answers that overtook each other: %s", got)
	}
	// What was entered is saved whole, also what is no text.
	s.says(func(s *scripted) { s.strange = true })
	w.do(`async () => { await L.act('/lines/L/photos/P', new Blob(['abc'], { type: 'image/jpeg' }), 'a photo'); await L.act('/lines/L/visits/Q', { note: 'seen' }, 'q'); }`)
	var saved struct {
		NotSent []struct {
			What string
			Body any
		}
	}
	var text string
	if err := json.Unmarshal([]byte(w.do(`() => L.unsent()`)), &text); err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal([]byte(text), &saved); err != nil || len(saved.NotSent) != 2 || saved.NotSent[0].Body != "data:image/jpeg;base64,YWJj" || saved.NotSent[1].What != "q" {
		t.Errorf("saved: %+v, %v", saved, err)
	}
}

// The browser doubts the looks that the program would not count, and no others: both are held to the same cases.
func TestDoubtsAreThoseOfTheProgram(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	var cases []struct {
		Look  json.RawMessage
		Slots []int
		Away  bool
		Doubt string
	}
	table(t, "doubts.json", &cases, 10)
	for _, c := range cases {
		if got := w.do(`(look, slots, away) => L.doubtOf(look, slots, away)`, c.Look, c.Slots, c.Away); got != `"`+c.Doubt+`"` {
			t.Errorf("%s of %v: %s, want %s", c.Look, c.Slots, got, c.Doubt)
		}
	}
	for _, why := range line.Whys {
		if got := w.do(`(why) => L.whys[why] ?? null`, why); got == "null" {
			t.Errorf("%s has no words", why)
		}
	}
	if got := w.do(`() => L.uncountedWords({ why: 'ahead', visit: { at: '2026-12-04T13:40:00Z', finding: 'quiet' } }, '2026-12-04T12:50:00Z', 'America/Denver')`); got != `"answered 06:40 by the phone; the program’s clock says 05:50"` {
		t.Errorf("ahead: %s", got)
	}
}

// One browser knows two files: what was entered for one goes to no other, and another file is no older copy. A file that was restored is one,
// under its new name; what it lacks and what was kept for it before is sent there when somebody says so.
func TestTwoFilesInOneBrowser(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	s.says(func(s *scripted) { s.file = "one/1" })
	w.do(`() => L.setFile('one/1')`)
	w.do(`async () => { await L.act('/lines/L/visits/A', { n: 1 }, 'a'); await L.act('/lines/L/visits/B', { n: 2 }, 'b'); }`)
	s.says(func(s *scripted) { s.strange = true })
	w.do(`() => L.act('/lines/L/visits/C', { n: 3 }, 'c')`)

	s.says(func(s *scripted) { s.strange, s.file, s.writes = false, "two/1", 0 })
	w.do(`async () => { await L.get('/about'); L.setFile('two/1'); await L.flush(); await L.act('/lines/M/visits/D', { n: 4 }, 'd'); }`)
	state := func() string {
		return w.do(`async () => [L.olderNow(), (await L.lostNow()).map((k) => k.what), L.keptNow().filter((k) => k.takenAt === null).map((k) => k.what + ' for ' + k.file)]`)
	}
	if got := state(); s.taken() != "/about {}\n/lines/M/visits/D {\"n\":4}" && s.taken() != "/about \n/lines/M/visits/D {\"n\":4}" || got != `[null,[],["c for one/1"]]` {
		t.Errorf("with the other file open %s was taken; %s", s.taken(), got)
	}

	s.says(func(s *scripted) { s.file, s.writes, s.done = "one/2", 1, map[string]any{} }) // as it was after A
	w.do(`async () => { L.setFile('one/1'); await L.get('/about'); L.setFile('one/2'); await L.flush(); }`)
	w.until("it is noticed", func() bool { return state() == `[1,["b"],["c for one/1"]]` })
	if strings.Contains(s.taken(), "/visits/") {
		t.Errorf("it was sent before anybody said so: %s", s.taken())
	}
	w.do(`async () => { await L.sendLost(await L.lostNow()); await L.sendHere(L.keptNow().filter((k) => k.file === 'one/1')); L.settled(); }`)
	w.until("both are taken", func() bool {
		return strings.Contains(s.taken(), `/lines/L/visits/B {"n":2}`) && strings.Contains(s.taken(), `/lines/L/visits/C {"n":3}`)
	})
	w.until("nothing is left", func() bool { return state() == `[null,[],[]]` })
}
