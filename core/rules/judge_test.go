package rules

import (
	"encoding/json"
	"errors"
	"math/rand/v2"
	"testing"

	"oldburrow/core/refuse"
)

// judged is what a card, written as JSON, says of a thing.
func judged(t *testing.T, card, thing string) JudgeOutput {
	t.Helper()
	var in JudgeInput
	if err := json.Unmarshal([]byte(`{"card":`+card+`,"thing":`+thing+`}`), &in); err != nil {
		t.Fatalf("%s, %s: %v", card, thing, err)
	}
	out, err := Judge(in)
	if err != nil {
		t.Fatalf("%s, %s: %v", card, thing, err)
	}
	return out
}

// Each clause is met at its bound and failed beyond it; what is not known of a thing is told so, and what the card leaves out is silent.
func TestEachClause(t *testing.T) {
	for _, c := range []struct {
		clause      Clause
		card, thing string
		want        Verdict
		short       float64
	}{
		{JawMaxMm, `{"jawMaxMm":150}`, `{"kind":"trap","spreadMm":150}`, Meets, 0},
		{JawMaxMm, `{"jawMaxMm":150}`, `{"kind":"trap","spreadMm":152.5}`, Fails, 2.5},
		{JawMaxMm, `{"jawMaxMm":150}`, `{"kind":"trap"}`, Unknown, 0},
		{JawMaxMm, `{}`, `{"kind":"trap","spreadMm":900}`, Silent, 0},
		{JawForm, `{"jawForm":["offset","padded"]}`, `{"kind":"trap","forms":["padded"]}`, Meets, 0},
		{JawForm, `{"jawForm":["offset"]}`, `{"kind":"trap","forms":["laminated"]}`, Fails, 0},
		{JawForm, `{"jawForm":["offset"]}`, `{"kind":"trap","forms":[]}`, Fails, 0},
		{JawForm, `{"jawForm":["offset"]}`, `{"kind":"trap","forms":null}`, Unknown, 0},
		{SwivelsMin, `{"swivelsMin":2}`, `{"kind":"trap","swivels":2}`, Meets, 0},
		{SwivelsMin, `{"swivelsMin":2}`, `{"kind":"trap","swivels":0}`, Fails, 2},
		{Tag, `{"tag":true}`, `{"kind":"trap","tag":true}`, Meets, 0},
		{Tag, `{"tag":true}`, `{"kind":"trap","tag":false}`, Fails, 0},
		{Tag, `{"tag":true}`, `{"kind":"trap","tag":null}`, Unknown, 0},
		{Tag, `{"tag":false}`, `{"kind":"trap","tag":false}`, Silent, 0},

		{PanMinN, `{"panMinN":13.5}`, `{"kind":"set","tensionN":13.5}`, Meets, 0},
		{PanMinN, `{"panMinN":13.5}`, `{"kind":"set","tensionN":13}`, Fails, .5},
		{RoadMinM, `{"roadMinM":30}`, `{"kind":"set","roadM":29}`, Fails, 1},
		{DwellingMinM, `{"dwellingMinM":100}`, `{"kind":"set","dwellingM":100}`, Meets, 0},
		{TrailMinM, `{"trailMinM":50}`, `{"kind":"set","trailM":0}`, Fails, 50},
		{WaterMinM, `{"waterMinM":5}`, `{"kind":"set","waterM":null}`, Unknown, 0},
		{BoundaryMinM, `{"boundaryMinM":5}`, `{"kind":"set","boundaryM":6}`, Meets, 0},
		{BaitHidden, `{"baitHidden":true}`, `{"kind":"set","baitShows":false}`, Meets, 0},
		{BaitHidden, `{"baitHidden":true}`, `{"kind":"set","baitShows":true}`, Fails, 0},
		{BaitHidden, `{"baitHidden":true}`, `{"kind":"set"}`, Unknown, 0},

		{InSeason, `{"seasons":{"coyote":["2026-12-01","2027-01-31"]}}`, `{"kind":"set","species":["coyote"],"from":"2026-12-01","to":"2027-02-01"}`, Meets, 0},
		{InSeason, `{"seasons":{"coyote":["2026-12-01","2027-01-31"]}}`, `{"kind":"set","species":["coyote"],"from":"2026-12-01","to":"2027-02-02"}`, Fails, 0},
		{InSeason, `{"seasons":{"coyote":["2026-12-01","2027-01-31"]}}`, `{"kind":"set","species":["coyote"],"from":"2026-11-30","to":"2026-12-04"}`, Fails, 0},
		{InSeason, `{"seasons":{"coyote":["2026-11-01","2026-11-30"],"bobcat":["2026-12-01","2027-01-31"]}}`, `{"kind":"set","species":["coyote","bobcat"],"from":"2026-11-20","to":null,"day":"2026-12-24"}`, Meets, 0},
		{InSeason, `{"seasons":{"coyote":["2026-12-01","2027-01-31"]}}`, `{"kind":"set","species":["bobcat"],"from":"2026-12-04","to":"2026-12-05"}`, Fails, 0},
		{InSeason, `{"seasons":{"coyote":["2026-12-01","2027-01-31"]}}`, `{"kind":"set","species":["coyote"],"from":"2026-06-04","to":"2026-06-04"}`, Meets, 0},
		{InSeason, `{"seasons":{"coyote":["2026-12-01","2027-01-31"]}}`, `{"kind":"set","species":["coyote"],"to":"2026-12-05"}`, Unknown, 0},
		{InSeason, `{}`, `{"kind":"set","species":["coyote"],"from":"2026-12-04","to":"2026-12-05"}`, Silent, 0},
		{PermissionWritten, `{"permissionWritten":true}`, `{"kind":"set","permission":{"written":true,"until":null},"day":"2026-12-04"}`, Meets, 0},
		{PermissionWritten, `{"permissionWritten":true}`, `{"kind":"set","permission":{"written":true,"until":"2026-12-04"},"day":"2026-12-04"}`, Meets, 0},
		{PermissionWritten, `{"permissionWritten":true}`, `{"kind":"set","permission":{"written":true,"until":"2026-12-03"},"day":"2026-12-04"}`, Fails, 0},
		{PermissionWritten, `{"permissionWritten":true}`, `{"kind":"set","permission":{"written":false,"until":null}}`, Fails, 0},
		{PermissionWritten, `{"permissionWritten":true}`, `{"kind":"set","permission":{"written":true,"until":"2026-12-03"}}`, Unknown, 0},
		{PermissionWritten, `{"permissionWritten":true}`, `{"kind":"set","permission":null}`, Unknown, 0},

		{LookHours, `{"lookHours":24,"lookDaily":true}`, `{"kind":"look","last":"2026-12-03T14:00:00Z","at":"2026-12-04T14:00:00Z","zone":"America/Denver"}`, Meets, 0},
		{LookHours, `{"lookHours":24}`, `{"kind":"look","last":"2026-12-03T14:00:00Z","at":"2026-12-04T16:00:00Z","zone":"America/Denver"}`, Fails, 2},
		{LookHours, `{"lookHours":24}`, `{"kind":"look","at":"2026-12-04T16:00:00Z","zone":"America/Denver"}`, Unknown, 0},
		{LookDaily, `{"lookDaily":true}`, `{"kind":"look","last":"2026-12-03T14:00:00Z","at":"2026-12-05T06:59:00Z","zone":"America/Denver"}`, Meets, 0},
		{LookDaily, `{"lookDaily":true}`, `{"kind":"look","last":"2026-12-03T14:00:00Z","at":"2026-12-05T08:00:00Z","zone":"America/Denver"}`, Fails, 1},
		// The night the clocks go back is 25 hours long: by the calendar day there is an hour more.
		{LookDaily, `{"lookDaily":true}`, `{"kind":"look","last":"2026-10-31T14:00:00Z","at":"2026-11-02T06:30:00Z","zone":"America/Denver"}`, Meets, 0},

		{ReportHours, `{"reportHours":{"bobcat":48}}`, `{"kind":"catch","species":"bobcat","at":"2026-12-01T14:00:00Z","reported":"2026-12-03T14:00:00Z"}`, Meets, 0},
		{ReportHours, `{"reportHours":{"bobcat":48}}`, `{"kind":"catch","species":"bobcat","at":"2026-12-01T14:00:00Z","reported":null,"now":"2026-12-03T15:00:00Z"}`, Fails, 1},
		{ReportHours, `{"reportHours":{"bobcat":48}}`, `{"kind":"catch","species":"bobcat","at":"2026-12-01T14:00:00Z"}`, Unknown, 0},
		{ReportHours, `{"reportHours":{"bobcat":48}}`, `{"kind":"catch","species":"coyote","at":"2026-12-01T14:00:00Z","now":"2027-12-03T15:00:00Z"}`, Silent, 0},
		{Quota, `{"quota":{"bobcat":2}}`, `{"kind":"catch","species":"bobcat","number":2}`, Meets, 0},
		{Quota, `{"quota":{"bobcat":2}}`, `{"kind":"catch","species":"bobcat","number":4}`, Fails, 2},
		{Quota, `{"quota":{"bobcat":0}}`, `{"kind":"catch","species":"bobcat","number":1}`, Fails, 1},
		{Quota, `{"quota":{"bobcat":2}}`, `{"kind":"catch","species":"bobcat"}`, Unknown, 0},
		{Protected, `{"protected":["badger"]}`, `{"kind":"catch","species":"badger"}`, Fails, 0},
		{Protected, `{"protected":[]}`, `{"kind":"catch","species":"badger"}`, Meets, 0},
		{Protected, `{"protected":["badger"]}`, `{"kind":"catch"}`, Unknown, 0},
		// What was caught before noon belongs to the evening before.
		{InSeason, `{"seasons":{"bobcat":["2026-12-01","2027-02-15"]}}`, `{"kind":"catch","species":"bobcat","at":"2026-12-01T14:00:00Z","zone":"America/Denver"}`, Fails, 0},
		{InSeason, `{"seasons":{"bobcat":["2026-12-01","2027-02-15"]}}`, `{"kind":"catch","species":"bobcat","at":"2027-02-16T14:00:00Z","zone":"America/Denver"}`, Meets, 0},
		{InSeason, `{"seasons":{"bobcat":["2026-12-01","2027-02-15"]}}`, `{"kind":"catch","species":"bobcat","at":"2027-02-16T14:00:00Z"}`, Unknown, 0},

		{LicenceUntil, `{"licenceUntil":"2027-06-30"}`, `{"kind":"person","day":"2027-06-30"}`, Meets, 0},
		{LicenceUntil, `{"licenceUntil":"2027-06-30"}`, `{"kind":"person","day":"2027-07-01"}`, Fails, 0},
		{LicenceUntil, `{"licenceUntil":"2027-06-30"}`, `{"kind":"person"}`, Unknown, 0},
		{LicenceUntil, `{}`, `{"kind":"person","day":"2027-07-01"}`, Silent, 0},
	} {
		out := judged(t, c.card, c.thing)
		if out.Verdicts[c.clause] != c.want || out.Short[c.clause] != c.short {
			t.Errorf("%s, %s: %s is %q, short by %g; want %q, %g", c.card, c.thing, c.clause, out.Verdicts[c.clause], out.Short[c.clause], c.want, c.short)
		}
	}
}

