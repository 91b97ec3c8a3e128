package page

import (
	"strings"

	"oldburrow/core/book"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/outlook"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/core/strict"
)

// Asked is what a page asks: the key in which the path ends, what stands behind the question mark, and the body of a question that has one.
type Asked struct {
	Key   string
	Query map[string]string
	Body  []byte
}

// Route is one thing that can be asked of a line. Its path stands under that of the line, and may end in a key, as /day/:date; Asks names what may
// stand after the question mark. Body and Answer are blank ones of what is sent and given; where Body is nil it is only read.
type Route struct {
	Path         string
	Asks         []string
	Body, Answer any

	answer func(Reading, Asked) (any, error)
}

// Routes are all of them.
func Routes() []Route { return routes }

var routes = []Route{
	read("", LineView{}, lineView),
	read("/ground", Ground{}, groundView, "season"),
	read("/book", BookView{}, bookView, "season"),
	read("/story/:set", StoriesView{}, story, "season"),
	read("/stories/:spot", StoriesView{}, storiesAt, "season"),
	read("/apart", ApartView{}, apart, "season", "animal"),
	read("/mended", MendedView{}, mended, "season"),
	read("/alike", NightsView{}, nightsOf, "season", "animal", "by", "key"),
	read("/showed/:animal", ShowedView{}, showed, "season"),
	read("/compare", book.Compared{}, compare, "season", "animal", "by", "a", "b"),
	read("/day/:date", Day{}, dayView),
	read("/weather", WeatherView{}, weatherView),
	read("/rack", Rack{}, rackView),
	read("/shelf", Shelf{}, shelf),
	read("/kit/:day", shed.Kit{}, kit),
	read("/remake/:make", RemakeView{}, remake, "bearing"),
	read("/works/:spot", WorksView{}, works, "target"),
	read("/jobs", JobsView{}, jobs, "minutes", "nights", "traps", "without"),
	read("/means/:visit", MeansView{}, means, "said"),
	read("/designs/:id", line.Design{}, func(r Reading, q Asked) (any, error) { return r.Design(r.Of.ID, q.Key) }),
	read("/defaults/:target", layout.Layout{}, defaults, "spot", "pattern", "variant"),
	read("/patterns/:target", PatternsView{}, patterns, "spot"),
	question("/place", outlook.Places{}, place),
	question("/repattern", Repatterned{}, repattern),
	question("/reach", ReachView{}, reach),
	question("/circumstances", CircumstancesView{}, circumstances),
}

func read(path string, answer any, does func(Reading, Asked) (any, error), asks ...string) Route {
	return Route{Path: path, Asks: asks, Answer: answer, answer: does}
}

// question is a route whose body is decoded.
func question[Q any](path string, answer any, does func(Reading, Q) (any, error)) Route {
	var blank Q
	return Route{Path: path, Body: blank, Answer: answer, answer: func(r Reading, a Asked) (any, error) {
		var q Q
		if err := strict.Decode(a.Body, &q); err != nil {
			return nil, err
		}
		return does(r, q)
	}}
}

// Answer answers it.
func (one Route) Answered(r Reading, q Asked) (any, error) { return one.answer(r, q) }

// Find finds the route of a path below a line's, and the key in which the path ends; refuse.ErrUnknown where there is none.
func Find(path string) (Route, string, error) {
	for _, one := range routes {
		stem, _, keyed := strings.Cut(one.Path, ":")
		key, ok := strings.CutPrefix(path, stem)
		if ok && (keyed && key != "" && !strings.Contains(key, "/") || !keyed && key == "") {
			return one, key, nil
		}
	}
	return Route{}, "", refuse.ErrUnknown
}
