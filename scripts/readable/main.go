// Command readable writes what the page of the API shows of openapi.yaml, packed, so that the program need not read YAML.
package main

import (
	"compress/gzip"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"strings"

	"go.yaml.in/yaml/v3"

	"fairtangle/web/api"
)

func main() {
	if err := run(os.Args[1], os.Args[2]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(from, into string) error {
	text, err := os.ReadFile(from)
	if err != nil {
		return err
	}
	page, err := read(text)
	if err != nil {
		return err
	}
	f, err := os.Create(into)
	if err != nil {
		return err
	}
	z, err := gzip.NewWriterLevel(f, gzip.BestCompression)
	if err != nil {
		return err
	}
	return errors.Join(json.NewEncoder(z).Encode(page), z.Close(), f.Close())
}

// read takes what is shown out of the document.
func read(text []byte) (api.Page, error) {
	var d document
	if err := yaml.Unmarshal(text, &d); err != nil {
		return api.Page{}, fmt.Errorf("read openapi.yaml: %w", err)
	}
	groups, err := d.calls()
	return api.Page{Title: d.Info.Title, Version: d.Info.Version, About: strings.Split(strings.TrimSpace(d.Info.Description), "\n\n"), Groups: groups}, err
}

// document is as much of the OpenAPI file as the readable page shows.
type document struct {
	Info struct {
		Title       string
		Version     string
		Description string
	}
	Paths yaml.Node
}

type operation struct {
	Summary     string
	Description string
	Tags        []string
	RequestBody struct {
		Content map[string]struct {
			Example yaml.Node
		}
	} `yaml:"requestBody"`
	Responses map[string]struct {
		Content map[string]struct {
			Example yaml.Node
		}
	}
}

// calls lists the operations of the document in its order.
func (d document) calls() (out []api.Group, err error) {
	at := map[string]int{}
	for i := 0; i+1 < len(d.Paths.Content); i += 2 {
		path, item := d.Paths.Content[i].Value, d.Paths.Content[i+1]
		for j := 0; j+1 < len(item.Content); j += 2 {
			method := item.Content[j].Value
			if method == "parameters" {
				continue
			}
			var op operation
			if err := item.Content[j+1].Decode(&op); err != nil {
				return nil, fmt.Errorf("%s %s: %w", method, path, err)
			}
			call := api.Call{Method: strings.ToUpper(method), Path: path, Summary: op.Summary, Description: op.Description}
			call.Request = example(op.RequestBody.Content["application/json"].Example)
			for _, code := range []string{"200", "201"} {
				if e := example(op.Responses[code].Content["application/json"].Example); e != "" {
					call.Answer = e
				}
			}
			name := op.Tags[0]
			if _, ok := at[name]; !ok {
				at[name] = len(out)
				out = append(out, api.Group{Name: name})
			}
			g := &out[at[name]]
			g.Calls = append(g.Calls, call)
		}
	}
	return out, nil
}

func example(n yaml.Node) string {
	if n.Kind == 0 {
		return ""
	}
	if n.Kind == yaml.ScalarNode {
		return strings.TrimSpace(n.Value)
	}
	out, err := yaml.Marshal(&n)
	if err != nil {
		return ""
	}
	return strings.TrimSpace(string(out))
}
