package odds

import (
	"encoding/json"
	"fmt"
	"sync"
)

// kept are the feet that were walked, by all that they hang on: what an animal is like is part of it, since it may be changed. What was asked for
// lately is kept, and is shared by whoever asks: nobody changes it.
var kept struct {
	sync.Mutex
	lately, before map[string]*Feet
}

// mostKept is how many there are of each age: enough for the help of some sixty sets, a few megabytes.
const mostKept = 6000

// keptFeet is what becomes of the visits to a set, walked once, without a map; nil where none are claimed.
func keptFeet(q Question) (*Feet, error) {
	q.Map = false
	ways, err := Comings(q.Layout, q.Target, q.Visits)
	if err != nil {
		return nil, err
	}
	raw, err := json.Marshal(ways)
	if err != nil {
		return nil, err
	}
	key := fmt.Sprint(q.Target, q.Seed, string(raw))
	if feet, ok := recall(key); ok {
		return feet, nil
	}
	feet, err := walk(q, ways)
	if err == nil {
		keep(key, feet)
	}
	return feet, err
}

func recall(key string) (*Feet, bool) {
	kept.Lock()
	defer kept.Unlock()
	feet, ok := kept.lately[key]
	if !ok {
		if feet, ok = kept.before[key]; ok {
			kept.lately[key] = feet // it is asked for still
		}
	}
	return feet, ok
}

func keep(key string, feet *Feet) {
	kept.Lock()
	defer kept.Unlock()
	if kept.lately == nil || len(kept.lately) >= mostKept {
		kept.before, kept.lately = kept.lately, map[string]*Feet{}
	}
	kept.lately[key] = feet
}
