package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/exchange"
	"oldburrow/store"
)

func (s *Server) putPhoto(c *gin.Context) {
	raw, ok := body(c, largestUpload, "photo")
	if !ok {
		return
	}
	x := line.Photo{ID: c.Param("id"), LineID: theLine(c).ID}
	if !line.IsID(x.ID) {
		fail(c, refuse.Field("id", "%q is not an id: 26 letters and figures are wanted", x.ID))
		return
	}
	zone, err := round.Zone(theLine(c).Zone)
	if err != nil {
		fail(c, err)
		return
	}
	photo, err := exchange.ReadPhoto(raw, zone)
	if err != nil {
		fail(c, err)
		return
	}
	x.Width, x.Height, x.LatDeg, x.LonDeg, x.TakenAt = photo.Width, photo.Height, photo.LatDeg, photo.LonDeg, photo.TakenAt
	s.write(c, func(t *store.Tx) (any, error) { return t.PutPhoto(x, photo.JPEG) })
}

func (s *Server) photo(c *gin.Context) {
	var jpeg []byte
	err := s.Store.Read(c.Request.Context(), func(v store.View) (err error) {
		jpeg, err = v.Photo(c.Param("line"), c.Param("id"))
		return err
	})
	if err != nil {
		fail(c, err)
		return
	}
	c.Header("Cache-Control", "private, max-age=31536000, immutable")
	c.Data(http.StatusOK, "image/jpeg", jpeg)
}
