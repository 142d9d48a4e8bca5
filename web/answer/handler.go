package answer

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
)

// Handler is a handler that may fail.
type Handler func(c *gin.Context) error

// On registers handlers whose errors fail answers.
func On(register func(string, ...gin.HandlerFunc) gin.IRoutes, fail func(*gin.Context, error)) func(string, Handler) {
	return func(path string, h Handler) {
		register(path, func(c *gin.Context) {
			if err := h(c); err != nil {
				fail(c, err)
			}
		})
	}
}

// JSON sends a value, or passes the error on. A value that can not be sent is an error as well, told before anything is sent.
func JSON[A any](c *gin.Context, status int) func(A, error) error {
	return func(a A, err error) error {
		if err != nil {
			return err
		}
		body, err := json.Marshal(a)
		if err != nil {
			return fmt.Errorf("send %T: %w", a, err)
		}
		c.Data(status, "application/json; charset=utf-8", body)
		return nil
	}
}

// WithBody reads the id of the path and the body.
func WithBody[Q any](c *gin.Context, q *Q) (int64, error) {
	n, err := ID(c, "id")
	if err != nil {
		return 0, err
	}
	return n, Decode(c, q)
}

// Stateless answers a call that keeps nothing.
func Stateless[Q, A any](call func(Q) (A, error)) Handler {
	return func(c *gin.Context) error {
		var q Q
		if err := Decode(c, &q); err != nil {
			return err
		}
		return JSON[A](c, http.StatusOK)(call(q))
	}
}

// StatelessLong answers a call that keeps nothing, and that ends when nobody waits for it any more.
func StatelessLong[Q, A any](call func(context.Context, Q) (A, error)) Handler {
	return func(c *gin.Context) error {
		return Stateless(func(q Q) (A, error) { return call(c.Request.Context(), q) })(c)
	}
}

// List answers with what find gives.
func List[A any](find func(ctx context.Context) (A, error)) Handler {
	return func(c *gin.Context) error { return JSON[A](c, http.StatusOK)(find(c.Request.Context())) }
}

// One answers with what has the id of the path.
func One[A any](find func(ctx context.Context, id int64) (A, error)) Handler {
	return byID(http.StatusOK, find)
}

// Made is One that answers that something was made.
func Made[A any](make func(ctx context.Context, id int64) (A, error)) Handler {
	return byID(http.StatusCreated, make)
}

func byID[A any](status int, do func(ctx context.Context, id int64) (A, error)) Handler {
	return func(c *gin.Context) error {
		n, err := ID(c, "id")
		if err != nil {
			return err
		}
		return JSON[A](c, status)(do(c.Request.Context(), n))
	}
}

// Done does something to what has the id of the path and has nothing to say.
func Done(do func(ctx context.Context, id int64) error) Handler {
	return func(c *gin.Context) error {
		n, err := ID(c, "id")
		if err != nil {
			return err
		}
		if err := do(c.Request.Context(), n); err != nil {
			return err
		}
		c.Status(http.StatusNoContent)
		return nil
	}
}

// Created adds what the body says.
func Created[In, A any](create func(ctx context.Context, in In) (A, error)) Handler {
	return func(c *gin.Context) error {
		var in In
		if err := Decode(c, &in); err != nil {
			return err
		}
		return JSON[A](c, http.StatusCreated)(create(c.Request.Context(), in))
	}
}

// Under adds what the body says to what has the id of the path.
func Under[In, A any](create func(ctx context.Context, id int64, in In) (A, error)) Handler {
	return asked(http.StatusCreated, create)
}

// Asked answers a question about what has the id of the path.
func Asked[In, A any](ask func(ctx context.Context, id int64, in In) (A, error)) Handler {
	return asked(http.StatusOK, ask)
}

func asked[In, A any](status int, do func(ctx context.Context, id int64, in In) (A, error)) Handler {
	return func(c *gin.Context) error {
		var in In
		n, err := WithBody(c, &in)
		if err != nil {
			return err
		}
		return JSON[A](c, status)(do(c.Request.Context(), n, in))
	}
}

// Saved changes what has the id of the path, from the version that stands beside
// the fields of the body.
func Saved[In, A any](save func(ctx context.Context, id, version int64, in In) (A, error)) Handler {
	return func(c *gin.Context) error {
		n, err := ID(c, "id")
		if err != nil {
			return err
		}
		var in In
		var version int64
		if err := DecodeAs(c, &version, &in); err != nil {
			return err
		}
		return JSON[A](c, http.StatusOK)(save(c.Request.Context(), n, version, in))
	}
}

// ForEver lets browsers keep what an address shows; it never shows anything else.
func ForEver(c *gin.Context) { c.Header("Cache-Control", "public, max-age=31536000, immutable") }

// Picture sends a kept picture.
func Picture(file func(ctx context.Context, id int64) ([]byte, error)) Handler {
	return func(c *gin.Context) error {
		n, err := ID(c, "id")
		if err != nil {
			return err
		}
		data, err := file(c.Request.Context(), n)
		if err != nil {
			return err
		}
		c.Header("Cache-Control", "private, max-age=31536000, immutable")
		c.Data(http.StatusOK, "image/png", data)
		return nil
	}
}

// IDs reads numbers with commas between them from a query.
func IDs(c *gin.Context, name string) []int64 { return Numbers(strings.Split(c.Query(name), ",")) }

// Numbers are those of texts, the first 500 of them; what is none is passed over.
func Numbers(texts []string) (out []int64) {
	for _, s := range texts {
		if n, err := strconv.ParseInt(s, 10, 64); err == nil && len(out) < 500 {
			out = append(out, n)
		}
	}
	return out
}
