package demo

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/round"
	"oldburrow/core/schools"
	"oldburrow/core/tally"
)

// landOf is the demo's line as an outlook reads it, without its weather, and its spots by name.
func landOf(t *testing.T, s Season) (outlook.Line, map[string]line.Spot) {
	t.Helper()
	zone, err := round.Zone(Zone)
	if err != nil {
		t.Fatal(err)
	}
	spots := map[string]line.Spot{}
	for _, spot := range s.Spots {
		spots[spot.Name] = spot
	}
	return outlook.Line{Line: s.Line, Now: Start(), Zone: zone, Spots: s.Spots, Features: s.Features}, spots
}

// placeOf is what the program reads of a spot.
func placeOf(l outlook.Line, s Season, spot line.Spot) layout.Site {
	return l.SiteOf(layout.Layout{}, spot, s.Signs)
}

func nearOf(p layout.Site) map[string]float64 {
	found := map[string]float64{}
	for _, n := range p.Near {
		found[n.Key] = n.M
	}
	return found
}

// What the table of spots says of each is read from the map, and by hand at two of them and no more.
func TestTheDemosLandIsRead(t *testing.T) {
	s := season(t)
	l, spots := landOf(t, s)
	for _, c := range []struct {
		spot    string
		wayMm   float64
		inCover bool
		near    map[string]float64 // within how far, m
		shy     bool
	}{
		{"Gate gap", 350, false, map[string]float64{"fence_gap": 5}, false},
		{"Foot of the breaks", 450, true, nil, false},
		{"Breaks trail junction", 500, true, nil, false},
		{"North culvert", 700, true, map[string]float64{"culvert": 5, "stream": 15}, false},
		{"South culvert", 700, true, map[string]float64{"culvert": 5, "stream": 15}, false},
		{"Creek crossing", 900, true, map[string]float64{"creek_crossing": 15}, false},
		{"Stack yard", 3000, false, nil, false}, {"Bone flat", 4000, false, nil, false}, {"Bale row", 3000, false, nil, false},
		{"Two-track bend", 1500, false, map[string]float64{"two_track": 5}, false},
		{"Pit rim", 1200, false, nil, true},
		{"Pond edge", 900, false, map[string]float64{"pond_edge": 10}, false},
	} {
		p := placeOf(l, s, spots[c.spot])
		if p.WayMm == nil || *p.WayMm != c.wayMm || p.InCover == nil || *p.InCover != c.inCover || p.Shy != c.shy {
			t.Errorf("%s: %+v, way %v, in cover %v", c.spot, p, *p.WayMm, *p.InCover)
		}
		near := nearOf(p)
		for key, m := range c.near {
			if off, ok := near[key]; !ok || off > m {
				t.Errorf("%s: %s lies %g m off (%v), want within %g", c.spot, key, off, ok, m)
			}
		}
		if _, wet := near["stream"]; wet && near["stream"] <= 15 && c.near["stream"] == 0 && c.spot != "Creek crossing" {
			t.Errorf("%s lies at a creek", c.spot)
		}
	}
	byHand := 0
	for _, spot := range s.Spots {
		if len(spot.There) > 0 {
			byHand++
		}
	}
	if byHand == 0 || byHand > 2 {
		t.Errorf("%d spots are noted by hand", byHand)
	}
}

// asked is a spot asked about by its land alone.
func asked(l outlook.Line, s Season, spot line.Spot, target, day string) odds.Question {
	p := placeOf(l, s, spot)
	p.Day, p.SnowMm = day, new(0.0)
	return odds.Question{
		Target: kind(target), Animals: animal.Reference, Schools: schools.Usual(), Visits: 20000, Soil: anchor.Soil{Kind: spot.Soil, Wetness: spot.Wetness}, Hold: new(.97),
		Circumstances: &odds.Circumstances{Sign: "days_3", Signs: 2, WaysMeet: 1, Coverage: new(.5), Site: p},
	}
}

func rankedAt(t *testing.T, q odds.Question, standing ...layout.Kind) []odds.Ranked {
	t.Helper()
	found, err := odds.Rank(t.Context(), q, standing, nil)
	if err != nil {
		t.Fatal(err)
	}
	return found
}

