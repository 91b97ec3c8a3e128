package page

import (
	"cmp"
	"oldburrow/core/advice"
	"slices"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/promise"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
	"oldburrow/core/weather"
)

// Form counts the forms of a bundle: one of another form is not used.
const Form = 6

// Bundle is the open season of a line, with what stood when it began, as a browser takes it along: a Source that holds that and no more.
type Bundle struct {
	Form   int        `json:"form"`
	Line   line.Line  `json:"line"`
	Around Around     `json:"around"`
	Span   tally.Span `json:"span"` // of the season
	// Before is what earlier seasons leave for today, as are what is Gone and the bases of Stories and Pourings: the program makes them out, and
	// never the browser.
	Before     Before            `json:"before"`
	Unreadable []line.Unreadable `json:"unreadable"`
	Rows       Rows              `json:"rows"`
}

// Rows are the records that a bundle holds, each kind in the order in which a Source gives it.
type Rows struct {
	Seasons      line.Seasons          `json:"seasons"`
	Properties   []line.Property       `json:"properties"`
	Spots        []line.Spot           `json:"spots"`
	Features     []line.Feature        `json:"features"`
	Signs        []line.Sign           `json:"signs"`
	Falls        []line.Fall           `json:"falls"`
	Designs      []line.Design         `json:"designs"`
	Patterns     []line.Pattern        `json:"patterns"`
	Noted        line.Noted            `json:"noted"`
	Acts         []line.Act            `json:"acts"`
	Readings     []line.Reading        `json:"readings"`
	Observed     Hours                 `json:"observed"`
	Expected     Hours                 `json:"expected"`
	Traps        []line.Trap           `json:"traps"`
	Stories      map[string]shed.Story `json:"stories"` // by trap
	Gone         map[string]shed.Gone  `json:"gone"`
	StillIn      []line.StillIn        `json:"stillIn"`
	Calibrations []line.Calibration    `json:"calibrations"`
	Pourings     []shed.Pouring        `json:"pourings"`
	Recipes      []line.Recipe         `json:"recipes"`
	KitMarks     []line.KitMark        `json:"kitMarks"`
	Promises     []promise.Make        `json:"promises"` // as they were made out
	Weighed      []advice.Kept         `json:"weighed"`  // likewise
}

// Whole is a Source that has the whole of a line's record.
type Whole interface {
	Source
	// Stories cuts what happened to the traps of a line at a time.
	Stories(lineID string, from time.Time) (map[string]shed.Story, error)
	// Pourings are everything that was noted of the lures of a line.
	Pourings(lineID string) ([]shed.Pouring, error)
}

// endless is after everything that can be said to have been done.
var endless = time.Date(9999, 12, 31, 0, 0, 0, 0, time.UTC)

// Take takes along what a reading of the whole record holds of the open season.
func Take(r Reading, whole Whole) (Bundle, error) {
	b := Bundle{Form: Form, Line: r.Of, Around: r.Around}
	season, span, err := r.Season("")
	if err != nil {
		return b, err
	}
	b.Span = span
	id, rows, from := r.Of.ID, &b.Rows, r.weatherFrom()
	for _, read := range []func() error{
		func() error { b.Before, err = r.before(); return err },
		func() error { rows.Seasons, err = r.Seasons(id); return err },
		func() error { rows.Properties, err = r.Properties(id); return err },
		func() error { rows.Spots, err = r.Spots(id); return err },
		func() error { rows.Features, err = r.Features(id); return err },
		func() error { rows.Signs, err = r.Signs(id, span); return err },
		func() error { rows.Falls, err = r.Falls(id, span); return err },
		func() error { rows.Patterns, err = r.Patterns(id); return err },
		func() error { rows.Noted, err = r.Noted(id, span); return err },
		func() error { rows.Designs, err = r.Designs(id, rows.Noted.Sets); return err },
		func() error { rows.Acts, err = r.Acts(id, span.From, endless); return err },
		func() error { rows.Readings, err = r.Readings(id, from); return err },
		func() error { rows.Observed, err = columns(r.Hours(id, false, from)); return err },
		func() error { rows.Expected, err = columns(r.Hours(id, true, time.Time{})); return err },
		func() error { rows.Traps, err = r.Traps(id); return err },
		func() error { rows.Gone, err = r.GoneBefore(id, span.From); return err },
		func() error { rows.StillIn, err = r.StillInBefore(id, span.From); return err },
		func() error { rows.Calibrations, err = r.Calibrations(id); return err },
		func() error { rows.Recipes, err = r.Recipes(id); return err },
		func() error { rows.KitMarks, err = r.KitMarks(id, season.From); return err },
		func() error { rows.Promises, err = r.Promises(id, span); return err },
		func() error { rows.Weighed, err = r.Weighed(id); return err },
		func() error { rows.Stories, err = whole.Stories(id, span.From); return err },
		func() error { rows.Pourings, err = whole.Pourings(id); return err },
	} {
		if err := read(); err != nil {
			return b, err
		}
	}
	for i, p := range rows.Pourings {
		rows.Pourings[i] = p.Since(span.From, r.Now)
	}
	b.Unreadable = r.Unread()
	return b, nil
}

