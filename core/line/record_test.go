package line

import (
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"
	"time"

	"oldburrow/core/seeds"
	"oldburrow/core/tally"
)

// noted is what several people's devices noted of a few sets, in some order of arrival.
type noted struct {
	makes  []Make
	pulls  []Pull
	visits []Visit
}

// draw makes up a record: makes, pulls and looks at random times, some of them before what they speak of or far off.
func draw(rng *rand.Rand) noted {
	var n noted
	at := func() time.Time { return day(1, 0).Add(time.Duration(rng.IntN(20*24)) * time.Hour) }
	for i := range 1 + rng.IntN(8) {
		m := Make{Layout: oneTrap, ID: fmt.Sprintf("make%d", i), SetID: fmt.Sprintf("set%d", rng.IntN(3)), BuiltAt: at()}
		n.makes = append(n.makes, m)
		for k := range rng.IntN(4) {
			v := Visit{ID: fmt.Sprintf("visit%d.%d", i, k), MakeID: m.ID, At: at(), Found: Found{Finding: Findings[rng.IntN(len(Findings))]}}
			if rng.IntN(10) == 0 {
				v.At = v.At.AddDate(4, 0, 0)
			}
			n.visits = append(n.visits, v)
		}
		for k := range rng.IntN(3) {
			n.pulls = append(n.pulls, Pull{ID: fmt.Sprintf("pull%d.%d", i, k), MakeID: m.ID, At: at()})
		}
	}
	return n
}

func (n noted) shuffled(rng *rand.Rand) noted {
	s := noted{slices.Clone(n.makes), slices.Clone(n.pulls), slices.Clone(n.visits)}
	rng.Shuffle(len(s.makes), func(i, k int) { s.makes[i], s.makes[k] = s.makes[k], s.makes[i] })
	rng.Shuffle(len(s.pulls), func(i, k int) { s.pulls[i], s.pulls[k] = s.pulls[k], s.pulls[i] })
	rng.Shuffle(len(s.visits), func(i, k int) { s.visits[i], s.visits[k] = s.visits[k], s.visits[i] })
	return s
}

func (n noted) record() Record {
	sets := []Set{{ID: "set0", Number: 1}, {ID: "set1", Number: 2}, {ID: "set2", Number: 3}}
	return NewRecord(day(22, 6), day(1, 0).Location(), tally.Span{}, Noted{Sets: sets, Makes: n.makes, Pulls: n.pulls, Visits: n.visits})
}

// Any order of arrival gives the same record.
func TestTheOrderOfArrivalDoesNotMatter(t *testing.T) {
	seeds.Each(t, 2000, func(rng *rand.Rand) {
		n := draw(rng)
		want, got := n.record(), n.shuffled(rng).record()
		if !reflect.DeepEqual(want, got) {
			t.Fatalf("%+v\nbecomes\n%+v\nand in another order\n%+v", n, want, got)
		}
	})
}

// At each set one make at most stands at a time, none ends before it was built, and each follows the one before it; what was
// pulled is down unless something was built later. Every act counts once: in the record, or as odd.
func TestAChainIsOneAfterAnother(t *testing.T) {
	seeds.Each(t, 2000, func(rng *rand.Rand) {
		n := draw(rng)
		r := n.record()
		last := map[string]Make{}
		for _, m := range r.Makes {
			before, remade := last[m.SetID]
			if m.PulledAt != nil && m.PulledAt.Before(m.BuiltAt) {
				t.Fatalf("%+v ends before it was built", m)
			}
			if remade != (m.Follows != nil) || remade && *m.Follows != before.ID {
				t.Fatalf("%+v does not follow %+v", m, before)
			}
			if remade && (before.PulledAt == nil || before.PulledAt.After(m.BuiltAt)) {
				t.Fatalf("%+v stands beside %+v", before, m)
			}
			last[m.SetID] = m
		}
		for _, p := range n.pulls {
			named := r.Makes[slices.IndexFunc(r.Makes, func(m Make) bool { return m.ID == p.MakeID })]
			newest := last[named.SetID]
			if !p.At.Before(named.BuiltAt) && !newest.BuiltAt.After(p.At) && newest.PulledAt == nil {
				t.Fatalf("%+v was pulled by %+v and stands", newest, p)
			}
		}
		odd := 0
		for _, x := range r.Odd {
			if x.Kind == OddVisit {
				odd++
			}
			if x.Number == 0 {
				t.Fatalf("%+v is at no set", x)
			}
		}
		if len(r.Visits)+odd != len(n.visits) || len(r.Makes) != len(n.makes) {
			t.Fatalf("%d of %d looks count and %d are odd", len(r.Visits), len(n.visits), odd)
		}
		for _, v := range r.Visits {
			m := r.Makes[slices.IndexFunc(r.Makes, func(m Make) bool { return m.ID == v.MakeID })]
			if v.At.Before(m.BuiltAt) || m.PulledAt != nil && v.At.After(*m.PulledAt) {
				t.Fatalf("%+v counts for %+v", v, m)
			}
		}
	})
}

