package server

import (
	"slices"

	"github.com/gin-gonic/gin"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/store"
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
}

// signM is how near a sign must lie to a set to count for it, m, where it was not noted at its very spot.
const signM = 50.0

func (s *Server) circumstances(c *gin.Context) {
	var q CircumstancesAsked
	if !decode(c, &q) {
		return
	}
	err := q.Layout.Check()
	var found CircumstancesView
	if err == nil {
		err = s.read(c.Request.Context(), c.Param("line"), func(r reading) (err error) {
			found, err = r.circumstances(q)
			return err
		})
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, found)
}

func (r reading) circumstances(q CircumstancesAsked) (CircumstancesView, error) {
	var view CircumstancesView
	drawn, err := r.outlookLine()
	if err != nil {
		return view, err
	}
	i := slices.IndexFunc(drawn.Spots, func(s line.Spot) bool { return s.ID == q.SpotID })
	if i < 0 {
		return view, store.ErrUnknown
	}
	spot := drawn.Spots[i]
	rec, err := r.record()
	if err != nil {
		return view, err
	}
	signs, err := r.Signs(r.line.ID, rec.Span)
	if err != nil {
		return view, err
	}
	plane := ground.PlaneAbout(spot.PlaceOf(q.Layout))
	near := func(x line.Sign) bool {
		return x.SpotID != nil && *x.SpotID == q.SpotID || ground.Apart(plane.At(ground.Fix{LatDeg: x.LatDeg, LonDeg: x.LonDeg}), [2]float64{}) <= signM
	}
	classes, ids, err := r.smellsOf(q.Layout)
	if err != nil {
		return view, err
	}
	common := odds.Circumstances{
		Sign: line.SignNear(signs, q.Target, near, rec.Now), Shy: spot.Shy, Lures: rec.LuresAt(q.SpotID, ids),
		Season: odds.SeasonOf(classes, rec.Now.In(rec.Zone)), Night: 1,
	}
	if spot.WaysMeet != nil {
		common.WaysMeet = min(3, max(1, *spot.WaysMeet))
	}
	if made, ok := rec.NewestMake(q.SetID); ok && made.PulledAt == nil {
		common.Night = rec.Bead(made).Nights + 1
		common.CaughtBefore = rec.HasCaught(q.SetID)
	}
	// Who else is about is told by the record of the place too; the target's looks will correct its passes by themselves.
	signs = append(signs, rec.Came(q.SpotID)...)
	common.Others = map[string]odds.Presence{}
	week := drawn.WeekC()
	for _, a := range animal.All {
		if a.Key != q.Target {
			common.Others[a.Key] = odds.Presence{Sign: line.SignNear(signs, a.Key, near, rec.Now), About: odds.About(a, rec.Now.In(rec.Zone), week)}
		}
	}
	view.Tonight, view.Usual = common, common
	view.Usual.Coverage, view.Tonight.Coverage, view.Usual.Facings = drawn.Coverage(q.Layout, q.SpotID)
	return view, nil
}

// smellsOf is the classes of what a set smells of, and the ids of its lures on the shelf. What it shares with every set, its urine, is no
// lure.
func (r reading) smellsOf(l layout.Layout) (classes, ids []string, err error) {
	shelf, err := r.Poured(r.line.ID, r.now)
	if err != nil {
		return nil, nil, err
	}
	for _, smell := range l.Smells() {
		class := smell.Kind
		for _, lure := range shelf {
			if lure.Lure.ID == smell.LureID {
				class = lure.Lure.Class
			}
		}
		if smell.Name == "" && smell.LureID == "" {
			continue
		}
		classes = append(classes, class)
		if smell.LureID != "" && class != "urine" && class != "bait" {
			ids = append(ids, smell.LureID)
		}
	}
	return classes, ids, nil
}
