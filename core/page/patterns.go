package page

import (
	"cmp"
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

// PatternsView is the ways of making a set for a target at a spot: the trade's, and the user's own.
type PatternsView struct {
	Patterns []PatternView  `json:"patterns"`
	Own      []line.Pattern `json:"own"`
}

// PatternView is a pattern or a variant of it, as it begins.
type PatternView struct {
	Key     string        `json:"key"`
	Variant string        `json:"variant"`
	Layout  layout.Layout `json:"layout"`
	Minutes float64       `json:"minutes"`
	Poor    bool          `json:"poor"`
	Lacks   []string      `json:"lacks"`   // what it asks for and does not find at the spot
	WithinM float64       `json:"withinM"` // and how near
}

// Repattern asks for a set in another pattern, or in one of the user's own, for a target at a spot; what fits of the layout is kept.
// With Was, the target that it was made for, it asks for the same way of making it, for another.
type Repattern struct {
	Layout  layout.Layout `json:"layout"`
	Target  string        `json:"target"`
	Was     string        `json:"was,omitempty"`
	SpotID  string        `json:"spotId"`
	Pattern string        `json:"pattern"`
	Variant string        `json:"variant"`
	OwnID   string        `json:"ownId"`
}

// Repatterned is the set in the other pattern, and what did not fit there.
type Repatterned struct {
	Layout  layout.Layout    `json:"layout"`
	Dropped []layout.Dropped `json:"dropped"`
}

// begin is what a set begins from at a spot of the line.
func (r Reading) begin(target, spotID string) (layout.Begin, error) {
	var p refuse.Problems
	b := layout.Begin{Target: r.Animals.Named(&p, "target", target), Schools: r.Schools}
	if err := p.Err(); err != nil {
		return b, err
	}
	spots, err := r.Spots(r.Of.ID)
	if err != nil {
		return b, err
	}
	i := slices.IndexFunc(spots, func(s line.Spot) bool { return s.ID == spotID })
	if i < 0 {
		return b, refuse.ErrUnknown
	}
	spot := spots[i].Reckoned()
	b.Spot = layout.Spot{Soil: spot.Soil, Wetness: spot.Wetness, Shy: spot.Shy}
	b.Spot.FrostMm, _, err = r.groundAt(spotID)
	return b, err
}

// defaults is a set as it begins at a spot: for a target, of the pattern and the variant that are asked for, or a hole.
func defaults(r Reading, q Asked) (any, error) {
	b, err := r.begin(q.Key, q.Query["spot"])
	if err != nil {
		return nil, err
	}
	b.Variant = q.Query["variant"]
	return layout.New(cmp.Or(q.Query["pattern"], "hole"), b)
}

// patterns lists what a set can begin as.
func patterns(r Reading, q Asked) (any, error) {
	b, err := r.begin(q.Key, q.Query["spot"])
	if err != nil {
		return nil, err
	}
	found := PatternsView{}
	at, err := r.placeAt(q.Query["spot"])
	if err != nil {
		return nil, err
	}
	_, on, err := r.groundAt(q.Query["spot"])
	if err != nil {
		return nil, err
	}
	for _, key := range layout.PatternKeys() {
		for _, variant := range append([]string{""}, layout.VariantKeys(key)...) {
			b.Variant = variant
			l, err := layout.New(key, b)
			if err != nil {
				return nil, err
			}
			found.Patterns = append(found.Patterns, PatternView{
				Key: key, Variant: variant, Layout: l, Minutes: l.Minutes(on), Poor: l.Poor(b.Target),
				Lacks: l.Suits(b.Target, at).Lacks, WithinM: layout.AsksWithin(key).WithinM,
			})
		}
	}
	found.Own, err = r.Patterns(r.Of.ID)
	return found, err
}

// placeAt is what is known of a spot as a place for a set.
func (r Reading) placeAt(spotID string) (layout.Site, error) {
	drawn, err := r.outlookLine()
	if err != nil {
		return layout.Site{}, err
	}
	i := slices.IndexFunc(drawn.Spots, func(s line.Spot) bool { return s.ID == spotID })
	if i < 0 {
		return layout.Site{}, refuse.ErrUnknown
	}
	rec, err := r.Record()
	if err != nil {
		return layout.Site{}, err
	}
	signs, err := r.Signs(r.Of.ID, rec.Span)
	return drawn.SiteOf(layout.Layout{}, drawn.Spots[i], signs), err
}

// fresh is the set that is asked for as it begins.
func (r Reading) fresh(q Repattern) (layout.Layout, error) {
	if q.OwnID != "" {
		own, err := r.Pattern(r.Of.ID, q.OwnID)
		return own.Layout, err
	}
	b, err := r.begin(q.Target, q.SpotID)
	if err != nil {
		return layout.Layout{}, err
	}
	b.Variant = q.Variant
	return layout.New(q.Pattern, b)
}

// retarget is a set made the same way for another target.
func (r Reading) retarget(q Repattern) (layout.Layout, error) {
	was, err := r.begin(q.Was, q.SpotID)
	if err != nil {
		return layout.Layout{}, err
	}
	q.Pattern, q.Variant, q.OwnID = q.Layout.Pattern, layout.VariantOf(q.Layout, was), ""
	fresh, err := r.fresh(q)
	if err != nil {
		return layout.Layout{}, err
	}
	return layout.For(fresh, q.Layout), nil
}

// groundAt is how the ground is at a spot: the deepest frost of now and the mornings to come, nil where it is not known, and how it is to dig.
func (r Reading) groundAt(spotID string) (frostMm *float64, on layout.Underfoot, err error) {
	drawn, err := r.outlookLine()
	if err != nil {
		return nil, on, err
	}
	for _, spot := range drawn.Frosts() {
		if spot.SpotID != spotID {
			continue
		}
		if spot.Known {
			deepest := spot.DepthMm
			for _, morning := range spot.Mornings {
				deepest = max(deepest, morning.DepthMm)
			}
			frostMm = &deepest
		}
		return frostMm, spot.Underfoot, nil
	}
	return nil, on, nil
}

// repattern answers a Repattern.
func repattern(r Reading, q Repattern) (any, error) {
	if q.Was != "" {
		is, err := r.retarget(q)
		return Repatterned{is, []layout.Dropped{}}, err
	}
	fresh, err := r.fresh(q)
	found := Repatterned{}
	found.Layout, found.Dropped = layout.Onto(fresh, q.Layout)
	return found, err
}
