package studio

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/studio/shelf"
)

// The runs of a top in a photo become the colours of a lot, lying along it, and one press takes all of that back.
func TestRunsInAPhotoBecomeTheColoursOfALot(t *testing.T) {
	s, lots, _ := shelfOf(t)
	ctx := t.Context()
	img := image.NewRGBA(image.Rect(0, 0, 900, 120))
	for x := range 900 {
		for y := range 120 {
			img.SetRGBA(x, y, []color.RGBA{{46, 74, 107, 255}, {201, 113, 61, 255}, {217, 199, 160, 255}}[x/150%3])
		}
	}
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, img))
	photo, err := s.Shelf.AddPhoto(ctx, "top", bytes.NewReader(buf.Bytes()))
	require.NoError(t, err)
	in := shelf.RunsInput{Top: [4]float64{0, 0.2, 1, 0.8}, Length: [4]float64{0, 0.5, 1, 0.5}, LengthMM: 600}
	was, err := s.Shelf.Lot(ctx, lots[0].ID)
	require.NoError(t, err)
	now, v, err := s.Shelf.GiveRuns(ctx, photo.ID, lots[0].ID, in)
	require.NoError(t, err)
	require.Len(t, v.Runs, 6)
	assert.InDelta(t, 10, v.RunCM, 0.05)
	require.Len(t, now.Colours, 3)
	assert.Equal(t, "along", now.Lies)
	assert.Equal(t, v.RunCM, now.RunCM)
	for i, hex := range []string{"#2e4a6b", "#c9713d", "#d9c7a0"} {
		assert.Equal(t, hex, now.Colours[i].Hex)
		assert.InDelta(t, 1.0/3, now.Colours[i].Share, 0.01)
	}
	back, err := s.Shelf.ColoursBack(ctx, lots[0].ID, now.Version)
	require.NoError(t, err)
	assert.Equal(t, was.LotInput, back.LotInput)

	_, _, err = s.Shelf.GiveRuns(ctx, photo.ID, 999, in)
	assert.ErrorContains(t, err, "Choose a lot")
	for _, bad := range []shelf.RunsInput{{}, {Top: in.Top, Length: in.Length}, {Top: [4]float64{0, 0, 2, 1}, Length: in.Length, LengthMM: 600},
		{Top: [4]float64{0.5, 0.5, 0.5, 0.5}, Length: in.Length, LengthMM: 600}} {
		_, err = s.Shelf.RunsOfPhoto(ctx, photo.ID, bad)
		assert.Error(t, err)
	}
}
