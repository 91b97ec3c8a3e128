package page

import (
	"context"
	"fmt"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/nights"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/promise"
	"oldburrow/core/round"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
	"oldburrow/core/weather"
)

// PromiseForm counts the forms of what is promised, with the computation that promises it: of another form it is made out anew.
var PromiseForm = fmt.Sprintf("%d.1", odds.Version)

// promiseVisits is by how many visits the feet at a set are known to a fortieth, far finer than anything else in its chain.
const promiseVisits = 4000

// promisedIn is what was promised in a record's span, and what came.
func (r Reading) promisedIn(rec line.Record) (promise.Season, error) {
	made, err := r.madeIn(rec)
	return promise.Of(rec, made, r.Animals), err
}

// madeIn is what the makes of a record's span promised, by their ids.
func (r Reading) madeIn(rec line.Record) (map[string]promise.Make, error) {
	rows, err := r.Promises(r.Of.ID, rec.Span)
	made := make(map[string]promise.Make, len(rows))
	for _, m := range rows {
		made[m.MakeID] = m
	}
	return made, err
}

// promised is the same of the open season and of the one before it, which are all that count.
func (r Reading) promised() (promise.Season, error) {
	if r.season.promised != nil {
		return *r.season.promised, nil
	}
	rec, err := r.Record()
	if err != nil {
		return promise.Season{}, err
	}
	open, err := r.promisedIn(rec)
	if err != nil {
		return open, err
	}
	before, err := r.before()
	if err != nil {
		return open, err
	}
	r.season.promised = new(open.With(before.Promised))
	return *r.season.promised, nil
}

// learnt is what the record says at the levels by which a set at a spot is told; nil while nothing was promised.
func (r Reading) learnt(spot line.Spot) (*learn.Learnt, error) {
	said, err := r.promised()
	if err != nil || len(said.Counts) == 0 {
		return nil, err
	}
	return said.At(spot.ID), nil
}

// Promising is a stretch of a line's nights of which it is made out what was promised.
type Promising struct {
	Made map[string]promise.Make // by make: those that changed
	Next time.Time               // from which on the nights still have to be made out
	Done bool                    // none have to
}

// CountsFrom is from when on what was promised counts: the beginning of the season before the open one, or of the open one where that is the first.
func (r Reading) CountsFrom() (time.Time, error) {
	seasons, err := r.Seasons(r.Of.ID)
	if err != nil {
		return time.Time{}, err
	}
	of := r.openOf(seasons)
	if before, ok := seasons.Before(of); ok {
		of = before.ID
	}
	return seasons.Span(of, r.Zone).From, nil
}

// midnight ends the night of the local day of a time.
func (r Reading) midnight(at time.Time) time.Time {
	y, m, d := at.In(r.Zone).Date()
	return round.StartOfDay(y, m, d+1, r.Zone)
}

// Passed tells whether the night of the local day of a time has had its midnight: what it promised can be made out.
func (r Reading) Passed(at time.Time) bool { return !r.midnight(at).After(r.Now) }

// Promise makes out what the makes promised on the nights from the one on whose evening a time lies, at most so many of them, by what bears a time up
// to each night's midnight; made is what was made out so far, by make. A night whose midnight is still to come promises nothing yet.
func (r Reading) Promise(ctx context.Context, from time.Time, most int, made map[string]promise.Make) (Promising, error) {
	found := Promising{Made: map[string]promise.Make{}, Next: from}
	held := &held{r.Source, map[string]any{}}
	for range most {
		if !r.Passed(found.Next) {
			found.Done = true
			break
		}
		midnight := r.midnight(found.Next)
		if err := ctx.Err(); err != nil {
			return found, err
		}
		night, err := Read(&until{held, midnight.Add(-line.Ahead)}, r.Of, midnight.Add(-line.Ahead), r.With, r.Around)
		if err == nil {
			err = night.promise(found.Made, made)
		}
		if err != nil {
			return found, err
		}
		found.Next = midnight
	}
	for id, m := range found.Made {
		found.Made[id] = m.Then(made[id]) // what stands is used until it is told anew
	}
	return found, nil
}

// promise adds what is promised of the night that a reading stands in, to what has changed or else was made out before.
func (r Reading) promise(changed, made map[string]promise.Make) error {
	rec, err := r.Record()
	if err != nil {
		return err
	}
	standing := rec.Standing()
	if len(standing) == 0 {
		return nil
	}
	drawn, err := r.outlookLine()
	if err != nil {
		return err
	}
	signs, err := r.Signs(r.Of.ID, rec.Span)
	if err != nil {
		return err
	}
	frosts := map[string]outlook.Spot{}
	for _, f := range drawn.Frosts() {
		frosts[f.SpotID] = f
	}
	for _, spot := range drawn.Spots {
		for _, m := range standing {
			if rec.Set(m.SetID).SpotID != spot.ID {
				continue
			}
			said, ok := changed[m.ID]
			if !ok {
				said, ok = made[m.ID], true
			}
			night := tally.Nights(m.BuiltAt, r.Now, r.Zone)
			if said.Nights() < night {
				continue // it says nothing of the nights before: these are made out when their time comes
			}
			if said, err = r.promiseOf(said.Cut(night), standingAt{m, spot, drawn, signs, rec, frosts[spot.ID]}); err != nil {
				return fmt.Errorf("make %s: %w", m.ID, err)
			}
			changed[m.ID] = said
		}
	}
	return nil
}

