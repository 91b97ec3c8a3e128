package server

import (
	"encoding/json"
	"fmt"
	"net/http"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
)

// object is a JSON object in the making.
type object = map[string]any

// problems are what may go wrong, by the status that says so, in the words of the description; those with codes can be waited for.
var problems = map[int]string{
	http.StatusBadRequest:            "The request is not in the form that is asked for",
	http.StatusUnauthorized:          "Whoever asks has not come in (code *session*), or was signed out (*ended*)",
	http.StatusForbidden:             "Another site asked for it, or it is not for who asks (code *role*)",
	http.StatusTooManyRequests:       "It was wrong too often; *Retry-After* says how long to wait",
	http.StatusNotFound:              "There is nothing under this address",
	http.StatusConflict:              "It was changed elsewhere, or its id stands for something else; *theirs* is the record as it stands",
	http.StatusRequestEntityTooLarge: "What was sent is too large",
	http.StatusUnsupportedMediaType:  "What was sent is of another kind than is taken",
	http.StatusMisdirectedRequest:    "It was meant for another host, or for another data file",
	http.StatusUnprocessableEntity:   "It cannot be accepted; *fields* names what is wrong, and what would be right",
	http.StatusServiceUnavailable:    "Too much is asked at once, or the file is in use (code *busy*)",
	http.StatusInsufficientStorage:   "Nothing can be written (codes *disk_full*, *disk_fault*, *read_only*, *gone*, *damaged*)",
}

// fails are the problems that a route may answer with.
func (r route) fails() []int {
	found := []int{http.StatusForbidden, http.StatusMisdirectedRequest, http.StatusServiceUnavailable}
	if guessed := r.path == signInPath || r.path == codePath; r.group != Open || guessed {
		found = append(found, http.StatusUnauthorized)
		if guessed {
			found = append(found, http.StatusTooManyRequests)
		}
	}
	if strings.Contains(r.path, ":") {
		found = append(found, http.StatusNotFound)
	}
	if len(r.asks) > 0 || r.takes != nothing || strings.Contains(r.path, ":date") {
		found = append(found, http.StatusUnprocessableEntity)
	}
	if r.takes != nothing {
		found = append(found, http.StatusBadRequest, http.StatusRequestEntityTooLarge, http.StatusUnsupportedMediaType)
	}
	if r.method == http.MethodPut || r.group == Own {
		found = append(found, http.StatusConflict, http.StatusInsufficientStorage)
	}
	slices.Sort(found)
	return found
}

var inPath = regexp.MustCompile(`:(\w+)`)

// OpenAPI describes every route, with bodies and answers by their names in the schema.
func OpenAPI() ([]byte, error) {
	paths := map[string]object{}
	for _, r := range new(Server).routes() {
		path := inPath.ReplaceAllString(r.path, "{$1}")
		if paths[path] == nil {
			paths[path] = object{}
		}
		is, err := r.described()
		if err != nil {
			return nil, fmt.Errorf("%s %s: %w", r.method, r.path, err)
		}
		paths[path][strings.ToLower(r.method)] = is
	}
	responses := object{}
	for status, says := range problems {
		responses[strconv.Itoa(status)] = object{"description": says, "content": object{"application/problem+json": object{"schema": refTo("Problem")}}}
	}
	raw, err := json.MarshalIndent(object{
		"openapi":    "3.1.0",
		"info":       object{"title": "Old Burrow", "version": "1", "description": "Types are those of schema.json. Groups: " + strings.Join(groupWords, "; ") + "."},
		"paths":      paths,
		"components": object{"responses": responses},
	}, "", "  ")
	return append(raw, '\n'), err
}

// groupWords say whose the routes of each group are.
var groupWords = []string{
	"*open*, to whoever reaches the program", "*read*, to everybody on the line", "*enter*, what is done, by everybody on the line",
	"*plan*, not by a helper", "*own*, by the owner alone",
}

func (r route) described() (object, error) {
	is := object{"x-group": r.group}
	var parameters []object
	for _, found := range inPath.FindAllStringSubmatch(r.path, -1) {
		parameters = append(parameters, object{"name": found[1], "in": "path", "required": true, "schema": object{"type": "string"}})
	}
	for _, name := range r.asks {
		parameters = append(parameters, object{"name": name, "in": "query", "schema": object{"type": "string"}})
	}
	if r.method == http.MethodPut {
		parameters = append(parameters, object{"name": "Mutation", "in": "header", "required": true, "description": "a ULID of the write itself: said again, it changes nothing", "schema": object{"type": "string"}})
	}
	if len(parameters) > 0 {
		is["parameters"] = parameters
	}
	if r.takes != nothing {
		schema, err := schemaOf(r.body)
		if err != nil {
			return nil, err
		}
		is["requestBody"] = object{"required": r.body != nil || r.takes != asJSON, "content": object{string(r.takes): schema}}
	}
	schema, err := schemaOf(r.answer)
	if err != nil {
		return nil, err
	}
	kind := string(r.gives)
	if kind == "" {
		kind = string(asJSON)
	}
	responses := object{"200": object{"description": "OK", "content": object{kind: schema}}}
	for _, status := range r.fails() {
		responses[strconv.Itoa(status)] = object{"$ref": "#/components/responses/" + strconv.Itoa(status)}
	}
	is["responses"] = responses
	return is, nil
}

func refTo(name string) object { return object{"$ref": "schema.json#/$defs/" + name} }

// schemaOf is the schema of what is sent, by its name; an empty object where it is of no known kind.
func schemaOf(x any) (object, error) {
	if x == nil {
		return object{}, nil
	}
	t, list := reflect.TypeOf(x), false
	if t.Kind() == reflect.Slice {
		t, list = t.Elem(), true
	}
	name := wireName(t)
	if name == "" {
		return nil, fmt.Errorf("%s has no name on the wire", t)
	}
	schema := refTo(name)
	if list {
		schema = object{"type": "array", "items": schema}
	}
	return object{"schema": schema}, nil
}

// openAPI and schemaJSON hand out what describes the program's answers.
func openAPI(c *gin.Context)    { described(c, OpenAPI) }
func schemaJSON(c *gin.Context) { described(c, Schema) }

func described(c *gin.Context, write func() ([]byte, error)) {
	raw, err := write()
	if err != nil {
		fail(c, err)
		return
	}
	c.Data(http.StatusOK, jsonKind, raw)
}
