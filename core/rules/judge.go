// Package rules judges what was built, looked at and caught by a card that somebody copied from the rules that bind them. It states no law: of what the
// card does not say nothing is said, and what is not known is told as that.
package rules

import (
	"maps"
	"slices"
	"time"

	"oldburrow/core/refuse"
	"oldburrow/core/round"
)

// Clause is one thing that a card can speak of, by its key.
type Clause string

// The clauses.
const (
	JawMaxMm          Clause = "jawMaxMm"
	JawForm           Clause = "jawForm"
	SwivelsMin        Clause = "swivelsMin"
	Tag               Clause = "tag"
	PanMinN           Clause = "panMinN"
	RoadMinM          Clause = "roadMinM"
	DwellingMinM      Clause = "dwellingMinM"
	TrailMinM         Clause = "trailMinM"
	WaterMinM         Clause = "waterMinM"
	BoundaryMinM      Clause = "boundaryMinM"
	BaitHidden        Clause = "baitHidden"
	InSeason          Clause = "seasons"
	PermissionWritten Clause = "permissionWritten"
	LookHours         Clause = "lookHours"
	LookDaily         Clause = "lookDaily"
	ReportHours       Clause = "reportHours"
	Quota             Clause = "quota"
	Protected         Clause = "protected"
	LicenceUntil      Clause = "licenceUntil"
)

// Card is what a card says; what is blank or nil it does not speak of. Lengths in mm, distances in m, dates as 2026-12-04.
type Card struct {
	JawMaxMm          *float64             `json:"jawMaxMm,omitempty" jsonschema:"nullable"`
	JawForm           []string             `json:"jawForm,omitempty"`
	SwivelsMin        *float64             `json:"swivelsMin,omitempty" jsonschema:"nullable"`
	Tag               bool                 `json:"tag,omitempty"`
	PanMinN           *float64             `json:"panMinN,omitempty" jsonschema:"nullable"`
	RoadMinM          *float64             `json:"roadMinM,omitempty" jsonschema:"nullable"`
	DwellingMinM      *float64             `json:"dwellingMinM,omitempty" jsonschema:"nullable"`
	TrailMinM         *float64             `json:"trailMinM,omitempty" jsonschema:"nullable"`
	WaterMinM         *float64             `json:"waterMinM,omitempty" jsonschema:"nullable"`
	BoundaryMinM      *float64             `json:"boundaryMinM,omitempty" jsonschema:"nullable"`
	BaitHidden        bool                 `json:"baitHidden,omitempty"`
	Seasons           map[string][2]string `json:"seasons,omitempty"` // of a species, from a day to another, both in it
	PermissionWritten bool                 `json:"permissionWritten,omitempty"`
	LookHours         *float64             `json:"lookHours,omitempty" jsonschema:"nullable"`
	LookDaily         bool                 `json:"lookDaily,omitempty"`
	ReportHours       map[string]float64   `json:"reportHours,omitempty"`
	Quota             map[string]float64   `json:"quota,omitempty"`
	Protected         []string             `json:"protected,omitempty"`
	LicenceUntil      string               `json:"licenceUntil,omitempty"`
}

// Kind is what kind of thing is judged.
type Kind string

// The kinds.
const (
	ATrap   Kind = "trap"
	ASet    Kind = "set"
	ALook   Kind = "look"
	ACatch  Kind = "catch"
	APerson Kind = "person"
)

// Kinds lists them.
var Kinds = []Kind{ATrap, ASet, ALook, ACatch, APerson}