// A blank card judges nothing; a nearer road never turns what fails into what meets, and a tighter clause never lets more through.
func TestCardsGoTheRightWay(t *testing.T) {
	for _, thing := range []string{
		`{"kind":"trap","spreadMm":900,"forms":[],"swivels":0,"tag":false}`, `{"kind":"set","tensionN":0,"roadM":0,"baitShows":true,"permission":{"written":false,"until":null}}`,
		`{"kind":"look","last":"2020-12-03T14:00:00Z","at":"2026-12-04T15:00:00Z","zone":"America/Denver"}`, `{"kind":"catch","species":"bobcat","number":90}`, `{"kind":"person","day":"2027-07-01"}`,
	} {
		for clause, verdict := range judged(t, `{}`, thing).Verdicts {
			if verdict != Silent {
				t.Errorf("by a blank card %s is %s: %s", clause, verdict, thing)
			}
		}
	}
	rng := rand.New(rand.NewPCG(34, 1))
	for range 500 {
		bound, is := rng.Float64()*100, rng.Float64()*100
		meets := func(bound, is float64) bool {
			out, err := Judge(JudgeInput{Card{RoadMinM: &bound}, Thing{Kind: ASet, RoadM: &is}})
			if err != nil {
				t.Fatal(err)
			}
			return out.Verdicts[RoadMinM] == Meets
		}
		if by := rng.Float64() * 20; !meets(bound, is) && meets(bound, max(0, is-by)) || !meets(bound, is) && meets(bound+by, is) {
			t.Fatalf("%g m of %g", is, bound)
		}
	}
}

