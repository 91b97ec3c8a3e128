package line

import "oldburrow/core/refuse"

// What is still used is not deleted. Each rule is asked with how many things use it.

// MayDelete refuses to delete land that still has spots.
func (x Property) MayDelete(spots int) error {
	return unused(spots, "still has spots: delete or move those first")
}

// MayDelete refuses to delete a spot where a set was built.
func (x Spot) MayDelete(sets int) error {
	return unused(sets, "cannot be: a set stands or stood here, and its record stays")
}

// MayDelete refuses to delete a lure that still has bottles.
func (x Lure) MayDelete(bottles int) error {
	return unused(bottles, "still has bottles: put those away first")
}

// MayUndo refuses to take a make back that was looked at or remade since: what was done last is taken back first.
func (x Make) MayUndo(looks, later int) error {
	switch {
	case looks > 0:
		return refuse.Field("undoneAt", "cannot be: it was looked at since; take that back first")
	case later > 0:
		return refuse.Field("undoneAt", "cannot be: it was remade since; take that back first")
	}
	return nil
}

func unused(by int, says string) error {
	if by > 0 {
		return refuse.Field("deleted", "%s", says)
	}
	return nil
}

// MayHaveNumber refuses a trap's number that others on the rack have; a deleted trap keeps it without harm.
func (x Trap) MayHaveNumber(others int) error {
	if others > 0 && !x.Deleted {
		return refuse.Field("number", "%d is on the rack already: choose another", x.Number)
	}
	return nil
}

// NextNumber is the number of a new set: numbers are never used again.
func NextNumber(highest int) int { return highest + 1 }
