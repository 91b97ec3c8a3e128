package page

import (
	"context"
	"slices"
	"strings"

	"oldburrow/core/advice"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
)

// MeansView is what a look found at a set may mean: what lies behind it, the likeliest first, what is to be done first and why, and what can be done
// at all. Alone is what the set is worth left alone, in animals over so many nights, nil where the chain says nothing; OneIn is in how many nights it promised one, how
// many Nights it has worked without, and what those say. Since is what the record says since it was made otherwise.
type MeansView struct {
	Finding   line.Finding   `json:"finding"`
	Target    string         `json:"target"`
	Causes    []CauseTold    `json:"causes"`
	First     advice.MendKey `json:"first"`
	Why       advice.Because `json:"why"`
	Alone     *float64       `json:"alone" jsonschema:"nullable"`
	OneIn     float64        `json:"oneIn"`
	Nights    float64        `json:"nights"`
	Barren    advice.Barren  `json:"barren"`
	Left      int            `json:"left"`
	Remake    bool           `json:"remake"` // it has to be made again in any case
	Held      []HeldBy       `json:"held"`   // what a catch says
	Options   []OptionTold   `json:"options"`
	Since     *advice.Since  `json:"since" jsonschema:"nullable"`
	Forbidden []string       `json:"forbidden"` // clauses of the rule card for which something is not offered
}

// HeldBy is how an animal was held, as far as somebody looked: by which trap, of how many there, by which foot, and how.
type HeldBy struct {
	Species string    `json:"species"`
	Trap    string    `json:"trap"`
	Of      int       `json:"of"`
	Foot    line.Foot `json:"foot"`
	Hold    line.Hold `json:"hold"`
}

// heldBy is what the catches of a look say.
func heldBy(m line.Make, look line.Visit) []HeldBy {
	found := []HeldBy{}
	for _, c := range look.Catches {
		one := HeldBy{Species: c.Species, Of: len(m.Layout.Rigs), Foot: c.Foot, Hold: c.Hold}
		for _, rig := range m.Layout.Rigs {
			if slices.Contains(c.Rigs, rig.Slot) {
				one.Trap = rig.Name
			}
		}
		found = append(found, one)
	}
	return found
}

// CauseTold is a cause with how sure it is, what is done about it, and the facts that moved it, the strongest first.
type CauseTold struct {
	Key   advice.CauseKey `json:"key"`
	Share float64         `json:"share"`
	Sure  advice.Sure     `json:"sure"`
	Mend  advice.MendKey  `json:"mend"`
	Moved []string        `json:"moved"`
}

// OptionTold is a mend that can be made: the set then, nil where it is an act beside the set or costs more than it brings; in which form it is made
// again; and how many times as much as leaving it may bring over the nights that are left, judged where the chain sees nothing of it.
type OptionTold struct {
	Mend    advice.MendKey `json:"mend"`
	Act     advice.Deed    `json:"act"`
	Form    line.Form      `json:"form"`
	Renews  []line.Renewal `json:"renews"`
	Swaps   bool           `json:"swaps"` // another trap is put in
	Layout  *layout.Layout `json:"layout" jsonschema:"nullable"`
	Parts   []string       `json:"parts"` // what is otherwise
	Judged  bool           `json:"judged"`
	Lost    float64        `json:"lost"` // nights' catch
	Times   float64        `json:"times"`
	Minutes float64        `json:"minutes"`
}

// means answers for a look; said are facts that somebody went to see since, by their names, with a minus where they are not so.
func means(r Reading, q Asked) (any, error) {
	seen, err := r.seenAt(q.Key)
	if refuse.Known(err) != nil {
		return nil, err
	}
	view := MeansView{
		Finding: seen.Look.Finding, Target: seen.Asked.Target.Key, Causes: []CauseTold{}, First: advice.Leave, Left: advice.UsualLeft, Options: []OptionTold{}, Forbidden: []string{},
		Remake: seen.Look.Finding.Facts().Remake, Held: heldBy(seen.Make, seen.Look),
	}
	if err != nil {
		return view, nil // of a set whose words are not known nothing is claimed
	}
	said := strings.FieldsFunc(q.Query["said"], func(c rune) bool { return c == ',' })
	found, err := seen.Advise(context.Background(), said, r.Forbids)
	if err != nil {
		return nil, err
	}
	view.First, view.Why, view.Alone, view.Nights, view.Barren, view.Left = found.First, found.Why, found.Alone, found.Nights, found.Says, int(found.Left)
	if found.PerNight > 0 {
		view.OneIn = 1 / found.PerNight
	}
	view.Since, view.Forbidden = seen.Since(), append(view.Forbidden, found.Forbidden...)
	for _, c := range found.Causes {
		view.Causes = append(view.Causes, CauseTold{c.Key, c.Share, c.Sure(), c.Mend, append([]string{}, c.Moved...)})
	}
	for _, o := range found.Options {
		told := OptionTold{
			Mend: o.Mend, Act: o.Act, Form: o.Form, Renews: append([]line.Renewal{}, o.Renews...), Swaps: o.Swaps, Layout: o.Layout, Parts: []string{}, Judged: o.Judged,
			Lost: o.Lost, Minutes: o.Minutes,
		}
		if found.Alone != nil && *found.Alone > 0 {
			told.Times = o.Worth / *found.Alone
		}
		if o.Layout != nil {
			told.Parts = layout.Changed(seen.Make.Layout, *o.Layout)
		}
		view.Options = append(view.Options, told)
	}
	return view, nil
}

