package web

import (
	"bytes"
	"strings"

	"golang.org/x/net/html"
)

// form is a form of a page.
type form struct {
	action, method string
	fields         []field
}

type field struct {
	name, value string
	options     []string
	fixed       bool // hidden, or what only a press gives
	maybe       bool // a box to be ticked
}

// formsOf reads the forms of a page.
func formsOf(page *bytes.Buffer, at string) (out []form) {
	doc, err := html.Parse(page)
	if err != nil {
		return nil
	}
	attr := func(n *html.Node, key string) (string, bool) {
		for _, a := range n.Attr {
			if a.Key == key {
				return a.Val, true
			}
		}
		return "", false
	}
	var text func(n *html.Node) string
	text = func(n *html.Node) (s string) {
		if n.Type == html.TextNode {
			return n.Data
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			s += text(c)
		}
		return s
	}
	var walk func(n *html.Node, f *form)
	walk = func(n *html.Node, f *form) {
		if n.Type == html.ElementNode {
			name, _ := attr(n, "name")
			value, _ := attr(n, "value")
			switch {
			case n.Data == "template":
				return
			case n.Data == "form":
				action, ok := attr(n, "action")
				method, _ := attr(n, "method")
				if kind, _ := attr(n, "enctype"); kind == "multipart/form-data" && !strings.Contains(action, "import") {
					return // it brings a file
				}
				if !ok || action == "" {
					action = at
				}
				out = append(out, form{action: action, method: strings.ToUpper(method)})
				f = &out[len(out)-1]
				i := len(out) - 1
				for c := n.FirstChild; c != nil; c = c.NextSibling {
					walk(c, f)
					f = &out[i]
				}
				return
			case f == nil || name == "":
			case n.Data == "input":
				kind, _ := attr(n, "type")
				switch kind {
				case "hidden":
					f.fields = append(f.fields, field{name: name, value: value, fixed: true})
				case "checkbox", "radio":
					f.fields = append(f.fields, field{name: name, value: value, maybe: true})
				case "file":
				default:
					f.fields = append(f.fields, field{name: name, value: value})
				}
			case n.Data == "textarea":
				f.fields = append(f.fields, field{name: name, value: text(n)})
			case n.Data == "button":
				f.fields = append(f.fields, field{name: name, value: value, maybe: true})
			case n.Data == "select":
				v := field{name: name}
				var options func(n *html.Node)
				options = func(n *html.Node) {
					if n.Type == html.ElementNode && n.Data == "option" {
						o, ok := attr(n, "value")
						if !ok {
							o = text(n)
						}
						if _, chosen := attr(n, "selected"); chosen || len(v.options) == 0 {
							v.value = o
						}
						v.options = append(v.options, o)
					}
					for c := n.FirstChild; c != nil; c = c.NextSibling {
						options(c)
					}
				}
				options(n)
				f.fields = append(f.fields, v)
			}
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c, f)
		}
	}
	walk(doc, nil)
	return out
}
