// Command dist builds the program to be given away: for each system a zip with the program, how to begin, the licences of all that is
// inside, and the list of its parts (SBOM, as CycloneDX); beside them the sums of all.
//
//	go run ./scripts/dist -version 1.0 -into dist [-only linux/amd64]
package main

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"
)

// systems are those for which it is built.
var systems = []string{"linux/amd64", "linux/arm64", "darwin/amd64", "darwin/arm64", "windows/amd64", "windows/arm64"}

// largest is what no program that is given away has as many bytes as.
const largest = 30_000_000

// part is a module that is inside.
type part struct{ Path, Version, Dir string }

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run() error {
	version, into := flag.String("version", "0", "of the release"), flag.String("into", "dist", "directory")
	only := flag.String("only", "", "one system, such as linux/amd64")
	flag.Parse()
	if err := os.MkdirAll(*into, 0o755); err != nil {
		return err
	}
	parts, err := inside()
	if err != nil {
		return err
	}
	licences, err := licencesOf(parts)
	if err != nil {
		return err
	}
	bill, err := billOf(*version, parts)
	if err != nil {
		return err
	}
	beside := map[string][]byte{"LICENCES.txt": licences, "sbom.cdx.json": bill}
	for name, from := range map[string]string{"README.txt": "scripts/dist/begin.txt", "fairtangle.service": "scripts/dist/fairtangle.service"} {
		if beside[name], err = os.ReadFile(from); err != nil {
			return err
		}
	}
	var sums strings.Builder
	for _, system := range systems {
		if *only != "" && system != *only {
			continue
		}
		name, data, err := built(system, *version, beside)
		if err != nil {
			return fmt.Errorf("%s: %w", system, err)
		}
		if err := os.WriteFile(filepath.Join(*into, name), data, 0o644); err != nil {
			return err
		}
		fmt.Fprintf(&sums, "%x  %s\n", sha256.Sum256(data), name)
		fmt.Printf("%s  %d bytes\n", name, len(data))
	}
	return os.WriteFile(filepath.Join(*into, "SHA256SUMS"), []byte(sums.String()), 0o644)
}

// built is the zip for a system: the same bytes from the same sources.
func built(system, version string, beside map[string][]byte) (name string, data []byte, err error) {
	goos, arch, _ := strings.Cut(system, "/")
	program := "fairtangle"
	if goos == "windows" {
		program += ".exe"
	}
	if said, err := exec.Command("go", "run", "./scripts/pack").CombinedOutput(); err != nil {
		return "", nil, fmt.Errorf("%w: %s", err, said)
	}
	dir, err := os.MkdirTemp("", "dist")
	if err != nil {
		return "", nil, err
	}
	defer os.RemoveAll(dir)
	at := filepath.Join(dir, program)
	cmd := exec.Command("go", "build", "-buildvcs=false", "-tags=packed,nomsgpack,nethttpomithttp2", "-gcflags=fairtangle/web/...=-l",
		"-gcflags=fairtangle/studio/...=-l", "-gcflags=fairtangle/store/...=-l", "-gcflags=gorm.io/...=-l", "-gcflags=github.com/...=-l",
		"-gcflags=net/...=-l", "-gcflags=html/...=-l", "-gcflags=text/...=-l",
		"-gcflags=golang.org/x/net/...=-l", "-gcflags=golang.org/x/text/...=-l", "-gcflags=encoding/...=-l",
		"-gcflags=mime/...=-l", "-gcflags=crypto/tls=-l", "-gcflags=crypto/x509/...=-l", "-ldflags=-s -w -X main.version="+version, "-o", at,
		"./cmd/fairtangle")
	cmd.Env = append(os.Environ(), "CGO_ENABLED=0", "GOOS="+goos, "GOARCH="+arch)
	if said, err := cmd.CombinedOutput(); err != nil {
		return "", nil, fmt.Errorf("%w: %s", err, said)
	}
	files := map[string][]byte{}
	if files[program], err = os.ReadFile(at); err != nil {
		return "", nil, err
	}
	if len(files[program]) >= largest {
		return "", nil, fmt.Errorf("the program has %d bytes; it is to have less than %d", len(files[program]), largest)
	}
	for k, v := range beside {
		files[k] = v
	}
	folder := fmt.Sprintf("fair-tangle-%s-%s-%s", version, goos, arch)
	data, err = zipped(folder, files, program)
	return folder + ".zip", data, err
}

