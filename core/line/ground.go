package line

import (
	"fmt"
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/odds"
	"oldburrow/core/refuse"
)

// Property is land that the trapper may be on. Asked and Until are dates ("2026-09-14") or blank; Permission is a note in
// the user's own words. What is Deleted is kept and no longer shown.
type Property struct {
	ID         string  `json:"id" db:"id"`
	LineID     string  `json:"lineId" db:"line_id"`
	Name       string  `json:"name" db:"name"`
	Permission string  `json:"permission" db:"permission"`
	Asked      string  `json:"asked" db:"asked"`
	Until      string  `json:"until" db:"until"`
	PaperID    *string `json:"paperId,omitempty" db:"paper_id"` // a picture of it
	Deleted    bool    `json:"deleted" db:"deleted"`
	Version    int     `json:"version" db:"version"`
}

// Check refuses a property without a name, and dates that are none or the wrong way round.
func (x Property) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	p.Text("name", x.Name, 80)
	checkNote(&p, "permission", x.Permission)
	if x.PaperID != nil {
		checkID(&p, "paperId", *x.PaperID)
	}
	asked, until := checkDate(&p, "asked", x.Asked), checkDate(&p, "until", x.Until)
	if !asked.IsZero() && !until.IsZero() && until.Before(asked) {
		p.Add("until", "lies before it was asked: permission ends after it is given")
	}
	return p.Err()
}

// Spot is a place where a set can stand: the travel way that passes it, the ground it lies on, who sees it, and what it has
// met beside this line's own sets. Beside its place and its name everything may be not known: nil or blank.
type Spot struct {
	ID               string         `json:"id" db:"id"`
	LineID           string         `json:"lineId" db:"line_id"`
	PropertyID       string         `json:"propertyId" db:"property_id"`
	Name             string         `json:"name" db:"name"`
	LatDeg           float64        `json:"latDeg" db:"lat_deg" must:"where does it lie"`
	LonDeg           float64        `json:"lonDeg" db:"lon_deg" must:"where does it lie"`
	TravelBearingDeg *float64       `json:"travelBearingDeg" db:"way_bearing_deg" jsonschema:"nullable"` // of the travel way, from north
	TravelWidthMm    *float64       `json:"travelWidthMm" db:"way_width_mm" jsonschema:"nullable"`
	WaysMeet         *int           `json:"waysMeet" db:"ways" jsonschema:"nullable"` // how many travel ways join here
	Soil             ground.Soil    `json:"soil" db:"soil"`
	Wetness          ground.Wetness `json:"wetness" db:"wetness"`
	Surface          ground.Surface `json:"surface" db:"surface"`
	Swirls           bool           `json:"swirls" db:"swirls"` // wind cannot be played here
	Shy              bool           `json:"shy" db:"shy"`       // animals are known to be shy here
	SeenBy           string         `json:"seenBy" db:"seen_by"`
	Through          layout.Through `json:"through" db:"through"` // how many of those that pass take this very way, as the user says
	There            []string       `json:"there" db:"-"`         // what is there, for who draws no map
	Met              []Met          `json:"met" db:"-"`
	PhotoID          *string        `json:"photoId,omitempty" db:"photo_id"`
	Deleted          bool           `json:"deleted" db:"deleted"`
	Version          int            `json:"version" db:"version"`
}

// PlaceOf is where a set stands that lies so at the spot: its own place, or the spot's.
func (s Spot) PlaceOf(l layout.Layout) ground.Fix {
	if l.At != nil {
		return *l.At
	}
	return ground.Fix{LatDeg: s.LatDeg, LonDeg: s.LonDeg}
}

// Reckoned is the spot as it is computed with: of ground whose words are not known nothing is.
func (s Spot) Reckoned() Spot {
	s.Soil, s.Wetness, s.Surface = orBlank(s.Soil, ground.Soils), orBlank(s.Wetness, ground.Wetnesses), orBlank(s.Surface, ground.Surfaces)
	s.Through = orBlank(s.Through, layout.Throughs)
	return s
}

func orBlank[T ~string](key T, of []T) T {
	if slices.Contains(of, key) {
		return key
	}
	return ""
}

// Met is one thing that a place has met and animals may remember: somebody's set, a lure, a catch. On is a date or blank.
type Met struct {
	What MetKind     `json:"what"`
	Note string      `json:"note"`
	On   string      `json:"on"`
	Kind layout.Kind `json:"kind,omitempty"` // of a set; blank is not known
}

// CanBeThere is what can be noted as lying at a spot: what patterns ask for, and cover.
func CanBeThere() []string {
	return append(slices.DeleteFunc(layout.Questions(), func(key string) bool { return key == layout.Robbed }), layout.Cover)
}

// MetKind is a kind of thing that animals have met at a spot.
type MetKind string

// MetKinds lists them.
var MetKinds = []MetKind{"others_set", "own_set", "lure", "catch"}

