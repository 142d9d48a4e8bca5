package formats

import (
	"bytes"
	"image"
	"image/color"
	_ "image/jpeg" // the formats that are read
	"image/png"
	"sync"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp" // the third of them

	"fairtangle/core/fault"
	"fairtangle/core/photo"
)

// Limits of a picture that is brought in.
const (
	MaxPhotoBytes  = 20 << 20
	maxPhotoPixels = 40_000_000
	photoEdge      = 1600 // pixels on the longer side that are kept
)

// one picture is decoded at a time, so that memory stays bounded.
var one sync.Mutex

// ReadPhoto decodes a JPEG, PNG or WebP picture, turns it as its EXIF says and
// scales it down to at most 1600 pixels on the longer side. Size and pixels
// are checked before anything is decoded. Faults are on the field "photo".
func ReadPhoto(data []byte) (*photo.Picture, error) {
	if len(data) > MaxPhotoBytes {
		return nil, fault.New("photo", "The picture is larger than 20 MB.")
	}
	head, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, fault.New("photo", "This is not a JPEG, PNG or WebP picture that can be read.")
	}
	if head.Width < 16 || head.Height < 16 {
		return nil, fault.New("photo", "The picture is only %d × %d pixels.", head.Width, head.Height)
	}
	if head.Width > maxPhotoPixels/head.Height {
		return nil, fault.New("photo", "The picture has %d × %d pixels; 40 million are the most.", head.Width, head.Height)
	}
	one.Lock()
	defer one.Unlock()
	full, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, fault.New("photo", "The picture is damaged and can not be read to its end.")
	}
	return turned(scaled(full), orientation(data, format)), nil
}

// scaled draws a picture onto white in the size that is kept.
func scaled(full image.Image) *image.RGBA {
	w, h := full.Bounds().Dx(), full.Bounds().Dy()
	if long := max(w, h); long > photoEdge {
		w, h = max(1, w*photoEdge/long), max(1, h*photoEdge/long)
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	if out.Bounds().Size() == full.Bounds().Size() {
		draw.Draw(out, out.Bounds(), full, full.Bounds().Min, draw.Over)
		return out
	}
	draw.BiLinear.Scale(out, out.Bounds(), full, full.Bounds(), draw.Over, nil)
	return out
}

// orientation is the EXIF orientation, 1 to 8; 1 where it is not said.
func orientation(data []byte, format string) int {
	kind, ok := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG, "webp": imagemeta.WebP}[format]
	if !ok {
		return 1
	}
	at := 1
	// Damaged metadata leaves the picture as it lies.
	_, _ = imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(data), ImageFormat: kind, Sources: imagemeta.EXIF,
		ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" },
		HandleTag: func(t imagemeta.TagInfo) error {
			if v, ok := t.Value.(uint16); ok && v >= 1 && v <= 8 {
				at = int(v)
			}
			return nil
		},
	})
	return at
}

// turned brings a picture into the position that an EXIF orientation asks for
// (JEITA CP-3451, tag 0x0112).
func turned(in *image.RGBA, orientation int) *photo.Picture {
	w, h := in.Bounds().Dx(), in.Bounds().Dy()
	out := &photo.Picture{W: w, H: h}
	if orientation >= 5 {
		out.W, out.H = h, w
	}
	out.Pix = make([]uint8, 0, 3*w*h)
	for y := range out.H {
		for x := range out.W {
			sx, sy := x, y
			if orientation >= 5 {
				sx, sy = y, x
			}
			switch orientation {
			case 2, 3, 7, 8:
				sx = w - 1 - sx
			}
			switch orientation {
			case 3, 4, 6, 7:
				sy = h - 1 - sy
			}
			p := in.Pix[in.PixOffset(sx, sy):]
			out.Pix = append(out.Pix, p[0], p[1], p[2])
		}
	}
	return out
}

// WritePhoto encodes a picture as PNG, without loss, so that a colour read
// from it today is the same tomorrow.
func WritePhoto(p *photo.Picture) ([]byte, error) {
	out := image.NewRGBA(image.Rect(0, 0, p.W, p.H))
	for i := range p.W * p.H {
		copy(out.Pix[4*i:], []uint8{p.Pix[3*i], p.Pix[3*i+1], p.Pix[3*i+2], 255})
	}
	var b bytes.Buffer
	err := (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&b, out)
	return b.Bytes(), err
}
