package line

import (
	"slices"

	"oldburrow/core/odds"
)

// Finding is what a look can find at a set, or at one of its rigs.
type Finding string

// The findings.
const (
	FoundQuiet     Finding = "quiet"
	FoundPassed    Finding = "passed"
	FoundLooked    Finding = "looked"
	FoundStood     Finding = "stood"
	FoundStepped   Finding = "stepped"
	FoundDug       Finding = "dug"
	FoundRobbed    Finding = "robbed"
	FoundRolled    Finding = "rolled"
	FoundSprung    Finding = "sprung"
	FoundLost      Finding = "lost"
	FoundCatch     Finding = "catch"
	FoundGone      Finding = "gone"
	FoundLocked    Finding = "locked"
	FoundDisturbed Finding = "disturbed"
	FoundUnable    Finding = "unable"
	FoundTaken     Finding = "taken"
	FoundAgain     Finding = "found"
	FoundGivenUp   Finding = "given_up"
)

// Answer is what the round asks first; each finding belongs to one.
type Answer string

// The answers.
const (
	AnswerQuiet   Answer = "quiet"
	AnswerCame    Answer = "came"
	AnswerWorked  Answer = "worked"
	AnswerHolding Answer = "holding"
	AnswerTrouble Answer = "trouble"
	AnswerSearch  Answer = "search"
)

// Facts are all that follows from a finding. Reached is the last link of the chain that an animal got through, and Failed the one at which
// it ended; blank where the finding tells of none.
type Facts struct {
	Finding Finding
	Answer  Answer
	Half    bool // the nights since the set was last seen working count half
	Ends    bool // it works no more until it is remade
	Remake  bool // it has to be built anew before it works as it should
	Fired   bool // the trap had closed
	Holds   bool // an animal can be in the trap
	Away    bool // the trap is no longer there
	Sought  bool // and is searched for, until it is found or given up
	Reached odds.LinkKey
	Failed  odds.LinkKey
}

// findings are in the order that the round asks.
var findings = []Facts{
	{Finding: FoundQuiet, Answer: AnswerQuiet, Failed: odds.Passes},
	{Finding: FoundPassed, Answer: AnswerCame, Reached: odds.Passes, Failed: odds.Notices},
	{Finding: FoundLooked, Answer: AnswerCame, Reached: odds.Notices, Failed: odds.Commits},
	{Finding: FoundStood, Answer: AnswerWorked, Reached: odds.Commits, Failed: odds.Steps},
	{Finding: FoundStepped, Answer: AnswerWorked, Reached: odds.Steps, Failed: odds.Fires},
	{Finding: FoundDug, Answer: AnswerWorked, Half: true, Ends: true, Remake: true, Reached: odds.Notices, Failed: odds.Commits},
	{Finding: FoundRobbed, Answer: AnswerWorked, Half: true, Remake: true, Reached: odds.Notices, Failed: odds.Commits},
	{Finding: FoundRolled, Answer: AnswerWorked, Half: true, Remake: true, Reached: odds.Notices, Failed: odds.Commits},
	{Finding: FoundSprung, Answer: AnswerWorked, Half: true, Ends: true, Remake: true, Fired: true, Reached: odds.Fires, Failed: odds.Held},
	{Finding: FoundLost, Answer: AnswerWorked, Half: true, Ends: true, Remake: true, Fired: true, Reached: odds.Fires, Failed: odds.Held},
	{Finding: FoundCatch, Answer: AnswerHolding, Half: true, Ends: true, Remake: true, Fired: true, Holds: true, Reached: odds.Held},
	{Finding: FoundGone, Answer: AnswerTrouble, Half: true, Ends: true, Remake: true, Holds: true, Away: true, Sought: true, Reached: odds.Fires},
	{Finding: FoundLocked, Answer: AnswerTrouble, Half: true, Remake: true},
	{Finding: FoundDisturbed, Answer: AnswerTrouble},
	{Finding: FoundUnable, Answer: AnswerTrouble, Half: true, Ends: true, Remake: true},
	{Finding: FoundTaken, Answer: AnswerTrouble, Half: true, Ends: true, Away: true},
	{Finding: FoundAgain, Answer: AnswerSearch, Half: true, Ends: true, Remake: true, Holds: true},
	{Finding: FoundGivenUp, Answer: AnswerSearch, Half: true, Ends: true, Remake: true, Away: true},
}

// Facts gives what follows from a finding; from one that is not known nothing does.
func (f Finding) Facts() Facts {
	for _, facts := range findings {
		if facts.Finding == f {
			return facts
		}
	}
	return Facts{Finding: f}
}

// Findings lists what a look can find, in the order that the round asks.
var Findings = FindingsThat(func(Facts) bool { return true })

// Answers are what the round asks first, in its order.
var Answers = []Answer{AnswerQuiet, AnswerCame, AnswerWorked, AnswerHolding, AnswerTrouble, AnswerSearch}

// FindingsThat lists the findings from which something follows.
func FindingsThat(is func(Facts) bool) []Finding {
	var found []Finding
	for _, facts := range findings {
		if is(facts) {
			found = append(found, facts.Finding)
		}
	}
	return found
}

// Through counts the looks whose finding reached a link of the chain, and those that came through it. To notice a set and to commit to it are one: who
// passed has come to both, and who works it has come through.
func Through(looks []Visit, link odds.LinkKey) (reached, kept int) {
	place := func(of odds.LinkKey) int { return slices.Index(odds.LinkKeys, of) }
	to := place(link)
	from := to - 1
	if link == odds.Notices || link == odds.Commits {
		from, to = place(odds.Passes), place(odds.Commits)
	}
	for _, look := range looks {
		through := place(look.Finding.Facts().Reached)
		if through < from {
			continue
		}
		if reached++; through >= to {
			kept++
		}
	}
	return reached, kept
}
