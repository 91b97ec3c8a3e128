package server

import (
	"math"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/outlook"
	"oldburrow/core/shed"
	"oldburrow/store"
)

// Shelf is the lures of a line with their bottles, its recipes, and the cold that they have to stand.
type Shelf struct {
	Lures   []shed.OnShelf         `json:"lures"`
	Recipes []line.Recipe          `json:"recipes"`
	Usual   map[string]mix.Recipe  `json:"usual"`                         // the trade's own, to begin with
	Doses   map[string]line.Dosage `json:"doses"`                         // what one set takes of each class, to begin with
	Coldest *ColdestHour           `json:"coldest" jsonschema:"nullable"` // nil while no forecast is known
	StandC  float64                `json:"standC"`                        // the cold that a mixture should stand
}

// ColdestHour is the coldest hour of the forecast.
type ColdestHour struct {
	At    time.Time `json:"at"`
	TempC float64   `json:"tempC"`
}

// c is how cold that is; nil while it is not known.
func (h *ColdestHour) c() *float64 {
	if h == nil {
		return nil
	}
	return &h.TempC
}

func (s *Server) shelf(c *gin.Context) {
	l := theLine(c)
	s.refresh(c.Request.Context(), l) // what it cannot get is said where the weather is told
	r, err := s.shedRecord(l)
	found := Shelf{Usual: mix.Usual(), Doses: line.UsualDoses()}
	if err == nil {
		found.Recipes, err = s.Store.Recipes(l.ID)
	}
	if err == nil {
		found.Coldest, err = s.coldest(l.ID)
	}
	if err != nil {
		fail(c, err)
		return
	}
	found.Lures, found.StandC = r.Shelf(found.Coldest.c()), shed.ColdToStand(found.Coldest.c())
	c.JSON(http.StatusOK, found)
}

// coldest finds the coldest hour still to come.
func (s *Server) coldest(lineID string) (*ColdestHour, error) {
	hours, err := s.Store.Hours(lineID, true)
	if err != nil {
		return nil, err
	}
	var found *ColdestHour
	for _, h := range hours {
		if h.At.After(s.Clock.Now()) && (found == nil || h.TempC < found.TempC) {
			found = &ColdestHour{h.At, h.TempC}
		}
	}
	return found, nil
}

func (s *Server) putLure(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutLure, func(x *line.Lure) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putBottle(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutBottle, func(x *line.Bottle) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putLevel(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutLevel, func(x *line.Level) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putDose(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutDose, func(x *line.Dose) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putRecipe(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutRecipe, func(x *line.Recipe) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

// kit computes what to take along on a day, by its local date.
func (s *Server) kit(c *gin.Context) {
	l := theLine(c)
	s.refresh(c.Request.Context(), l)
	found, err := s.kitOf(l, c.Param("day"))
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, found)
}

func (s *Server) kitOf(l line.Line, day string) (shed.Kit, error) {
	if _, err := time.Parse(time.DateOnly, day); err != nil {
		return shed.Kit{}, store.ErrUnknown
	}
	r, err := s.shedRecord(l)
	if err != nil {
		return shed.Kit{}, err
	}
	marks, err := s.Store.KitMarks(l.ID)
	if err != nil {
		return shed.Kit{}, err
	}
	coldest, err := s.coldest(l.ID)
	if err != nil {
		return shed.Kit{}, err
	}
	around := shed.Outside{GPS: s.GPS != nil, ColdestC: coldest.c()}
	drawn, err := s.outlookLine(l)
	if err != nil {
		return shed.Kit{}, err
	}
	weather, err := outlook.Of(drawn)
	if err != nil {
		return shed.Kit{}, err
	}
	for _, spot := range weather.Spots {
		around.FrostMm = math.Max(around.FrostMm, spot.DepthMm)
	}
	return r.KitFor(day, marks, around)
}

func (s *Server) putKitMark(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutKitMark, func(x *line.KitMark) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}
