// Package answer reads requests and answers them: JSON decoded strictly, errors
// as problems, and the kinds of handler that the API is made of.
package answer

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
)

// BodyLimit bounds the body of a request that brings no file, in bytes.
const BodyLimit = 1 << 20

// InMemory is how much of a file that is brought in is held in memory; the rest
// waits on disk.
const InMemory = 1 << 20

// BadShape is a request that is no JSON of the wanted shape.
type BadShape struct{ Field, Message string }

func (b BadShape) Error() string { return b.Message }

// Decode reads a JSON body strictly: no unknown fields, nothing after it.
func Decode(c *gin.Context, into any) error {
	data, err := body(c)
	if err != nil {
		return err
	}
	return strictly(data, into)
}

// DecodeAs reads a JSON body that has a version beside the fields of into.
func DecodeAs(c *gin.Context, version *int64, into any) error {
	data, err := body(c)
	if err != nil {
		return err
	}
	d := json.NewDecoder(bytes.NewReader(data))
	var fields map[string]json.RawMessage
	if err := d.Decode(&fields); err != nil || fields["version"] == nil {
		return strictly(data, into)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return trailing
	}
	if err := json.Unmarshal(fields["version"], version); err != nil {
		return BadShape{"version", "version is a whole number."}
	}
	delete(fields, "version")
	if data, err = json.Marshal(fields); err != nil {
		return err
	}
	return strictly(data, into)
}

var trailing = BadShape{"", "There is something after the end of the JSON."}

func body(c *gin.Context) ([]byte, error) {
	if kind, _, _ := mime.ParseMediaType(c.ContentType()); kind != "application/json" {
		return nil, BadShape{"", "The body must be application/json."}
	}
	data, err := io.ReadAll(c.Request.Body)
	if err != nil && !TooLarge(err) {
		err = BadShape{"", "The body could not be read to its end."}
	}
	return data, err
}

func strictly(data []byte, into any) error {
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return shapeOf(err, data)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return trailing
	}
	return nil
}

func shapeOf(err error, data []byte) error {
	var t *json.UnmarshalTypeError
	if errors.As(err, &t) {
		field := pathAt(data, t.Offset)
		return BadShape{field, fmt.Sprintf("%s can not be %s.", orBody(field), article(t.Value))}
	}
	if name, ok := strings.CutPrefix(err.Error(), "json: unknown field "); ok {
		name = strings.Trim(name, `"`)
		return BadShape{name, fmt.Sprintf("There is no field %q here.", name)}
	}
	return BadShape{"", "This is not valid JSON."}
}

// pathAt names the value that ends at an offset of a JSON text, such as
// "components[2].parts"; the standard error leaves the indexes out.
func pathAt(data []byte, offset int64) string {
	type level struct {
		array bool
		index int
		key   string
		value bool // the next token is a value, not a key
	}
	var stack []level
	path := func() string {
		var out strings.Builder
		for _, l := range stack {
			switch {
			case l.array:
				fmt.Fprintf(&out, "[%d]", l.index)
			case out.Len() > 0:
				out.WriteString("." + l.key)
			default:
				out.WriteString(l.key)
			}
		}
		return out.String()
	}
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber() // a number too large is still a token
	for {
		token, err := d.Token()
		if err != nil {
			return ""
		}
		top := len(stack) - 1
		delim, isDelim := token.(json.Delim)
		closing := isDelim && (delim == '}' || delim == ']')
		if key, ok := token.(string); ok && top >= 0 && !stack[top].array && !stack[top].value {
			stack[top].key, stack[top].value = key, true
			continue
		}
		if closing {
			stack = stack[:top]
			top--
		}
		if d.InputOffset() >= offset {
			return path()
		}
		if isDelim && !closing {
			stack = append(stack, level{array: delim == '['})
			continue
		}
		if top >= 0 {
			stack[top].index++
			stack[top].value = false
		}
	}
}

func orBody(field string) string {
	if field == "" {
		return "The body"
	}
	return field
}

func article(value string) string {
	switch {
	case strings.HasPrefix(value, "number "):
		return "the number " + strings.TrimPrefix(value, "number ")
	case value == "string", value == "number", value == "bool":
		return "a " + value
	default:
		return "an " + value
	}
}

// ID reads a number from the path; anything else is not found.
func ID(c *gin.Context, name string) (int64, error) {
	n, err := strconv.ParseInt(c.Param(name), 10, 64)
	if err != nil || n < 1 {
		return 0, floor.ErrNotFound
	}
	return n, nil
}
