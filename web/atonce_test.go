package web

import (
	"fmt"
	"net/http/httptest"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"

	"fairtangle/web/api"
)

// Many windows at once: what they share (the fit of the calibration, the last
// picture, the settings, the ledger) is never read while it is written. It is run
// with the race detector, and every request has an answer that is no 5xx.
func TestManyWindowsAtOnce(t *testing.T) {
	c := sample(t)
	w := c.do("POST", api.Root+"/photos?name=moor", "image/png", picture(t))
	assert.Equal(t, 201, w.Code)
	answers := make(chan *httptest.ResponseRecorder, 400)
	var wg sync.WaitGroup
	for window := range 3 {
		wg.Go(func() {
			for i := range 2 {
				for _, path := range []string{"/makings", "/blends/6", "/layups/1", "/shelf", "/calibration", "/weighouts/1/scale"} {
					answers <- c.do("GET", path, "", "")
				}
				answers <- c.do("PUT", api.Root+"/calibration", "application/json", fmt.Sprintf(`{"on": %t}`, i%2 == 0))
				answers <- c.do("POST", api.Root+"/lots/1/movements", "application/json", `{"reason": "weigh-in", "grams": 1}`)
				answers <- c.do("POST", api.Root+"/blends/6/find", "application/json", `{"target": "#5b7d96", "max_components": 2}`)
				answers <- c.do("POST", api.Root+"/photos/1/palette", "application/json", `{"colours": 3, "total_g": 60}`)
				answers <- c.do("POST", "/ground", "application/x-www-form-urlencoded", "ground="+[]string{"light", "mid", "dark"}[(i+window)%3])
			}
		})
	}
	wg.Wait()
	close(answers)
	for a := range answers {
		assert.Less(t, a.Code, 500, a.Body.String())
	}
}
