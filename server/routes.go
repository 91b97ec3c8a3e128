package server

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"oldburrow/core/asked"
	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/core/shed"
	"oldburrow/exchange"
	"oldburrow/store"
)

// Group is whose a route is: what the people of a line may do goes by it.
type Group string

// The groups.
const (
	Open  Group = "open"  // to whoever reaches the program
	Read  Group = "read"  // what is read on the line, and what only computes
	Enter Group = "enter" // what is done on the line, and taking it back
	Plan  Group = "plan"  // the book, what is planned and kept at home, and what goes out
	Own   Group = "own"   // the line itself, copies and archives
)

// takes is in which form a request's body comes.
type takes string

const (
	nothing takes = ""
	asJSON  takes = "application/json"
	picture takes = "image/jpeg"
	file    takes = "application/octet-stream"
	zip     takes = "application/zip"
)

// gives is in which form an answer comes, where that is not JSON.
type gives string

const (
	aFile   gives = "application/octet-stream"
	aPage   gives = "text/html"
	aStyle  gives = "text/css"
	byLines gives = "application/x-ndjson" // line by line, as it is found
)

// route is one thing that the program answers. Body and answer are what they are on the wire; nil where nothing of a known kind is sent, and
// asks names what may stand after the question mark.
type route struct {
	method, path string
	group        Group
	takes        takes
	body, answer any
	does         gin.HandlerFunc
	asks         []string
	gives        gives
	few          int // how many of it are answered at a time; 0: as many as come
}

// put is a route under which one record of a line is kept.
func put[T any](group Group, kind string, does gin.HandlerFunc) route {
	var record T
	return route{method: http.MethodPut, path: "/api/lines/:line/" + kind + "/:id", group: group, takes: asJSON, body: record, answer: record, does: does}
}

// shown is a route that shows something of a line.
func (s *Server) shown(group Group, path string, answer any, page func(reading, *gin.Context) (any, error), asks ...string) route {
	return route{method: http.MethodGet, path: "/api/lines/:line" + path, group: group, answer: answer, does: s.show(page), asks: asks}
}

// computed is a route that is asked a question and only computes.
func computed(path string, body, answer any, does gin.HandlerFunc) route {
	return route{method: http.MethodPost, path: "/api" + path, group: Read, takes: asJSON, body: body, answer: answer, does: does}
}

// ofPage is a route that the core answers from the record. The book is for those who plan.
func (s *Server) ofPage(one page.Route) route {
	group := Read
	switch stem, _, _ := strings.Cut(strings.TrimPrefix(one.Path, "/"), "/"); stem {
	case "book", "story", "stories", "apart", "alike", "showed", "compare", "jobs", "mended":
		group = Plan
	}
	is := s.shown(group, one.Path, one.Answer, asks(one), one.Asks...)
	shows := is.does
	switch {
	case one.Body != nil:
		is = computed("/lines/:line"+one.Path, one.Body, one.Answer, func(c *gin.Context) {
			if raw, ok := body(c, largestBody, "request"); ok {
				c.Set(questionBody, raw)
				shows(c)
			}
		})
	case one.Path == "/jobs":
		is.does = func(c *gin.Context) {
			shows(c)
			s.wantsWeighed(c.Param("line"))
		}
	case one.Path == "/weather":
		is.does = func(c *gin.Context) {
			s.wantsWeather(c)
			shows(c)
		}
	}
	return is
}

// previewed is a route that says what a file would do, and changes nothing.
func previewed(kind string, answer any, does gin.HandlerFunc, asks ...string) route {
	return route{method: http.MethodPost, path: "/api/lines/:line/" + kind + "/preview", group: Plan, takes: file, answer: answer, does: does, asks: asks}
}

func (r route) inLines() route {
	r.gives = byLines
	return r
}

func (r route) carrying(what takes, body any) route {
	r.takes, r.body = what, body
	return r
}

// ofLine tells whether a route changes or asks something of a line that has to be there.
func (r route) ofLine() bool {
	return strings.HasPrefix(r.path, "/api/lines/:line/") && r.method != http.MethodGet
}

