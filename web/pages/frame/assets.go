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
	"regexp"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/web/answer"
)

// assets are the embedded files of all rooms under one name that changes with their contents, so
// that browsers may keep them for ever.
type assets struct {
	files   map[string][]byte
	imports map[string][]string // of each script: the scripts that it imports
	version string
}

// sheet is the one style sheet that pages link, made of these in this order: eight requests before anything is drawn are a second over a
// slow network.
const sheet = "css/all.css"

var sheets = []string{
	"vendor/bootstrap.min.css", "css/base.css", "css/parts.css", "css/views.css", "css/bed.css", "css/card.css", "css/run.css", "css/yarn.css", "css/practise.css",
}

// importOf is a script's line that imports another one.
var importOf = regexp.MustCompile(`(?m)^(?:import|export)\b[^;']*'(\.{1,2}/[^']+)';`)

// loadAssets reads what the rooms have under static; two have nothing of one name.
func loadAssets(from fs.FS) (assets, error) {
	a := assets{files: map[string][]byte{}, imports: map[string][]string{}}
	err := fs.WalkDir(from, ".", func(name string, d fs.DirEntry, err error) error {
		_, short, static := strings.Cut(name, "/static/")
		if err != nil || d.IsDir() || !static {
			return err
		}
		if a.files[short] != nil {
			return fmt.Errorf("two rooms have a %s", short)
		}
		if a.files[short], err = fs.ReadFile(from, name); path.Ext(short) == ".js" {
			for _, m := range importOf.FindAllSubmatch(a.files[short], -1) {
				a.imports[short] = append(a.imports[short], path.Join(path.Dir(short), string(m[1])))
			}
		}
		return err
	})
	if err != nil {
		return a, err
	}
	for _, name := range sheets {
		if a.files[name] == nil {
			return a, fmt.Errorf("there is no style sheet %s", name)
		}
		a.files[sheet] = append(append(a.files[sheet], a.files[name]...), '\n')
		delete(a.files, name)
	}
	sum := sha256.New()
	for _, name := range slices.Sorted(maps.Keys(a.files)) {
		sum.Write([]byte(name))
		sum.Write(a.files[name])
	}
	a.version = hex.EncodeToString(sum.Sum(nil))[:12]
	return a, nil
}

// beneath are all scripts that the given ones import, and those import in turn, in the order in which they are met. A page names them, so
// that a browser asks for them at once: from one to the next it would wait for an answer three times.
func (a assets) beneath(scripts []string) (out []string) {
	for todo := scripts; len(todo) > 0; {
		var next []string
		for _, name := range todo {
			for _, n := range a.imports[name] {
				if !slices.Contains(out, n) && !slices.Contains(scripts, n) {
					out, next = append(out, n), append(next, n)
				}
			}
		}
		todo = next
	}
	return out
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
