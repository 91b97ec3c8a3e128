package shed

import (
	"oldburrow/core/animal"
	"oldburrow/core/gauge"
	"oldburrow/core/layout"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

// PanQuestion asks where a pan should be set, and how presses compare: for which animal, whom to spare, under which cover.
// Without a press only the window is told.
type PanQuestion struct {
	Target        string         `json:"target"`
	Spares        []string       `json:"spares"`
	Cover         []layout.Layer `json:"cover"`
	PanDiameterMm float64        `json:"panDiameterMm"`
	Presses       []float64      `json:"presses"`
	Factor        float64        `json:"factor"`
	Covered       bool           `json:"covered"`           // pressed through the cover
	Footing       bool           `json:"footing,omitempty"` // the pan is the one dry footing
	PerQuarterN   float64        `json:"perQuarterN"`       // what a quarter turn did the last time; 0 is not known
}

// PanAnswer is the window, the trade-off as a curve for each animal, and, with presses, what they come to, how that
// lies to the window, and how often each animal would fire at it.
type PanAnswer struct {
	Wanted   Wanted          `json:"wanted"`
	StepN    float64         `json:"stepN"`
	Curves   []pan.Curve     `json:"curves"`
	Measured *gauge.Measured `json:"measured" jsonschema:"nullable"`
	Verdict  pan.Verdict     `json:"verdict"`
	Turn     gauge.Turn      `json:"turn"`
	Quarters float64         `json:"quarters"` // turns to the middle of the window; 0 is not known
	Fires    []float64       `json:"fires"`    // at the mean, in the order of the curves
}

// Judge answers it. It refuses unknown animals and covers, and presses that cannot be.
func Judge(known animal.Animals, q PanQuestion) (PanAnswer, error) {
	wanted, err := WindowOf(known, q.Target, q.Spares, q.Cover, q.PanDiameterMm, q.Footing)
	if err != nil {
		return PanAnswer{}, err
	}
	var p refuse.Problems
	of := known.Listed(&p, "targets", append([]string{q.Target}, q.Spares...))
	found := PanAnswer{Wanted: wanted, StepN: pan.StepN, Curves: pan.Curves(of, wanted.CoverN, q.Footing), Verdict: verdict(nil, wanted), Fires: []float64{}}
	if len(q.Presses) == 0 {
		return found, nil
	}
	m, err := gauge.Measure(q.Presses, q.Factor)
	if err != nil {
		return found, err
	}
	found.Measured = &m
	m.MeanN = bare(m.MeanN, q.Covered, wanted)
	fails, err := failing(known, m.MeanN, wanted)
	if err != nil {
		return found, err
	}
	found.Verdict = verdict(&Tension{Measured: m, Fails: fails}, wanted)
	found.Turn = gauge.TurnTo(m.MeanN, wanted.WindowOutput)
	if q.PerQuarterN > 0 {
		found.Quarters = found.Turn.ToMiddleN / q.PerQuarterN
	}
	for _, a := range of {
		fires, err := pan.Fire(a, pan.Effective(m.MeanN, wanted.CoverN), q.Footing)
		if err != nil {
			return found, err
		}
		found.Fires = append(found.Fires, fires)
	}
	return found, nil
}
