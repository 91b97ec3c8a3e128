// Package web holds the built interface. Before it is built, Dist has no index.html.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var files embed.FS

// Dist is the built interface's folder.
func Dist() fs.FS {
	dist, err := fs.Sub(files, "dist")
	if err != nil {
		panic(err) // the embedded folder is always there
	}
	return dist
}
