package frame

import (
	"crypto/sha256"
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

// assets are the embedded files of all rooms under one name that changes with their contents, so
// that browsers may keep them for ever.
type assets struct {
	files   map[string][]byte
	version string
}

// loadAssets reads what the rooms have under static; two have nothing of one name.
func loadAssets(from fs.FS) (assets, error) {
	a := assets{files: map[string][]byte{}}
	err := fs.WalkDir(from, ".", func(name string, d fs.DirEntry, err error) error {
		_, short, static := strings.Cut(name, "/static/")
		if err != nil || d.IsDir() || !static {
			return err
		}
		if a.files[short] != nil {
			return fmt.Errorf("two rooms have a %s", short)
		}
		a.files[short], err = fs.ReadFile(from, name)
		return err
	})
	if err != nil {
		return a, err
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
