package odds

import (
	"fmt"
	"maps"
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/refuse"
)

// Circumstances is what is known of a set's place and night, and of what the place and the set have been through: how old the best sign
// near it is and how many signs there are, how many ways meet, over which share of the night its scent lies across the way, what the place
// makes of a set, what is on the shelf and how it stands to the place, the night since it was built, whether its chain of makes has caught
// the target, and how many nights are left. Nil, blank and nought are not known.
type Circumstances struct {
	Sign         Age           `json:"sign"`
	Signs        int           `json:"signs"`
	WaysMeet     int           `json:"waysMeet"`
	Coverage     *float64      `json:"coverage" jsonschema:"nullable"`
	Site         layout.Site   `json:"site"`
	Shelf        []ShelfLure   `json:"shelf"`
	KindsMetThen []layout.Kind `json:"kindsMetThen"` // what the place has met once this set, as it stands, has been made otherwise
	Night        int           `json:"night"`
	CaughtBefore bool          `json:"caughtBefore"`
	ScentOnBed   *bool         `json:"scentOnBed,omitempty"` // whether scent came onto the bed when it was built; nil is not known
	Left         int           `json:"left"`
	LeftTo       string        `json:"leftTo"` // what ends them: the season or a permission; blank where they are as many as anybody looks ahead
	// Heaviest is the heaviest animal likely about, by its key; Pets are the dogs and cats that were noted near.
	Heaviest string   `json:"heaviest"`
	Pets     []string `json:"pets"`
	// Dwelling tells whether a dwelling is drawn so near that its dogs and cats come by.
	Dwelling bool `json:"dwelling"`
	// Others is what is known about the place of each animal but the target, by its key; of who is not named nothing is known.
	Others map[string]Presence `json:"others,omitempty"`
	// Facings is over which share of the night the scent would lie across the way if the set faced otherwise.
	Facings []Facing `json:"facings,omitempty"`
	// Record is what the line's record says of its promises; nil where it is not asked.
	Record *learn.Learnt `json:"record,omitempty"`
}

// Presence is how old the best sign of an animal near a place is, blank where nobody looked, how many signs there are, and which share of
// its usual numbers is about at that time; nil where that is not known.
type Presence struct {
	Sign  Age      `json:"sign"`
	Signs int      `json:"signs,omitempty"`
	About *float64 `json:"about,omitempty"`
}

// Facing is a way in which a set could face, and its scent's coverage then.
type Facing struct {
	FacingDeg float64 `json:"facingDeg"`
	Coverage  float64 `json:"coverage"`
}

// ShelfLure is a lure of the shelf: its class, for how many doses it lasts, and how the place knows it.
type ShelfLure struct {
	LureID string           `json:"lureId"`
	Name   string           `json:"name"`
	Class  layout.SmellKind `json:"class"`
	Doses  int              `json:"doses"`
	Stands string           `json:"stands"`         // new or met; blank between
	Digs   bool             `json:"digs,omitempty"` // by the record it makes them dig
}

// What ends the nights that are left.
const (
	LeftToSeason     = "season"
	LeftToPermission = "permission"
)

// How many nights a gain is told over, where nothing is known, and at most. Judgements.
const (
	usualLeft = 14
	mostLeft  = 21
)

// MostLeft is over how many nights a gain is told at most.
func MostLeft() int { return mostLeft }

func (c Circumstances) left() int {
	if c.Left <= 0 {
		return usualLeft
	}
	return min(mostLeft, c.Left)
}

// presence is what is known of an animal about the place. All of a target's numbers are about.
func (c Circumstances) presence(q Question) Presence {
	if !q.other {
		return Presence{c.Sign, c.Signs, new(1.0)}
	}
	return c.Others[q.Target.Key]
}

// MostWays is how many ways can be said to meet; from three on the chain counts them alike.
const MostWays = 5

// How lures stand to a place, and to the season.
const (
	LuresNew  = "new"
	LuresMet  = "met"
	InSeason  = "in"
	OutSeason = "out"
)

// Check refuses words that are not known, and counts that cannot be.
func (c Circumstances) Check(p *refuse.Problems, known animal.Animals) {
	if c.Sign != "" {
		refuse.OneOf(p, "circumstances.sign", c.Sign, append(slices.Clone(Ages), AgeUnsaid))
	}
	for i, key := range c.Pets {
		known.Named(p, fmt.Sprintf("circumstances.pets[%d]", i), key)
	}
	for _, count := range []struct {
		field string
		is    int
		least float64
		most  float64
	}{{"waysMeet", c.WaysMeet, 0, MostWays}, {"night", c.Night, 1, 10000}, {"signs", c.Signs, 0, 10000}, {"left", c.Left, 0, 10000}} {
		p.Within("circumstances."+count.field, float64(count.is), count.least, count.most, "")
	}
	if c.Coverage != nil {
		p.Within("circumstances.coverage", *c.Coverage, 0, 1, "")
	}
	c.checkPlace(p)
	c.checkLists(p, known)
}