// Check refuses a spot without a name, a property or a place, and a way and a soil that cannot be.
func (x Spot) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "propertyId", x.PropertyID)
	p.Text("name", x.Name, 80)
	checkPlace(&p, x.LatDeg, x.LonDeg)
	if x.TravelBearingDeg != nil {
		p.Within("travelBearingDeg", *x.TravelBearingDeg, 0, 360, "°")
	}
	if x.TravelWidthMm != nil {
		p.Within("travelWidthMm", *x.TravelWidthMm, 50, 20000, " mm")
	}
	if x.WaysMeet != nil {
		p.Within("waysMeet", float64(*x.WaysMeet), 1, odds.MostWays, "")
	}
	refuse.OneOfSaid(&p, "soil", x.Soil, ground.Soils)
	refuse.OneOfSaid(&p, "wetness", x.Wetness, ground.Wetnesses)
	refuse.OneOfSaid(&p, "surface", x.Surface, ground.Surfaces)
	refuse.OneOfSaid(&p, "through", x.Through, layout.Throughs)
	for i, key := range x.There {
		refuse.OneOf(&p, fmt.Sprintf("there[%d]", i), key, CanBeThere())
	}
	checkNote(&p, "seenBy", x.SeenBy)
	if len(x.Met) > 200 {
		p.Add("met", "is too long: at most 200 things, not %d", len(x.Met))
	}
	for i, m := range x.Met {
		refuse.OneOf(&p, fmt.Sprintf("met[%d].what", i), m.What, MetKinds)
		checkNote(&p, fmt.Sprintf("met[%d].note", i), m.Note)
		checkDate(&p, fmt.Sprintf("met[%d].on", i), m.On)
		refuse.OneOfSaid(&p, fmt.Sprintf("met[%d].kind", i), m.Kind, layout.Kinds)
	}
	return p.Err()
}