// holds tells whether a span lies within the one that is held.
func (b *Bundle) holds(s tally.Span) bool {
	has := b.Span
	return !s.From.Before(has.From) && (has.Until.IsZero() || !s.Until.IsZero() && !s.Until.After(has.Until))
}

// Seasons are as Source has them, as are all of these.
func (b *Bundle) Seasons(string) (line.Seasons, error) { return b.Rows.Seasons, nil }

// Properties are those of the line.
func (b *Bundle) Properties(string) ([]line.Property, error) { return b.Rows.Properties, nil }

// Spots are those of the line.
func (b *Bundle) Spots(string) ([]line.Spot, error) { return b.Rows.Spots, nil }

// Features are those of the line.
func (b *Bundle) Features(string) ([]line.Feature, error) { return b.Rows.Features, nil }

// Signs are those of a span of the season.
func (b *Bundle) Signs(_ string, span tally.Span) ([]line.Sign, error) {
	return within(b, b.Rows.Signs, span, func(x line.Sign) time.Time { return x.SeenAt })
}

// Falls are those of a span of the season.
func (b *Bundle) Falls(_ string, span tally.Span) ([]line.Fall, error) {
	return within(b, b.Rows.Falls, span, func(x line.Fall) time.Time { return x.Ended })
}

// within are the rows of a span of the season; with one that has no end those are told whose time cannot be.
func within[T any](b *Bundle, rows []T, span tally.Span, at func(T) time.Time) ([]T, error) {
	if !b.holds(span) {
		return nil, ErrNotHere
	}
	return slices.DeleteFunc(slices.Clone(rows), func(x T) bool {
		lost := span.Until.IsZero() && at(x).Before(line.Earliest)
		return !lost && (at(x).Before(span.From) || !span.Until.IsZero() && !at(x).Before(span.Until))
	}), nil
}

// Design finds one that is not built, or that the season's sets were built by.
func (b *Bundle) Design(_, id string) (line.Design, error) {
	i := slices.IndexFunc(b.Rows.Designs, func(d line.Design) bool { return d.ID == id })
	if i < 0 {
		return line.Design{}, ErrNotHere
	}
	return b.Rows.Designs[i], nil
}

// Designs are those that are not built, and those of some sets.
func (b *Bundle) Designs(_ string, sets []line.Set) ([]line.Design, error) {
	of := map[string]bool{}
	for _, s := range sets {
		of[s.ID] = true
	}
	return slices.DeleteFunc(slices.Clone(b.Rows.Designs), func(d line.Design) bool { return d.SetID != nil && !of[*d.SetID] }), nil
}

// Patterns are the user's own.
func (b *Bundle) Patterns(string) ([]line.Pattern, error) { return b.Rows.Patterns, nil }

// Pattern is one of them.
func (b *Bundle) Pattern(_, id string) (line.Pattern, error) {
	i := slices.IndexFunc(b.Rows.Patterns, func(p line.Pattern) bool { return p.ID == id })
	if i < 0 {
		return line.Pattern{}, refuse.ErrUnknown
	}
	return b.Rows.Patterns[i], nil
}

// Noted is what was noted in a span of the season.
func (b *Bundle) Noted(_ string, span tally.Span) (line.Noted, error) {
	if !b.holds(span) {
		return line.Noted{}, ErrNotHere
	}
	return b.Rows.Noted.Within(span), nil
}

// Acts are those of a span of the season.
func (b *Bundle) Acts(_ string, from, until time.Time) ([]line.Act, error) {
	return within(b, b.Rows.Acts, tally.Span{From: from, Until: until}, func(a line.Act) time.Time { return a.At })
}

// Readings are those from a time on.
func (b *Bundle) Readings(_ string, from time.Time) ([]line.Reading, error) {
	return slices.DeleteFunc(slices.Clone(b.Rows.Readings), func(x line.Reading) bool { return x.At.Before(from) }), nil
}

// Hours are those of weather from a time on.
func (b *Bundle) Hours(_ string, forecast bool, from time.Time) ([]weather.Hour, error) {
	rows := b.Rows.Observed
	if forecast {
		rows = b.Rows.Expected
	}
	return slices.DeleteFunc(rows.hours(), func(h weather.Hour) bool { return h.At.Before(from) }), nil
}

// Traps are those of the line.
func (b *Bundle) Traps(string) ([]line.Trap, error) { return b.Rows.Traps, nil }

// Cards are those of the traps.
func (b *Bundle) Cards(string) (map[string]shed.Card, error) {
	found := make(map[string]shed.Card, len(b.Rows.Stories))
	for id, story := range b.Rows.Stories {
		found[id] = story.Card()
	}
	return found, nil
}

