package web

import (
	"bytes"
	"encoding/json"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

const twoHalves = `{"equipment":{"preset":"drum_standard_hand"},"components":[{"name":"navy","colour":{"hex":"#26324a"},"kind":"merino"},
	{"name":"cream","colour":{"hex":"#efe8d8"},"kind":"merino","loss_pct":3}],
	"layers":[{"lays":[{"component":0,"from":0,"to":0.5,"grams":20,"method":"feed"},{"component":1,"from":0.5,"to":1,"grams":20,"method":"feed"}]}],
	"passes":[{"split":4,"refeed":"own-place"},{"split":4,"refeed":"spread"}],"seed":1}`

// simulated posts a batt and reads its stages.
func simulated(t *testing.T, c client, body string) (stages []struct {
	Pass       int         `json:"pass"`
	Grams      []float64   `json:"grams"`
	Look       string      `json:"look"`
	Graded     bool        `json:"graded"`
	Patch      float64     `json:"patch_delta_e"`
	LaneShares [][]float64 `json:"lane_shares"`
}) {
	w := c.do("POST", api.Root+"/simulate", "application/json", body)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	var out struct {
		Stages json.RawMessage `json:"stages"`
	}
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
	require.NoError(t, json.Unmarshal(out.Stages, &stages))
	return stages
}

func TestABattIsForetold(t *testing.T) {
	c := sample(t)
	s := simulated(t, c, twoHalves)
	require.Len(t, s, 3)
	assert.Equal(t, s, simulated(t, c, twoHalves), "the same answer each time")
	kept := 1.0
	for i, v := range s {
		kept *= 0.97
		assert.Equal(t, i+1, v.Pass)
		assert.InDeltaSlice(t, []float64{20, 20 * kept}, v.Grams, 20e-9)
		assert.Len(t, v.LaneShares, 24)
	}
	assert.True(t, s[0].Graded)
	assert.True(t, s[1].Graded, "own place keeps the halves")
	assert.False(t, s[2].Graded, "spread ends them")
	assert.Greater(t, s[1].LaneShares[0][0], 0.95)
	assert.InDelta(t, 0.5, s[2].LaneShares[0][0], 0.2)
}

func TestWhatCanNotBeForetoldNamesItsField(t *testing.T) {
	c := sample(t)
	for change, field := range map[string]string{
		`"split":4`: `"split":5`, `"refeed":"own-place"`: `"refeed":"sideways"`, `"component":0`: `"component":9`, `"kind":"merino","loss_pct":3`: `"kind":"steel"`,
		`"to":0.5`: `"to":7`, `"grams":20,"method":"feed"},{"component":1`: `"grams":-1,"method":"feed"},{"component":1`, `"loss_pct":3`: `"loss_pct":100`,
		`"preset":"drum_standard_hand"`: `"preset":"board_large"`,
	} {
		w := c.do("POST", api.Root+"/simulate", "application/json", strings.Replace(twoHalves, change, field, 1))
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), `"field":"`, field)
	}
	next := strings.Replace(twoHalves, `"grams":20`, `"grams":1e-320`, 1) // less than any cell can hold
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("POST", api.Root+"/simulate", "application/json", next).Code)
}

func TestAFaceIsDrawn(t *testing.T) {
	c := sample(t)
	for _, side := range []string{"top", "back", "section"} {
		w := c.do("POST", api.Root+"/simulate/face.png?stage=2&width=320&height=180&side="+side, "application/json", twoHalves)
		require.Equal(t, http.StatusOK, w.Code, w.Body.String())
		require.Equal(t, "image/png", w.Header().Get("Content-Type"))
		img, err := png.Decode(bytes.NewReader(w.Body.Bytes()))
		require.NoError(t, err)
		assert.Equal(t, 320, img.Bounds().Dx())
		again := c.do("POST", api.Root+"/simulate/face.png?stage=2&width=320&height=180&side="+side, "application/json", twoHalves)
		assert.Equal(t, w.Body.Bytes(), again.Body.Bytes(), "the same picture each time")
	}
	for query, field := range map[string]string{"stage=4": "stage", "side=under": "side", "width=9": "width", "height=100000": "height", "width=x": "width"} {
		w := c.do("POST", api.Root+"/simulate/face.png?"+query, "application/json", twoHalves)
		assert.GreaterOrEqual(t, w.Code, 400, query)
		assert.Less(t, w.Code, 500, query)
		assert.Contains(t, w.Body.String(), `"field":"`+field+`"`)
	}
}

// A batt of which nothing lies there at first can not be carded, and that is said.
func TestABareFirstStageIsRefused(t *testing.T) {
	c := sample(t)
	w := c.do("POST", api.Root+"/simulate", "application/json", `{"equipment":{"preset":"drum_standard_hand"},
		"components":[{"name":"a","colour":{"hex":"#26324a"},"kind":"merino","joins_at_pass":2}],
		"layers":[{"lays":[{"component":0,"grams":20,"method":"feed"}]}],"passes":[{"split":4,"refeed":"spread"}],"seed":1}`)
	require.Equal(t, http.StatusUnprocessableEntity, w.Code, w.Body.String())
	assert.Contains(t, w.Body.String(), "from the first pass on")
}
