package server

import (
	"fmt"
	"strings"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/exchange"
	"oldburrow/store"
)

// bringing takes the things of a file into a line, in one transaction.
type bringing struct {
	tx         *store.Tx
	line       line.Line
	now        time.Time
	animals    animal.Animals
	properties []line.Property
	fallback   string
	brought    Brought
}

func (b *bringing) all(things []exchange.Thing) (Brought, error) {
	if len(things) == 0 {
		return b.brought, refuse.Field("things", "are missing: choose at least one")
	}
	for i, t := range things {
		if err := b.one(t); err != nil {
			var p refuse.Problems
			p.Under(fmt.Sprintf("things[%d]", i), err)
			return b.brought, p
		}
	}
	return b.brought, nil
}

func (b *bringing) one(t exchange.Thing) error {
	if len(t.At) == 0 {
		return refuse.Field("points", "are missing")
	}
	if !t.IsSure(b.line) {
		return refuse.Field("points", "are doubtful: it %s. Say that they are right, or leave it out", t.Says)
	}
	switch t.Kind {
	case exchange.SpotKind:
		return b.spot(t)
	case exchange.SignKind:
		return b.sign(t)
	}
	return b.feature(t)
}

func (b *bringing) spot(t exchange.Thing) error {
	x := line.Spot{Name: t.Name}
	if t.Spot != nil {
		x = *t.Spot
	}
	if strings.TrimSpace(x.Name) == "" {
		x.Name = "Spot of " + b.now.Format(time.DateOnly)
	}
	property, err := b.property(t.Land)
	if err != nil {
		return err
	}
	x.ID, x.LineID, x.PropertyID, x.Version = ulid.Make().String(), b.line.ID, property, 0
	x.LonDeg, x.LatDeg = t.At[0][0], t.At[0][1]
	if err := x.Check(); err != nil {
		return err
	}
	b.brought.Spots++
	_, err = b.tx.PutSpot(x)
	return err
}

func (b *bringing) sign(t exchange.Thing) error {
	x := line.Sign{What: "tracks", Animal: line.Unsure, Age: "older", Holds: "unknown"}
	if t.Sign != nil {
		x = *t.Sign
	}
	if x.SeenAt.IsZero() {
		x.SeenAt = b.now
		if t.Time != nil {
			x.SeenAt = *t.Time
		}
	}
	if x.Note == "" {
		x.Note = strings.TrimSpace(strings.Join([]string{t.Name, t.Note}, " "))
	}
	x.ID, x.LineID, x.SpotID, x.PhotoID, x.YoungerThan, x.Version = ulid.Make().String(), b.line.ID, nil, nil, nil, 0
	x.LonDeg, x.LatDeg = t.At[0][0], t.At[0][1]
	if err := x.Check(b.now, b.animals); err != nil {
		return err
	}
	b.brought.Signs++
	_, err := b.tx.PutSign(x)
	return err
}

func (b *bringing) feature(t exchange.Thing) error {
	x := line.Feature{ID: ulid.Make().String(), LineID: b.line.ID, Kind: ground.FeatureKind(t.Kind), Name: t.Name, Note: t.Note, Points: t.At, WidthMm: t.Width, MadeAt: b.now}
	if t.Time != nil {
		x.MadeAt = *t.Time
	}
	if t.Land != nil {
		property, err := b.property(t.Land)
		if err != nil {
			return err
		}
		x.PropertyID = &property
	}
	if err := x.Check(); err != nil {
		return err
	}
	b.brought.Features++
	_, err := b.tx.PutFeature(x)
	return err
}

// property finds the property that a thing names, or the one chosen for those that name none, and makes it when it is new.
func (b *bringing) property(land *exchange.Land) (string, error) {
	x := line.Property{Name: b.fallback}
	if land != nil {
		x = line.Property{Name: land.Name, Permission: land.Permission, Asked: land.Asked, Until: land.Until}
	}
	if strings.TrimSpace(x.Name) == "" {
		return "", refuse.Field("property", "is missing: name the property for spots that name none")
	}
	for _, p := range b.properties {
		if strings.EqualFold(p.Name, x.Name) {
			return p.ID, nil
		}
	}
	x.ID, x.LineID = ulid.Make().String(), b.line.ID
	if err := x.Check(); err != nil {
		return "", err
	}
	made, err := b.tx.PutProperty(x)
	b.properties = append(b.properties, made)
	return x.ID, err
}
