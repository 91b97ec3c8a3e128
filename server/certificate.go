package server

import (
	_ "embed"
	"html/template"
	"net/http"

	"github.com/gin-gonic/gin"

	"oldburrow/store"
)

// The page that tells a phone whom to trust comes over a connection that is not trusted yet: it stands alone, and its style is a file of its own.

//go:embed certificate.html
var certificatePage string

//go:embed certificate.css
var certificateStyle []byte

var certificateTemplate = template.Must(template.New("certificate").Parse(certificatePage))

// certificate shows how a phone is told to trust the program.
func (s *Server) certificate(c *gin.Context) {
	if s.Door == nil || s.Door.Authority == nil {
		fail(c, store.ErrUnknown)
		return
	}
	c.Header("Content-Type", "text/html; charset=utf-8")
	if err := certificateTemplate.Execute(c.Writer, s.Door.Authority.Fingerprint()); err != nil {
		_ = c.Error(err)
	}
}

func certificateCSS(c *gin.Context) {
	c.Data(http.StatusOK, "text/css; charset=utf-8", certificateStyle)
}
