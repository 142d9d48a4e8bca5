//go:build !packed

package pages

import (
	"embed"
	"io/fs"
)

//go:embed */static */templates
var files embed.FS

// shipped are the templates, styles and scripts, as they lie beside the rooms whose they are.
func shipped() (fs.FS, error) { return files, nil }
