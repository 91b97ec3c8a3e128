package page

import (
	"reflect"
	"slices"
	"time"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/round"
)

// SetView is a set as the string shows it: its newest make, how that stands, and its last look. DesignVersion is the version of
// the make's design where that says what the make does; such a design is not told again. 0: it stands among the designs.
type SetView struct {
	Set       line.Set    `json:"set"`
	Make      line.Make   `json:"make"`
	Bead      line.Bead   `json:"bead"`
	LastVisit *line.Visit `json:"lastVisit" jsonschema:"nullable"`
	// Uncounted is a look since then that is kept, answers the set and does not count.
	Uncounted     *line.Uncounted `json:"uncounted" jsonschema:"nullable"`
	Pull          *line.Pull      `json:"pull" jsonschema:"nullable"` // which ended it
	DesignVersion int             `json:"designVersion"`
	Prints        []line.Print    `json:"prints"` // of its target, marked at its spot before
}

// LineView is the line as every page needs it, in the open season. Sets are in running order, as Round has them.
type LineView struct {
	Line       line.Line       `json:"line"`
	Now        time.Time       `json:"now"`
	Light      round.Light     `json:"light"`
	Plane      ground.Plane    `json:"plane"`
	Season     *line.Season    `json:"season" jsonschema:"nullable"` // nil while nothing was done
	Properties []line.Property `json:"properties"`
	Spots      []line.Spot     `json:"spots"`
	Sets       []SetView       `json:"sets"`
	Designs    []line.Design   `json:"designs"`
	Round      []line.Stop     `json:"round"`
	Worth      []line.Worth    `json:"worth"`
	Endings    []line.Ending   `json:"endings"` // of permissions, where sets stand
	StillIn    []StillNow      `json:"stillIn"`
	// Unreadable is what stands in the file and cannot be read.
	Unreadable []line.Unreadable `json:"unreadable"`
	// Behind is the program's own newest act, when its clock is well behind that; nil while it is not.
	Behind *time.Time `json:"behind" jsonschema:"nullable"`
	// Trouble says why nothing can be written to the file; blank while it can.
	Trouble string `json:"trouble"`
}

func lineView(r Reading, _ Asked) (any, error) {
	rec, err := r.Record()
	if err != nil {
		return nil, err
	}
	view := LineView{Line: r.Of, Now: r.Now.UTC(), Sets: []SetView{}, Behind: r.Around.Behind, Trouble: r.Around.Trouble}
	view.Plane = ground.PlaneAbout(ground.Fix{LatDeg: r.Of.LatDeg, LonDeg: r.Of.LonDeg})
	if view.Light, err = round.Daylight(r.Now, r.Zone, r.Of.LatDeg, r.Of.LonDeg); err != nil {
		return view, err
	}
	if season, _, err := r.Season(""); err != nil {
		return view, err
	} else if season.ID != "" {
		view.Season = &season
	}
	if view.Properties, err = r.Properties(r.Of.ID); err != nil {
		return view, err
	}
	if view.Spots, err = r.Spots(r.Of.ID); err != nil {
		return view, err
	}
	if view.Designs, err = r.Designs(r.Of.ID, rec.Sets); err != nil {
		return view, err
	}
	sets := slices.DeleteFunc(slices.Clone(rec.Sets), func(s line.Set) bool { return len(rec.At(s.ID)) == 0 })
	view.Round = line.Round(sets, view.Spots, view.Designs)
	view.Worth = rec.WorthDoing(view.Round)
	view.Endings = rec.Endings(view.Properties, view.Spots)
	if view.StillIn, err = r.stillNow(rec); err != nil {
		return view, err
	}
	for _, stop := range view.Round {
		if made, ok := rec.NewestMake(stop.SetID); ok {
			version := view.tellOnce(made)
			view.Sets = append(view.Sets, SetView{rec.Set(stop.SetID), made, rec.Bead(made), rec.LastLook(made.ID), rec.Uncounted(made), rec.PullOf(made), version, rec.Prints(stop.SpotID, made.Target)})
		}
	}
	view.Unreadable = r.Unread()
	return view, nil
}

// tellOnce takes the design of a make out of the view when the make says all that it does, and gives its version.
func (v *LineView) tellOnce(made line.Make) int {
	i := slices.IndexFunc(v.Designs, func(d line.Design) bool {
		return d.ID == made.DesignID && d.SetID != nil && *d.SetID == made.SetID && d.Target == made.Target && reflect.DeepEqual(d.Layout, made.Layout)
	})
	if i < 0 {
		return 0
	}
	version := v.Designs[i].Version
	v.Designs = slices.Delete(v.Designs, i, i+1)
	return version
}
