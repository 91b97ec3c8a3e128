package server

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"

	"github.com/gin-gonic/gin"

	"oldburrow/core/asked"
)

// streamed are the addresses whose answers come line by line as they are found; what gathers them to compress them would keep them back.
func streamed() []string {
	paths := []string{"/api/archive"}
	for _, r := range asked.Routes() {
		if r.Lines {
			paths = append(paths, "/api"+r.Path)
		}
	}
	return paths
}

// lines answers line by line, each a JSON value, as they are told. What goes wrong before the first line is answered as anywhere else; after
// that the answer only ends.
func lines(c *gin.Context, do func(ctx context.Context, tell func(any)) error) {
	ctx, leave := context.WithCancel(c.Request.Context())
	defer leave()
	began := false
	tell := func(line any) {
		if !began {
			began = true
			c.Header("Content-Type", "application/x-ndjson")
			c.Status(http.StatusOK)
		}
		if err := json.NewEncoder(c.Writer).Encode(line); err != nil {
			leave() // nobody takes it in
			return
		}
		c.Writer.Flush()
	}
	switch err := do(ctx, tell); {
	case err == nil:
	case ctx.Err() != nil:
		c.Abort()
	case !began:
		fail(c, err)
	default:
		slog.Error("answer broke off", "path", c.Request.URL.Path, "error", err)
	}
}
