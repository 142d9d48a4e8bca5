package workshoppages

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"go.yaml.in/yaml/v3"

	"fairtangle/web/api"
	"fairtangle/web/pages/frame"
)

// apiDocument is as much of the OpenAPI file as the readable page shows.
type apiDocument struct {
	Info struct {
		Title       string
		Version     string
		Description string
	}
	Paths yaml.Node
}

type apiBody struct {
	Title, Version string
	About          []string
	Groups         []apiGroup
}

type apiGroup struct {
	Name  string
	Calls []apiCall
}

type apiCall struct {
	Method, Path, Summary, Description, Request, Answer string
}

type apiOperation struct {
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
func (d apiDocument) calls() (out []apiGroup, err error) {
	at := map[string]int{}
	for i := 0; i+1 < len(d.Paths.Content); i += 2 {
		path, item := d.Paths.Content[i].Value, d.Paths.Content[i+1]
		for j := 0; j+1 < len(item.Content); j += 2 {
			method := item.Content[j].Value
			if method == "parameters" {
				continue
			}
			var op apiOperation
			if err := item.Content[j+1].Decode(&op); err != nil {
				return nil, fmt.Errorf("%s %s: %w", method, path, err)
			}
			call := apiCall{Method: strings.ToUpper(method), Path: path, Summary: op.Summary, Description: op.Description}
			call.Request = example(op.RequestBody.Content["application/json"].Example)
			for _, code := range []string{"200", "201"} {
				if e := example(op.Responses[code].Content["application/json"].Example); e != "" {
					call.Answer = e
				}
			}
			name := op.Tags[0]
			if _, ok := at[name]; !ok {
				at[name] = len(out)
				out = append(out, apiGroup{Name: name})
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

func (s *Room) apiPage(c *gin.Context) error {
	var d apiDocument
	if err := yaml.Unmarshal(api.Document, &d); err != nil {
		return fmt.Errorf("read openapi.yaml: %w", err)
	}
	groups, err := d.calls()
	if err != nil {
		return err
	}
	s.Frame.Render(c, http.StatusOK, "api", frame.Page{Title: "API", Here: "api"}, apiBody{
		Title: d.Info.Title, Version: d.Info.Version, About: strings.Split(strings.TrimSpace(d.Info.Description), "\n\n"), Groups: groups,
	})
	return nil
}
