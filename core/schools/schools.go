// Package schools holds what good trappers do not agree on, wherever a computation can follow either side: one word a topic. What
// computes takes Schools as an argument; Usual is what holds for whoever has not chosen.
package schools

import (
	"reflect"
	"slices"
	"strings"
	"sync"

	"oldburrow/core/refuse"
)

// Schools is what somebody goes by. The ways of each topic stand in its tag, the usual one with a star.
type Schools struct {
	Hands       string `json:"hands" ways:"*gloves bare"`                     // clean gloves for metal and off for lure, or bare hands throughout
	Surface     string `json:"surface" ways:"*matched smooth rough"`          // of the finished cover, against the ground around
	Show        string `json:"show" ways:"*by_spot dug_out subtle"`           // by spot: subtle where the animals are shy
	Spoil       string `json:"spoil" ways:"*behind sides before carried_off"` // where the loose soil goes
	Setback     string `json:"setback" ways:"*by_animal one"`                 // or one distance, six inches, for all
	Offset      string `json:"offset" ways:"*by_chance centred right"`        // by the chance map, centred, or because the right foot leads
	Dog         string `json:"dog" ways:"*away between"`                      // away from the stance, or between the jaws where the animal stands
	Behind      string `json:"behind" ways:"*nothing low"`                    // beyond the far jaw, or something low that shortens the step
	Tuft        string `json:"tuft" ways:"*dug_in stood_in"`                  // by its root ball, or merely stood in
	Tension     string `json:"tension" ways:"*light heavy"`                   // for the target alone, or heavy so that small animals are spared
	Bed         string `json:"bed" ways:"*exact under over"`                  // undersized and twisted in, or over-dug and filled again
	Cover       string `json:"cover" ways:"*thin thick"`                      // a quarter of an inch, or a half
	Frost       string `json:"frost" ways:"*waxed_top waxed peat"`            // peat below and waxed on top, waxed throughout, or dry peat and salt
	TrapSize    string `json:"trapSize" ways:"*by_animal one"`                // or one middling size for all
	AnchorKind  string `json:"anchorKind" ways:"*by_ground stake cable"`      // by soil and frost
	Stakes      string `json:"stakes" ways:"*by_soil crossed one"`            // two always, or one where the soil holds it
	AnchorPlace string `json:"anchorPlace" ways:"*by_animal under aside"`     // under the bed, and a chain's length aside for foxes
	Fixed       string `json:"fixed" ways:"*fixed drag by_cover"`             // on a drag where there is cover and room
	Chain       string `json:"chain" ways:"*buried covered"`                  // whole, or merely covered
	Guides      string `json:"guides" ways:"*by_animal hard few"`             // cats hard, coyotes little
	Backing     string `json:"backing" ways:"*solid open"`                    // or open all round
	Bait        string `json:"bait" ways:"*little plenty"`                    // little and deep
	Holds       string `json:"holds" ways:"*by_pattern food no_food"`         // something to eat or tug, or nothing that starts digging
	Smell       string `json:"smell" ways:"*by_season food gland"`            // by season and what the place has met
	Urine       string `json:"urine" ways:"*any fox"`                         // any canine's, or fox for all
	CatUrine    string `json:"catUrine" ways:"*never_cover never hole"`       // never as cover, never near canine sets, or down the hole only
	Rolling     string `json:"rolling" ways:"*prevented aside"`               // at the set, or led to a stone well aside
	BuildOrder  string `json:"buildOrder" ways:"*attractor trap"`             // what is made first
	WalkedBy    string `json:"walkedBy" ways:"*leave change"`                 // leave it some nights, or change the set
	Remake      string `json:"remake" ways:"*same rim"`                       // in the same bed, or at the rim of the circle
	Renew       string `json:"renew" ways:"*bait everything"`                 // of the scent at a remake: the catch's smell does the rest
	Wind        string `json:"wind" ways:"*night today"`                      // what prevails at night, or today's
	CallLure    string `json:"callLure" ways:"*aside set"`                    // aside and high, or at the set
}

// Topic is one question, its ways, and the usual one.
type Topic struct {
	Key   string   `json:"key"`
	Ways  []string `json:"ways"`
	Usual string   `json:"usual"`
}

// Topics lists the questions in the order of Schools.
func Topics() []Topic {
	of := reflect.TypeFor[Schools]()
	topics := make([]Topic, of.NumField())
	for i := range topics {
		field := of.Field(i)
		topic := Topic{Key: field.Tag.Get("json")}
		for _, way := range strings.Fields(field.Tag.Get("ways")) {
			key, usual := strings.CutPrefix(way, "*")
			topic.Ways = append(topic.Ways, key)
			if usual {
				topic.Usual = key
			}
		}
		topics[i] = topic
	}
	return topics
}

// Usual is the usual way in everything.
func Usual() Schools { return usual() }

var usual = sync.OnceValue(func() Schools {
	var s Schools
	of := reflect.ValueOf(&s).Elem()
	for i, topic := range Topics() {
		of.Field(i).SetString(topic.Usual)
	}
	return s
})

// Check refuses a way that its topic does not have.
func (s Schools) Check() error {
	var p refuse.Problems
	of := reflect.ValueOf(s)
	for i, topic := range Topics() {
		if way := of.Field(i).String(); !slices.Contains(topic.Ways, way) {
			refuse.OneOf(&p, topic.Key, way, topic.Ways)
		}
	}
	return p.Err()
}
