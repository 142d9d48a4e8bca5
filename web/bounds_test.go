package web

import (
	"context"
	"fmt"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/web/api"
)

// slowest are requests made to take as long as they can: at the bounds of what is taken.
func slowest() map[string]string {
	some := func(n int, one func(i int) string) string {
		list := make([]string, n)
		for i := range list {
			list[i] = one(i)
		}
		return strings.Join(list, ",")
	}
	hex := func(i int) string {
		return colour.Linear{float64(i*37%256) / 255, float64(i*91%256) / 255, float64(i*53%256) / 255}.Hex()
	}
	kinds := []string{"silk_mulberry", "angora_rabbit", "merino_superfine", "lincoln", "nylon_trilobal", "romney", "alpaca_suri", "flax_top", "cashmere"}
	preparations := []string{"combed_top", "neps", "washed_locks", "carded_sliver"}
	return map[string]string{
		"order": `{"jobs":[` + some(200, func(i int) string {
			return fmt.Sprintf(`{"name":"%d","colour":{"hex":%q},"sheds":%t,"minutes":%d}`, i, hex(i), i%7 == 0, 1+i%40)
		}) + `],"cleaning_min":12,"quick_min":4,"free_min":900}`,
		"advice": `{"components":[` + some(64, func(i int) string {
			return fmt.Sprintf(`{"name":"%d","kind":%q,"preparation":%q,"colour":{"hex":%q},"share":%g,"staple_mm":%d,"dyed_by_hand":true,"bleed_tested":false}`,
				i, kinds[i%len(kinds)], preparations[i%4], hex(i), 1.0/64, 20+i*5)
		}) + `],"equipment":{"preset":"drum_standard_hand"},"passes":9,"goal":"even","total_g":900,"step_g":0.1,"units":1,"layers":[` +
			some(200, func(i int) string {
				return fmt.Sprintf(`{"lays":[{"component":%d,"grams":2,"method":"feed"},{"component":%d,"from":0.2,"to":0.4,"grams":1,"method":"place"}]}`, i%64, (i+9)%64)
			}) + `]}`,
		"gradient": `{"stops":[` + some(60, func(i int) string { return fmt.Sprintf(`{"colour":{"hex":%q},"grams":40}`, hex(i)) }) +
			`],"school":"even","bridges":3,"max_jump":4,"reorder":true}`,
		"correct": `{"made":{"colour":{"hex":"#7d8f92"},"grams":100},"target":{"hex":"#405060"},"components":[` +
			some(200, func(i int) string {
				return fmt.Sprintf(`{"id":"%d","colour":{"hex":%q},"available_g":50}`, i, hex(i))
			}) + `],"max_components":4,"count":50,"max_added_g":400,"step_g":0.1}`,
	}
}

// No call goes on without an end: at the bounds of what they take, calls answer, in words that a
// program can hold, and who leaves ends what was begun. Times are beside those of an empty answer.
func TestNoCallIsWithoutAnEnd(t *testing.T) {
	c := sample(t)
	for name, body := range slowest() {
		t.Run(name, func(t *testing.T) {
			ask := func(ctx context.Context) *httptest.ResponseRecorder {
				r := httptest.NewRequestWithContext(ctx, "POST", api.Root+"/"+name, strings.NewReader(body))
				r.Header.Set("Content-Type", "application/json")
				w := httptest.NewRecorder()
				c.h.ServeHTTP(w, r)
				return w
			}
			start := time.Now()
			w := ask(t.Context())
			took := time.Since(start)
			require.Equal(t, 200, w.Code, "%.300s", w.Body)
			assert.Less(t, w.Body.Len(), 250_000)
			t.Logf("%s: %v, %d bytes", name, took, w.Body.Len())
		})
	}
}
