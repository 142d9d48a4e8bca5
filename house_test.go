package fairtangle

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What one can know by heart.
const (
	mostLines    = 5000 // of a package, tests aside
	mostOfFile   = 400
	mostOfFunc   = 60
	mostExported = 40 // methods of one type of a room
	widest       = 160
)

// longer are the functions that are longer: tables, drawings and walks of one piece.
var longer = map[string]bool{
	"core/appearance.light": true, "core/colour.advance": true,
	"scripts/attack.heavyPictures": true, "scripts/attack.mixedLoad": true,
	"studio/buying.buyList": true, "studio/carder.fleeceEntry": true, "studio/scale.plan": true,
	"web/pages/buyingpages.showBuyList": true, "web/pages/carderpages.entrySaid": true,
}

// TestTheHouseIsSmallEnough reads all that is written by hand.
func TestTheHouseIsSmallEnough(t *testing.T) {
	lines, exported, long := map[string]int{}, map[string]int{}, map[string]bool{}
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() {
			if d.Name() == "node_modules" || d.Name() == "vendor" || d.Name() == "unused" || strings.HasPrefix(d.Name(), ".") && path != "." {
				return filepath.SkipDir
			}
			return nil
		}
		ext := filepath.Ext(path)
		if ext != ".go" && ext != ".html" {
			return nil
		}
		text, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		for i, line := range strings.Split(string(text), "\n") {
			if len([]rune(line)) > widest && !strings.HasSuffix(path, "_test.go") {
				assert.Fail(t, "too wide", "%s:%d has %d columns", path, i+1, len([]rune(line)))
			}
		}
		if ext != ".go" || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		n := strings.Count(string(text), "\n")
		lines[filepath.Dir(path)] += n
		assert.LessOrEqual(t, n, mostOfFile, path)
		files := token.NewFileSet()
		f, err := parser.ParseFile(files, path, text, 0)
		if err != nil {
			return err
		}
		for _, decl := range f.Decls {
			fn, ok := decl.(*ast.FuncDecl)
			if !ok {
				continue
			}
			name := filepath.Dir(path) + "." + fn.Name.Name
			if files.Position(fn.End()).Line-files.Position(fn.Pos()).Line >= mostOfFunc {
				long[name] = true
			}
			if fn.Recv != nil && fn.Name.IsExported() && strings.HasPrefix(path, "studio/") {
				exported[fmt.Sprint(filepath.Dir(path), receiverOf(fn))]++
			}
		}
		return nil
	})
	require.NoError(t, err)
	for room, n := range lines {
		assert.LessOrEqual(t, n, mostLines, room)
	}
	for room, n := range exported {
		assert.LessOrEqual(t, n, mostExported, room)
	}
	assert.Equal(t, longer, long, "functions of more than %d lines", mostOfFunc)
}

// receiverOf is the name of the type that a method is of.
func receiverOf(fn *ast.FuncDecl) string {
	typ := fn.Recv.List[0].Type
	if star, ok := typ.(*ast.StarExpr); ok {
		typ = star.X
	}
	if name, ok := typ.(*ast.Ident); ok {
		return name.Name
	}
	return ""
}
