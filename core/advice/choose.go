package advice

import (
	"oldburrow/core/line"
)

// Choosing is what there is to choose between after a look: the mend that the causes name, and what leaving the set and making it so are worth.
type Choosing struct {
	Finding line.Finding
	Mend    MendKey
	// Patience is for how many nights a new thing is left alone, by whoever goes by that; Stood how many the set has stood.
	Patience, Stood int
	// Beyond is a mend that is done though it gains nothing by the chain: the set is not to be left as it stands.
	Beyond bool
	Worth  WaitInput
}

// Because is why something is to be done first.
type Because string

// The reasons.
const (
	BecauseMend     Because = "mend"     // it brings more
	BecauseUnsure   Because = "unsure"   // no cause is likely enough
	BecausePatience Because = "patience" // what is new is looked at before it is trusted, and each touch makes it new
	BecauseWaiting  Because = "waiting"  // waiting brings as much
)

// Becauses lists them.
var Becauses = []Because{BecauseMend, BecauseUnsure, BecausePatience, BecauseWaiting}

// Chosen is what is to be done first, why, what comes second, blank where nothing does, and what each is worth.
type Chosen struct {
	First, Second MendKey
	Why           Because
	Worth         WaitOutput
}

// worthIt is how many times as much as waiting a change must bring. A judgement: fewer are within what anybody knows.
const worthIt = 1.05

// Choose says what is to be done first: the mend, unless it asks for patience, or waiting is worth about as much. It refuses what Wait does.
func Choose(in Choosing) (Chosen, error) {
	worth, err := Wait(in.Worth)
	if err != nil {
		return Chosen{}, err
	}
	left := func(why Because) (Chosen, error) { return Chosen{Leave, in.Mend, why, worth}, nil }
	switch {
	case in.Mend == Leave:
		return Chosen{First: Leave, Why: BecauseUnsure, Worth: worth}, nil
	case in.Beyond:
	case walksBy(in.Finding) && in.Stood < in.Patience:
		return left(BecausePatience)
	case worth.Change == nil || *worth.Change < worthIt*worth.Wait+tied:
		return left(BecauseWaiting)
	}
	return Chosen{in.Mend, Leave, BecauseMend, worth}, nil
}

// walksBy is a finding of an animal that did not try the set.
func walksBy(f line.Finding) bool { return f == line.FoundPassed || f == line.FoundLooked }

// patience is for how many nights a set is left alone after an animal walked by: by whoever goes by that, and not where they are known to be shy.
func (s Seen) patience() int {
	if s.Asked.Schools.WalkedBy != "leave" || s.Spot.Shy {
		return 0
	}
	if s.Asked.Target.Wary {
		return waryNights
	}
	return otherNights
}

// Judgements of the trade.
const (
	waryNights  = 6
	otherNights = 3
)