// Thing is what is judged, as far as it is known: nil and blank are not known, but of a set To nil is that it still stands, of a permission Until nil that
// it has no end, and of a catch Reported nil that it is not reported yet. Times are RFC 3339, days as 2026-12-04.
type Thing struct {
	Kind Kind `json:"kind"`

	SpreadMm *float64  `json:"spreadMm,omitempty" jsonschema:"nullable"`
	Forms    *[]string `json:"forms,omitempty" jsonschema:"nullable"`
	Swivels  *float64  `json:"swivels,omitempty" jsonschema:"nullable"`
	Tag      *bool     `json:"tag,omitempty" jsonschema:"nullable"`

	TensionN   *float64    `json:"tensionN,omitempty" jsonschema:"nullable"` // of the weakest pan, as measured
	RoadM      *float64    `json:"roadM,omitempty" jsonschema:"nullable"`
	DwellingM  *float64    `json:"dwellingM,omitempty" jsonschema:"nullable"`
	TrailM     *float64    `json:"trailM,omitempty" jsonschema:"nullable"`
	WaterM     *float64    `json:"waterM,omitempty" jsonschema:"nullable"`
	BoundaryM  *float64    `json:"boundaryM,omitempty" jsonschema:"nullable"`
	BaitShows  *bool       `json:"baitShows,omitempty" jsonschema:"nullable"`
	From       string      `json:"from,omitempty"`
	To         *string     `json:"to,omitempty" jsonschema:"nullable"`
	Permission *Permission `json:"permission,omitempty" jsonschema:"nullable"`

	Last string `json:"last,omitempty"`
	At   string `json:"at,omitempty"`
	Zone string `json:"zone,omitempty"`

	Species  SpeciesOf `json:"species,omitempty"` // one of a catch, a list of a set
	Reported *string   `json:"reported,omitempty" jsonschema:"nullable"`
	Now      string    `json:"now,omitempty"`
	Number   *float64  `json:"number,omitempty" jsonschema:"nullable"` // which of the season it is, from 1

	Day string `json:"day,omitempty"`
}

// Permission is whether one is written, and until when it is given.
type Permission struct {
	Written *bool   `json:"written" jsonschema:"nullable"`
	Until   *string `json:"until" jsonschema:"nullable"`
}

// JudgeInput is a card and a thing.
type JudgeInput struct {
	Card  Card  `json:"card"`
	Thing Thing `json:"thing"`
}

// Verdict is what a clause says of a thing.
type Verdict string

// The verdicts.
const (
	Meets   Verdict = "meets"
	Fails   Verdict = "fails"
	Unknown Verdict = "unknown" // of the thing
	Silent  Verdict = "silent"  // the card says nothing
)

// Verdicts lists them.
var Verdicts = []Verdict{Meets, Fails, Unknown, Silent}

// JudgeOutput is the verdict of each clause that speaks of such a thing, and by how much a measure fails, in the clause's unit.
type JudgeOutput struct {
	Verdicts map[Clause]Verdict `json:"verdicts"`
	Short    map[Clause]float64 `json:"short"`
}

// Judge judges a thing by a card. It refuses a kind that is not known, numbers below nought, and what is no date, no time and no zone.
func Judge(in JudgeInput) (JudgeOutput, error) {
	j := judging{in.Card, in.Thing, JudgeOutput{map[Clause]Verdict{}, map[Clause]float64{}}, nil}
	j.check()
	if err := j.p.Err(); err != nil {
		return JudgeOutput{}, err
	}
	switch in.Thing.Kind {
	case ATrap:
		j.trap()
	case ASet:
		j.set()
	case ALook:
		j.look()
	case ACatch:
		j.caught()
	case APerson:
		j.day(LicenceUntil, in.Card.LicenceUntil)
	}
	return j.out, j.p.Err()
}

type judging struct {
	card  Card
	thing Thing
	out   JudgeOutput
	p     refuse.Problems
}

func (j *judging) says(c Clause, v Verdict) { j.out.Verdicts[c] = v }

// is says whether a thing meets a clause that the card has.
func (j *judging) is(c Clause, meets bool) {
	if meets {
		j.says(c, Meets)
		return
	}
	j.says(c, Fails)
}

// wants judges a clause that only asks for yes.
func (j *judging) wants(c Clause, asks bool, is *bool) {
	switch {
	case !asks:
		j.says(c, Silent)
	case is == nil:
		j.says(c, Unknown)
	default:
		j.is(c, *is)
	}
}

// measure judges one that must be at least, or at most, so much.
func (j *judging) measure(c Clause, bound, is *float64, atMost bool) {
	switch {
	case bound == nil:
		j.says(c, Silent)
	case is == nil:
		j.says(c, Unknown)
	default:
		short := *bound - *is
		if atMost {
			short = -short
		}
		j.short(c, short)
	}
}

// short says by how much something fails; it meets where that is not above nought.
func (j *judging) short(c Clause, by float64) {
	if j.is(c, by <= 0); by > 0 {
		j.out.Short[c] = by
	}
}

// day judges that a date has not passed.
func (j *judging) day(c Clause, until string) {
	switch {
	case until == "":
		j.says(c, Silent)
	case j.thing.Day == "":
		j.says(c, Unknown)
	default:
		j.is(c, j.thing.Day <= until)
	}
}

