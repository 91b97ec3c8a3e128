package nights

import (
	"slices"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/odds"
)

// TellsOf is how well ground tells, by what covers its soil and how wet that is, where they are known, and by what lies on it or has frozen in it.
func TellsOf(surface ground.Surface, wetness ground.Wetness, on layout.Underfoot) Tells {
	switch {
	case on.Snow, surface == "bare" && wetness == "wet" && !on.Frozen:
		return Well
	case on.Frozen, surface == "grass", surface == "litter":
		return Hardly
	}
	return Some
}

// worth is how many findings stand behind one that was told, of an animal that was known: by how often such a thing shows on that ground, and how
// often it is known then whose it was. 0 where it tells of no link.
func worth(f line.Finding, tells Tells, crusted bool) float64 {
	switch f {
	case line.FoundPassed:
		return 1 / (tellsPassed[tells] * tellsWho[tells])
	case line.FoundLooked:
		return 1 / tellsWho[tells] // one that did not show as a look shows among those that passed
	case line.FoundStood:
		return 1 / (tellsStood[tells] * tellsWho[tells])
	case line.FoundStepped:
		if crusted {
			return 1 / (tellsOnCrust * tellsWho[tells])
		}
		return 1 / (tellsStepped * tellsWho[tells])
	case line.FoundDug, line.FoundRobbed, line.FoundRolled, line.FoundSprung, line.FoundLost, line.FoundGone:
		return 1 / tellsDoer
	case line.FoundCatch:
		return 1
	}
	return 0
}

// mostWorth is for how many a single finding can stand, of those that a link lost: where they show more seldom, a ground says nothing of the link.
// A judgement.
const mostWorth = 10

// Telling gathers what the findings of a line tell of its links.
type Telling struct {
	Commits learn.Counted `json:"commits"`
	Steps   learn.Counted `json:"steps"`
	Fires   learn.Counted `json:"fires"`
	Held    learn.Counted `json:"held"`
}

// With is what two tell together.
func (t Telling) With(u Telling) Telling {
	return Telling{t.Commits.With(u.Commits), t.Steps.With(u.Steps), t.Fires.With(u.Fires), t.Held.With(u.Held)}
}

// Add adds a finding on some ground, with the chain of the animal that came, as the set promised it. Who is not known tells nothing.
func (t *Telling) Add(f line.Finding, tells Tells, crusted bool, promised odds.Comer) {
	counts, came := worth(f, tells, crusted), place(f.Facts().Reached)
	if counts == 0 {
		return
	}
	for _, link := range []struct {
		*learn.Counted
		from, to odds.LinkKey
		lost     line.Finding
		model    float64
	}{
		{&t.Commits, odds.Passes, odds.Commits, line.FoundPassed, promised.Notices * promised.Commits},
		{&t.Steps, odds.Commits, odds.Steps, line.FoundStood, promised.Steps},
		{&t.Fires, odds.Steps, odds.Fires, line.FoundStepped, promised.Fires},
		{&t.Held, odds.Fires, odds.Held, line.FoundLost, promised.Held},
	} {
		if came >= place(link.from) && worth(link.lost, tells, crusted) <= mostWorth {
			link.Add(counts, link.model, came >= place(link.to))
		}
	}
}

// place is which of the links it is.
func place(of odds.LinkKey) int { return slices.Index(odds.LinkKeys, of) }

// Found is what was gathered of each link.
func (t Telling) Found() learn.LinksFound {
	return learn.LinksFound{Commits: t.Commits.Found(), Steps: t.Steps.Found(), Fires: t.Fires.Found(), Held: t.Held.Found()}
}
