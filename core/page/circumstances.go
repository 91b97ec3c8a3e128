package page

import (
	"errors"
	"slices"

	"oldburrow/core/book"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/promise"
	"oldburrow/core/refuse"
)

// CircumstancesAsked asks under which circumstances a set stands that lies so at a spot, for a target. SetID is blank where it is not
// built.
type CircumstancesAsked struct {
	Layout layout.Layout `json:"layout"`
	Target string        `json:"target"`
	SpotID string        `json:"spotId"`
	SetID  string        `json:"setId"`
}

// CircumstancesView is a set's circumstances tonight, and on an average night of the record: they differ by the wind.
type CircumstancesView struct {
	Tonight odds.Circumstances `json:"tonight"`
	Usual   odds.Circumstances `json:"usual"`
	Anew    bool               `json:"anew"` // what the record says of it is being told anew
}

// signM is how near a sign must lie to a set to count for it, m, where it was not noted at its very spot.
const signM = 50.0

func circumstances(r Reading, q CircumstancesAsked) (any, error) {
	var view CircumstancesView
	if err := q.Layout.Check(); err != nil {
		return view, err
	}
	drawn, err := r.outlookLine()
	if err != nil {
		return view, err
	}
	i := slices.IndexFunc(drawn.Spots, func(s line.Spot) bool { return s.ID == q.SpotID })
	if i < 0 {
		return view, refuse.ErrUnknown
	}
	spot := drawn.Spots[i]
	rec, err := r.Record()
	if err != nil {
		return view, err
	}
	signs, err := r.Signs(r.Of.ID, rec.Span)
	if err != nil {
		return view, err
	}
	common, err := r.standing(drawn, q, spot, rec, signs)
	if err != nil {
		return view, err
	}
	if err := r.about(&common, spot.PlaceOf(q.Layout), drawn.Spots, signs, rec, q.Target); err != nil {
		return view, err
	}
	if err := r.digging(&common, rec); err != nil {
		return view, err
	}
	common.Dwelling = drawn.Dwelling(spot.PlaceOf(q.Layout))
	if err := r.left(&common, spot, rec); err != nil {
		return view, err
	}
	r.present(&common, q, spot, signs, rec, drawn.WeekC())
	if common.Record, err = r.learnt(spot); err != nil {
		return view, err
	}
	view.Tonight, view.Usual, view.Anew = common, common, r.Around.Anew
	view.Usual.Coverage, view.Tonight.Coverage, view.Usual.Facings = drawn.Coverage(q.Layout, q.SpotID)
	return view, nil
}

// standing is what of a set's circumstances hangs on neither its target nor the wind.
func (r Reading) standing(drawn outlook.Line, q CircumstancesAsked, spot line.Spot, rec line.Record, signs []line.Sign) (c odds.Circumstances, err error) {
	c = odds.Circumstances{Site: drawn.SiteOf(q.Layout, spot, signs), Night: 1}
	if c.Shelf, err = r.shelfAt(spot, rec); err != nil {
		return c, err
	}
	if spot.WaysMeet != nil {
		c.WaysMeet = *spot.WaysMeet
	}
	c.Site.KindsMet = rec.KindsMet(spot, nil)
	c.KindsMetThen = c.Site.KindsMet
	if made, ok := rec.NewestMake(q.SetID); ok && made.PulledAt == nil {
		c.Night, c.CaughtBefore = rec.BedNights(made)+1, rec.HasCaught(q.SetID, q.Target)
		c.Site.KindsMet = rec.KindsMet(spot, &made)
		if made.AsBuilt != nil {
			c.ScentOnBed = made.AsBuilt.ScentOnBed
		}
	}
	if q.SetID != "" && rec.WasRobbed(q.SetID) {
		c.Site.Near = append(c.Site.Near, layout.Nearby{Key: layout.Robbed})
	}
	return c, nil
}

// present says of the target and of each other animal what sign there is of it near a set.
func (r Reading) present(c *odds.Circumstances, q CircumstancesAsked, spot line.Spot, signs []line.Sign, rec line.Record, weekC *float64) {
	near := signNear(q, spot, signs, rec)
	c.Sign, c.Signs = near(q.Target)
	c.Others = map[string]odds.Presence{}
	for _, a := range r.Animals {
		if a.Key != q.Target {
			is := odds.Presence{About: odds.About(a, rec.Now.In(rec.Zone), weekC)}
			is.Sign, is.Signs = near(a.Key)
			c.Others[a.Key] = is
		}
	}
}

