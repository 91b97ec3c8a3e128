package exchange

import (
	"strings"
	"testing"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

func done(t *testing.T) Done {
	t.Helper()
	zone, err := time.LoadLocation("America/Denver")
	if err != nil {
		t.Fatal(err)
	}
	at := func(day, hour int) time.Time { return time.Date(2026, time.December, day, hour, 0, 0, 0, zone).UTC() } // as it is kept
	yes, mm, grams := true, 40.0, 12000.0
	set := func(trap string) layout.Layout {
		return layout.Layout{
			Kind: "dirt_hole", Pattern: "hole", FacingDeg: &mm, Hands: "bare",
			Attractors: []layout.Attractor{{Smells: []layout.Smell{{Kind: "lure", Name: "=mine"}, {Kind: "bait", Name: "Kettle bait"}}}},
			Rigs: []layout.Rig{
				{TrapID: trap, Pan: &layout.Pan{XMm: 3, YMm: 230, GaugeN: 17.8}, Cover: []layout.Layer{{Material: "peat", ThicknessMm: 4}, {Material: "snow_dust", ThicknessMm: 2}}, Bed: layout.Bed{Firm: &yes}, ChainMm: 457.2},
				{Slot: 1},
			},
			Anchors: []layout.Anchor{{Kind: "stake", LengthMm: 610}},
		}
	}
	first, second := "A", "B"
	untimed := false
	pulled := line.Pull{ID: "P", MakeID: "B", At: at(6, 9)}
	return Done{
		Record: line.NewRecord(at(8, 12), zone, tally.Span{}, line.Noted{
			Sets:  []line.Set{{ID: "S1", SpotID: "here", Number: 1}, {ID: "S2", SpotID: "there", Number: 2}},
			Makes: []line.Make{{ID: first, SetID: "S1", Target: "coyote", BuiltAt: at(1, 16), Layout: set("T")}, {ID: second, SetID: "S2", Target: "bobcat", BuiltAt: at(2, 16), Layout: set("")}},
			Pulls: []line.Pull{pulled},
			Visits: []line.Visit{
				{ID: "V2", MakeID: first, At: at(4, 7), Timed: &untimed, Found: line.Found{Finding: "passed", Animal: "coyote", By: "track"}, Also: []line.Found{{Finding: "looked", Animal: "red_fox"}, {Finding: "rolled"}}, Note: "+two, \"old\""},
				{ID: "V1", MakeID: first, At: at(3, 7), Found: line.Found{Finding: "quiet"}, Seen: line.Seen{Bed: "wet", Bailed: true, AgentG: &mm}},
				{ID: "V3", MakeID: second, At: at(5, 18), Found: line.Found{Finding: "catch", Animal: "bobcat", By: "seen"}, Catches: []line.Catch{
					{ID: "C1", Species: "bobcat", Sex: "male", Foot: "left_fore", Hold: "pad", Rigs: []int{0, 1}, More: line.More{Were: []line.Condition{"prime", "young"}, WeightG: &grams, Blood: &yes}},
					{ID: "C2", Species: "skunk"},
				}},
				{ID: "V4", MakeID: second, At: at(7, 7), Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: "C3", Species: "coyote"}}}, // it was pulled by then
			},
		}),
		Spots:      []line.Spot{{ID: "here", PropertyID: "p1", Name: "Gate gap"}, {ID: "there", PropertyID: "p2", Name: "-Stack yard"}},
		Properties: []line.Property{{ID: "p1", Name: "Quarry Road section"}, {ID: "p2", Name: "Two Culverts"}},
		Numbers:    map[string]int{"T": 7},
	}
}

