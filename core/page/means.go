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

// MeansView is what a look found at a set may mean: what lies behind it, the likeliest first, what is to be done first, and what the set is worth left
// alone, in animals over so many nights. Causes are none where the finding has none; Alone is nil where the chain says nothing.
type MeansView struct {
	Finding line.Finding   `json:"finding"`
	Target  string         `json:"target"`
	Causes  []CauseTold    `json:"causes"`
	First   advice.MendKey `json:"first"`
	Alone   *float64       `json:"alone" jsonschema:"nullable"`
	Left    int            `json:"left"`
}

// CauseTold is a cause with how sure it is, what is done about it, and the facts that moved it, the strongest first.
type CauseTold struct {
	Key   advice.CauseKey `json:"key"`
	Share float64         `json:"share"`
	Sure  advice.Sure     `json:"sure"`
	Mend  advice.MendKey  `json:"mend"`
	Moved []string        `json:"moved"`
}

// means answers for a look; said are facts that somebody went to see since, by their names, with a minus where they are not so.
func means(r Reading, q Asked) (any, error) {
	seen, around, err := r.seenAt(q.Key)
	if refuse.Known(err) != nil {
		return nil, err
	}
	view := MeansView{Finding: seen.Look.Finding, Target: seen.Asked.Target.Key, Causes: []CauseTold{}, First: advice.Leave, Left: around.Left}
	if err != nil {
		return view, nil // of a set whose words are not known nothing is claimed
	}
	if view.Left == 0 {
		view.Left = usualLeft
	}
	if slices.Contains(advice.Explained(), seen.Look.Finding) {
		facts, err := seen.Facts(context.Background())
		if err != nil {
			return nil, err
		}
		if facts, err = facts.Said(strings.FieldsFunc(q.Query["said"], func(c rune) bool { return c == ',' })); err != nil {
			return nil, err
		}
		out, err := advice.Causes(advice.CausesInput{Finding: seen.Look.Finding, Facts: facts})
		if err != nil {
			return nil, err
		}
		view.First = out.First
		for _, c := range out.Causes {
			view.Causes = append(view.Causes, CauseTold{c.Key, c.Share, c.Sure(), c.Mend, append([]string{}, c.Moved...)})
		}
	}
	return view, r.alone(&view, seen, around)
}

// usualLeft is how many nights anybody looks ahead where nothing ends them: a judgement.
const usualLeft = 21

// alone says what the set is worth as it stands.
func (r Reading) alone(view *MeansView, seen advice.Seen, around odds.Circumstances) error {
	q := seen.Asked
	q.Visits = aloneVisits
	answer, err := odds.Of(q)
	if err != nil || answer.Whole == nil || answer.Whole.Per100.Mid <= 0 {
		return err
	}
	nights := 0.0
	for _, worth := range seen.Record.Worked(seen.Make) {
		nights += worth
	}
	if seen.Record.HasCaught(seen.Make.SetID, q.Target.Key) {
		nights = 0 // it has shown what it is worth
	}
	out, err := advice.Wait(advice.WaitInput{PerNight: answer.Whole.Per100.Mid / 100, Nights: nights, Left: float64(view.Left)})
	if err != nil {
		return err
	}
	view.Alone = &out.Wait
	return nil
}

const aloneVisits = 1000

// seenAt reads a look of the open season with all that is known about it, and the circumstances of its set on an average night.
func (r Reading) seenAt(visitID string) (advice.Seen, odds.Circumstances, error) {
	record, err := r.Shed()
	if err != nil {
		return advice.Seen{}, odds.Circumstances{}, err
	}
	seen := advice.Seen{Record: record.Record}
	for _, v := range record.Visits {
		if v.ID == visitID {
			seen.Look = v
		}
	}
	i := slices.IndexFunc(record.Makes, func(m line.Make) bool { return m.ID == seen.Look.MakeID })
	if seen.Look.ID == "" || i < 0 {
		return seen, odds.Circumstances{}, refuse.ErrUnknown
	}
	seen.Make = record.Makes[i]
	if seen.Drawn, err = r.outlookLine(); err != nil {
		return seen, odds.Circumstances{}, err
	}
	for _, spot := range seen.Drawn.Spots {
		if spot.ID == record.Set(seen.Make.SetID).SpotID {
			seen.Spot = spot
		}
	}
	if seen.Traps, err = trapsOf(record, seen.Make); err != nil {
		return seen, odds.Circumstances{}, err
	}
	target, err := advice.Target(r.Animals, seen.Make, seen.Look)
	if err != nil {
		return seen, odds.Circumstances{}, err
	}
	asked := CircumstancesAsked{Layout: seen.Make.Layout, Target: target.Key, SpotID: seen.Spot.ID, SetID: seen.Make.SetID}
	told, err := circumstances(r, asked)
	if err != nil {
		return seen, odds.Circumstances{}, err
	}
	around := told.(CircumstancesView).Usual
	frost := frostAt(seen.Drawn, seen.Spot.ID)
	seen.Asked = odds.Question{
		Layout: seen.Make.Layout, Target: target, Animals: r.Animals, Schools: r.Schools, Underfoot: frost.Underfoot, Circumstances: &around,
		Soil: soilOf(seen.Spot, frost),
	}
	return seen, around, nil
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
