package advice

import (
	"context"
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
)

// Deed is what is done about a cause beside the set itself.
type Deed string

// The deeds.
const (
	DoTrap   Deed = "trap"   // look the trap over
	DoSearch Deed = "search" // for what is gone
	DoAsk    Deed = "ask"    // whoever owns the land
)

// Deeds lists them.
var Deeds = []Deed{DoTrap, DoSearch, DoAsk}

// way is how a mend is done: as the best of some changes that the bench offers, or else as it makes the set by hand; in which form the set is then made
// again, and what of it is taken anew; or as an act.
type way struct {
	remedies []odds.RemedyKey
	only     func(odds.Remedy) bool
	makes    func(*layout.Layout) bool // false where there is nothing to change
	does     odds.Remedy               // what the change by hand is like: whether it opens the bed, how long it takes
	form     line.Form
	renews   []line.Renewal
	swaps    bool // another trap is put in
	unseen   bool // the chain does not see what it is for, unless that is known of the set
	act      Deed
}

// Minutes of changes that the bench does not offer. Judgements.
const (
	cleanMinutes = 10
	lookMinutes  = 2
	swapMinutes  = 12
)

// shortMm is a chain so short that little can lie in its circle.
const shortMm = 300

// ways says of each mend how it is done.
var ways = map[MendKey]way{
	"other_side":   {remedies: []odds.RemedyKey{odds.FaceWay}, form: line.NewBed},
	"other_smell":  {remedies: []odds.RemedyKey{odds.OtherLure}, form: line.SameBed},
	"subtle":       {remedies: []odds.RemedyKey{odds.OtherPattern, odds.Blend}, only: closed, form: line.NewBed},
	"show":         {remedies: []odds.RemedyKey{odds.DigOut}, only: seen, form: line.SameBed, makes: shows, does: odds.Remedy{Minutes: 5}},
	"clean":        {makes: gloved, does: odds.Remedy{Clean: true, Minutes: cleanMinutes}, form: line.SameBed, renews: []line.Renewal{line.CircleSoil}, unseen: true},
	"lower_guides": {remedies: []odds.RemedyKey{odds.LowerGuides, odds.NoGuides}, form: line.SameBed},
	"backing":      {remedies: []odds.RemedyKey{odds.Backing}, form: line.SameBed},
	"move_pan":     {remedies: []odds.RemedyKey{odds.MovePan}, form: line.NewBed},
	"bait":         {remedies: []odds.RemedyKey{odds.AddBait, odds.AddUrine}, form: line.SameBed},
	"lighten":      {remedies: []odds.RemedyKey{odds.LighterPan}, form: line.SameBed, act: DoTrap},
	"proof":        {remedies: []odds.RemedyKey{odds.OtherCover, odds.ThinnerCover}, form: line.SameBed, unseen: true},
	"plug":         {makes: padded, does: odds.Remedy{Minutes: 3}, form: line.SameBed, unseen: true},
	"free_cover":   {makes: asItIs, does: odds.Remedy{Minutes: 3}, form: line.SameBed, unseen: true},
	"guides":       {remedies: []odds.RemedyKey{odds.SetGuides, odds.LayStick, odds.CloserGuides}, form: line.SameBed},
	"rebed":        {remedies: []odds.RemedyKey{odds.FirmBed}, makes: bedded, does: odds.Remedy{Reopens: true, Minutes: 5}, form: line.NewBed, unseen: true},
	"spoil_away":   {remedies: []odds.RemedyKey{odds.SoilAway}, form: line.SameBed},
	"second_trap":  {remedies: []odds.RemedyKey{odds.SecondTrap, odds.OtherPattern}, only: paired, form: line.NewBed},
	"less_bait":    {remedies: []odds.RemedyKey{odds.NoBait}, makes: littleBait, does: odds.Remedy{Minutes: 2}, form: line.SameBed},
	"deepen":       {remedies: []odds.RemedyKey{odds.DeeperHole}, form: line.SameBed},
	"wedge":        {remedies: []odds.RemedyKey{odds.Plug}, makes: asItIs, does: odds.Remedy{Minutes: 2}, form: line.SameBed, unseen: true},
	"lower_pan":    {makes: level, does: odds.Remedy{Minutes: 3}, form: line.SameBed, unseen: true},
	"stiffen":      {remedies: []odds.RemedyKey{odds.HeavierPan}, form: line.SameBed, act: DoTrap},
	"swap_trap":    {makes: asItIs, does: odds.Remedy{Minutes: swapMinutes}, form: line.SameBed, swaps: true, act: DoTrap, unseen: true},
	"shorten":      {makes: shortened, does: odds.Remedy{Minutes: 5}, form: line.SameBed, unseen: true},
	"anchor":       {remedies: []odds.RemedyKey{odds.Anchor}, form: line.NewBed, act: DoTrap},
	"rig":          {act: DoTrap, does: odds.Remedy{Minutes: lookMinutes}},
	"landowner":    {act: DoAsk},
	Search:         {act: DoSearch},
	Leave:          {},
}

