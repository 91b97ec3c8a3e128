package line

import (
	"maps"
	"math"
	"slices"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/odds"
)

// signsDays is of how many days signs are counted, and separateM how far apart two of one day must lie to be two.
const (
	signsDays = 30
	separateM = 50.0
)

// SignNear is how old the best sign of an animal is on a day, of those that count for a place: today, days_3, days_7 or older, or that nobody
// said how old it is; "none" where somebody looked and the ground would have held a track; blank where nobody did. And how many separate
// signs of it there are of the last thirty days: of different days, or well apart. Days are those of now's zone.
func SignNear(signs []Sign, animal string, counts func(Sign) bool, now time.Time) (best odds.Age, separate int) {
	var counted []Sign
	for _, s := range signs {
		if s.Deleted || s.SeenAt.After(now) || !counts(s) {
			continue
		}
		ago := now.Sub(s.SeenAt).Hours() / 24
		switch {
		case s.What == NoSign:
			if s.Holds == "well" && ago <= weekDays && best == "" {
				best = odds.AgeNone
			}
		case s.Animal == animal:
			if is := s.agedTo(ago); best == "" || best == odds.AgeNone || fresher(is, best) {
				best = is
			}
			if ago <= signsDays && !slices.ContainsFunc(counted, func(other Sign) bool { return s.isWith(other, now.Location()) }) {
				counted = append(counted, s)
			}
		}
	}
	if best != "" && best != odds.AgeNone {
		return best, max(1, len(counted)) // one that is older stands behind it all the same
	}
	return best, len(counted)
}

// isWith tells whether a sign is one with another: of the same day, and not well apart.
func (x Sign) isWith(other Sign, zone *time.Location) bool {
	day := func(s Sign) string { return s.SeenAt.In(zone).Format(time.DateOnly) }
	plane := ground.PlaneAbout(ground.Fix{LatDeg: x.LatDeg, LonDeg: x.LonDeg})
	return day(x) == day(other) && ground.Apart(plane.At(ground.Fix{LatDeg: other.LatDeg, LonDeg: other.LonDeg}), [2]float64{}) <= separateM
}

// ages is the one scale of the age of sign, the freshest first: what is said of it where it is seen, how many days old it is by that, and
// what it counts as until it is how old.
var ages = []struct {
	said  SignAge
	days  float64
	is    odds.Age
	until float64
}{
	{LastNight, 0, odds.AgeToday, 1}, {ThreeDays, 2, odds.AgeDays3, 3}, {OneWeek, 5, odds.AgeDays7, weekDays}, {Older, 14, odds.AgeOlder, math.Inf(1)},
}

const weekDays = 7

// agedTo is how old a sign is that was seen so many days ago.
func (x Sign) agedTo(ago float64) odds.Age {
	days := ago
	for _, age := range ages {
		if age.said == x.Age {
			days += age.days
		}
	}
	if orBlank(x.Age, SignAges) == "" && days <= weekDays {
		return odds.AgeUnsaid
	}
	for _, age := range ages {
		if days <= age.until {
			return age.is
		}
	}
	return odds.AgeOlder // of a time that is no number
}

// fresher tells whether an age is fresher than another; one that nobody said stands before what is older than a week.
func fresher(a, b odds.Age) bool {
	rank := func(age odds.Age) float64 {
		for i, known := range ages {
			if known.is == age {
				return float64(i)
			}
		}
		return float64(len(ages)) - 1.5
	}
	return rank(a) < rank(b)
}

// Came is what came to the sets of a spot, by the record: each animal that a look named or a trap held, as sign of its day.
func (r Record) Came(spot Spot) []Sign {
	var found []Sign
	for _, m := range r.Makes {
		if r.sets[m.SetID].SpotID == spot.ID {
			at := spot.PlaceOf(m.Layout)
			r.came(m, func(animal string, on time.Time) {
				found = append(found, Sign{SpotID: &spot.ID, LatDeg: at.LatDeg, LonDeg: at.LonDeg, What: "tracks", Animal: animal, Age: "last_night", SeenAt: on})
			})
		}
	}
	return found
}

// came tells each animal that a look at a make named, or that was held there.
func (r Record) came(m Make, tell func(animal string, on time.Time)) {
	say := func(animal string, on time.Time) {
		if animal != "" && animal != Unsure {
			tell(animal, on)
		}
	}
	for _, look := range r.looks[m.ID] {
		say(look.Animal, look.At)
		for _, also := range look.Also {
			say(also.Animal, look.At)
		}
		for _, c := range look.Catches {
			say(c.Species, look.At)
		}
	}
}

// HasCaught tells whether a make of a set has caught an animal of a species in the record, since it was last made in a new bed.
func (r Record) HasCaught(setID, species string) bool {
	makes := r.At(setID)
	for i := len(makes) - 1; i >= 0; i-- {
		m := makes[i]
		if i+1 < len(makes) && makes[i+1].form() == NewBed {
			break
		}
		for _, look := range r.looks[m.ID] {
			if slices.ContainsFunc(look.Catches, func(c Catch) bool { return c.Species == species }) {
				return true
			}
		}
	}
	return false
}

