// Package promise keeps what the chains of a line's makes said of each night that they stood, and counts it against what came. Chances are shares of
// one; what is promised is uncorrected by any record.
package promise

import (
	"math"
	"strconv"

	"oldburrow/core/nights"
	"oldburrow/core/odds"
)

// Make is what the chains of a make said, night by night from the one in which it was built: how well its ground told what happened, and of each
// target by its key. There is nobody at a device, of which no footfall is claimed.
type Make struct {
	MakeID string            `json:"makeId"`
	Tells  Runs              `json:"tells"`
	Of     map[string]Animal `json:"of"`
}

// Animal is what a make's chain said of one animal.
type Animal struct {
	odds.Tread
	Passes  Runs `json:"passes"`
	Notices Runs `json:"notices"`
	Commits Runs `json:"commits"`
	Held    Runs `json:"held"`
}

// Nights is of how many nights it says anything.
func (m Make) Nights() int { return m.Tells.Len() }

// Cut leaves what was said of the first nights, so many.
func (m Make) Cut(n int) Make {
	m.Tells = m.Tells.cut(n)
	of := make(map[string]Animal, len(m.Of))
	for key, a := range m.Of {
		a.Passes, a.Notices, a.Commits, a.Held = a.Passes.cut(n), a.Notices.cut(n), a.Commits.cut(n), a.Held.cut(n)
		of[key] = a
	}
	m.Of = of
	return m
}

// Then is a make with what another says of the nights that it says nothing of yet.
func (m Make) Then(later Make) Make {
	n := m.Nights()
	if later.Nights() <= n {
		return m
	}
	m.Tells = m.Tells.then(later.Tells, n)
	of := make(map[string]Animal, len(m.Of))
	for key, a := range m.Of {
		b := later.Of[key]
		a.Passes, a.Notices, a.Commits, a.Held = a.Passes.then(b.Passes, n), a.Notices.then(b.Notices, n), a.Commits.then(b.Commits, n), a.Held.then(b.Held, n)
		of[key] = a
	}
	m.Of = of
	return m
}

// Add adds a night.
func (m *Make) Add(tells nights.Tells, said map[string]odds.Night) {
	m.Tells = m.Tells.add(float64(tells))
	for key, a := range m.Of {
		night := said[key]
		a.Passes, a.Notices, a.Commits, a.Held = a.Passes.add(night.Passes), a.Notices.add(night.Notices), a.Commits.add(night.Commits), a.Held.add(night.Held)
		m.Of[key] = a
	}
}

// On is what the chain of an animal said of a night, counted from the first; ok is false where it said nothing.
func (m Make) On(key string, night int) (said odds.Comer, tells nights.Tells, ok bool) {
	a, here := m.Of[key]
	if !here || night < 0 || night >= m.Nights() {
		return said, 0, false
	}
	said = odds.Comer{Passes: a.Passes.at(night), Notices: a.Notices.at(night), Commits: a.Commits.at(night), Steps: a.Step, Held: a.Held.at(night)}
	if a.Step > 0 {
		said.Fires = a.Fire / a.Step
	}
	return said, nights.Tells(m.Tells.at(night)), true
}

// catches is how many of an animal a chain promises for a night.
func catches(c odds.Comer) float64 {
	return c.Passes * c.Notices * c.Commits * c.Steps * c.Fires * c.Held
}

// Runs are numbers of one night after another, each as it is and how many nights it lasts: most last many.
type Runs []float64

// Len is how many nights they are.
func (r Runs) Len() int {
	n := 0.0
	for i := 1; i < len(r); i += 2 {
		n += r[i]
	}
	return int(n)
}

// digits is how finely they are kept: no judgement is surer.
const digits = 4

func (r Runs) add(x float64) Runs {
	x, _ = strconv.ParseFloat(strconv.FormatFloat(x, 'g', digits, 64), 64)
	if n := len(r); n > 0 && r[n-2] == x {
		r = append(Runs{}, r...)
		r[n-1]++
		return r
	}
	return append(r[:len(r):len(r)], x, 1)
}

func (r Runs) cut(n int) Runs {
	left, found := float64(n), Runs{}
	for i := 1; i < len(r) && left > 0; i += 2 {
		found = append(found, r[i-1], math.Min(left, r[i]))
		left -= r[i]
	}
	return found
}

// then is the runs of n nights, and after them those of another from there on.
func (r Runs) then(later Runs, n int) Runs {
	found := append(Runs{}, r...)
	for night := n; night < later.Len(); night++ {
		found = found.add(later.at(night))
	}
	return found
}

func (r Runs) at(n int) float64 {
	left := float64(n)
	for i := 1; i < len(r); i += 2 {
		if left -= r[i]; left < 0 {
			return r[i-1]
		}
	}
	return 0
}
