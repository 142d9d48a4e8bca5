package pages

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/web/answer"
)

//go:embed static
var staticFiles embed.FS

// assets are the embedded files under one name that changes with their
// contents, so that browsers may keep them for ever.
type assets struct {
	files   fs.FS
	version string
}

// loadAssets reads the embedded files.
func loadAssets() (assets, error) {
	sub, err := fs.Sub(staticFiles, "static")
	if err != nil {
		return assets{}, err
	}
	sum := sha256.New()
	err = fs.WalkDir(sub, ".", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := fs.ReadFile(sub, name)
		sum.Write([]byte(name))
		sum.Write(data)
		return err
	})
	return assets{sub, hex.EncodeToString(sum.Sum(nil))[:12]}, err
}

// url names an asset as pages link it.
func (a assets) url(name string) string { return "/static/" + a.version + "/" + name }

// serve answers with a file.
func (a assets) serve(c *gin.Context) {
	name := strings.TrimPrefix(path.Clean(c.Param("path")), "/")
	data, err := fs.ReadFile(a.files, name)
	if err != nil || c.Param("version") != a.version {
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
