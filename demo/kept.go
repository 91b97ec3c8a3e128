package demo

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"time"

	"oldburrow/core/line"
)

// Kept is what the nights of the season brought, by the set of the script and the day of the look; a quiet morning is not among them. It is what was
// found, and not the odds: these are told anew by whatever the core knows.
type Kept struct {
	Seed     uint64                        `json:"seed"`
	Mornings map[string]map[string]morning `json:"mornings"`
}

// morning is what a look found: the gravest, what stood beside it, whose prints stood where, and what was held, in the trap or where it was dragged to.
// Trap is the slot of one that did not hold.
type morning struct {
	line.Found
	Also    []line.Found `json:"also,omitempty"`
	Prints  []line.Print `json:"prints,omitempty"`
	Trap    int          `json:"trap,omitempty"`
	Caught  []holding    `json:"caught,omitempty"`
	Dragged []holding    `json:"dragged,omitempty"`
}

// holding is an animal that was held, by which foot and how; Rigs are the slots of those that hold it, where the set has more than one.
type holding struct {
	Species string    `json:"species"`
	Sex     line.Sex  `json:"sex"`
	Foot    line.Foot `json:"foot"`
	Hold    line.Hold `json:"hold"`
	Rigs    []int     `json:"rigs,omitempty"`
}

//go:embed nights.json
var nightsDrawn []byte

func keptNights() (Kept, error) {
	var k Kept
	if err := json.Unmarshal(nightsDrawn, &k); err != nil {
		return k, fmt.Errorf("the nights of the demo's season: %w", err)
	}
	return k, nil
}

func (k Kept) morning(p script, _ line.Make, look time.Time) (morning, error) {
	if found, is := k.Mornings[p.key()][look.Format(time.DateOnly)]; is {
		return found, nil
	}
	return morning{Found: line.Found{Finding: line.FoundQuiet}}, nil
}