// zipped packs files in the order of their names, all of one moment.
func zipped(folder string, files map[string][]byte, program string) ([]byte, error) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	names := make([]string, 0, len(files))
	for n := range files {
		names = append(names, n)
	}
	slices.Sort(names)
	for _, n := range names {
		h := &zip.FileHeader{Name: folder + "/" + n, Method: zip.Deflate, Modified: time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)}
		h.SetMode(0o644)
		if n == program {
			h.SetMode(0o755)
		}
		w, err := z.CreateHeader(h)
		if err != nil {
			return nil, err
		}
		if _, err := w.Write(files[n]); err != nil {
			return nil, err
		}
	}
	err := z.Close()
	return b.Bytes(), err
}

// inside lists the modules that are inside the program on any system.
func inside() (out []part, err error) {
	seen := map[string]bool{}
	for _, system := range systems {
		goos, arch, _ := strings.Cut(system, "/")
		cmd := exec.Command("go", "list", "-deps", "-f",
			"{{with .Module}}{{if not (or .Main .Replace)}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}{{end}}", "./cmd/fairtangle")
		cmd.Env = append(os.Environ(), "CGO_ENABLED=0", "GOOS="+goos, "GOARCH="+arch)
		text, err := cmd.Output()
		if err != nil {
			return nil, err
		}
		for line := range strings.Lines(string(text)) {
			f := strings.Split(strings.TrimSpace(line), "\t")
			if len(f) == 3 && !seen[f[0]] && f[1] != "" {
				seen[f[0]] = true
				out = append(out, part{f[0], f[1], f[2]})
			}
		}
	}
	slices.SortFunc(out, func(a, b part) int { return strings.Compare(a.Path, b.Path) })
	return out, nil
}

var licenceName = regexp.MustCompile(`(?i)^(licen[cs]e|copying|notice|patents)`)

// licencesOf are the licences of all parts: of Go itself, of each module, and of what lies in vendor beside the pages.
func licencesOf(parts []part) ([]byte, error) {
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	b.WriteString("What is inside Fair Tangle, and under which licences.\n")
	for _, p := range append([]part{{"go, its library and runtime", "", strings.TrimSpace(string(root))}}, parts...) {
		list, err := os.ReadDir(p.Dir)
		if err != nil {
			return nil, err
		}
		found := false
		for _, f := range list {
			if !f.IsDir() && licenceName.MatchString(f.Name()) {
				if err := append1(&b, p.Path+" "+p.Version, filepath.Join(p.Dir, f.Name())); err != nil {
					return nil, err
				}
				found = true
			}
		}
		if !found {
			return nil, fmt.Errorf("%s has no licence", p.Path)
		}
	}
	err = filepath.WalkDir("web/pages/frame/static/vendor", func(path string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && strings.Contains(strings.ToLower(d.Name()), "licen") {
			return append1(&b, "of what the pages use: "+d.Name(), path)
		}
		return err
	})
	return b.Bytes(), err
}

// append1 writes a licence below its name.
func append1(b *bytes.Buffer, name, path string) error {
	text, err := os.ReadFile(path)
	if err != nil {
		return err
	}
	fmt.Fprintf(b, "\n==== %s ====\n\n%s\n", strings.TrimSpace(name), bytes.TrimSpace(text))
	return nil
}

// billOf lists the parts as CycloneDX does.
func billOf(version string, parts []part) ([]byte, error) {
	if version == "" {
		return nil, errors.New("a release has a version")
	}
	type component struct {
		Type    string `json:"type"`
		Name    string `json:"name"`
		Version string `json:"version"`
		PURL    string `json:"purl,omitempty"`
	}
	list := make([]component, len(parts))
	for i, p := range parts {
		list[i] = component{"library", p.Path, p.Version, "pkg:golang/" + p.Path + "@" + p.Version}
	}
	return json.MarshalIndent(map[string]any{
		"bomFormat": "CycloneDX", "specVersion": "1.6", "version": 1,
		"metadata":   map[string]any{"component": component{"application", "fair-tangle", version, ""}},
		"components": list,
	}, "", "  ")
}