// What was done goes out under the columns of each list in their order, by time, with blanks for what is not known.
func TestWhatWasDoneGoesOut(t *testing.T) {
	d := done(t)
	for name, c := range map[string]struct {
		write func(Done) ([]byte, error)
		want  []string
	}{
		"looks": {WriteLooks, []string{
			"id,at,local_date,set,spot,property,make_id,target,pattern,night,finding,animal,told_by,also,side,bed,rigs,caught,bailed,agent_g,note,flags,who",
			"V1,2026-12-03T14:00:00Z,2026-12-03,1,Gate gap,Quarry Road section,A,coyote,hole,2,quiet,,,,,wet,,,yes,40,,,",
			`V2,2026-12-04T14:00:00Z,2026-12-04,1,Gate gap,Quarry Road section,A,coyote,hole,3,passed,coyote,track,looked/red_fox rolled,,,,,,,"'+two, ""old""",no_time,`,
			"V3,2026-12-06T01:00:00Z,2026-12-05,2,'-Stack yard,Two Culverts,B,bobcat,hole,3,catch,bobcat,seen,,,,,bobcat skunk,,,,,",
			"V4,2026-12-07T14:00:00Z,2026-12-07,2,'-Stack yard,Two Culverts,B,bobcat,hole,5,catch,,,,,,,coyote,,,,not_counted after,",
		}},
		"catches": {WriteCatches, []string{
			"id,look_id,at,local_date,set,spot,property,target,pattern,species,sex,foot,hold,rigs,were,weight_g,blood,fate,dead,reported_at,night,setback_mm,gauge_n,who",
			"C1,V3,2026-12-06T01:00:00Z,2026-12-05,2,'-Stack yard,Two Culverts,bobcat,hole,bobcat,male,left_fore,pad,0 1,prime young,12000,yes,,,,3,230,17.8,",
			"C2,V3,2026-12-06T01:00:00Z,2026-12-05,2,'-Stack yard,Two Culverts,bobcat,hole,skunk,,,,,,,,,,,3,230,17.8,",
		}},
		"makes": {WriteMakes, []string{
			"id,set,spot,property,follows,target,kind,pattern,built_at,local_date,ended_at,trap_nights,setback_mm,offset_mm,gauge_n,cover,cover_mm,firm,anchor,anchor_mm,chain_mm,traps,smells,facing_deg,hands,flags,who",
			"A,1,Gate gap,Quarry Road section,,coyote,dirt_hole,hole,2026-12-01T23:00:00Z,2026-12-01,,14,230,3,17.8,peat snow_dust,6,yes,stake,610,457.2,7,'=mine; Kettle bait,40,bare,,",
			"B,2,'-Stack yard,Two Culverts,,bobcat,dirt_hole,hole,2026-12-02T23:00:00Z,2026-12-02,2026-12-06T16:00:00Z,3,230,3,17.8,peat snow_dust,6,yes,stake,610,457.2,,'=mine; Kettle bait,40,bare,,",
		}},
	} {
		raw, err := c.write(d)
		if got := strings.Split(strings.TrimSpace(string(raw)), "\n"); err != nil || strings.Join(got, "\n") != strings.Join(c.want, "\n") {
			t.Errorf("%s: %v\n%s\nwant\n%s", name, err, strings.Join(got, "\n"), strings.Join(c.want, "\n"))
		}
	}
}

// Only what lies in the span, and on the property that is asked for.
func TestWhatWasDoneByPropertyAndDates(t *testing.T) {
	ids := func(change func(*Done)) string {
		d := done(t)
		change(&d)
		found := ""
		for _, l := range d.Looks() {
			found += l.Visit.ID
		}
		for _, m := range d.Makes() {
			found += m.ID
		}
		return found
	}
	day := func(n int) time.Time { return time.Date(2026, 12, n, 7, 0, 0, 0, time.UTC) }
	for want, change := range map[string]func(*Done){
		"V1V2V3V4AB": func(*Done) {},
		"V1V2A":      func(d *Done) { d.PropertyID = "p1" },
		"V3V4B":      func(d *Done) { d.PropertyID = "p2" },
		"":           func(d *Done) { d.PropertyID = "p3" },
		"V2V3":       func(d *Done) { d.Span = tally.Span{From: day(4), Until: day(7)} },
		"V1V2A ":     func(d *Done) { d.Span, d.PropertyID = tally.Span{Until: day(6)}, "p1" },
	} {
		if got := ids(change); got != strings.TrimSpace(want) {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
