package calc

import (
	"encoding/json"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/refuse"
	"oldburrow/core/weather"
)

// What is wrong is told in one order, however often it is asked: that of the fields.
func TestRefusalsHaveAnOrder(t *testing.T) {
	run := func(name, in string) func() error {
		return func() error {
			_, err := Run(name, json.RawMessage(in))
			return err
		}
	}
	other := "x"
	for name, refused := range map[string]func() error{
		"two rates":   run("compare", `{"a":{"catches":1.5,"trapNights":-1},"b":{"catches":-1,"trapNights":0}}`),
		"two chances": run("tension-window", `{"targets":["coyote"],"targetChance":2,"avoidChance":2}`),
		"an hour":     func() error { return json.Unmarshal([]byte(`{}`), &weather.Hour{}) },
		"a sign": func() error {
			return line.Sign{SpotID: &other, PhotoID: &other, YoungerThan: &other}.Check(time.Now(), animal.Reference)
		},
		"who else": func() error {
			var p refuse.Problems
			odds.Circumstances{Others: map[string]odds.Presence{"a": {}, "b": {}, "c": {}, "d": {}}}.Check(&p, animal.Reference)
			return p.Err()
		},
	} {
		first := refused()
		if first == nil {
			t.Errorf("%s is not refused", name)
			continue
		}
		for range 40 {
			if again := refused(); again == nil || again.Error() != first.Error() {
				t.Errorf("%s: %v, and again %v", name, first, again)
				break
			}
		}
	}
}
