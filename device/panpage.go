package device

import (
	_ "embed"
	"encoding/json"
	"math"
	"net/http"
	"strconv"
)

//go:embed panpage.html
var panPage []byte

//go:embed panpage.css
var panStyle []byte

//go:embed panpage.js
var panScript []byte

// panPolicy lets the page of a pan load its own two files and nothing else, in no frame.
const panPolicy = "default-src 'none'; style-src 'self'; script-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"

// Page is the simulated pan to be worked by hand: fibre is put on and taken off, pinch by
// pinch, it is tared and unplugged.
func (p *Pan) Page() http.Handler {
	mux := http.NewServeMux()
	for path, file := range map[string]struct {
		kind string
		data []byte
	}{"/{$}": {"text/html", panPage}, "/pan.css": {"text/css", panStyle}, "/pan.js": {"text/javascript", panScript}} {
		mux.HandleFunc("GET "+path, func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", file.kind+"; charset=utf-8")
			w.Header().Set("Content-Security-Policy", panPolicy)
			w.Header().Set("X-Content-Type-Options", "nosniff")
			_, _ = w.Write(file.data)
		})
	}
	state := func(w http.ResponseWriter) {
		w.Header().Set("Content-Type", "application/json")
		_ = json.NewEncoder(w).Encode(map[string]any{"line": p.Line(), "on": math.Round(1000*p.On()) / 1000, "unplugged": p.Unplugged(), "capacity": p.Capacity})
	}
	mux.HandleFunc("GET /state", func(w http.ResponseWriter, _ *http.Request) { state(w) })
	act := func(path string, do func(*http.Request) bool) {
		mux.HandleFunc("POST "+path, func(w http.ResponseWriter, r *http.Request) {
			// Another page of the browser can not send this header.
			if r.Header.Get("X-Pan") == "" || !do(r) {
				http.Error(w, "The pan does not take that.", http.StatusBadRequest)
				return
			}
			state(w)
		})
	}
	act("/put", func(r *http.Request) bool {
		g, err := strconv.ParseFloat(r.URL.Query().Get("grams"), 64)
		if err != nil || !(math.Abs(g) <= 1e5) {
			return false
		}
		p.Put(g)
		return true
	})
	act("/clear", func(*http.Request) bool { p.Clear(); return true })
	act("/tare", func(*http.Request) bool { p.Tare(); return true })
	act("/unplug", func(r *http.Request) bool { p.Unplug(r.URL.Query().Get("out") == "yes"); return true })
	return mux
}
