package layout

import "testing"

// Nothing that moves is firm, anything that moves is not, and what was not felt is not known; frozen ground lets one pair rock.
func TestFourPoints(t *testing.T) {
	said := func(firm *bool) string {
		switch {
		case firm == nil:
			return "not known"
		case *firm:
			return "firm"
		}
		return "loose"
	}
	for _, c := range []struct {
		felt        Points
		thawed, icy string
	}{
		{Points{}, "not known", "not known"},
		{Points{Still, Still, Still, Still}, "firm", "firm"},
		{Points{Still, Still, Still, ""}, "not known", "not known"},
		{Points{Still, Gives, "", ""}, "loose", "loose"},
		{Points{Still, Still, Still, Gives}, "loose", "loose"},
		{Points{Rocks, Still, Still, Still}, "loose", "firm"},
		{Points{Rocks, Rocks, Still, Still}, "loose", "firm"},
		{Points{Still, Still, Rocks, Rocks}, "loose", "firm"},
		{Points{Rocks, Still, Still, Rocks}, "loose", "loose"},
		{Points{Rocks, Rocks, Rocks, Rocks}, "loose", "loose"},
		{Points{Rocks, Still, Still, ""}, "loose", "loose"},
		{Points{Rocks, Gives, Still, Still}, "loose", "loose"},
	} {
		if got, icy := said(c.felt.Firm(false)), said(c.felt.Firm(true)); got != c.thawed || icy != c.icy {
			t.Errorf("%v is %s, in frozen ground %s; want %s, %s", c.felt, got, icy, c.thawed, c.icy)
		}
	}
}
