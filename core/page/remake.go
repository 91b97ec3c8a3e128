package page

import (
	"cmp"
	"slices"
	"strconv"

	"oldburrow/core/anchor"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

// RemakeView is how a set can be made again: in which forms, the likeliest first, where it would stand on the rim of its circle, and which traps fit in
// the place of each of its own. WearMm is how far from its anchor an animal on its chain wears the ground.
type RemakeView struct {
	Forms  []RemakeForm  `json:"forms"`
	WearMm float64       `json:"wearMm"`
	Rim    layout.Layout `json:"rim"`
	Fits   []FitsInSlot  `json:"fits"`
}

// RemakeForm is one form, and about how long it takes here.
type RemakeForm struct {
	Form    line.Form `json:"form"`
	Minutes float64   `json:"minutes"`
}

// FitsInSlot are the traps that fit in the place of the one in a slot, and how the pan of each stands to what the set asks for.
type FitsInSlot struct {
	Slot  int        `json:"slot"`
	Traps []TrapFits `json:"traps"`
}

// TrapFits is one of them.
type TrapFits struct {
	TrapID  string      `json:"trapId"`
	Verdict pan.Verdict `json:"verdict"`
}

// remake answers that for a make that stands; bearing is where on the rim, degrees from north: as the set faces where it is blank.
func remake(r Reading, q Asked) (any, error) {
	record, err := r.Shed()
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(record.Makes, func(m line.Make) bool { return m.ID == q.Key })
	if i < 0 {
		return nil, refuse.ErrUnknown
	}
	m := record.Makes[i]
	view := RemakeView{Forms: []RemakeForm{}, Fits: []FitsInSlot{}}
	drawn, err := r.outlookLine()
	if err != nil {
		return nil, err
	}
	on := layout.Underfoot{}
	spotID := record.Set(m.SetID).SpotID
	for _, f := range drawn.Frosts() {
		if f.SpotID == spotID {
			on = f.Underfoot
		}
	}
	for _, form := range r.formsFor(record.Record, m) {
		view.Forms = append(view.Forms, RemakeForm{form, form.Minutes(m.Layout, on, 0)})
	}
	for _, rig := range m.Layout.Rigs {
		traps, err := record.FitsIn(m, rig.Slot)
		if err != nil {
			return nil, err
		}
		fits := FitsInSlot{rig.Slot, []TrapFits{}}
		for _, h := range traps {
			fits.Traps = append(fits.Traps, TrapFits{h.Trap.ID, h.Verdict})
		}
		view.Fits = append(view.Fits, fits)
	}
	if err := r.rim(&view, record.Record, m, q); err != nil {
		return nil, err
	}
	return view, nil
}

// formsFor are the forms for a make, the likeliest first: what a drag left undug; else the same bed or the rim where an animal was held at an anchor, as
// its trapper goes by; and where the bed was found not to be sound, neither of those that keep it first.
func (r Reading) formsFor(rec line.Record, m line.Make) []line.Form {
	last := rec.LastLook(m.ID)
	held := last != nil && len(last.Catches) > 0
	drags := len(m.Layout.Anchors) > 0 && layout.Drags(m.Layout.Anchors[0].Kind) && !m.Layout.Anchors[0].Tied
	first := line.SameBed
	switch {
	case held && drags && sound(m, last):
		first = line.Preserved
	case held && !drags && (r.Schools.Remake == "rim" || !sound(m, last)):
		first = line.Rim
	case !sound(m, last):
		first = line.NewBed
	}
	forms := slices.DeleteFunc(slices.Clone(line.Forms), func(f line.Form) bool {
		return f == line.Preserved && !drags || f == line.Rim && drags // only a drag leaves its bed, only at an anchor is a circle worn
	})
	slices.SortStableFunc(forms, func(a, b line.Form) int { return cmp.Compare(order(a, first), order(b, first)) })
	return forms
}

func order(f, first line.Form) int {
	if f == first {
		return 0
	}
	return 1
}

// sound tells whether nothing says that a bed moves, is wet or was dug up.
func sound(m line.Make, last *line.Visit) bool {
	for _, rig := range m.Layout.Rigs {
		if rig.Bed.Firm != nil && !*rig.Bed.Firm {
			return false
		}
	}
	return last == nil || last.Finding != line.FoundDug && last.Bed != line.FeltWet
}

// rim lays the set at the rim of its circle.
func (r Reading) rim(view *RemakeView, rec line.Record, m line.Make, q Asked) error {
	key := m.Target
	if last := rec.LastLook(m.ID); last != nil && len(last.Catches) > 0 {
		key = last.Catches[0].Species
	}
	a, err := r.Animals.ByKey(key)
	if err != nil {
		if a, err = r.Animals.ByKey(m.Target); err != nil {
			return err
		}
	}
	in := anchor.CircleDefaults()
	if len(m.Layout.Rigs) > 0 {
		rig := m.Layout.Rigs[0]
		in.ChainMm = rig.ChainMm
		if rig.Jaws != nil {
			in.TrapLengthMm = rig.Jaws.FrameMm
		}
	}
	circle, err := anchor.CircleOf(a, in)
	if err != nil {
		return err
	}
	bearing := 0.0
	if m.Layout.FacingDeg != nil {
		bearing = *m.Layout.FacingDeg
	}
	if asked := q.Query["bearing"]; asked != "" {
		var p refuse.Problems
		if bearing, err = strconv.ParseFloat(asked, 64); err != nil {
			p.Add("bearing", "must be degrees from north, not %q", asked)
		} else {
			p.Within("bearing", bearing, 0, 360, "°")
		}
		if err := p.Err(); err != nil {
			return err
		}
	}
	spots, err := r.Spots(r.Of.ID)
	if err != nil {
		return err
	}
	for _, spot := range spots {
		if spot.ID == rec.Set(m.SetID).SpotID {
			view.WearMm, view.Rim = circle.WearMm, line.OnRim(m.Layout, spot.PlaceOf(m.Layout), bearing, circle.WearMm)
		}
	}
	return nil
}
