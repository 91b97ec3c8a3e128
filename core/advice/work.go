package advice

import (
	"cmp"
	"fmt"
	"slices"

	"oldburrow/core/refuse"
)

// WorkInput is what could be done, and the minutes that there are.
type WorkInput struct {
	Candidates []Candidate `json:"candidates"`
	Minutes    float64     `json:"minutes"`
}

// Candidate is one thing that could be done: what it brings, in animals, how long it takes, and what it needs that nothing else can have too.
type Candidate struct {
	Key     string   `json:"key"`
	Gain    float64  `json:"gain"`
	Minutes float64  `json:"minutes"`
	Needs   []string `json:"needs"`
}

// WorkOutput is what to do, that which brings the most a minute first, with what it comes to.
type WorkOutput struct {
	Chosen  []string `json:"chosen"`
	Gain    float64  `json:"gain"`
	Minutes float64  `json:"minutes"`
}

// allTried is how many candidates there are at the most of which every choice is tried.
const allTried = 8

// Work chooses what to do: of a few things the choice that brings most, of more by what each brings a minute, then one in for one out while that brings
// more. It refuses minutes below nothing, and things without a key or with one that is there twice.
func Work(in WorkInput) (WorkOutput, error) {
	var p refuse.Problems
	p.Within("minutes", in.Minutes, 0, 1e5, "")
	for i, c := range in.Candidates {
		at := fmt.Sprintf("candidates[%d]", i)
		p.Within(at+".minutes", c.Minutes, 0, 1e5, "")
		if c.Key == "" || slices.ContainsFunc(in.Candidates[:i], func(before Candidate) bool { return before.Key == c.Key }) {
			p.Add(at+".key", "must be there, and once")
		}
	}
	if err := p.Err(); err != nil {
		return WorkOutput{}, err
	}
	able := slices.DeleteFunc(slices.Clone(in.Candidates), func(c Candidate) bool { return c.Gain <= 0 || c.Minutes > in.Minutes })
	slices.SortStableFunc(able, func(a, b Candidate) int { return cmp.Compare(b.Gain*a.Minutes, a.Gain*b.Minutes) })
	day := workday{able, in.Minutes}
	chosen := day.greedy()
	if len(able) <= allTried {
		chosen = day.tried(chosen)
	} else {
		chosen = day.exchanged(chosen)
	}
	out := WorkOutput{Chosen: []string{}}
	for i, c := range able {
		if chosen[i] {
			out.Chosen, out.Gain, out.Minutes = append(out.Chosen, c.Key), out.Gain+c.Gain, out.Minutes+c.Minutes
		}
	}
	return out, nil
}

// workday is what can be done, that which brings the most a minute first, in so many minutes.
type workday struct {
	able    []Candidate
	minutes float64
}

// brings is what a choice brings; below nothing where it cannot be.
func (d workday) brings(chosen []bool) float64 {
	gain, minutes, taken := 0.0, 0.0, map[string]bool{}
	for i, c := range d.able {
		if !chosen[i] {
			continue
		}
		gain, minutes = gain+c.Gain, minutes+c.Minutes
		for _, need := range c.Needs {
			if taken[need] {
				return -1
			}
			taken[need] = true
		}
	}
	if minutes > d.minutes+tied {
		return -1
	}
	return gain
}

// greedy takes one after the other as long as it can be.
func (d workday) greedy() []bool { return d.filled(make([]bool, len(d.able))) }

func (d workday) filled(chosen []bool) []bool {
	for i := range d.able {
		if !chosen[i] {
			if chosen[i] = true; d.brings(chosen) < 0 {
				chosen[i] = false
			}
		}
	}
	return chosen
}

// tried tries every choice.
func (d workday) tried(best []bool) []bool {
	for mask := range 1 << len(d.able) {
		chosen := make([]bool, len(d.able))
		for i := range chosen {
			chosen[i] = mask>>i&1 == 1
		}
		if d.brings(chosen) > d.brings(best)+tied {
			best = chosen
		}
	}
	return best
}

// exchanged puts one in for one out, and what then still fits, while that brings more.
func (d workday) exchanged(best []bool) []bool {
	for better := true; better; {
		better = false
		for out := range d.able {
			for in := range d.able {
				if !best[out] || best[in] {
					continue
				}
				next := slices.Clone(best)
				if next[out], next[in] = false, true; d.brings(next) < 0 {
					continue
				}
				if next = d.filled(next); d.brings(next) > d.brings(best)+tied {
					best, better = next, true
				}
			}
		}
	}
	return best
}