// Sign is what an animal left somewhere, or that there is none on ground that would show it. SpotID is nil for sign that
// lies at no spot; Candidates are the animals it could be when it is not sure; YoungerThan is the fall of snow or rain that
// it must be younger than.
type Sign struct {
	ID           string    `json:"id" db:"id"`
	LineID       string    `json:"lineId" db:"line_id"`
	Who          string    `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	SpotID       *string   `json:"spotId" db:"spot_id" jsonschema:"nullable"`
	LatDeg       float64   `json:"latDeg" db:"lat_deg" must:"where does it lie"`
	LonDeg       float64   `json:"lonDeg" db:"lon_deg" must:"where does it lie"`
	What         SignKind  `json:"what" db:"what"`
	Animal       string    `json:"animal" db:"animal"`
	Candidates   []string  `json:"candidates" db:"-"`
	Count        int       `json:"count" db:"count"`
	DirectionDeg *float64  `json:"directionDeg" db:"direction_deg" jsonschema:"nullable"` // of travel, from north
	Age          SignAge   `json:"age" db:"age"`
	YoungerThan  *string   `json:"youngerThan" db:"younger_than" jsonschema:"nullable"`
	Holds        WouldHold `json:"holds" db:"holds"` // how well the ground holds a track
	PhotoID      *string   `json:"photoId" db:"photo_id" jsonschema:"nullable"`
	SeenAt       time.Time `json:"seenAt" db:"seen_at"`
	Note         string    `json:"note" db:"note"`
	Deleted      bool      `json:"deleted" db:"deleted"`
	Version      int       `json:"version" db:"version"`
}

// SignKind is what sign is; "none" is ground that holds a track and shows none.
type SignKind string

// NoSign is where somebody looked and saw none.
const NoSign SignKind = "none"

// SignKinds lists them.
var SignKinds = []SignKind{"tracks", "scat", "scratched", "fence_gap", "worn_trail", "den", "kill", "hair", "bed", NoSign}

// SignAge is how old sign was when it was seen; blank is not said.
type SignAge string

// SignAges lists them, the freshest first.
var SignAges = []SignAge{LastNight, ThreeDays, OneWeek, Older}

// The ages that are said of sign where it is seen.
const (
	LastNight SignAge = "last_night"
	ThreeDays SignAge = "three_days"
	OneWeek   SignAge = "week"
	Older     SignAge = "older"
)

// WouldHold is how well ground holds a track: on hard ground the absence of tracks means nothing.
type WouldHold string

// HoldsTrack lists them.
var HoldsTrack = []WouldHold{"well", "poorly", "not", "unknown"}

// Unsure is the animal of a sign that cannot be told.
const Unsure = "unsure"

// Check refuses a sign that says nothing known, or that was seen after now.
func (x Sign) Check(now time.Time, known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	for _, other := range []struct {
		field string
		id    *string
	}{{"spotId", x.SpotID}, {"photoId", x.PhotoID}, {"youngerThan", x.YoungerThan}} {
		if other.id != nil {
			checkID(&p, other.field, *other.id)
		}
	}
	checkPlace(&p, x.LatDeg, x.LonDeg)
	refuse.OneOf(&p, "what", x.What, SignKinds)
	refuse.OneOf(&p, "animal", x.Animal, append([]string{Unsure}, known.Keys()...))
	for i, one := range x.Candidates {
		refuse.OneOf(&p, fmt.Sprintf("candidates[%d]", i), one, known.Keys())
	}
	p.Within("count", float64(x.Count), 0, 1000, "")
	if x.DirectionDeg != nil {
		p.Within("directionDeg", *x.DirectionDeg, 0, 360, "°")
	}
	refuse.OneOfSaid(&p, "age", x.Age, SignAges)
	refuse.OneOf(&p, "holds", x.Holds, HoldsTrack)
	checkPast(&p, "seenAt", x.SeenAt, now, "when was it seen")
	checkNote(&p, "note", x.Note)
	return p.Err()
}

// Feature is a thing drawn on the map: points as [longitude, latitude] in order, one for a point, the ring of an area
// without its first point again. WidthMm is a travel way's; PropertyID is the property that a boundary encloses.
type Feature struct {
	ID         string             `json:"id" db:"id"`
	LineID     string             `json:"lineId" db:"line_id"`
	Kind       ground.FeatureKind `json:"kind" db:"kind"`
	Name       string             `json:"name" db:"name"`
	Note       string             `json:"note" db:"note"`
	Points     [][2]float64       `json:"points" db:"-"`
	WidthMm    float64            `json:"widthMm" db:"width_mm"`
	PropertyID *string            `json:"propertyId" db:"property_id" jsonschema:"nullable"`
	MadeAt     time.Time          `json:"madeAt" db:"made_at"`
	Deleted    bool               `json:"deleted" db:"deleted"`
	Version    int                `json:"version" db:"version"`
}

// mostPoints is as many points as a line or ring may have.
const mostPoints = 5000

// Check refuses an unknown kind, too few or too many points for its form, and points off the globe.
func (x Feature) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	refuse.OneOf(&p, "kind", x.Kind, ground.FeatureKinds)
	if n := len([]rune(x.Name)); n > 80 {
		p.Add("name", "is too long: at most 80 characters, not %d", n)
	}
	checkNote(&p, "note", x.Note)
	checkTime(&p, "madeAt", x.MadeAt, "when was it drawn")
	if kind, ok := ground.KindOf(x.Kind); ok {
		least := map[string]int{ground.Point: 1, ground.Line: 2, ground.Area: 3}[kind.Form]
		if len(x.Points) < least || kind.Form == ground.Point && len(x.Points) > 1 || len(x.Points) > mostPoints {
			p.Add("points", "do not make a %s: it takes %s, not %d", kind.Form, map[string]string{ground.Point: "one point", ground.Line: "at least two", ground.Area: "at least three"}[kind.Form], len(x.Points))
		}
	}
	if slices.ContainsFunc(x.Points, func(at [2]float64) bool { return !(at[0] >= -180 && at[0] <= 180 && at[1] >= -90 && at[1] <= 90) }) {
		p.Add("points", "lie off the globe: longitude is from -180° to 180°, latitude from -90° to 90°")
	}
	p.Within("widthMm", x.WidthMm, 0, 100000, " mm")
	if x.PropertyID != nil {
		checkID(&p, "propertyId", *x.PropertyID)
	}
	return p.Err()
}

// Fall is a snowfall or a heavy rain that dates the sign lying on it. Ended is when it stopped.
type Fall struct {
	ID      string    `json:"id" db:"id"`
	LineID  string    `json:"lineId" db:"line_id"`
	Kind    FallKind  `json:"kind" db:"kind"`
	Ended   time.Time `json:"ended" db:"ended"`
	Deleted bool      `json:"deleted" db:"deleted"`
	Version int       `json:"version" db:"version"`
}

// FallKind is what falls and dates sign.
type FallKind string

// FallKinds lists them.
var FallKinds = []FallKind{"snow", "rain"}

// Check refuses an unknown fall and one that has not ended.
func (x Fall) Check(now time.Time) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	refuse.OneOf(&p, "kind", x.Kind, FallKinds)
	checkPast(&p, "ended", x.Ended, now, "when did it stop")
	return p.Err()
}

// Photo is a picture kept in the data file. Place and time are those the picture itself carried, when it did.
type Photo struct {
	ID      string     `json:"id" db:"id"`
	LineID  string     `json:"lineId" db:"line_id"`
	Width   int        `json:"width" db:"width"`
	Height  int        `json:"height" db:"height"`
	LatDeg  *float64   `json:"latDeg" db:"lat_deg" jsonschema:"nullable"`
	LonDeg  *float64   `json:"lonDeg" db:"lon_deg" jsonschema:"nullable"`
	TakenAt *time.Time `json:"takenAt" db:"taken_at" jsonschema:"nullable"`
}

// Check refuses a photo without a size, and a place that cannot be.
func (x Photo) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	p.Within("width", float64(x.Width), 1, 1e5, "")
	p.Within("height", float64(x.Height), 1, 1e5, "")
	if x.LatDeg != nil && x.LonDeg != nil {
		checkPlace(&p, *x.LatDeg, *x.LonDeg)
	}
	return p.Err()
}

// checkDate refuses what is no date; a blank is none and no mistake.
func checkDate(p *refuse.Problems, field, text string) time.Time {
	if text == "" {
		return time.Time{}
	}
	t, err := time.Parse(time.DateOnly, text)
	if err != nil {
		p.Add(field, "%q is no date: write one such as 2026-11-30", text)
	}
	return t
}
