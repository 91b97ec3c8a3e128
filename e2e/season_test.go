package e2e

import (
	"path/filepath"
	"strings"
	"testing"
)

// The book and the ground show the open season, and earlier ones when they are chosen; a season's name and days are the user's.
func TestSeasonsInTheBrowser(t *testing.T) {
	t.Parallel()
	p := run(t, "demo", "--still", "--large", "--seasons", "3", "--sets", "6", "--weather", "", "--data", filepath.Join(t.TempDir(), "large.db"))
	w := p.keptAt("/", 1280, 800)
	w.click("Book")
	w.click("what was caught")
	w.see("What was caught in 2026/27")
	w.see("1 Jul 2026 to 30 Jun 2027")
	now := w.text()
	w.click("2024/25")
	w.see("What was caught in 2024/25")
	if address := w.MustInfo().URL; !strings.Contains(address, "/book/caught?season=") {
		t.Errorf("the season is not in the address: %s", address)
	}
	if text := w.text(); strings.Contains(text, "13 Place") || !strings.Contains(text, "1 Place") {
		t.Errorf("the first season has its own sets:\n%s", text)
	}
	if !strings.Contains(now, "13 Place") {
		t.Errorf("the third season has its own sets:\n%s", now)
	}
	w.MustReload().MustWaitLoad()
	w.see("What was caught in 2024/25")
	w.click("change its name or days")
	w.fill("its name", "the wet winter")
	w.setTime("last day", "2025-07-01")
	w.click("Save")
	w.wrong("last day", "lies in 2025/26")
	w.setTime("last day", "2025-03-31")
	w.click("Save")
	w.see("What was caught in the wet winter")
	w.see("1 Jul 2024 to 31 Mar 2025")
	w.click("all seasons")
	w.see("What was caught in all seasons")
	w.see("1 Place")
	w.see("13 Place")
	w.click("Ground")
	w.see("sign as it was on 4 Dec, today")
	w.click("the wet winter")
	w.see("sign as it was on 3 Dec 2024")
	w.see("3 Dec 2024")
	w.click("2026/27")
	w.see("sign as it was on 4 Dec, today")
	w.noErrors()

	// With no signal a season that was read is shown, and one that was not is not taken for another.
	p.kill()
	w.click("the wet winter")
	w.see("sign as it was on 3 Dec 2024")
	w.click("2025/26")
	w.see("this browser has not read this page before")
}