func (j *judging) trap() {
	t := j.thing
	j.measure(JawMaxMm, j.card.JawMaxMm, t.SpreadMm, true)
	switch {
	case len(j.card.JawForm) == 0:
		j.says(JawForm, Silent)
	case t.Forms == nil:
		j.says(JawForm, Unknown)
	default:
		j.is(JawForm, slices.ContainsFunc(*t.Forms, func(form string) bool { return slices.Contains(j.card.JawForm, form) }))
	}
	j.measure(SwivelsMin, j.card.SwivelsMin, t.Swivels, false)
	j.wants(Tag, j.card.Tag, t.Tag)
}

func (j *judging) set() {
	t := j.thing
	j.measure(PanMinN, j.card.PanMinN, t.TensionN, false)
	j.measure(RoadMinM, j.card.RoadMinM, t.RoadM, false)
	j.measure(DwellingMinM, j.card.DwellingMinM, t.DwellingM, false)
	j.measure(TrailMinM, j.card.TrailMinM, t.TrailM, false)
	j.measure(WaterMinM, j.card.WaterMinM, t.WaterM, false)
	j.measure(BoundaryMinM, j.card.BoundaryMinM, t.BoundaryM, false)
	var hidden *bool
	if t.BaitShows != nil {
		hidden = new(!*t.BaitShows)
	}
	j.wants(BaitHidden, j.card.BaitHidden, hidden)
	j.standing()
	j.permission()
}

// standing judges that each night of a set lies in the season of one of the animals that it is for.
func (j *judging) standing() {
	t, to := j.thing, j.thing.Day
	if t.To != nil {
		to = *t.To
	}
	switch {
	case j.card.Seasons == nil:
		j.says(InSeason, Silent)
		return
	case t.Species == nil || t.From == "" || to == "":
		j.says(InSeason, Unknown)
		return
	}
	var open [][2]string
	for _, species := range t.Species {
		if season, ok := j.card.Seasons[species]; ok {
			open = append(open, season)
		}
	}
	meets := len(open) > 0
	for night := parsed(t.From); meets && night.Before(parsed(to)); night = night.AddDate(0, 0, 1) {
		on := night.Format(time.DateOnly)
		meets = slices.ContainsFunc(open, func(season [2]string) bool { return season[0] <= on && on <= season[1] })
	}
	j.is(InSeason, meets)
}

func (j *judging) permission() {
	given := j.thing.Permission
	switch {
	case !j.card.PermissionWritten:
		j.says(PermissionWritten, Silent)
	case given == nil || given.Written == nil, *given.Written && given.Until != nil && j.thing.Day == "":
		j.says(PermissionWritten, Unknown)
	default:
		j.is(PermissionWritten, *given.Written && (given.Until == nil || j.thing.Day <= *given.Until))
	}
}

// look judges a look by one clause: by hours where the card has them, else by the calendar day.
func (j *judging) look() {
	c, in := LookDaily, round.DueInput{Mode: round.CalendarDay, Last: j.thing.Last, Zone: j.thing.Zone}
	if j.card.LookHours != nil {
		c, in.Mode, in.Hours = LookHours, round.Hours, *j.card.LookHours
	}
	switch {
	case c == LookDaily && !j.card.LookDaily:
		j.says(c, Silent)
	case j.thing.Last == "" || j.thing.At == "" || j.thing.Zone == "":
		j.says(c, Unknown)
	default:
		due, err := round.Due(in)
		if err != nil {
			j.p.Under("thing", err)
			return
		}
		j.short(c, at(j.thing.At).Sub(at(due.Due)).Hours())
	}
}

func (j *judging) caught() {
	t, species := j.thing, ""
	if len(t.Species) > 0 {
		species = t.Species[0]
	}
	j.reported(species)
	switch most, has := j.card.Quota[species]; {
	case !has:
		j.says(Quota, Silent)
	default:
		j.measure(Quota, &most, t.Number, true)
	}
	switch {
	case j.card.Protected == nil:
		j.says(Protected, Silent)
	case species == "":
		j.says(Protected, Unknown)
	default:
		j.is(Protected, !slices.Contains(j.card.Protected, species))
	}
	switch season, has := j.card.Seasons[species]; {
	case !has:
		j.says(InSeason, Silent)
	case t.At == "" || t.Zone == "":
		j.says(InSeason, Unknown)
	default:
		zone, err := round.Zone(t.Zone)
		if err != nil {
			j.p.Under("thing", err)
			return
		}
		evening := at(t.At).Add(-12 * time.Hour).In(zone).Format(time.DateOnly)
		j.is(InSeason, season[0] <= evening && evening <= season[1])
	}
}

