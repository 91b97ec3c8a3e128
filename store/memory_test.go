package store

import (
	"testing"
)

// What was read while something was written is not remembered, nor is it recalled by who began to read before the write.
func TestNothingOldIsRemembered(t *testing.T) {
	var m memory
	early := m.glance()
	early.keep("a", 1)
	if got := m.glance().recall("a"); got != 1 {
		t.Errorf("what was kept: %v", got)
	}
	done := m.change()
	during := m.glance()
	during.keep("a", 2)
	if got := during.recall("a"); got != nil {
		t.Errorf("while it is written: %v", got)
	}
	done()
	during.keep("a", 3)
	early.keep("a", 4)
	if got := m.glance().recall("a"); got != nil {
		t.Errorf("kept from before the write: %v", got)
	}
	m.glance().keep("a", 5)
	if got := early.recall("a"); got != nil {
		t.Errorf("recalled by who read before the write: %v", got)
	}
	if got := m.glance().recall("a"); got != 5 {
		t.Errorf("kept after it: %v", got)
	}
}
