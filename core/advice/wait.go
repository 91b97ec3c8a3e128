package advice

import "oldburrow/core/refuse"

// WaitInput is a set that has not caught: what it promised a night when it was built, the nights that it worked since, and how many are left until it
// comes up. Change says how many times more a change would catch and how many nights it costs; Move what it would catch a night elsewhere; nil where
// there is none.
type WaitInput struct {
	PerNight float64     `json:"perNight"`
	Nights   float64     `json:"nights"`
	Left     float64     `json:"left"`
	Change   *WaitChange `json:"change,omitempty" jsonschema:"nullable"`
	Move     *WaitMove   `json:"move,omitempty" jsonschema:"nullable"`
}

// WaitChange is what a change does and costs.
type WaitChange struct {
	Gain float64 `json:"gain"`
	Lost float64 `json:"lost"`
}

// WaitMove is the same of a move.
type WaitMove struct {
	PerNight float64 `json:"perNight"`
	Lost     float64 `json:"lost"`
}

// Choice is one of leaving a set, changing it and moving it.
type Choice string

// The choices, that of the least work first.
const (
	ToWait   Choice = "wait"
	ToChange Choice = "change"
	ToMove   Choice = "move"
)

// Choices lists them.
var Choices = []Choice{ToWait, ToChange, ToMove}

// WaitOutput is what the set is worth a night now, and what each choice brings in the nights that are left, in animals.
type WaitOutput struct {
	Now    float64  `json:"now"`
	Wait   float64  `json:"wait"`
	Change *float64 `json:"change"`
	Move   *float64 `json:"move"`
	Best   Choice   `json:"best"`
}

// barren is how many promised animals it takes without one until a set is told at half: a judgement.
const barren = 2.0

// tied is how near two sums lie that are the same.
const tied = 1e-9

// Wait says what leaving a set, changing it and moving it are worth. A set that has caught nothing is a worse set, slowly. It refuses a set that promised
// nothing, and what is below nothing.
func Wait(in WaitInput) (WaitOutput, error) {
	var p refuse.Problems
	if in.PerNight <= 0 {
		p.Add("perNight", "must be above 0, not %g", in.PerNight)
	}
	p.Within("nights", in.Nights, 0, 1e4, "")
	p.Within("left", in.Left, 0, 1e4, "")
	if in.Change != nil {
		p.Within("change.gain", in.Change.Gain, 0, 1e4, "")
		p.Within("change.lost", in.Change.Lost, 0, 1e4, "")
	}
	if in.Move != nil {
		p.Within("move.perNight", in.Move.PerNight, 0, 1e4, "")
		p.Within("move.lost", in.Move.Lost, 0, 1e4, "")
	}
	if err := p.Err(); err != nil {
		return WaitOutput{}, err
	}
	out := WaitOutput{Now: barren / (barren/in.PerNight + in.Nights), Best: ToWait}
	out.Wait = in.Left * out.Now
	best := out.Wait
	better := func(choice Choice, brings float64) *float64 {
		if brings > best+tied {
			best, out.Best = brings, choice
		}
		return &brings
	}
	if in.Change != nil {
		out.Change = better(ToChange, max(0, in.Left-in.Change.Lost)*out.Now*in.Change.Gain)
	}
	if in.Move != nil {
		out.Move = better(ToMove, max(0, in.Left-in.Move.Lost)*in.Move.PerNight)
	}
	return out, nil
}
