package nights

import (
	"context"
	"math"
	"reflect"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/odds"
	"oldburrow/core/schools"
)

// asked is a coyote's set where one passes every fifth night and nobody looked for anything else.
func asked(t *testing.T, pattern string, change func(*odds.Question)) odds.Question {
	t.Helper()
	l, err := layout.New(pattern, layout.Begin{Target: kind(t, "coyote"), Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	q := odds.Question{
		Layout: l, Target: kind(t, "coyote"), Animals: animal.Reference, Schools: schools.Usual(), Visits: 1000, Hold: new(.97),
		Circumstances: &odds.Circumstances{Sign: odds.AgeDays3, Signs: 2, WaysMeet: 1, Coverage: new(.5), Night: 9, Site: layout.Site{Day: "2026-12-04"}},
	}
	change(&q)
	return q
}

func next(t *testing.T, q odds.Question) Next {
	t.Helper()
	found, err := NextOf(t.Context(), q)
	if err != nil {
		t.Fatal(err)
	}
	return found
}

func TestTheNextNights(t *testing.T) {
	same := func(*odds.Question) {}
	q := asked(t, "hole", same)
	usual := next(t, q)
	if !reflect.DeepEqual(usual, next(t, q)) || math.Abs(usual.None+usual.One+usual.More-1) > 1e-9 || usual.First == nil || len(usual.Mornings) != 5 || len(usual.Mornings[0]) != 14 {
		t.Errorf("%+v", usual)
	}
	// What passes is as doubtful as a line without a record: of a mean of some, none come as often as the gamma has it.
	alone := q
	alone.Animals = animal.Animals{q.Target}
	comers, err := odds.ComersTo(t.Context(), alone, NextNights)
	if err != nil {
		t.Fatal(err)
	}
	mean := 0.0
	for n := range NextNights {
		c := comers[0]
		c.Commits = c.CommitsOn(n, 9+n, false)
		mean += chance(c)
	}
	if want, got := math.Pow(1+mean/2, -2), next(t, alone); math.Abs(got.None-want) > .03 || got.Others != 0 {
		t.Errorf("none in %.3f, want %.3f of a mean of %.2f; others %g", got.None, want, mean, got.Others)
	}
	for name, c := range map[string]struct {
		change func(*odds.Question)
		more   func(changed Next) bool
	}{
		"one passes more often": {func(q *odds.Question) { q.Circumstances.Signs = 9 }, func(n Next) bool { return n.None < usual.None-.03 && n.More > usual.More }},
		"it still settles":      {func(q *odds.Question) { q.Circumstances.Night = 1 }, func(n Next) bool { return n.None > usual.None+.01 && *n.First > *usual.First }},
		"it has caught before":  {func(q *odds.Question) { q.Circumstances.Night, q.Circumstances.CaughtBefore = 1, true }, func(n Next) bool { return n.None <= usual.None && n.None > usual.None-.03 }},
		"a raccoon about": {with("raccoon"), func(n Next) bool {
			return n.Others > usual.Others+.05 && n.Spoilt > usual.Spoilt+.1 && n.Pets <= usual.Pets
		}},
		"a dog about":    {with("dog"), func(n Next) bool { return n.Pets > usual.Pets+.05 && n.Others > usual.Others+.05 }},
		"it holds badly": {func(q *odds.Question) { q.Hold = new(.5) }, func(n Next) bool { return n.Lost > 2*usual.Lost && n.None > usual.None }},
		"on a loose drag": {func(q *odds.Question) {
			q.Layout.Anchors[0].Kind, q.Layout.Anchors[0].Tied = layout.DragKinds[0], false
		}, func(n Next) bool { return n.Lost > usual.Lost && n.None >= usual.None }},
		"in snow":          {func(q *odds.Question) { q.Underfoot.Snow = true }, func(n Next) bool { return n.Quiet < usual.Quiet-.03 }},
		"on frozen ground": {func(q *odds.Question) { q.Underfoot.Frozen = true }, func(n Next) bool { return n.Quiet > usual.Quiet+.03 }},
	} {
		if changed := next(t, asked(t, "hole", c.change)); !c.more(changed) {
			t.Errorf("%s: %+v, against %+v", name, changed, usual)
		}
	}
	young := func(q *odds.Question) { q.Circumstances.Night = 1 }
	if old, new := next(t, asked(t, "trail", same)), next(t, asked(t, "trail", young)); old.None != new.None {
		t.Errorf("a blind set settles: %g and %g", old.None, new.None)
	}
	if _, err := NextOf(t.Context(), asked(t, "cable_crawl", same)); err == nil {
		t.Error("a loop is drawn")
	}
	ended, end := context.WithCancel(t.Context())
	end()
	if _, err := NextOf(ended, q); err == nil {
		t.Error("nobody waits, and it goes on")
	}
}

// with has an animal about, with much fresh sign.
func with(key string) func(*odds.Question) {
	return func(q *odds.Question) {
		q.Circumstances.Others = map[string]odds.Presence{key: {Sign: odds.AgeToday, Signs: 9, About: new(1.0)}}
	}
}
