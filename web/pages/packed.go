//go:build packed

package pages

import (
	"archive/zip"
	"bytes"
	_ "embed"
	"io/fs"
)

//go:embed packed.zip
var packed []byte

// shipped are the templates, styles and scripts, as scripts/pack has packed them.
func shipped() (fs.FS, error) { return zip.NewReader(bytes.NewReader(packed), int64(len(packed))) }
