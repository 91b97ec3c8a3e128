package server

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"reflect"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/page"
)

// BundleAsked asks for the open season of a line, as a browser takes it along: Have are the digests of the parts that it has already.
type BundleAsked struct {
	Have map[string]string `json:"have"`
}

// BundleView is the season in parts: those that differ from what the browser has. Head is the part of a bundle that is no row, and each other part
// is a kind of row, under its name there.
type BundleView struct {
	Form  int                   `json:"form"`
	At    time.Time             `json:"at"` // by the program's clock
	Parts map[string]BundlePart `json:"parts"`
}

// BundlePart is a part, and what it is known by.
type BundlePart struct {
	Digest string          `json:"digest"`
	Is     json.RawMessage `json:"is"`
}

func (s *Server) bundle(c *gin.Context) {
	var q BundleAsked
	if !decode(c, &q) {
		return
	}
	s.show(func(r reading, _ *gin.Context) (any, error) {
		taken, err := page.Take(r.Reading, r.view)
		if err != nil {
			return nil, err
		}
		parts, err := partsOf(taken)
		if err != nil {
			return nil, err
		}
		found := BundleView{Form: page.Form, At: r.Now.UTC(), Parts: map[string]BundlePart{}}
		for name, part := range parts {
			if q.Have[name] != part.Digest {
				found.Parts[name] = part
			}
		}
		return found, nil
	})(c)
}

// partsOf takes a bundle apart.
func partsOf(b page.Bundle) (map[string]BundlePart, error) {
	is := map[string]json.RawMessage{}
	rows := reflect.ValueOf(b.Rows)
	for i := range rows.NumField() {
		raw, err := json.Marshal(rows.Field(i).Interface())
		if err != nil {
			return nil, err
		}
		is[rows.Type().Field(i).Tag.Get("json")] = raw
	}
	b.Rows = page.Rows{}
	head, err := json.Marshal(b)
	if err != nil {
		return nil, err
	}
	is["head"] = head
	found := map[string]BundlePart{}
	for name, raw := range is {
		sum := sha256.Sum256(raw)
		found[name] = BundlePart{hex.EncodeToString(sum[:8]), raw}
	}
	return found, nil
}
