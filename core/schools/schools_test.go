package schools

import (
	"errors"
	"reflect"
	"slices"
	"testing"

	"oldburrow/core/refuse"
)

// Every topic has at least two ways, one of them the usual one, and a name of its own.
func TestTopics(t *testing.T) {
	seen := map[string]bool{}
	for _, topic := range Topics() {
		if len(topic.Ways) < 2 || !slices.Contains(topic.Ways, topic.Usual) || topic.Key == "" || seen[topic.Key] {
			t.Errorf("%+v", topic)
		}
		seen[topic.Key] = true
	}
	if err := Usual().Check(); err != nil {
		t.Error(err)
	}
	// What the trade's own table calls the default.
	usual := Usual()
	for _, c := range []struct{ got, want string }{
		{usual.Hands, "gloves"}, {usual.Spoil, "behind"}, {usual.Behind, "nothing"}, {usual.Tension, "light"}, {usual.Frost, "waxed_top"},
		{usual.AnchorKind, "by_ground"}, {usual.Guides, "by_animal"}, {usual.Renew, "bait"}, {usual.Dog, "away"},
	} {
		if c.got != c.want {
			t.Errorf("%q, want %q", c.got, c.want)
		}
	}
}

func TestCheckNamesTheTopic(t *testing.T) {
	for i, topic := range Topics() {
		s := Usual()
		reflect.ValueOf(&s).Elem().Field(i).SetString("otherwise")
		var p refuse.Problems
		if err := s.Check(); !errors.As(err, &p) || len(p) != 1 || p[0].Field != topic.Key {
			t.Errorf("%s: %v", topic.Key, err)
		}
	}
}
