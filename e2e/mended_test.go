package e2e

import "testing"

// The book tells what was done about trouble and what came of it, what each lure brought, and how often the targets come by, as far as that is known.
func TestWhatMended(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/line/"+p.lineNow().Line.ID+"/book", 1280, 800)
	w.click("what mended")
	w.see("What mended")
	w.see("After ")
	w.see("which leaves")
	w.see("What each lure brought")
	w.see("Old Fence")
	w.see("How often they come by")
	w.sights("mended")
	w.noErrors()
}
