// Command mutate changes one operator or constant of core at a time, in places
// chosen by a seed, and reports which changes no test notices.
//
//	go run ./scripts/mutate -n 300 -seed 1
package main

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"go/ast"
	"go/format"
	"go/parser"
	"go/token"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"time"
)

// site is a place that can be changed, and how.
type site struct {
	file string
	at   token.Position
	was  string
	now  string
	node int // of the file, in the order of ast.Inspect
}

// others are what an operator is changed into.
var others = map[token.Token]token.Token{
	token.ADD: token.SUB, token.SUB: token.ADD, token.MUL: token.QUO, token.QUO: token.MUL, token.LSS: token.LEQ, token.LEQ: token.LSS,
	token.GTR: token.GEQ, token.GEQ: token.GTR, token.EQL: token.NEQ, token.NEQ: token.EQL, token.LAND: token.LOR, token.LOR: token.LAND,
	token.ADD_ASSIGN: token.SUB_ASSIGN, token.SUB_ASSIGN: token.ADD_ASSIGN, token.INC: token.DEC, token.DEC: token.INC,
}

// change changes a node and names what it was and is, or reports that it has
// nothing to change.
func change(n ast.Node) (was, now string, ok bool) {
	switch v := n.(type) {
	case *ast.BinaryExpr:
		if to, known := others[v.Op]; known && !text(v.X) && !text(v.Y) {
			was, now, v.Op = v.Op.String(), to.String(), to
			return was, now, true
		}
	case *ast.AssignStmt:
		if to, known := others[v.Tok]; known && !text(v.Rhs[0]) {
			was, now, v.Tok = v.Tok.String(), to.String(), to
			return was, now, true
		}
	case *ast.IncDecStmt:
		was, now, v.Tok = v.Tok.String(), others[v.Tok].String(), others[v.Tok]
		return was, now, true
	case *ast.BasicLit:
		x, err := strconv.ParseFloat(v.Value, 64)
		if err != nil || v.Kind != token.INT && v.Kind != token.FLOAT {
			return "", "", false
		}
		was = v.Value
		if v.Kind == token.INT {
			v.Value = strconv.Itoa(int(x) + 1)
		} else {
			v.Value = strconv.FormatFloat(x*1.1+1e-3, 'g', -1, 64)
		}
		return was, v.Value, true
	}
	return "", "", false
}

// text reports whether an expression is a piece of text, which has no minus.
func text(e ast.Expr) bool {
	l, ok := e.(*ast.BasicLit)
	return ok && l.Kind == token.STRING
}

// sites lists what can be changed in a file. Tables and imports are left alone.
func sites(file string) (out []site, err error) {
	files := token.NewFileSet()
	f, err := parser.ParseFile(files, file, nil, parser.ParseComments)
	if err != nil {
		return nil, err
	}
	n := 0
	ast.Inspect(f, func(node ast.Node) bool {
		n++
		if was, now, ok := change(node); ok {
			out = append(out, site{file, files.Position(node.Pos()), was, now, n})
		}
		_, table := node.(*ast.CompositeLit)
		return !table
	})
	return out, nil
}

// mutated writes the file with one place changed.
func (s site) mutated(into string) error {
	files := token.NewFileSet()
	f, err := parser.ParseFile(files, s.file, nil, parser.ParseComments)
	if err != nil {
		return err
	}
	n := 0
	ast.Inspect(f, func(node ast.Node) bool {
		if n++; n == s.node {
			change(node)
		}
		_, table := node.(*ast.CompositeLit)
		return !table
	})
	out, err := os.Create(into)
	if err != nil {
		return err
	}
	defer out.Close()
	return format.Node(out, files, f)
}

// testedBeside are the packages whose tests try another one as well: what a lay-up shows is tried on lay-ups.
var testedBeside = map[string]string{"core/advice": "core/layup"}

// noticed reports whether the tests of the package fail with the place changed;
// what does not compile, or never ends, is noticed too.
func (s site) noticed(dir string) (bool, error) {
	changed, overlay := filepath.Join(dir, "changed.go"), filepath.Join(dir, "overlay.json")
	if err := s.mutated(changed); err != nil {
		return false, err
	}
	full, err := filepath.Abs(s.file)
	if err != nil {
		return false, err
	}
	data, err := json.Marshal(map[string]map[string]string{"Replace": {full: changed}})
	if err != nil {
		return false, err
	}
	if err := os.WriteFile(overlay, data, 0o600); err != nil {
		return false, err
	}
	ctx, cancel := context.WithTimeout(context.Background(), 4*time.Minute)
	defer cancel()
	args := []string{"test", "-failfast", "-vet=off", "-timeout", "3m", "-overlay", overlay, "./" + filepath.Dir(s.file)}
	if beside := testedBeside[filepath.Dir(s.file)]; beside != "" {
		args = append(args, "./"+beside)
	}
	return exec.CommandContext(ctx, "go", args...).Run() != nil, nil
}

func run() error {
	n, seed := flag.Int("n", 300, "how many places to change"), flag.Uint64("seed", 1, "which")
	flag.Parse()
	files, err := filepath.Glob("core/*/*.go")
	if err != nil {
		return err
	}
	var all []site
	for _, f := range files {
		if strings.HasSuffix(f, "_test.go") {
			continue
		}
		found, err := sites(f)
		if err != nil {
			return err
		}
		all = append(all, found...)
	}
	rand.New(rand.NewPCG(*seed, 0)).Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	all = all[:min(*n, len(all))]
	dir, err := os.MkdirTemp("", "mutate")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	alive := 0
	for i, s := range all {
		seen, err := s.noticed(dir)
		if err != nil {
			return err
		}
		if !seen {
			alive++
			fmt.Printf("alive %s: %s became %s\n", s.at, s.was, s.now)
		}
		if (i+1)%25 == 0 {
			fmt.Printf("%d of %d tried, %d alive\n", i+1, len(all), alive)
		}
	}
	fmt.Printf("%d of %d changes were noticed by no test\n", alive, len(all))
	return nil
}

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}