// signNear tells what sign there is of an animal near a set. What came to the place by the record is sign of its day.
func signNear(q CircumstancesAsked, spot line.Spot, signs []line.Sign, rec line.Record) func(animal string) (odds.Age, int) {
	plane := ground.PlaneAbout(spot.PlaceOf(q.Layout))
	near := func(x line.Sign) bool {
		return x.SpotID != nil && *x.SpotID == q.SpotID || ground.Apart(plane.At(ground.Fix{LatDeg: x.LatDeg, LonDeg: x.LonDeg}), [2]float64{}) <= signM
	}
	signs = slices.Concat(signs, rec.Came(spot))
	return func(animal string) (odds.Age, int) { return line.SignNear(signs, animal, near, rec.Now.In(rec.Zone)) }
}

// about says who has been near a place in this season and the one before: the heaviest of them, which an anchor must hold, and pets.
func (r Reading) about(c *odds.Circumstances, at ground.Fix, spots []line.Spot, signs []line.Sign, rec line.Record, target string) error {
	before, err := r.before()
	if err != nil {
		return err
	}
	near := line.Sighted(signs).With(rec.Sighted()).With(before.Seen).Near(at, spots)
	c.Heaviest = line.Heaviest(r.Animals, append(rec.Targets(), target), near).Key
	c.Pets = []string{}
	for _, key := range r.Animals.PetKeys() {
		if slices.Contains(near, key) {
			c.Pets = append(c.Pets, key)
		}
	}
	return nil
}

// Before is what earlier seasons leave for today's answers. Season is the one before the open one, blank where there is none, and Seen who was
// about in it.
type Before struct {
	Season string     `json:"season"`
	Seen   line.About `json:"seen"`
	// Promised is what was promised in it, and what came.
	Promised promise.Season `json:"promised"`
}

// before reads that, or takes it as the program made it out where what it hangs on is not here.
func (r Reading) before() (Before, error) {
	seasons, err := r.Seasons(r.Of.ID)
	if err != nil {
		return Before{}, err
	}
	last, ok := seasons.Before(r.openOf(seasons))
	if !ok {
		return Before{}, nil
	}
	span := seasons.Span(last.ID, r.Zone)
	rec, err := r.RecordOf(span)
	if taken, here := r.Source.(*Bundle); errors.Is(err, ErrNotHere) && here && taken.Before.Season == last.ID {
		return taken.Before, nil
	}
	if err != nil {
		return Before{}, err
	}
	signs, err := r.Signs(r.Of.ID, span)
	if err != nil {
		return Before{}, err
	}
	promised, err := r.promisedIn(rec)
	return Before{last.ID, line.Sighted(signs).With(rec.Sighted()), promised}, err
}

// left says how many nights are left at a spot.
func (r Reading) left(c *odds.Circumstances, spot line.Spot, rec line.Record) error {
	season, _, err := r.Season("")
	if err != nil {
		return err
	}
	properties, err := r.Properties(r.Of.ID)
	if err != nil {
		return err
	}
	until := ""
	if i := slices.IndexFunc(properties, func(p line.Property) bool { return p.ID == spot.PropertyID }); i >= 0 {
		until = properties[i].Until
	}
	c.Left, c.LeftTo = rec.NightsLeft(season.To, until)
	return nil
}

// digging says which lures of the shelf make them dig, by the open season.
func (r Reading) digging(c *odds.Circumstances, rec line.Record) error {
	if len(c.Shelf) == 0 {
		return nil
	}
	if r.season.brought == nil {
		brought, err := book.LuresOf(rec, r.Animals)
		if err != nil {
			return err
		}
		r.season.brought = brought
	}
	for i := range c.Shelf {
		at := &c.Shelf[i]
		at.Digs = slices.ContainsFunc(r.season.brought, func(l book.LureBrought) bool { return l.Digs && l.LureID == at.LureID })
	}
	return nil
}

// shelfAt is what is on the shelf, and how it stands to a spot.
func (r Reading) shelfAt(spot line.Spot, rec line.Record) ([]odds.ShelfLure, error) {
	poured, err := r.Poured(r.Of.ID, r.Now)
	if err != nil {
		return nil, err
	}
	found := []odds.ShelfLure{}
	for _, lure := range poured {
		found = append(found, lure.At(spot.ID, rec))
	}
	return found, nil
}
