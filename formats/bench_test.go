package formats

import (
	"bytes"
	"image"
	"image/jpeg"
	"testing"
)

// photoOf12 is an ordinary photo of twelve megapixels.
func photoOf12(b *testing.B) (image.Image, []byte) {
	img := image.NewYCbCr(image.Rect(0, 0, 4000, 3000), image.YCbCrSubsampleRatio420)
	for i := range img.Y {
		img.Y[i] = uint8(i*7 + i/999)
	}
	var buf bytes.Buffer
	if err := jpeg.Encode(&buf, img, &jpeg.Options{Quality: 60}); err != nil {
		b.Fatal(err)
	}
	return img, buf.Bytes()
}

// BenchmarkReadPhoto reads it; its floor here is decoding alone.
func BenchmarkReadPhoto(b *testing.B) {
	_, data := photoOf12(b)
	for b.Loop() {
		if _, err := ReadPhoto(b.Context(), bytes.NewReader(data)); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkReadPhotoFloor(b *testing.B) {
	_, data := photoOf12(b)
	for b.Loop() {
		if _, err := jpeg.Decode(bytes.NewReader(data)); err != nil {
			b.Fatal(err)
		}
	}
}
