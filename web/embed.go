// Package web holds the built web application, embedded in the program.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// App is the built application; it has no index.html where it was not built.
func App() fs.FS {
	app, err := fs.Sub(dist, "dist/app")
	if err != nil {
		panic(err) // the name is a constant and legal
	}
	return app
}
