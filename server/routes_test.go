package server

import (
	"encoding/json"
	"regexp"
	"slices"
	"strings"
	"testing"
)

// Every route is described with what it takes and gives, each of a type that the schema knows, and belongs to somebody.
func TestEveryRouteIsDescribed(t *testing.T) {
	x := newSite(t)
	var schema struct {
		Defs map[string]any `json:"$defs"`
	}
	x.get("/schema.json", &schema)
	var found struct {
		Paths map[string]map[string]struct {
			Group      Group `json:"x-group"`
			Responses  map[string]any
			Parameters []struct{ Name, In string }
		}
	}
	status, raw := x.do("GET", "/openapi.json", "", nil)
	if err := json.Unmarshal(raw, &found); status != 200 || err != nil {
		t.Fatal(status, err)
	}
	if written, err := OpenAPI(); err != nil || string(written) != string(raw) {
		t.Errorf("what is handed out differs from what is written: %v", err)
	}
	for _, ref := range regexp.MustCompile(`schema\.json#/\$defs/(\w+)`).FindAllStringSubmatch(string(raw), -1) {
		if schema.Defs[ref[1]] == nil {
			t.Errorf("the schema does not know %s", ref[1])
		}
	}
	answered := 0
	for _, r := range x.server.engine().Routes() {
		path := inPath.ReplaceAllString(r.Path, "{$1}")
		is, ok := found.Paths[path][strings.ToLower(r.Method)]
		if !ok || !slices.Contains([]Group{Open, Read, Enter, Plan, Own}, is.Group) || is.Responses["200"] == nil || is.Responses["421"] == nil {
			t.Errorf("%s %s: %+v", r.Method, r.Path, is)
		}
		if n := strings.Count(r.Path, ":"); n > len(is.Parameters) {
			t.Errorf("%s %s names %d things and describes %d", r.Method, r.Path, n, len(is.Parameters))
		}
		comesIn := r.Path == "/api/sign-in" || r.Path == "/api/code"
		if (is.Group == Open && strings.HasPrefix(r.Path, "/api/")) != comesIn || is.Group == Read && r.Method == "PUT" || is.Group == Enter && r.Method != "PUT" {
			t.Errorf("%s %s is %s", r.Method, r.Path, is.Group)
		}
		if open := is.Responses["401"] == nil; open == (is.Group != Open || comesIn) || (is.Responses["403"] == nil) {
			t.Errorf("%s %s: %v", r.Method, r.Path, is.Responses)
		}
		answered++
	}
	described := 0
	for _, methods := range found.Paths {
		described += len(methods)
	}
	if answered != described || answered < 70 {
		t.Errorf("%d routes, %d described", answered, described)
	}
}