func (c Circumstances) checkPlace(p *refuse.Problems) {
	at := c.Site
	if _, err := time.Parse(time.DateOnly, at.Day); at.Day != "" && err != nil {
		p.Add("circumstances.site.day", "%q is no date: write one such as 2026-12-04", at.Day)
	}
	if at.Through != "" {
		refuse.OneOf(p, "circumstances.site.through", at.Through, layout.Throughs)
	}
	if at.WayMm != nil {
		p.Within("circumstances.site.wayMm", *at.WayMm, 50, 20000, " mm")
	}
	if at.SnowMm != nil {
		p.Within("circumstances.site.snowMm", *at.SnowMm, 0, 10000, " mm")
	}
	if len(at.Near) > mostNear {
		p.Add("circumstances.site.near", "must be at most %d, not %d", mostNear, len(at.Near))
	}
}

func (c Circumstances) checkLists(p *refuse.Problems, known animal.Animals) {
	for _, key := range slices.Sorted(maps.Keys(c.Others)) {
		is, at := c.Others[key], "circumstances.others."+key
		known.Named(p, at, key)
		if is.Sign != "" {
			refuse.OneOf(p, at+".sign", is.Sign, append(slices.Clone(Ages), AgeUnsaid))
		}
		if is.About != nil {
			p.Within(at+".about", *is.About, 0, 1, "")
		}
	}
	if len(c.Facings) > mostFacings {
		p.Add("circumstances.facings", "must be at most %d, not %d", mostFacings, len(c.Facings))
	}
	for i, f := range c.Facings {
		at := fmt.Sprintf("circumstances.facings[%d].", i)
		p.Within(at+"facingDeg", f.FacingDeg, 0, 360, "°")
		p.Within(at+"coverage", f.Coverage, 0, 1, "")
	}
	c.Record.Check(p, "circumstances.record")
	for _, key := range slices.Sorted(maps.Keys(c.recorded())) {
		known.Named(p, "circumstances.record.animals."+key, key)
	}
	if len(c.Shelf) > mostOnShelf {
		p.Add("circumstances.shelf", "must be at most %d, not %d", mostOnShelf, len(c.Shelf))
	}
}

// recorded are the animals that the record says anything of.
func (c Circumstances) recorded() map[string]learn.LearntOf {
	if c.Record == nil {
		return nil
	}
	return c.Record.Animals
}

const (
	mostFacings = 16
	mostNear    = 200
	mostOnShelf = 500
)

// on is the local day so many nights after that of the circumstances; false where that is not known.
func (c Circumstances) on(nights int) (time.Time, bool) {
	day, err := time.Parse(time.DateOnly, c.Site.Day)
	return day.AddDate(0, 0, nights), err == nil
}

// bottle finds a lure on the shelf.
func (c Circumstances) bottle(lureID string) (ShelfLure, bool) {
	i := slices.IndexFunc(c.Shelf, func(l ShelfLure) bool { return l.LureID == lureID && lureID != "" })
	if i < 0 {
		return ShelfLure{}, false
	}
	return c.Shelf[i], true
}

// classOf is what something smells of, by the shelf where it stands there.
func (c Circumstances) classOf(s layout.Smell) layout.SmellKind {
	if l, ok := c.bottle(s.LureID); ok {
		return l.Class
	}
	return s.Kind
}

// isLure tells whether something is a lure: no food, and not the urine that it shares with every set, nor scat.
func (c Circumstances) isLure(s layout.Smell) bool {
	class := c.classOf(s)
	return class != layout.Urine && class != layout.Scat && class != layout.Bait && class != layout.FoodLure
}

// lures are how the lures of a set stand to the place: met where one of them is, new where all of them are; blank where nothing is known.
func (c Circumstances) lures(l layout.Layout) string {
	found := ""
	for _, s := range l.Smells() {
		known, ok := c.bottle(s.LureID)
		switch {
		case !ok || !c.isLure(s):
		case known.Stands == LuresMet:
			return LuresMet
		case known.Stands != LuresNew:
			return ""
		default:
			found = LuresNew
		}
	}
	return found
}

// season is how what a set smells of stands to the season on a day.
func (c Circumstances) season(l layout.Layout, on time.Time) string {
	var classes []layout.SmellKind
	for _, s := range l.Smells() {
		if s.Name != "" || s.LureID != "" {
			classes = append(classes, c.classOf(s))
		}
	}
	return SeasonOf(classes, on)
}
