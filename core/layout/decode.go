package layout

import (
	"bytes"
	"encoding/json"
	"errors"
	"strings"

	"oldburrow/core/refuse"
)

// Decode reads a layout from JSON as any version of the program wrote it, and gives it in the form of today. It refuses a form that
// is newer than this program, and what is no layout.
func Decode(raw []byte) (Layout, error) {
	type plain Layout // without UnmarshalJSON
	var l plain
	wrong := strict(raw, &l)
	if wrong == nil && l.Schema == Schema { // as nearly all are: read once
		return Layout(l).complete(), nil
	}
	var of struct {
		Schema *int `json:"schema"`
	}
	if err := json.Unmarshal(raw, &of); err != nil {
		return Layout{}, notALayout(err)
	}
	if of.Schema == nil {
		var l first
		if err := strict(raw, &l); err != nil {
			return Layout{}, notALayout(err)
		}
		return l.lift(), nil
	}
	if *of.Schema < Schema {
		return Layout{}, refuse.Field("layout.schema", "must be %d, not %d: no layout was ever written in that form", Schema, *of.Schema)
	}
	if *of.Schema > Schema {
		return Layout{}, refuse.Field("layout.schema", "must be %d, not %d: this layout was written by a newer program", Schema, *of.Schema)
	}
	return Layout{}, notALayout(wrong)
}

// UnmarshalJSON is Decode, so that a layout is lifted wherever it stands in what is read.
func (l *Layout) UnmarshalJSON(raw []byte) (err error) {
	*l, err = Decode(raw)
	return err
}

// strict refuses a field that is not known: what somebody wrote is not let go unseen.
func strict(raw []byte, into any) error {
	reader := json.NewDecoder(bytes.NewReader(raw))
	reader.DisallowUnknownFields()
	return reader.Decode(into)
}

func notALayout(err error) error {
	var wrong *json.UnmarshalTypeError
	if errors.As(err, &wrong) && wrong.Field != "" {
		return refuse.Field("layout."+wrong.Field, "cannot be a %s", wrong.Value)
	}
	if unknown, ok := strings.CutPrefix(err.Error(), "json: unknown field "); ok {
		return refuse.Field("layout", "has a field %s, which is not known here", unknown)
	}
	return refuse.Field("layout", "is no layout: one JSON object is wanted")
}

// complete puts an empty list where none was written, in a layout that is nobody else's.
func (l Layout) complete() Layout {
	l.Attractors, l.Rigs = listed(l.Attractors), listed(l.Rigs)
	l.Anchors, l.Guides = listed(l.Anchors), listed(l.Guides)
	for i := range l.Attractors {
		l.Attractors[i].Smells = listed(l.Attractors[i].Smells)
	}
	for i := range l.Rigs {
		l.Rigs[i].Cover = listed(l.Rigs[i].Cover)
	}
	return l
}

func listed[T any](all []T) []T {
	if all == nil {
		return []T{}
	}
	return all
}

// first is the form of before there were patterns: a dirt hole with one trap under one cover.
type first struct {
	Kind      Kind     `json:"kind"`
	Look      ShowKind `json:"look"`
	Hole      Hole     `json:"hole"`
	Backing   Backing  `json:"backing"`
	FacingDeg *float64 `json:"facingDeg"`
	Guides    []Guide  `json:"guides"`
	Pan       Pan      `json:"pan"`
	Cover     Layer    `json:"cover"`
	Trap      struct {
		ID            string  `json:"id"`
		Name          string  `json:"name"`
		JawSpreadMm   float64 `json:"jawSpreadMm"`
		FrameLengthMm float64 `json:"frameLengthMm"`
		SetHeightMm   float64 `json:"setHeightMm"`
	} `json:"trap"`
	Bed struct {
		XMm      float64 `json:"xMm"`
		YMm      float64 `json:"yMm"`
		MarginMm float64 `json:"marginMm"`
		BaseMm   float64 `json:"baseMm"`
		Firm     bool    `json:"firm"`
	} `json:"bed"`
	Anchor struct {
		Kind     AnchorKind `json:"kind"`
		LengthMm float64    `json:"lengthMm"`
		ChainMm  float64    `json:"chainMm"`
	} `json:"anchor"`
	Attractant struct {
		Bait    string `json:"bait"`
		Lure    string `json:"lure"`
		Urine   string `json:"urine"`
		Plug    Plug   `json:"plug"`
		BaitID  string `json:"baitId"`
		LureID  string `json:"lureId"`
		UrineID string `json:"urineId"`
	} `json:"attractant"`
}

// lift gives the same set in the form of today. Where its soil went, which hands made it and how its ground lies was not asked then.
func (f first) lift() Layout {
	a := f.Attractant
	smells := []Smell{}
	for _, s := range []Smell{
		{Kind: "bait", Name: a.Bait, LureID: a.BaitID, Place: "bottom"},
		{Kind: "lure", Name: a.Lure, LureID: a.LureID, Place: "lip"},
		{Kind: "urine", Name: a.Urine, LureID: a.UrineID, Place: "backing"},
	} {
		if s.Name != "" || s.LureID != "" {
			smells = append(smells, s)
		}
	}
	return Layout{
		Schema: Schema, Kind: f.Kind, Pattern: "hole", FacingDeg: f.FacingDeg, Backing: f.Backing, Show: f.Look,
		Attractors: []Attractor{{Kind: "hole", Hole: &f.Hole, Plug: a.Plug, Smells: smells}},
		Rigs: []Rig{{
			TrapID: f.Trap.ID, Name: f.Trap.Name, Device: "jaws", XMm: f.Bed.XMm, YMm: f.Bed.YMm,
			Jaws: &Jaws{f.Trap.JawSpreadMm, f.Trap.FrameLengthMm, f.Trap.SetHeightMm}, Pan: &f.Pan,
			Bed:   Bed{MarginMm: f.Bed.MarginMm, BaseMm: f.Bed.BaseMm, Firm: &f.Bed.Firm},
			Cover: []Layer{f.Cover}, ChainMm: f.Anchor.ChainMm,
		}},
		Anchors: []Anchor{{Kind: f.Anchor.Kind, LengthMm: f.Anchor.LengthMm, XMm: f.Bed.XMm, YMm: f.Bed.YMm}},
		Guides:  f.Guides,
	}.complete()
}