// seenAt reads a look of the open season with all that is known about it, under the circumstances of an average night.
func (r Reading) seenAt(visitID string) (advice.Seen, error) {
	record, err := r.Shed()
	if err != nil {
		return advice.Seen{}, err
	}
	i := slices.IndexFunc(record.Visits, func(v line.Visit) bool { return v.ID == visitID })
	if i < 0 {
		return advice.Seen{}, refuse.ErrUnknown
	}
	drawn, err := r.outlookLine()
	if err != nil {
		return advice.Seen{}, err
	}
	return r.seen(record, drawn, record.Visits[i])
}

// seen is a look at a make of the record, with all that is known about it.
func (r Reading) seen(record shed.Record, drawn outlook.Line, look line.Visit) (advice.Seen, error) {
	seen := advice.Seen{Record: record.Record, Look: look, Drawn: drawn}
	i := slices.IndexFunc(record.Makes, func(m line.Make) bool { return m.ID == look.MakeID })
	if i < 0 {
		return seen, refuse.ErrUnknown
	}
	seen.Make = record.Makes[i]
	for _, spot := range drawn.Spots {
		if spot.ID == record.Set(seen.Make.SetID).SpotID {
			seen.Spot = spot
		}
	}
	var err error
	if seen.Traps, err = trapsOf(record, seen.Make); err != nil {
		return seen, err
	}
	target, err := advice.Target(r.Animals, seen.Make, look)
	if err != nil {
		return seen, err
	}
	asked := CircumstancesAsked{Layout: seen.Make.Layout, Target: target.Key, SpotID: seen.Spot.ID, SetID: seen.Make.SetID}
	if seen.Asked, err = r.questionOf(drawn, seen.Spot, asked); err != nil {
		return seen, err
	}
	for _, h := range seen.Traps {
		var p refuse.Problems
		spared := slices.DeleteFunc(slices.Clone(h.Trap.Spares), func(key string) bool { return key == target.Key })
		seen.Asked.Spares = append(seen.Asked.Spares, r.Animals.Listed(&p, "spares", spared)...)
	}
	return seen, nil
}

// questionOf is what is asked of a set that lies so at a spot, on an average night of the record.
func (r Reading) questionOf(drawn outlook.Line, spot line.Spot, asked CircumstancesAsked) (odds.Question, error) {
	target, err := r.Animals.ByKey(asked.Target)
	if err != nil {
		return odds.Question{}, err
	}
	told, err := circumstances(r, asked)
	if err != nil {
		return odds.Question{}, err
	}
	around := told.(CircumstancesView).Usual
	frost := frostAt(drawn, spot.ID)
	q := odds.Question{
		Layout: asked.Layout, Target: target, Animals: r.Animals, Schools: r.Schools, Underfoot: frost.Underfoot, Circumstances: &around, Soil: soilOf(spot, frost),
	}
	if heaviest, err := r.Animals.ByKey(around.Heaviest); err == nil {
		q.Heaviest = &heaviest
	}
	return q, nil
}

// trapsOf are the traps of the rack that are in a make.
func trapsOf(record shed.Record, m line.Make) ([]shed.Hung, error) {
	rack, err := record.Rack()
	if err != nil {
		return nil, err
	}
	return slices.DeleteFunc(rack, func(h shed.Hung) bool { _, in := m.Layout.RigWith(h.Trap.ID); return !in }), nil
}

func frostAt(drawn outlook.Line, spotID string) outlook.Spot {
	for _, f := range drawn.Frosts() {
		if f.SpotID == spotID {
			return f
		}
	}
	return outlook.Spot{Underfoot: layout.Underfoot{}}
}