// What cannot be is refused by its field.
func TestJudgeRefuses(t *testing.T) {
	for field, in := range map[string]JudgeInput{
		"thing.kind":        {},
		"card.roadMinM":     {Card{RoadMinM: new(-1.0)}, Thing{Kind: ASet}},
		"card.lookHours":    {Card{LookHours: new(0.0)}, Thing{Kind: ALook}},
		"card.quota.bobcat": {Card{Quota: map[string]float64{"bobcat": -1}}, Thing{Kind: ACatch}},
		"card.seasons.mink": {Card{Seasons: map[string][2]string{"mink": {"2027-01-01", "2026-01-01"}}}, Thing{Kind: ASet}},
		"card.licenceUntil": {Card{LicenceUntil: "soon"}, Thing{Kind: APerson}},
		"thing.at":          {Card{}, Thing{Kind: ALook, At: "noon"}},
		"thing.zone":        {Card{}, Thing{Kind: ALook, Zone: "Nowhere"}},
		"thing.from":        {Card{}, Thing{Kind: ASet, From: "1990-01-01", Day: "2026-01-01"}},
		"thing.day":         {Card{}, Thing{Kind: APerson, Day: "04.12.2026"}},
		"thing.reported":    {Card{}, Thing{Kind: ACatch, Reported: new("yes")}},
	} {
		var problems refuse.Problems
		if _, err := Judge(in); !errors.As(err, &problems) || problems[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}