// GoneBefore are the traps that were gone before the season.
func (b *Bundle) GoneBefore(_ string, before time.Time) (map[string]shed.Gone, error) {
	if !before.Equal(b.Span.From) {
		return nil, ErrNotHere
	}
	return b.Rows.Gone, nil
}

// StillInBefore is what was left before the season.
func (b *Bundle) StillInBefore(_ string, before time.Time) ([]line.StillIn, error) {
	if !before.Equal(b.Span.From) {
		return nil, ErrNotHere
	}
	return b.Rows.StillIn, nil
}

// Weighed is what was weighed when it was taken along.
func (b *Bundle) Weighed(string) ([]advice.Kept, error) { return b.Rows.Weighed, nil }

// Promises are those of the season's makes.
func (b *Bundle) Promises(_ string, span tally.Span) ([]promise.Make, error) {
	if !b.holds(span) {
		return nil, ErrNotHere
	}
	return b.Rows.Promises, nil
}

// Calibrations are those of the line's gauges.
func (b *Bundle) Calibrations(string) ([]line.Calibration, error) { return b.Rows.Calibrations, nil }

// Poured is how the lures stand now.
func (b *Bundle) Poured(_ string, now time.Time) ([]shed.OnShelf, error) {
	found := []shed.OnShelf{}
	for _, p := range b.Rows.Pourings {
		p.Schools, p.Smells = Usual().Schools, b.smells(p.Lure.ID)
		found = append(found, p.Pour(now))
	}
	slices.SortFunc(found, func(x, y shed.OnShelf) int { return cmp.Compare(x.Lure.ID, y.Lure.ID) })
	return found, nil
}

// smells are the sets that were built with a lure in the season.
func (b *Bundle) smells(lureID string) []shed.Smell {
	noted := b.Rows.Noted
	spots := map[string]string{}
	for _, s := range noted.Sets {
		spots[s.ID] = s.SpotID
	}
	chain, _ := line.Chain(noted.Makes, noted.Pulls, noted.Others)
	smelled := map[string]bool{} // makes
	found := []shed.Smell{}
	for _, m := range chain {
		for _, s := range m.Layout.Smells() {
			if s.LureID != lureID {
				continue
			}
			if smelled[m.ID] = true; !m.BuiltAt.Before(b.Span.From) {
				found = append(found, shed.Smell{At: m.BuiltAt, SpotID: spots[m.SetID], Bait: s.IsBait(), Again: remade(chain, m, smelled)})
			}
		}
	}
	return found
}

// remade tells whether a make was built over one that smelled.
func remade(chain []line.Make, m line.Make, smelled map[string]bool) bool {
	return slices.ContainsFunc(chain, func(k line.Make) bool {
		return k.SetID == m.SetID && k.PulledAt != nil && k.PulledAt.Equal(m.BuiltAt) && smelled[k.ID]
	})
}

// Recipes are those of the line.
func (b *Bundle) Recipes(string) ([]line.Recipe, error) { return b.Rows.Recipes, nil }

// KitMarks are what was said from a day on, and what the user always takes.
func (b *Bundle) KitMarks(_, from string) ([]line.KitMark, error) {
	return slices.DeleteFunc(slices.Clone(b.Rows.KitMarks), func(x line.KitMark) bool { return x.Day < from && x.Mark != "own" }), nil
}

// Unread lists what could not be read when it was taken along.
func (b *Bundle) Unread() []line.Unreadable { return append([]line.Unreadable{}, b.Unreadable...) }

// Hours are hours of weather in columns, each figure in the place of its hour; At in seconds since 1970.
type Hours struct {
	At          []int64   `json:"at"`
	TempC       []float64 `json:"tempC"`
	WindFromDeg []float64 `json:"windFromDeg"`
	WindMs      []float64 `json:"windMs"`
	RainMm      []float64 `json:"rainMm"`
	SnowCm      []float64 `json:"snowCm"`
	SnowDepthCm []float64 `json:"snowDepthCm"`
}

func columns(hours []weather.Hour, err error) (c Hours, _ error) {
	for _, h := range hours {
		c.At = append(c.At, h.At.Unix())
		c.TempC, c.WindFromDeg, c.WindMs = append(c.TempC, h.TempC), append(c.WindFromDeg, h.WindFromDeg), append(c.WindMs, h.WindMs)
		c.RainMm, c.SnowCm, c.SnowDepthCm = append(c.RainMm, h.RainMm), append(c.SnowCm, h.SnowCm), append(c.SnowDepthCm, h.SnowDepthCm)
	}
	return c, err
}

func (c Hours) hours() []weather.Hour {
	found := make([]weather.Hour, len(c.At))
	for i, at := range c.At {
		found[i] = weather.Hour{At: time.Unix(at, 0).UTC(), TempC: c.TempC[i], WindFromDeg: c.WindFromDeg[i], WindMs: c.WindMs[i],
			RainMm: c.RainMm[i], SnowCm: c.SnowCm[i], SnowDepthCm: c.SnowDepthCm[i]}
	}
	return found
}