// WasRobbed tells whether a look at a set found it robbed.
func (r Record) WasRobbed(setID string) bool {
	for _, m := range r.At(setID) {
		for _, look := range r.looks[m.ID] {
			if look.Finding == FoundRobbed || slices.ContainsFunc(look.Also, func(f Found) bool { return f.Finding == FoundRobbed }) {
				return true
			}
		}
	}
	return false
}

// KindsMet are the kinds of set that a spot has met often in the record, whoever built them, but for one make and those in whose bed it stands; sorted.
// What is made again in its bed is met once.
func (r Record) KindsMet(spot Spot, but *Make) []layout.Kind {
	own := map[string]bool{}
	if but != nil {
		for _, m := range r.Run(*but) {
			own[m.ID] = true
		}
	}
	met := map[layout.Kind]exposure{}
	for _, m := range r.Makes {
		if r.sets[m.SetID].SpotID == spot.ID && !own[m.ID] {
			met[m.Layout.Kind] = met[m.Layout.Kind].and(m, r.Now)
		}
	}
	for _, other := range spot.Met {
		if other.Kind != "" && r.meets(other) {
			is := met[other.Kind]
			is.makes++
			met[other.Kind] = is
		}
	}
	kinds := []layout.Kind{}
	for kind, is := range met {
		if is.often() {
			kinds = append(kinds, kind)
		}
	}
	slices.Sort(kinds)
	return kinds
}

// meets tells whether a thing that a place has met was there in the record's span; one without a day is taken to have been.
func (r Record) meets(met Met) bool {
	on, err := time.ParseInLocation(time.DateOnly, met.On, r.Zone)
	return err != nil || r.Span.Holds(on)
}

// aboutM is how near an animal has to have been seen or caught to be about, m.
const aboutM = 800.0

// About is where animals were about, by animal.
type About map[string][]Where

// Where is where one was about: at a place, its latitude and longitude, or, where none is said, at a spot, wherever that lies.
type Where struct {
	SpotID string      `json:"spotId,omitempty"`
	At     *[2]float64 `json:"at,omitempty"`
}

// placed is a place to a tenth of a metre.
func placed(at ground.Fix) *[2]float64 {
	fine := func(deg float64) float64 { return math.Round(deg*1e6) / 1e6 }
	return &[2]float64{fine(at.LatDeg), fine(at.LonDeg)}
}

// Sighted are the animals of which there is sign, each where that lay.
func Sighted(signs []Sign) About {
	found := About{}
	for _, s := range signs {
		if !s.Deleted && s.What != "none" && s.Animal != Unsure {
			found[s.Animal] = append(found[s.Animal], Where{At: placed(ground.Fix{LatDeg: s.LatDeg, LonDeg: s.LonDeg})})
		}
	}
	return found
}

// Sighted are the animals that a look of the record named or that were caught, each once where its set stood.
func (r Record) Sighted() About {
	type once struct {
		animal, spot string
		at           [2]float64
	}
	found, met := About{}, map[once]bool{}
	for _, m := range r.Makes {
		here := Where{SpotID: r.sets[m.SetID].SpotID}
		is := once{spot: here.SpotID}
		if m.Layout.At != nil {
			here.At = placed(*m.Layout.At)
			is.at = *here.At
		}
		r.came(m, func(animal string, _ time.Time) {
			if is.animal = animal; !met[is] {
				met[is] = true
				found[animal] = append(found[animal], here)
			}
		})
	}
	return found
}

// With is what two know together.
func (a About) With(b About) About {
	both := About{}
	maps.Copy(both, a)
	for animal, more := range b {
		both[animal] = slices.Concat(both[animal], more)
	}
	return both
}

// Near are the animals that were about near a place, sorted. What was seen at a spot that is not among those given counts for nothing.
func (a About) Near(at ground.Fix, spots []Spot) []string {
	plane := ground.PlaneAbout(at)
	bySpot := map[string]Spot{}
	for _, s := range spots {
		bySpot[s.ID] = s
	}
	near := func(one Where) bool {
		spot, there := bySpot[one.SpotID]
		lies := ground.Fix{LatDeg: spot.LatDeg, LonDeg: spot.LonDeg}
		if one.At != nil {
			lies, there = ground.Fix{LatDeg: one.At[0], LonDeg: one.At[1]}, there || one.SpotID == ""
		}
		return there && ground.Apart(plane.At(lies), [2]float64{}) <= aboutM
	}
	found := []string{}
	for animal, all := range a {
		if slices.ContainsFunc(all, near) {
			found = append(found, animal)
		}
	}
	slices.Sort(found)
	return found
}

// Heaviest is the animal that pulls hardest of those that a line is set for and of the wild ones that have been near; the zero animal where
// there is none.
func Heaviest(known animal.Animals, targets, near []string) animal.Animal {
	var found animal.Animal
	for _, key := range slices.Concat(targets, near) {
		a, err := known.ByKey(key)
		if err == nil && !a.Pet && (found.Key == "" || anchor.Heavier(a, found)) {
			found = a
		}
	}
	return found
}

// Targets are the animals that the sets which stand are made for, sorted.
func (r Record) Targets() []string {
	found := []string{}
	for _, m := range r.Standing() {
		if !slices.Contains(found, m.Target) {
			found = append(found, m.Target)
		}
	}
	slices.Sort(found)
	return found
}
