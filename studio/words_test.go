package studio

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/formats"
	"fairtangle/studio/shelf"
)

// Each word that a maker writes of a lot is kept, found by, and known by one name in the API and in files.
func TestEachWordOfALotIsKeptAndFound(t *testing.T) {
	s, _ := open(t)
	in := shelf.NewLot{Grams: 10, LotInput: shelf.LotInput{
		Name: "wordy", Kind: "corriedale", Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: "#6b8799"}},
	}}
	said := map[string]string{}
	for _, w := range in.Words.Each() {
		said[w.Name] = "some " + strings.ReplaceAll(w.Name, "_", "") + " of it"
		*w.Text = said[w.Name]
	}
	lots, err := s.Shelf.CreateLots(t.Context(), []shelf.NewLot{in}, "")
	require.NoError(t, err)
	lot, err := s.Shelf.Lot(t.Context(), lots[0].ID)
	require.NoError(t, err)
	sent, err := json.Marshal(lot)
	require.NoError(t, err)
	var fields map[string]any
	require.NoError(t, json.Unmarshal(sent, &fields))
	for name, text := range said {
		assert.Equal(t, text, fields[name], name)
		assert.Contains(t, formats.LotColumns, name)
		found, err := s.Shelf.Shelf(t.Context(), shelf.LotFilter{Search: strings.Fields(text)[1]})
		require.NoError(t, err)
		assert.Len(t, found.Lots, 1, "found by %s", name)
	}
}
