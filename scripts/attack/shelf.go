package main

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"mime/multipart"
	"strings"

	"html"
)

const listed = 20_000

// longLists brings in twenty thousand lots, asks the shelf for a palette, and makes
// blends of sixty stops.
func longLists(ctx context.Context, p *program) error {
	var csv strings.Builder
	csv.WriteString("name,kind,preparation,colours,grams,note\n")
	for i := range listed {
		fmt.Fprintf(&csv, "моток %d,merino,combed_top,#%06x,%d,%s\n", i, (i*40503+0x101010)&0xffffff, 20+i%300, strings.Repeat("мягкий ", 30))
	}
	var page []byte
	p.forget()
	took, err := timed(func() (err error) {
		page, err = p.upload(ctx, "/shelf/import", "file", "shelf.csv", []byte(csv.String()))
		return err
	})
	if err != nil {
		return err
	}
	p.say("preview of %d lots (%.1f MB): %v, at most %d MB", listed, float64(csv.Len())/(1<<20), took, p.most())
	text := html.UnescapeString(between(string(page), `hidden>`, `</textarea>`))
	key := between(string(page), `name="key" value="`, `"`)
	body := &bytes.Buffer{}
	form := multipart.NewWriter(body)
	_ = form.WriteField("key", key)
	_ = form.WriteField("text", strings.ReplaceAll(text, "\n", "\r\n"))
	_ = form.Close()
	p.forget()
	var status int
	took, err = timed(func() (err error) {
		status, _, err = p.send(ctx, "POST", "/shelf/import/confirm", form.FormDataContentType(), bytes.NewReader(body.Bytes()))
		return err
	})
	if err != nil || status != 303 {
		return fmt.Errorf("confirm: %d %w", status, err)
	}
	p.say("confirmed: %v, at most %d MB", took, p.most())
	took, err = timed(func() (err error) {
		status, _, err = p.send(ctx, "POST", "/shelf/import/confirm", form.FormDataContentType(), bytes.NewReader(body.Bytes()))
		return err
	})
	if err != nil || status != 303 {
		return fmt.Errorf("confirm again: %d %w", status, err)
	}
	status, page, err = p.get(ctx, "/api/v1/lots?limit=1")
	if err != nil || !strings.Contains(string(page), fmt.Sprintf(`"total":%d`, listed+30)) {
		p.say("sent again in %v; the shelf says %.60s", took, page)
	}
	for _, path := range []string{"/shelf", "/shelf?q=моток", "/api/v1/lots?limit=1000"} {
		took, err := timed(func() error { _, _, err := p.get(ctx, path); return err })
		if err != nil {
			return err
		}
		p.say("%s with them: %v", path, took)
	}
	return p.palette(ctx)
}

func (p *program) palette(ctx context.Context) error {
	img := image.NewRGBA(image.Rect(0, 0, 400, 300))
	for y := range 300 {
		for x := range 400 {
			img.Set(x, y, color.RGBA{uint8(x * 255 / 400), uint8(y * 255 / 300), uint8((x + y) % 256), 255})
		}
	}
	var picture bytes.Buffer
	if err := png.Encode(&picture, img); err != nil {
		return err
	}
	status, answer, err := p.send(ctx, "POST", "/api/v1/photos?name=p", "image/png", &picture)
	if err != nil || status != 201 {
		return fmt.Errorf("photo: %d %w", status, err)
	}
	id := between(string(answer), `"id":`, `,`)
	p.forget()
	var out map[string]any
	took, err := timed(func() (err error) {
		status, out, err = p.post(ctx, "/photos/"+id+"/palette", map[string]any{"colours": 8, "total_g": 60})
		return err
	})
	if err != nil || status != 200 {
		return fmt.Errorf("palette: %d %v %w", status, out, err)
	}
	p.say("palette of 8 with them: %v, at most %d MB", took, p.most())
	var stops []map[string]any
	for i := range 60 {
		stops = append(stops, map[string]any{
			"name": fmt.Sprintf("stop %d", i), "hex": fmt.Sprintf("#%02x%02x60", 4*i, 255-4*i), "grams": 20, "kind": "merino", "preparation": "combed_top",
		})
	}
	status, out, err = p.post(ctx, "/makings/1/gradients", map[string]any{"name": "sixty", "school": "thirds", "max_jump": 8, "stops": stops})
	if err != nil || status != 201 {
		return fmt.Errorf("gradient: %d %v %w", status, out, err)
	}
	took, err = timed(func() (err error) {
		status, out, err = p.post(ctx, fmt.Sprintf("/gradients/%.0f/blends", out["id"]), map[string]any{})
		return err
	})
	p.say("blends of sixty stops: %v (%d)", took, status)
	return err
}

// upload sends a file by a form and returns the page that answers.
func (p *program) upload(ctx context.Context, path, field, name string, data []byte) ([]byte, error) {
	body := &bytes.Buffer{}
	form := multipart.NewWriter(body)
	w, err := form.CreateFormFile(field, name)
	if err != nil {
		return nil, err
	}
	if _, err := w.Write(data); err != nil {
		return nil, err
	}
	_ = form.Close()
	status, page, err := p.send(ctx, "POST", path, form.FormDataContentType(), body)
	if err == nil && status != 200 {
		err = fmt.Errorf("%s: %d", path, status)
	}
	return page, err
}

func between(s, from, to string) string {
	_, s, _ = strings.Cut(s, from)
	s, _, _ = strings.Cut(s, to)
	return s
}