func TestWhatArrivesLate(t *testing.T) {
	built := func(id string, d int) Make { return Make{Layout: oneTrap, ID: id, SetID: "set0", BuiltAt: day(d, 12)} }
	pull := func(id string, d int) Pull { return Pull{ID: "p" + id, MakeID: id, At: day(d, 9)} }
	look := func(id string, d int, finding Finding) Visit {
		return Visit{ID: "v", MakeID: id, At: day(d, 7), Found: Found{Finding: finding}}
	}
	undone := day(10, 1)
	for _, c := range []struct {
		name  string
		n     noted
		state BeadState
		earns float64 // all makes together
		odd   string
	}{
		{"a remake told before the first make", noted{makes: []Make{built("b", 5), built("a", 1)}}, Working, 21, ""},
		{"a late make between two", noted{makes: []Make{built("a", 1), built("c", 9), built("b", 5)}}, Working, 21, ""},
		{"pulled, then told of a make before the pull", noted{makes: []Make{built("a", 1), built("b", 5)}, pulls: []Pull{pull("a", 8)}}, Down, 7, ""},
		{"pulled, and built again later", noted{makes: []Make{built("a", 1), built("b", 10)}, pulls: []Pull{pull("a", 8)}}, Working, 7 + 12, ""},
		{"pulled twice", noted{makes: []Make{built("a", 1)}, pulls: []Pull{pull("a", 8), {ID: "again", MakeID: "a", At: day(6, 9)}}}, Down, 5, "pull after"},
		{"a pull before the building", noted{makes: []Make{built("a", 5)}, pulls: []Pull{pull("a", 2)}}, Working, 17, "pull before"},
		{"a pull taken back", noted{makes: []Make{built("a", 5)}, pulls: []Pull{{ID: "p", MakeID: "a", At: day(8, 9), UndoneAt: &undone}}}, Working, 17, ""},
		{"a look after the pull", noted{makes: []Make{built("a", 1)}, pulls: []Pull{pull("a", 3)}, visits: []Visit{look("a", 6, "catch")}}, Down, 2, "visit after"},
		{"a look before the building", noted{makes: []Make{built("a", 5)}, visits: []Visit{look("a", 2, "sprung")}}, Working, 17, "visit before"},
		{"a look from a clock years ahead", noted{makes: []Make{built("a", 5)}, visits: []Visit{{ID: "v", MakeID: "a", At: day(1, 1).AddDate(3, 0, 0), Found: Found{Finding: "sprung"}}}}, Working, 17, "visit ahead"},
		{"a make from a clock that lost its time", noted{makes: []Make{built("a", 5), {ID: "b", SetID: "set0", BuiltAt: time.Unix(0, 0)}}}, Working, 17, "make far"},
		{"a make that is still to come", noted{makes: []Make{built("a", 5), {ID: "b", SetID: "set0", BuiltAt: day(25, 0)}}}, Working, 17, "make ahead"},
	} {
		r := c.n.record()
		newest, ok := r.NewestMake("set0")
		if !ok {
			t.Fatalf("%s: nothing was built", c.name)
		}
		if bead := r.Bead(newest); bead.State != c.state {
			t.Errorf("%s: it is %s, want %s", c.name, bead.State, c.state)
		}
		earns := 0.0
		for _, m := range r.Makes {
			earns += r.TrapNights(m)
		}
		odd := ""
		for _, x := range r.Odd {
			odd += string(x.Kind) + " " + string(x.Why)
		}
		if earns != c.earns || odd != c.odd {
			t.Errorf("%s: earns %g, want %g; odd %q, want %q", c.name, earns, c.earns, odd, c.odd)
		}
	}
}
