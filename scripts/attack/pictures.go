package main

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"math/rand/v2"
	"sync"
	"time"
)

// noisy fills a picture with what does not pack well.
func noisy(pix []uint8) {
	rng := rand.New(rand.NewPCG(1, 2))
	for i := 0; i < len(pix); i += 64 {
		v := uint8(rng.Uint32())
		for j := i; j < min(i+64, len(pix)); j++ {
			pix[j] = v + uint8(j)%7
		}
	}
}

// manyScans is a grey progressive JPEG in so many scans, each of a few bytes.
func manyScans(w, h, scans int) []byte {
	b := append([]byte{0xff, 0xd8, 0xff, 0xdb, 0, 67, 0}, bytes.Repeat([]byte{1}, 64)...)
	b = append(b, 0xff, 0xc2, 0, 11, 8, byte(h>>8), byte(h), byte(w>>8), byte(w), 1, 1, 0x11, 0)
	for class, value := range []byte{0, 0xe0} {
		b = append(b, 0xff, 0xc4, 0, 20, byte(class)<<4, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, value)
	}
	blocks := ((w + 7) / 8) * ((h + 7) / 8)
	b = append(b, 0xff, 0xda, 0, 8, 1, 1, 0, 0, 0, 0)
	b = append(b, make([]byte, blocks/8+1)...)
	for range scans - 1 {
		b = append(b, 0xff, 0xda, 0, 8, 1, 1, 0, 1, 63, 0)
		b = append(b, make([]byte, (blocks/16384+1)*15/8+1)...)
	}
	return append(b, 0xff, 0xd9)
}

// heavyPictures uploads the largest pictures of each sort, a progressive one of a
// thousand scans, and twenty at once, with an ordinary photo among them.
func heavyPictures(ctx context.Context, p *program) error {
	const w, h = 7300, 5470
	grey := image.NewGray(image.Rect(0, 0, w, h))
	noisy(grey.Pix)
	wide := image.NewYCbCr(image.Rect(0, 0, w, h), image.YCbCrSubsampleRatio420)
	noisy(wide.Y)
	rgb := image.NewRGBA(image.Rect(0, 0, w, h))
	noisy(rgb.Pix)
	for i := 3; i < len(rgb.Pix); i += 4 {
		rgb.Pix[i] = 255
	}
	var baseline, pale, full, ordinary bytes.Buffer
	small := rgb.SubImage(image.Rect(0, 0, 4000, 3000))
	for buf, img := range map[*bytes.Buffer]image.Image{&baseline: wide, &pale: grey, &ordinary: small} {
		if err := jpeg.Encode(buf, img, &jpeg.Options{Quality: 60}); err != nil {
			return err
		}
	}
	if err := (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&full, rgb); err != nil {
		return err
	}
	cases := []struct {
		name string
		data []byte
	}{
		{"ordinary, 12 megapixels", ordinary.Bytes()},
		{"JPEG, 40 megapixels", baseline.Bytes()},
		{"grey JPEG, 40 megapixels", pale.Bytes()},
		{"PNG, 40 megapixels", full.Bytes()},
		{"1,000 scans, 1 megapixel", manyScans(1000, 1000, 1000)},
		{"1,000 scans, 36 megapixels", manyScans(6000, 6000, 1000)},
		{"64 scans, 6 megapixels", manyScans(2500, 2450, 64)},
		{"10 scans, 40 megapixels", manyScans(w, h, 10)},
	}
	for _, c := range cases {
		p.forget()
		var status int
		took, err := timed(func() (err error) { status, err = p.photo(ctx, c.data); return err })
		if err != nil {
			return err
		}
		p.say("%-28s %5.1f MB: %d after %v, at most %d MB", c.name, float64(len(c.data))/(1<<20), status, took, p.most())
		if took > 8*time.Second {
			return fmt.Errorf("%s took %v", c.name, took)
		}
	}
	p.forget()
	var all sync.WaitGroup
	codes := make([]int, 20)
	began := time.Now()
	for i := range codes {
		all.Go(func() { codes[i], _ = p.photo(ctx, cases[1+i%7].data) })
	}
	time.Sleep(200 * time.Millisecond)
	took, err := timed(func() error { _, err := p.photo(ctx, ordinary.Bytes()); return err })
	if err != nil {
		return err
	}
	all.Wait()
	p.say("twenty heavy ones at once: %v in %v, at most %d MB; an ordinary one among them took %v", count(codes),
		time.Since(began).Round(time.Millisecond), p.most(), took)
	return nil
}

func (p *program) photo(ctx context.Context, data []byte) (int, error) {
	status, _, err := p.send(ctx, "POST", "/api/v1/photos?name=p", "image/jpeg", bytes.NewReader(data))
	return status, err
}

func count[T comparable](list []T) map[T]int {
	out := map[T]int{}
	for _, v := range list {
		out[v]++
	}
	return out
}
