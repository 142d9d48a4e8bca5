package formats

import (
	"bytes"
	"context"
	"errors"
	"image"
	"image/color"
	_ "image/jpeg" // the formats that are read
	"image/png"
	"io"
	"runtime/debug"
	"time"

	"github.com/bep/imagemeta"
	_ "golang.org/x/image/webp" // the third of them

	"fairtangle/core/fault"
	"fairtangle/core/photo"
)

// Limits of a picture that is brought in.
const (
	MaxPhotoBytes  = 20 << 20
	maxPhotoPixels = 40_000_000
	photoEdge      = 1600      // pixels on the longer side that are kept
	mostMemory     = 250 << 20 // that decoding may take, bytes
	mostScans      = 64        // of a progressive picture
	mostScanned    = 400e6     // pixels times scans, of a progressive picture
	decodeTime     = 4 * time.Second
	photoPatience  = 25 * time.Second
)

// What an ordinary photo takes, in bytes and in pixels to go over. Such ones do not
// wait behind others.
const (
	smallMemory  = 80 << 20
	smallWork    = 25e6
	worthFreeing = 16 << 20 // bytes, before the next one
)

var (
	small = make(chan struct{}, 2)
	large = make(chan struct{}, 1)
)

// ErrBusy is returned where as many long computations run already as may.
var ErrBusy = errors.New("the machine is busy with others")

// ReadPhoto decodes a JPEG, PNG or WebP picture, turns it as its EXIF says and
// scales it down to at most 1600 pixels on the longer side. What decoding would
// take is checked before anything is decoded; few are decoded at a time, and none
// for long. Faults are on the field "photo"; ErrBusy says that others had not
// made room in time.
func ReadPhoto(ctx context.Context, in io.ReadSeeker) (*photo.Picture, error) {
	format, memory, work, err := weighed(in)
	if err != nil {
		return nil, err
	}
	turn := small
	if memory > smallMemory || work > smallWork {
		turn = large
	}
	wait, cancel := context.WithTimeout(ctx, photoPatience)
	defer cancel()
	select {
	case turn <- struct{}{}:
		defer func() { <-turn }()
	case <-wait.Done():
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return nil, ErrBusy
	}
	if memory > worthFreeing {
		defer debug.FreeOSMemory()
	}
	return decoded(ctx, in, format)
}

// weighed finds out what decoding a picture would take, in bytes and in pixels to go
// over, and refuses what would
// take too much.
func weighed(in io.ReadSeeker) (format string, memory, work float64, err error) {
	size, err := in.Seek(0, io.SeekEnd)
	if err != nil {
		return "", 0, 0, err
	}
	if size > MaxPhotoBytes {
		return "", 0, 0, fault.New("photo", "The picture is larger than 20 MB.")
	}
	unknown := fault.New("photo", "This is not a JPEG, PNG or WebP picture that can be read.")
	head, format, err := configured(in)
	if err != nil {
		return "", 0, 0, unknown
	}
	if head.Width < 16 || head.Height < 16 {
		return "", 0, 0, fault.New("photo", "The picture is only %d × %d pixels.", head.Width, head.Height)
	}
	if head.Width > maxPhotoPixels/head.Height {
		return "", 0, 0, fault.New("photo", "The picture has %d × %d pixels; 40 million are the most.", head.Width, head.Height)
	}
	pixels := float64(head.Width * head.Height)
	perPixel := bytesPerPixel(head.ColorModel)
	work = pixels
	if format == "jpeg" {
		if _, err := in.Seek(0, io.SeekStart); err != nil {
			return "", 0, 0, err
		}
		f, err := readJPEGFacts(in)
		if err != nil {
			return "", 0, 0, unknown
		}
		perPixel = f.samples
		if f.progressive {
			perPixel *= 5 // a coefficient of four bytes beside each sample
			work *= float64(f.scans)
		}
		if f.scans > mostScans || work > mostScanned {
			return "", 0, 0, heavy("it is stored in %d passes", f.scans)
		}
	}
	if memory = pixels * perPixel; memory > mostMemory {
		return "", 0, 0, heavy("it would take %.0f MB of memory", memory/(1<<20))
	}
	return format, memory, work, nil
}

