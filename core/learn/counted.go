package learn

import "math"

// Counted gathers findings that tell of a link, each with what it weighs.
type Counted struct{ reached, kept, model, keptSquares, lostSquares float64 }

// Add adds a finding of some weight that reached a link, of which its chain promised to keep such a share.
func (c *Counted) Add(weight, model float64, kept bool) {
	c.reached, c.model = c.reached+weight, c.model+weight*model
	if kept {
		c.kept, c.keptSquares = c.kept+weight, c.keptSquares+weight*weight
	} else {
		c.lostSquares += weight * weight
	}
}

// Found is what the findings come to. They are worth as many findings of one weight as would leave the same doubt of the share that is kept:
// fewer where what was lost weighs more than what was kept, as it does where it seldom shows.
func (c *Counted) Found() LinkFound {
	if c.reached == 0 {
		return LinkFound{Model: 1}
	}
	share := c.kept / c.reached
	size := c.reached * c.reached / (c.keptSquares + c.lostSquares)
	if 0 < share && share < 1 {
		size = share * (1 - share) * c.reached * c.reached / ((1-share)*(1-share)*c.keptSquares + share*share*c.lostSquares)
	}
	return LinkFound{Model: math.Min(1, c.model/c.reached), Reached: c.reached, Kept: c.kept, Size: &size}
}
