package line

import (
	"fmt"
	"unicode/utf8"

	"oldburrow/core/layout"
	"oldburrow/core/refuse"
)

// AsBuilt is how a make stood when it was done, beside its layout, which is as it stands: what was drawn, what was felt at each trap, in ground that
// was frozen or not, whether scent came onto the bed (nil is not said), what a remake took anew, a picture, a landmark to find it by, and how long it
// took.
type AsBuilt struct {
	Designed   *layout.Layout `json:"designed" jsonschema:"nullable"`
	Form       Form           `json:"form"`
	Points     []PointsAt     `json:"points"`
	Frozen     bool           `json:"frozen"`
	ScentOnBed *bool          `json:"scentOnBed" jsonschema:"nullable"`
	Renewed    []Renewal      `json:"renewed,omitempty"`
	PhotoID    *string        `json:"photoId,omitempty"`
	Landmark   string         `json:"landmark"`
	Minutes    *float64       `json:"minutes" jsonschema:"nullable"`
	Note       string         `json:"note"`
}

// PointsAt is what was felt at the trap in a slot.
type PointsAt struct {
	Slot int           `json:"slot"`
	Felt layout.Points `json:"felt"`
}

// How much can be said of a make, letters and minutes.
const (
	mostLandmark = 80
	mostNote     = 400
	mostMinutes  = 1440
)

// Stands is a make with its beds as they were felt: where it was said how it was built, what was not felt is not known to be firm.
func (x Make) Stands() Make {
	if x.AsBuilt == nil {
		return x
	}
	x.Layout = x.Layout.Clone()
	for i := range x.Layout.Rigs {
		r := &x.Layout.Rigs[i]
		if r.Jaws == nil {
			continue
		}
		r.Bed.Firm = nil
		for _, at := range x.AsBuilt.Points {
			if at.Slot == r.Slot {
				r.Bed.Firm = at.Felt.Firm(x.AsBuilt.Frozen)
			}
		}
	}
	return x
}

// Became is a make that stands with what was said of it since: how it was built. It refuses what was said of another act.
func (x Make) Became(said Make) (Make, bool) {
	is := said.AsBuilt != nil && x.ID == said.ID && x.SetID == said.SetID && x.DesignID == said.DesignID && x.Target == said.Target && x.BuiltAt.Equal(said.BuiltAt)
	if !is {
		return x, false
	}
	drawn := x.Layout
	if x.AsBuilt != nil && x.AsBuilt.Designed != nil {
		drawn = *x.AsBuilt.Designed
	}
	x.Layout, x.AsBuilt = said.Layout, new(*said.AsBuilt)
	x.AsBuilt.Designed = &drawn
	return x.Stands(), true
}

func (x *AsBuilt) check(p *refuse.Problems, l layout.Layout) {
	if x == nil {
		return
	}
	refuse.OneOfSaid(p, "asBuilt.form", x.Form, Forms)
	for i, at := range x.Points {
		field := fmt.Sprintf("asBuilt.points[%d]", i)
		there := false
		for _, r := range l.Rigs {
			there = there || r.Slot == at.Slot && r.Jaws != nil
		}
		if !there {
			p.Add(field+".slot", "must be that of a trap with jaws of this set, not %d", at.Slot)
		}
		for k, feel := range at.Felt {
			refuse.OneOfSaid(p, fmt.Sprintf("%s.felt[%d]", field, k), feel, layout.Feels)
		}
	}
	for i, renewed := range x.Renewed {
		refuse.OneOf(p, fmt.Sprintf("asBuilt.renewed[%d]", i), renewed, Renewals)
	}
	if x.PhotoID != nil {
		checkID(p, "asBuilt.photoId", *x.PhotoID)
	}
	if x.Minutes != nil {
		p.Within("asBuilt.minutes", *x.Minutes, 0, mostMinutes, " minutes")
	}
	for field, words := range map[string]string{"landmark": x.Landmark, "note": x.Note} {
		most := mostNote
		if field == "landmark" {
			most = mostLandmark
		}
		if n := utf8.RuneCountInString(words); n > most {
			p.Add("asBuilt."+field, "must be at most %d letters, not %d", most, n)
		}
	}
}
