package learn

import (
	"math"

	"gonum.org/v1/gonum/mathext"

	"oldburrow/core/refuse"
)

// LeaksInput is what the links of a line's chains promised and what its findings say of each; Factor is by how much its catches are
// told.
type LeaksInput struct {
	Links  LinksFound `json:"links"`
	Factor float64    `json:"factor"`
}

// LinksFound are the links that findings tell of.
type LinksFound struct {
	Commits LinkFound `json:"commits"`
	Steps   LinkFound `json:"steps"`
	Fires   LinkFound `json:"fires"`
	Held    LinkFound `json:"held"`
}

// LinkFound is a link: the share that the model promises to keep, how many findings reached it and were kept, each by its weight, and
// how many findings that is worth; nil is as many as reached it.
type LinkFound struct {
	Model   float64  `json:"model"`
	Reached float64  `json:"reached"`
	Kept    float64  `json:"kept"`
	Size    *float64 `json:"size,omitempty"`
}

// LeaksOutput is what each link keeps by the record, by how much passes are told, the link that leaks most, nil where none does, and
// whether that is sure.
type LeaksOutput struct {
	Links  LinksTold `json:"links"`
	Passes float64   `json:"passes"`
	Leak   *string   `json:"leak" jsonschema:"nullable"`
	Sure   bool      `json:"sure"`
}

// LinksTold are the links as they are told.
type LinksTold struct {
	Commits LinkTold `json:"commits"`
	Steps   LinkTold `json:"steps"`
	Fires   LinkTold `json:"fires"`
	Held    LinkTold `json:"held"`
}

// LinkTold is the share that a link keeps by model and record together, between what the record alone leaves it, 95 times in 100, and
// that share beside the model's.
type LinkTold struct {
	Own    float64 `json:"own"`
	Low    float64 `json:"low"`
	High   float64 `json:"high"`
	Factor float64 `json:"factor"`
}

const (
	modelWorth                = 20.0 // findings that the model is worth
	leastPassing, mostPassing = .1, 5
	linkTail                  = .025
)

// Leaks tells what the links keep. It refuses shares outside 0–1, a model of 0, more kept than reached, and a factor that is not above 0.
func Leaks(in LeaksInput) (LeaksOutput, error) {
	var p refuse.Problems
	keys, found := linkKeys, in.Links.list()
	p.Under("links", in.Links.check())
	if !(in.Factor > 0 && in.Factor < 1e9) {
		p.Add("factor", "must be above 0, not %g", in.Factor)
	}
	if err := p.Err(); err != nil {
		return LeaksOutput{}, err
	}
	var out LeaksOutput
	product, worst := 1.0, 1.0
	for i, to := range []*LinkTold{&out.Links.Commits, &out.Links.Steps, &out.Links.Fires, &out.Links.Held} {
		link := found[i]
		*to = link.told()
		product *= to.Factor
		if link.Reached > 0 && to.Factor < worst {
			worst, out.Leak, out.Sure = to.Factor, &keys[i], to.High < link.Model
		}
	}
	out.Passes = math.Min(mostPassing, math.Max(leastPassing, in.Factor/product))
	return out, nil
}

// LeaksSeen is that with the links whose share the findings tell apart from the model's.
type LeaksSeen struct {
	LeaksOutput
	Apart []string `json:"apart"`
}

// See is Leaks, with what the findings tell apart.
func See(in LeaksInput) (LeaksSeen, error) {
	out, err := Leaks(in)
	seen := LeaksSeen{out, []string{}}
	for i, told := range []LinkTold{out.Links.Commits, out.Links.Steps, out.Links.Fires, out.Links.Held} {
		if link := in.Links.list()[i]; link.Reached > 0 && (told.High < link.Model || told.Low > link.Model) {
			seen.Apart = append(seen.Apart, linkKeys[i])
		}
	}
	return seen, err
}

// linkKeys are those that findings tell of.
var linkKeys = []string{"commits", "steps", "fires", "held"}

func (l LinksFound) list() []LinkFound { return []LinkFound{l.Commits, l.Steps, l.Fires, l.Held} }

func (l LinksFound) check() error {
	var p refuse.Problems
	for i, link := range l.list() {
		link.check(&p, linkKeys[i]+".")
	}
	return p.Err()
}

func (l LinkFound) check(p *refuse.Problems, at string) {
	if !(l.Model > 0 && l.Model <= 1) {
		p.Add(at+"model", "must be above 0 and at most 1, not %g", l.Model)
	}
	p.Within(at+"reached", l.Reached, 0, 1e9, "")
	p.Within(at+"kept", l.Kept, 0, math.Max(0, l.Reached), "")
	if l.Size != nil {
		p.Within(at+"size", *l.Size, 0, 1e9, "")
	}
}

// told is a link by the model and by the record, whose own bounds are Clopper and Pearson's with real numbers.
func (l LinkFound) told() LinkTold {
	size := l.Reached
	if l.Size != nil {
		size = *l.Size
	}
	kept := 0.0
	if l.Reached > 0 {
		kept = size * l.Kept / l.Reached
	}
	own := (modelWorth*l.Model + kept) / (modelWorth + size)
	told := LinkTold{Own: own, High: 1, Factor: own / l.Model}
	if kept > 0 {
		told.Low = mathext.InvRegIncBeta(kept, size-kept+1, linkTail)
	}
	if kept < size {
		told.High = mathext.InvRegIncBeta(kept+1, size-kept, 1-linkTail)
	}
	return told
}