// carried names what a request may carry.
var carried = map[takes]gin.HandlerFunc{nothing: jsonBody, asJSON: jsonBody, picture: photoBody, file: fileBody, zip: archiveBody}

// mount has an engine answer the routes.
func (s *Server) mount(r *gin.Engine) {
	uploads := few(mostUploads)
	for _, one := range s.routes() {
		chain := gin.HandlersChain{only(one.group), carried[one.takes]}
		if strings.HasPrefix(one.path, "/api/") {
			chain = append(gin.HandlersChain{noStore}, chain...)
		}
		if one.ofLine() {
			chain = append(chain, s.knownLine)
		}
		switch {
		case one.ofLine() && (one.takes == file || one.takes == picture):
			chain = append(chain, uploads)
		case one.few > 0:
			chain = append(chain, few(one.few))
		}
		r.Handle(one.method, one.path, append(chain, one.does)...)
	}
}

// routes are all that the program answers, but for the pages of the interface.
func (s *Server) routes() []route {
	all := []route{
		{method: http.MethodGet, path: "/healthz", group: Open, answer: Health{}, does: s.health},
		{method: http.MethodGet, path: "/api/about", group: Read, answer: Program{}, does: s.program},
		{method: http.MethodGet, path: "/api/openapi.json", group: Read, does: openAPI},
		{method: http.MethodGet, path: "/api/schema.json", group: Read, does: schemaJSON},
		{method: http.MethodGet, path: "/api/place", group: Read, answer: PlaceRead{}, does: s.place, asks: []string{"seconds"}},

		computed("/press", Ask{}, PressRead{}, s.press),
		{method: http.MethodPost, path: "/api/middle", group: Read, takes: file, answer: ground.Fix{}, does: middle, few: mostUploads},

		s.shown(Read, "/spots/:id/story", []line.Stood{}, spotStory),
		computed("/lines/:line/bundle", BundleAsked{}, BundleView{}, s.bundle),
		{method: http.MethodGet, path: "/api/lines/:line/photos/:id", group: Read, gives: gives(picture), does: s.photo},

		put[line.Visit](Enter, "visits", s.putVisit),
		put[line.Make](Enter, "makes", s.putMake),
		put[line.Pull](Enter, "pulls", s.putPull),
		put[line.Sign](Enter, "signs", s.putSign),
		put[line.Measurement](Enter, "measurements", s.putMeasurement),
		put[line.ShedCheck](Enter, "checks", s.putShedCheck),
		put[line.Dose](Enter, "doses", s.putDose),
		put[line.Level](Enter, "levels", s.putLevel),
		put[line.Reading](Enter, "readings", s.putReading),
		put[line.KitMark](Enter, "kit", s.putKitMark),
		put[line.Photo](Enter, "photos", s.putPhoto).carrying(picture, nil),

		s.shown(Plan, "/traps/:id/history", []shed.Event{}, trapStory),
		s.shown(Plan, "/visits/:id/mends", []line.Mend{}, mends),
		s.shown(Plan, "/makes/:id/corrections", []line.Correction{}, corrections),
		s.shown(Plan, "/done", DoneView{}, doneView, "from", "to", "property"),
		{method: http.MethodGet, path: "/api/lines/:line/export/:format", group: Plan, gives: aFile, does: s.export, asks: []string{"from", "to", "property"}},

		put[line.Mend](Plan, "mends", s.putMend),
		put[line.Correction](Plan, "corrections", s.putCorrection),
		put[line.Season](Plan, "seasons", s.putSeason),
		put[line.Property](Plan, "properties", s.putProperty),
		put[line.Spot](Plan, "spots", s.putSpot),
		put[line.Feature](Plan, "features", s.putFeature),
		put[line.Fall](Plan, "falls", s.putFall),
		put[line.Design](Plan, "designs", s.putDesign),
		put[line.Pattern](Plan, "patterns", s.putPattern),
		put[line.Trap](Plan, "traps", s.putTrap),
		put[line.Calibration](Plan, "calibrations", s.putCalibration),
		put[line.Lure](Plan, "lures", s.putLure),
		put[line.Bottle](Plan, "bottles", s.putBottle),
		put[line.Recipe](Plan, "recipes", s.putRecipe),
		previewed("import", exchange.Report{}, s.preview),
		previewed("weather", LogPreview{}, s.previewLog, "encoding"),
		previewed("rack", RackPreview{}, s.previewTraps, "encoding"),
		put[Brought](Plan, "import", s.bring).carrying(file, Bring{}),
		put[BroughtHours](Plan, "weather", s.bringLog).carrying(file, Log{}),
		put[BroughtTraps](Plan, "rack", s.bringTraps).carrying(file, TrapsToBring{}),

		{method: http.MethodPost, path: signInPath, group: Open, takes: asJSON, body: SignIn{}, answer: SignedIn{}, does: s.signIn},
		{method: http.MethodPost, path: codePath, group: Open, takes: asJSON, body: Code{}, answer: SignedIn{}, does: s.takeCode},
		{method: http.MethodPost, path: "/api/sign-out", group: Read, takes: asJSON, answer: SignedIn{}, does: s.signOut},
		{method: http.MethodGet, path: certificatePath, group: Open, gives: aPage, does: s.certificate},
		{method: http.MethodGet, path: certificatePath + "/page.css", group: Open, gives: aStyle, does: certificateCSS},
		{method: http.MethodGet, path: certificatePath + "/root.cer", group: Open, gives: aFile, does: s.root},
		{method: http.MethodGet, path: "/api/door", group: Own, answer: DoorView{}, does: s.door},
		{method: http.MethodPost, path: "/api/codes", group: Own, takes: asJSON, body: CodeAsked{}, answer: CodeMade{}, does: s.makeCode},
		{method: http.MethodPost, path: "/api/passphrase", group: Own, takes: asJSON, body: Chosen{}, answer: DoorView{}, does: s.choosePassphrase},
		{method: http.MethodPost, path: "/api/devices/end", group: Own, takes: asJSON, answer: DoorView{}, does: s.endDevices},
		{method: http.MethodPost, path: "/api/devices/:id/end", group: Own, takes: asJSON, answer: DoorView{}, does: s.endDevice},
		{method: http.MethodPut, path: "/api/people/:id", group: Own, takes: asJSON, body: line.Person{}, answer: line.Person{}, does: s.putPerson},
		{method: http.MethodPut, path: "/api/lines/:line", group: Own, takes: asJSON, body: line.Line{}, answer: line.Line{}, does: s.putLine},
		{method: http.MethodPost, path: "/api/demo/night", group: Own, takes: asJSON, answer: Moment{}, does: s.moveOnNight},
		{method: http.MethodPost, path: "/api/backup", group: Own, takes: asJSON, answer: Backup{}, does: s.makeCopy, few: 1},
		{method: http.MethodPost, path: "/api/archive", group: Own, takes: asJSON, body: Saving{}, answer: Moving{}, does: s.saveAll, few: 1, gives: byLines},
		{method: http.MethodGet, path: "/api/archive/:id", group: Own, gives: aFile, does: s.fetchSaved, asks: []string{"name"}},
		{method: http.MethodPost, path: "/api/archive/in", group: Own, takes: zip, answer: Moving{}, does: s.bringArchive, few: 1, gives: byLines},
		{method: http.MethodPost, path: "/api/archive/in/:id", group: Own, takes: asJSON, answer: Moving{}, does: s.openArchive, few: 1, gives: byLines},
	}
	for _, one := range page.Routes() {
		all = append(all, s.ofPage(one))
	}
	for _, one := range asked.Routes() {
		route := computed(one.Path, one.Body, one.Answer, s.answers(one))
		if one.Read {
			route.method, route.takes = http.MethodGet, nothing
		}
		if one.Lines {
			route = route.inLines()
		}
		all = append(all, route)
	}
	for _, act := range store.Undoable() {
		undo := put[Moment](Enter, act.Path, s.undo(act))
		undo.path += "/undo"
		undo.answer = act.Record()
		all = append(all, undo)
	}
	return all
}