// reported judges that a catch was reported in time, or that there still is time.
func (j *judging) reported(species string) {
	t := j.thing
	hours, has := j.card.ReportHours[species]
	by := t.Now
	if t.Reported != nil {
		by = *t.Reported
	}
	switch {
	case !has:
		j.says(ReportHours, Silent)
	case t.At == "" || by == "":
		j.says(ReportHours, Unknown)
	default:
		j.short(ReportHours, at(by).Sub(at(t.At)).Hours()-hours)
	}
}

// longest is for how many days a set is judged to stand at most.
const longest = 3660

// check refuses what cannot be.
func (j *judging) check() {
	refuse.OneOf(&j.p, "thing.kind", j.thing.Kind, Kinds)
	within := func(field string, is *float64, most float64) {
		if is != nil {
			j.p.Within(field, *is, 0, most, "")
		}
	}
	for field, is := range map[string]*float64{
		"card.jawMaxMm": j.card.JawMaxMm, "card.swivelsMin": j.card.SwivelsMin, "card.panMinN": j.card.PanMinN, "card.roadMinM": j.card.RoadMinM, "card.dwellingMinM": j.card.DwellingMinM,
		"card.trailMinM": j.card.TrailMinM, "card.waterMinM": j.card.WaterMinM, "card.boundaryMinM": j.card.BoundaryMinM,
		"thing.spreadMm": j.thing.SpreadMm, "thing.swivels": j.thing.Swivels, "thing.tensionN": j.thing.TensionN, "thing.roadM": j.thing.RoadM, "thing.dwellingM": j.thing.DwellingM,
		"thing.trailM": j.thing.TrailM, "thing.waterM": j.thing.WaterM, "thing.boundaryM": j.thing.BoundaryM, "thing.number": j.thing.Number,
	} {
		within(field, is, 1e6)
	}
	if hours := j.card.LookHours; hours != nil {
		j.p.Within("card.lookHours", *hours, .5, 24*366, " hours")
	}
	for _, of := range []struct {
		field string
		is    map[string]float64
	}{{"card.reportHours", j.card.ReportHours}, {"card.quota", j.card.Quota}} {
		for _, species := range slices.Sorted(maps.Keys(of.is)) {
			within(of.field+"."+species, new(of.is[species]), 1e5)
		}
	}
	for _, species := range slices.Sorted(maps.Keys(j.card.Seasons)) {
		season, field := j.card.Seasons[species], "card.seasons."+species
		if j.date(field, season[0]) && j.date(field, season[1]) && season[1] < season[0] {
			j.p.Add(field, "must end no sooner than it begins")
		}
	}
	j.date("card.licenceUntil", j.card.LicenceUntil)
	j.checkThing()
}

func (j *judging) checkThing() {
	t, to := j.thing, j.thing.Day
	j.date("thing.day", t.Day)
	if t.To != nil {
		to = *t.To
		j.date("thing.to", to)
	}
	if j.date("thing.from", t.From) && t.From != "" && to != "" && parsed(to).Sub(parsed(t.From)).Hours() > 24*longest {
		j.p.Add("thing.from", "must lie at most %d days before its end", longest)
	}
	if t.Permission != nil && t.Permission.Until != nil {
		j.date("thing.permission.until", *t.Permission.Until)
	}
	for field, is := range map[string]string{"thing.last": t.Last, "thing.at": t.At, "thing.now": t.Now} {
		j.time(field, is)
	}
	if t.Reported != nil {
		j.time("thing.reported", *t.Reported)
	}
	if t.Zone != "" {
		_, err := round.Zone(t.Zone)
		j.p.Under("thing", err)
	}
}

// date refuses what is no day; a blank one is none said. It is true where there is one.
func (j *judging) date(field, is string) bool {
	if _, err := time.Parse(time.DateOnly, is); is != "" && err != nil {
		j.p.Add(field, "%q is no date: write one such as 2026-12-04", is)
		return false
	}
	return true
}

func (j *judging) time(field, is string) {
	if _, err := time.Parse(time.RFC3339, is); is != "" && err != nil {
		j.p.Add(field, "must be a time such as 2026-12-04T13:10:00Z, not %q", is)
	}
}

// parsed is a day that was checked; at a time.
func parsed(day string) time.Time {
	t, _ := time.Parse(time.DateOnly, day)
	return t
}

func at(is string) time.Time {
	t, _ := time.Parse(time.RFC3339, is)
	return t
}