// The place decides: what stands first at each spot of the demo is what its land asks for.
func TestWhatWouldWorkAtTheDemosSpots(t *testing.T) {
	s := season(t)
	l, spots := landOf(t, s)
	const day = "2026-12-04"
	for _, c := range []struct {
		spots string
		says  map[string]string // by target: "first X" or "A or B first", "X in", "X not"
	}{
		{"Gate gap", map[string]string{"coyote": "trail_pair first", "bobcat": "trail_pair first", "red_fox": "hole_dug_out or hole in; trail not"}},
		{"Foot of the breaks", map[string]string{"coyote": "trail_pair in; trench not", "bobcat": "trail_pair in; trench not", "red_fox": "hole in"}},
		{"Breaks trail junction", map[string]string{"coyote": "trail_pair in", "bobcat": "trail_pair first", "red_fox": "hole in"}},
		{"North culvert, South culvert", map[string]string{"coyote": "creek_pinch or trail_pair first; culvert_pair in", "bobcat": "creek_pinch or trail_pair first", "red_fox": "hole in"}},
		{"Creek crossing", map[string]string{"coyote": "creek_pinch in", "bobcat": "creek_pinch first", "red_fox": "hole in"}},
		{"Stack yard, Bone flat, Bale row", map[string]string{"coyote": "hole_dug_out in; hole in; trail not; trail_pair not", "bobcat": "hole_dug_out in; trail not", "red_fox": "hole_dug_out in"}},
		{"Two-track bend", map[string]string{"coyote": "hole in; trail_pair not", "bobcat": "hole_dug_out in", "red_fox": "hole_dug_out in"}},
		{"Pit rim", map[string]string{"coyote": "pull_stick first; hole_dug_out not; trench not; hole not", "bobcat": "trench not", "red_fox": "pull_stick or three_stones first; trench not"}},
		{"Pond edge", map[string]string{"coyote": "hole in", "bobcat": "spring_hole not", "red_fox": "spring_hole in"}},
	} {
		for _, name := range strings.Split(c.spots, ", ") {
			for target, says := range c.says {
				found := rankedAt(t, asked(l, s, spots[name], target, day))
				firsts := odds.Firsts(found)
				for _, said := range strings.Split(says, "; ") {
					what, where, _ := cutLast(said)
					if holds := saidHolds(firsts, strings.Split(what, " or "), where); !holds {
						t.Errorf("%s for a %s: %s; it says %v", name, target, said, rankingOf(found))
					}
				}
			}
		}
	}
	for _, spot := range s.Spots {
		for _, r := range rankedAt(t, asked(l, s, spot, "coyote", day)) {
			near := nearOf(placeOf(l, s, spot))
			switch culvert, ok := near["culvert"]; {
			case r.Pattern == "culvert_pair" && (len(r.Lacks) == 0) != (ok && culvert <= 5):
				t.Errorf("%s: a pair at a culvert lacks %v", spot.Name, r.Lacks)
			case (r.Pattern == "snow_post" || r.Pattern == "drilled_pair") && !slices.Equal(r.Lacks, []string{"snow"}):
				t.Errorf("%s: %s lacks %v", spot.Name, r.Pattern, r.Lacks)
			}
		}
	}
}

func cutLast(said string) (what, where string, ok bool) {
	i := strings.LastIndex(said, " ")
	return said[:i], said[i+1:], true
}

func saidHolds(firsts, any []string, where string) bool {
	in := slices.ContainsFunc(any, func(key string) bool { return slices.Contains(firsts, key) })
	switch where {
	case "first":
		return len(firsts) > 0 && slices.Contains(any, firsts[0])
	case "in":
		return in
	}
	return !in
}

// rankingOf is the first of a ranking as a line of a log.
func rankingOf(found []odds.Ranked) []string {
	var lines []string
	for _, r := range found[:min(len(found), 9)] {
		mark := ""
		if r.First {
			mark = "*"
		}
		lines = append(lines, fmt.Sprintf("%s%s %.2f", mark, r.Pattern, r.Per100.Mid))
	}
	return lines
}

// In the weeks before breeding posts are worth half again what they are in early winter, beside the best, at open places.
func TestPostsHaveTheirSeason(t *testing.T) {
	s := season(t)
	l, spots := landOf(t, s)
	for _, name := range []string{"Stack yard", "Bone flat", "Bale row"} {
		for _, target := range []string{"coyote", "red_fox"} {
			share := func(day string) float64 {
				best, post := 0.0, 0.0
				for _, r := range rankedAt(t, asked(l, s, spots[name], target, day)) {
					if len(r.Lacks) > 0 {
						continue
					}
					best = max(best, r.Per100.Mid)
					if r.Kind == "scent_post" {
						post = max(post, r.Per100.Mid)
					}
				}
				return post / best
			}
			if early, season := share("2026-12-04"), share("2027-01-20"); season < 1.5*early {
				t.Errorf("%s for a %s: a post is worth %.2f of the best, and %.2f in its season", name, target, early, season)
			}
		}
	}
}