// asItIs changes nothing that is drawn.
func asItIs(*layout.Layout) bool { return true }

// closed is another pattern without an open hole or torn ground, or the same blended in.
func closed(r odds.Remedy) bool {
	return r.Key == odds.Blend || !r.Layout.OpenHole() && r.Layout.Show != "dug_out"
}

// seen is a set that animals come to because of what they see or smell.
func seen(r odds.Remedy) bool { return !r.Layout.Blind() }

// paired is with a second trap, in this pattern or another.
func paired(r odds.Remedy) bool { return len(r.Layout.Rigs) > 1 }

func shows(l *layout.Layout) bool {
	was := l.Show
	l.Show = "dug_out"
	return was != l.Show && !l.Blind()
}

func gloved(l *layout.Layout) bool {
	l.Hands = "gloves"
	return true
}

// onRigs changes each trap with a pan, and tells whether one was changed.
func onRigs(l *layout.Layout, change func(*layout.Rig) bool) bool {
	changed := false
	for i := range l.Rigs {
		if r := &l.Rigs[i]; r.Pan != nil && r.Jaws != nil && change(r) {
			changed = true
		}
	}
	return changed
}

// padded puts something under each pan under which nothing lies.
func padded(l *layout.Layout) bool {
	return onRigs(l, func(r *layout.Rig) bool {
		if r.Under != "" {
			return false
		}
		r.Under = "polyfill"
		return true
	})
}

// bedded beds each trap firmly, where that was not felt.
func bedded(l *layout.Layout) bool {
	return onRigs(l, func(r *layout.Rig) bool {
		r.Bed.Firm = new(true)
		return true
	})
}

// level lays each pan level with its jaws.
func level(l *layout.Layout) bool {
	return onRigs(l, func(r *layout.Rig) bool {
		r.Pan.HeightMm = nil
		return true
	})
}

func shortened(l *layout.Layout) bool {
	return onRigs(l, func(r *layout.Rig) bool {
		if r.ChainMm <= shortMm {
			return false
		}
		r.ChainMm = shortMm
		return true
	})
}

// littleBait leaves one piece of bait.
func littleBait(l *layout.Layout) bool {
	kept, less := false, false
	for i := range l.Attractors {
		l.Attractors[i].Smells = slices.DeleteFunc(l.Attractors[i].Smells, func(s layout.Smell) bool {
			drop := s.IsBait() && kept
			kept, less = kept || s.IsBait(), less || drop
			return drop
		})
	}
	return less
}

// changes are the ways to make a mend at a set, each a whole set; none where there is nothing to change.
func (w way) changes(ctx context.Context, q odds.Question) ([]odds.Remedy, error) {
	var found []odds.Remedy
	if len(w.remedies) > 0 {
		offers, err := odds.Offered(ctx, q, w.remedies...)
		if err != nil {
			return nil, err
		}
		for _, r := range offers {
			if r.Layout != nil && (w.only == nil || w.only(r)) {
				found = append(found, r)
			}
		}
	}
	if len(found) > 0 || w.makes == nil {
		return found, nil
	}
	l := q.Layout.Clone()
	if !w.makes(&l) {
		return nil, nil
	}
	change := w.does
	change.Layout = &l
	return []odds.Remedy{change}, nil
}
