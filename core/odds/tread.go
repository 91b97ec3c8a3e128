package odds

import "oldburrow/core/anchor"

// Tread is what becomes of an animal's visits to a set as it is made, on a firm bed: how often a foot comes on a pan, and fires it, the share of pads
// among what fired it, and how often each trap is fired, by their order. It hangs on no night.
type Tread struct {
	Step     float64   `json:"step"`
	Fire     float64   `json:"fire"`
	PadShare float64   `json:"padShare"`
	ByRig    []float64 `json:"byRig"`
}

// TreadOf simulates that, once for sets that are made alike; nil for a device, of which no footfall is claimed.
func TreadOf(q Question) (*Tread, error) {
	q.Layout, q.Map = firmed(q.Layout), false
	feet, err := keptFeet(q)
	if err != nil || feet == nil {
		return nil, err
	}
	return &Tread{feet.Step, feet.Fire, feet.PadShare, feet.byRig}, nil
}

// Night is what the links of a chain say of one night that hang on it: how often an animal passes, how many of those notice the set, how many of
// those commit, and how many that fire it are held.
type Night struct{ Passes, Notices, Commits, Held float64 }

// Promised is what the chain of an animal says of one night, by the middle of what is not known. It asks for circumstances.
func (t Tread) Promised(q Question) (Night, error) {
	feet := &Feet{Step: t.Step, Fire: t.Fire, PadShare: t.PadShare, byRig: t.ByRig}
	anchors, err := anchor.Of(anchor.Question{Layout: q.Layout, Animal: q.Target, Soil: q.Soil})
	if err != nil {
		return Night{}, err
	}
	found, _, err := linked(q, feet, q.holdTonight(anchors, feet))
	if err != nil {
		return Night{}, err
	}
	return Night{found.Links[0].Mid, found.Links[1].Mid, found.Links[2].Mid, found.Links[5].Mid}, nil
}
