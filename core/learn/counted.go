package learn

import "math"

// Counted gathers findings that tell of a link, each with what it weighs.
type Counted struct {
	Reached     float64 `json:"reached"`
	Kept        float64 `json:"kept"`
	Model       float64 `json:"model"`
	KeptSquares float64 `json:"keptSquares"`
	LostSquares float64 `json:"lostSquares"`
}

// With is what two gathered together.
func (c Counted) With(d Counted) Counted {
	return Counted{c.Reached + d.Reached, c.Kept + d.Kept, c.Model + d.Model, c.KeptSquares + d.KeptSquares, c.LostSquares + d.LostSquares}
}

// Add adds a finding of some weight that reached a link, of which its chain promised to keep such a share.
func (c *Counted) Add(weight, model float64, kept bool) {
	c.Reached, c.Model = c.Reached+weight, c.Model+weight*model
	if kept {
		c.Kept, c.KeptSquares = c.Kept+weight, c.KeptSquares+weight*weight
	} else {
		c.LostSquares += weight * weight
	}
}

// Found is what the findings come to. They are worth as many findings of one weight as would leave the same doubt of the share that is kept:
// fewer where what was lost weighs more than what was kept, as it does where it seldom shows.
func (c Counted) Found() LinkFound {
	if c.Reached == 0 {
		return LinkFound{Model: 1}
	}
	share := c.Kept / c.Reached
	size := c.Reached * c.Reached / (c.KeptSquares + c.LostSquares)
	if 0 < share && share < 1 {
		size = share * (1 - share) * c.Reached * c.Reached / ((1-share)*(1-share)*c.KeptSquares + share*share*c.LostSquares)
	}
	return LinkFound{Model: math.Min(1, c.Model/c.Reached), Reached: c.Reached, Kept: c.Kept, Size: &size}
}