// standingAt is a make that stands at a spot, with what is known of the line in a night.
type standingAt struct {
	line.Make
	spot  line.Spot
	drawn outlook.Line
	signs []line.Sign
	rec   line.Record
	frost outlook.Spot
}

// promiseOf adds the night that a reading stands in to what a make promised.
func (r Reading) promiseOf(said promise.Make, m standingAt) (promise.Make, error) {
	asked := CircumstancesAsked{Layout: m.Layout, SpotID: m.spot.ID, SetID: m.SetID}
	around, err := r.standing(m.drawn, asked, m.spot, m.rec, m.signs)
	if err != nil {
		return said, err
	}
	around.Coverage = m.drawn.Covered(m.Layout, m.spot.ID)
	spot := m.spot.Reckoned()
	q := odds.Question{
		Layout: m.Layout, Animals: r.Animals, Schools: r.Schools, Underfoot: m.frost.Underfoot, Visits: promiseVisits, Circumstances: &around,
		Soil: soilOf(m.spot, m.frost),
	}
	near, night := signNear(asked, m.spot, m.signs, m.rec), map[string]odds.Night{}
	if said.Nights() == 0 {
		said = promise.Make{MakeID: m.ID, Of: map[string]promise.Animal{}}
	}
	// Of one whose words are not known, which a newer program wrote, nothing is claimed either.
	claimed := layout.Claims(m.Layout.Pattern) && m.Layout.Check() == nil
	for _, a := range r.Animals {
		if !a.Target || !claimed {
			continue
		}
		q.Target = a
		around.Sign, around.Signs = near(a.Key)
		around.CaughtBefore = m.rec.HasCaught(m.SetID, a.Key)
		if night[a.Key], err = promiseTo(a, q, said); err != nil {
			return said, err
		}
	}
	said.Add(nights.TellsOf(m.spot.Surface, spot.Wetness, m.frost.Underfoot), night)
	return said, nil
}

// soilOf is what anchors stand in at a spot.
func soilOf(spot line.Spot, frost outlook.Spot) anchor.Soil {
	known, depth := spot.Reckoned(), frost.FrostMm()
	return anchor.Soil{Kind: known.Soil, Wetness: known.Wetness, FrostMm: depth, DeepestMm: depth}
}

// promiseTo is what the chain of one animal says of a night, with its feet where they are not known yet.
func promiseTo(a animal.Animal, q odds.Question, said promise.Make) (odds.Night, error) {
	of, known := said.Of[a.Key]
	if !known {
		tread, err := odds.TreadOf(q)
		if err != nil || tread == nil {
			return odds.Night{}, err
		}
		of.Tread = *tread
		said.Of[a.Key] = of
	}
	return of.Promised(q)
}

// held is a source of which everything that a night's reading asks is read once.
type held struct {
	Source
	read map[string]any
}

func kept[T any](h *held, key string, read func() (T, error)) (T, error) {
	if found, ok := h.read[key]; ok {
		return found.(T), nil
	}
	found, err := read()
	if err == nil {
		h.read[key] = found
	}
	return found, err
}

// until is a source as it stood at a time, of what bears a time; what was done is cut by whoever puts it together.
type until struct {
	*held
	at time.Time
}

func (u *until) Seasons(lineID string) (line.Seasons, error) {
	return kept(u.held, "seasons", func() (line.Seasons, error) { return u.Source.Seasons(lineID) })
}

func (u *until) Spots(lineID string) ([]line.Spot, error) {
	return kept(u.held, "spots", func() ([]line.Spot, error) { return u.Source.Spots(lineID) })
}

func (u *until) Features(lineID string) ([]line.Feature, error) {
	return kept(u.held, "features", func() ([]line.Feature, error) { return u.Source.Features(lineID) })
}

func (u *until) Signs(lineID string, span tally.Span) ([]line.Sign, error) {
	return kept(u.held, fmt.Sprint("signs", span), func() ([]line.Sign, error) { return u.Source.Signs(lineID, span) })
}

func (u *until) Noted(lineID string, span tally.Span) (line.Noted, error) {
	return kept(u.held, fmt.Sprint("noted", span), func() (line.Noted, error) { return u.Source.Noted(lineID, span) })
}

func (u *until) Poured(lineID string, _ time.Time) ([]shed.OnShelf, error) {
	return kept(u.held, "poured", func() ([]shed.OnShelf, error) { return u.Source.Poured(lineID, u.at) })
}

func (u *until) Readings(lineID string, from time.Time) ([]line.Reading, error) {
	found, err := kept(u.held, fmt.Sprint("readings", from), func() ([]line.Reading, error) { return u.Source.Readings(lineID, from) })
	return upTo(found, u.at, func(x line.Reading) time.Time { return x.At }), err
}

// Hours are those that were there by then; nothing is foretold afterwards.
func (u *until) Hours(lineID string, forecast bool, from time.Time) ([]weather.Hour, error) {
	if forecast {
		return nil, nil
	}
	found, err := kept(u.held, fmt.Sprint("hours", from), func() ([]weather.Hour, error) { return u.Source.Hours(lineID, false, from) })
	return upTo(found, u.at, func(h weather.Hour) time.Time { return h.At }), err
}

// upTo are those, in their order, that bear no later time.
func upTo[T any](all []T, at time.Time, of func(T) time.Time) []T {
	n := len(all)
	for n > 0 && of(all[n-1]).After(at) {
		n--
	}
	return all[:n:n]
}