func configured(in io.ReadSeeker) (image.Config, string, error) {
	if _, err := in.Seek(0, io.SeekStart); err != nil {
		return image.Config{}, "", err
	}
	return image.DecodeConfig(in)
}

func heavy(why string, values ...any) error {
	return fault.New("photo", "This picture takes too much to read: "+why+". Save it again as an ordinary JPEG, not progressive, of at most 12 million "+
		"pixels.", values...)
}

// bytesPerPixel is what a picture takes while it is decoded, by its colours. WebP
// without loss works in two copies.
func bytesPerPixel(m color.Model) float64 {
	switch m {
	case color.GrayModel:
		return 1
	case color.Gray16Model:
		return 2
	case color.YCbCrModel:
		return 2
	case color.NYCbCrAModel:
		return 3
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	case color.RGBAModel:
		return 4
	case color.NRGBAModel:
		return 6
	}
	return 1 // a palette
}

// decoded decodes, as long as ctx and the time for it last.
func decoded(ctx context.Context, in io.ReadSeeker, format string) (*photo.Picture, error) {
	at, err := orientation(in, format)
	if err != nil {
		return nil, err
	}
	if _, err := in.Seek(0, io.SeekStart); err != nil {
		return nil, err
	}
	limited, cancel := context.WithTimeout(ctx, decodeTime)
	defer cancel()
	full, _, err := image.Decode(&untilDone{limited, in})
	switch {
	case ctx.Err() != nil:
		return nil, ctx.Err()
	case limited.Err() != nil:
		return nil, heavy("it takes more than %.0f seconds", decodeTime.Seconds())
	case err != nil:
		return nil, fault.New("photo", "The picture is damaged and can not be read to its end.")
	}
	return turned(scaled(full), at), nil
}

// untilDone reads in small pieces until a context is done, so that what decodes
// can be stopped.
type untilDone struct {
	ctx context.Context
	r   io.Reader
}

func (u *untilDone) Read(b []byte) (int, error) {
	if err := u.ctx.Err(); err != nil {
		return 0, err
	}
	return u.r.Read(b[:min(len(b), 512)])
}

// orientation is the EXIF orientation, 1 to 8; 1 where it is not said.
func orientation(in io.ReadSeeker, format string) (int, error) {
	kind, ok := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG, "webp": imagemeta.WebP}[format]
	if !ok {
		return 1, nil
	}
	if _, err := in.Seek(0, io.SeekStart); err != nil {
		return 1, err
	}
	at := 1
	// Damaged metadata leaves the picture as it lies.
	_, _ = imagemeta.Decode(imagemeta.Options{
		R: in, ImageFormat: kind, Sources: imagemeta.EXIF, Timeout: time.Second,
		ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" },
		HandleTag: func(t imagemeta.TagInfo) error {
			if v, ok := t.Value.(uint16); ok && v >= 1 && v <= 8 {
				at = int(v)
			}
			return nil
		},
	})
	return at, nil
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
	out := make([]uint8, 4*p.W*p.H)
	for i := range p.W * p.H {
		copy(out[4*i:], []uint8{p.Pix[3*i], p.Pix[3*i+1], p.Pix[3*i+2], 255})
	}
	return WritePNG(p.W, p.H, out)
}

// WritePNG encodes bytes of sRGB with opacity, four a pixel, as PNG.
func WritePNG(w, h int, pix []uint8) ([]byte, error) {
	var b bytes.Buffer
	img := &image.NRGBA{Pix: pix, Stride: 4 * w, Rect: image.Rect(0, 0, w, h)}
	err := (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&b, img)
	return b.Bytes(), err
}
