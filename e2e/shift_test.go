package e2e

import (
	"fmt"
	"os"
	"testing"

	pages "oldburrow/core/page"
	"oldburrow/server"
)

// Nothing moves under the finger while a page loads, on the table and in the hand; and there every page is one for thumbs, with nothing
// serious in the way of a screen reader or of weak eyes.
func TestEveryPageAsItOpens(t *testing.T) {
	t.Parallel()
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	p := demoLine(t)
	var about server.Program
	fetch(t, p.address, "/about", &about)
	var view pages.LineView
	base := "/line/" + about.Lines[0].ID
	fetch(t, p.address, "/lines/"+about.Lines[0].ID, &view)
	for _, size := range [][2]int{{1280, 800}, {390, 844}} {
		w := p.at("/", size[0], size[1])
		w.see("Before light")
		w.MustEvalOnNewDocument(lateWeather)
		for path, see := range map[string]string{
			"/today": "Dry, to", "/ground": "Sign, newest first", "/shed": "At the rack", "/shed/gauge": "Which trap’s pan", "/shed/mixes": "Mixing table", "/shed/kit": "Always along",
			"/bench": "On the bench", "/bench/" + view.Sets[0].Make.DesignID: "skunk", "/round": "The round", "/round/" + view.Sets[1].Set.ID: "It worked the set", "/book": "Where this line loses animals", "/book/caught": "What was caught", "/book/came": "Nights that count", "/book/apart": "One against another", "/book/set/" + view.Sets[1].Set.ID: "The story of set", "/book/place/" + view.Spots[0].ID: "The story of", "/copies": "Moving to another computer", "/phone": "Who helps",
			"/weather": "An own log", "/import": "up to 20 MB", "/rules": "Your rule card",
		} {
			where := fmt.Sprintf("%s at %d", path, size[0])
			w.open(base + path)
			w.see(see)
			w.until("the weather is in", func() bool { return w.MustEval(`() => __awaited`).Int() == 0 })
			w.MustWaitIdle()
			if shift := w.MustEval(`() => __shift`).Num(); shift >= .05 {
				t.Errorf("%s: shifts by %.3f: %s", where, shift, w.MustEval(`() => __shifts.join('; ')`).String())
			}
			if path == "/today" && w.MustEval(`() => [...document.querySelectorAll('.due')].some((row) => [...row.children].some((one, i, all) => i > 0 && one.getBoundingClientRect().left < all[i - 1].getBoundingClientRect().right + 4))`).Bool() {
				t.Errorf("%s: the columns of what is due run into each other", where)
			}
			if size[0] < 800 {
				w.inspect(string(axe), where)
				w.forThumbs(where)
			}
		}
	}
}

// lateWeather has the weather come late, as it does over a weak signal, and counts how far what stands on the page is pushed about.
const lateWeather = `const fast = window.fetch; window.__awaited = 0;
	window.fetch = async (what, how) => {
		if (!String(what.url ?? what).endsWith('/weather')) return fast(what, how);
		__awaited++;
		await new Promise((go) => setTimeout(go, 500));
		const answer = await fast(what, how);
		setTimeout(() => { __awaited--; }, 200);
		return answer;
	};
	window.__shift = 0; window.__shifts = [];
	new PerformanceObserver((list) => { for (const e of list.getEntries()) if (!e.hadRecentInput) { __shift += e.value; __shifts.push(e.value.toFixed(3) + ' ' + e.sources.map((s) => s.node?.className || s.node?.nodeName).join(', ')); } })
		.observe({ type: 'layout-shift', buffered: true });`