// Asked as the demo stands, nothing that lacks something is as good as the best, nor a blind set in a wide way; and the first patterns of each
// target by the season are told.
func TestTheDemoAsItStands(t *testing.T) {
	s := season(t)
	l, _ := landOf(t, s)
	zone := l.Zone
	noted := line.Noted{Makes: s.Makes, Pulls: s.Pulls, Visits: s.Visits}
	for _, m := range s.Makes {
		if !slices.ContainsFunc(noted.Sets, func(x line.Set) bool { return x.ID == m.SetID }) {
			i := slices.IndexFunc(s.Designs, func(d line.Design) bool { return d.ID == m.DesignID })
			noted.Sets = append(noted.Sets, line.Set{ID: m.SetID, SpotID: s.Designs[i].SpotID})
		}
	}
	rec := line.NewRecord(Start(), zone, tally.Span{}, noted)
	l.Observed = s.Hours
	for _, target := range animal.Reference.TargetKeys() {
		for _, day := range []string{"2026-10-30", "2026-12-04", "2027-01-20"} {
			firsts := map[string]int{}
			var all [][]odds.Ranked
			for _, spot := range s.Spots {
				q := asked(l, s, spot, target, day)
				q.Hold, q.Circumstances.Site.KindsMet = nil, rec.KindsMet(spot, nil)
				q.Circumstances.WaysMeet = *spot.WaysMeet
				q.Circumstances.Sign, q.Circumstances.Signs = line.SignNear(append(s.Signs, rec.Came(spot)...), target, func(x line.Sign) bool { return x.SpotID != nil && *x.SpotID == spot.ID }, Start())
				var standing []layout.Kind
				for _, m := range rec.Standing() {
					if rec.Set(m.SetID).SpotID == spot.ID {
						standing = append(standing, m.Layout.Kind)
					}
				}
				found := rankedAt(t, q, standing...)
				all = append(all, found)
				firsts[odds.Firsts(found)[0]]++
				for _, r := range found {
					if r.First && len(r.Lacks) > 0 {
						t.Errorf("%s for a %s on %s: %s is among the first and lacks %v", spot.Name, target, day, r.Pattern, r.Lacks)
					}
					if r.First && r.Layout.Blind() && *spot.TravelWidthMm > 2500 {
						t.Errorf("%s for a %s on %s: %s is among the first in a way of %g mm", spot.Name, target, day, r.Pattern, *spot.TravelWidthMm)
					}
				}
			}
			decides := 0
			for _, found := range all {
				if odds.Decides(found, all) {
					decides++
				}
			}
			var lines []string
			for _, key := range slices.Sorted(maps.Keys(firsts)) {
				lines = append(lines, fmt.Sprintf("%s %d", key, firsts[key]))
			}
			t.Logf("%s, %s: first at so many spots: %s; the place decides at %d of %d", target, day, strings.Join(lines, ", "), decides, len(all))
		}
	}
}

// At every baited hole of the demo the bait earns its place: leaving it out catches less of the target.
func TestLeavingTheBaitOutCosts(t *testing.T) {
	s := season(t)
	l, _ := landOf(t, s)
	seen := map[string]bool{}
	for _, m := range slices.Backward(s.Makes) {
		if seen[m.SetID] || m.Layout.Kind != "dirt_hole" || !m.Layout.Baited() {
			continue
		}
		seen[m.SetID] = true
		i := slices.IndexFunc(s.Designs, func(d line.Design) bool { return d.ID == m.DesignID })
		k := slices.IndexFunc(s.Spots, func(x line.Spot) bool { return x.ID == s.Designs[i].SpotID })
		q := asked(l, s, s.Spots[k], m.Target, "2026-12-04")
		q.Layout, q.Visits = m.Layout, 60000
		q.Circumstances.Night = 9
		worth := func(l layout.Layout) float64 {
			q.Layout = l
			found, err := odds.Of(q)
			if err != nil {
				t.Fatal(err)
			}
			return found.Whole.Per100.Mid
		}
		bare := m.Layout.Clone()
		for i := range bare.Attractors {
			bare.Attractors[i].Smells = slices.DeleteFunc(bare.Attractors[i].Smells, layout.Smell.IsBait)
		}
		if with, without := worth(m.Layout), worth(bare); without >= with {
			t.Errorf("%s at %s: %.2f with its bait, %.2f without", m.Layout.Pattern, s.Spots[k].Name, with, without)
		}
	}
	if len(seen) < 7 {
		t.Errorf("%d baited holes stand", len(seen))
	}
}
