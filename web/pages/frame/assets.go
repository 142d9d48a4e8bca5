package frame

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"fmt"
	"io/fs"
	"maps"
	"mime"
	"net/http"
	"path"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/web/answer"
)

//go:embed static templates
var ownFiles embed.FS

// assets are the embedded files of all rooms under one name that changes with their contents, so
// that browsers may keep them for ever.
type assets struct {
	files   map[string][]byte
	version string
}

// loadAssets reads what the rooms have under static; two have nothing of one name.
func loadAssets(from []fs.FS) (assets, error) {
	a := assets{files: map[string][]byte{}}
	for _, room := range from {
		err := fs.WalkDir(room, "static", func(name string, d fs.DirEntry, err error) error {
			if name == "static" && err != nil {
				return nil // a room without
			}
			if err != nil || d.IsDir() {
				return err
			}
			short := strings.TrimPrefix(name, "static/")
			if a.files[short] != nil {
				return fmt.Errorf("two rooms have a %s", short)
			}
			a.files[short], err = fs.ReadFile(room, name)
			return err
		})
		if err != nil {
			return a, err
		}
	}
	sum := sha256.New()
	for _, name := range slices.Sorted(maps.Keys(a.files)) {
		sum.Write([]byte(name))
		sum.Write(a.files[name])
	}
	a.version = hex.EncodeToString(sum.Sum(nil))[:12]
	return a, nil
}

// url names an asset as pages link it.
func (a assets) url(name string) string { return "/static/" + a.version + "/" + name }

// serve answers with a file.
func (a assets) serve(c *gin.Context) {
	name := strings.TrimPrefix(path.Clean(c.Param("path")), "/")
	data, ok := a.files[name]
	if !ok || c.Param("version") != a.version {
		c.Status(http.StatusNotFound)
		return
	}
	kind := mime.TypeByExtension(path.Ext(name))
	if path.Ext(name) == ".woff2" {
		kind = "font/woff2"
	}
	answer.ForEver(c)
	c.Data(http.StatusOK, kind, data)
}
