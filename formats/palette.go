package formats

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"fmt"
	"io"
	"math"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf16"

	"fairtangle/core/colour"
)

// Swatch is a colour of a palette with its name.
type Swatch struct {
	Name string
	Hex  string
}

// figure is a number as it stands in a cell.
var figure = regexp.MustCompile(`^-?\d+(\.\d+)?(e[+-]?\d+)?$`)

// ErrNotPalette is returned for a file that is no palette, or a damaged one; it says why in a maker's words.
type ErrNotPalette struct{ Message string }

func (e ErrNotPalette) Error() string { return e.Message }

// gplHead is the first line of a palette of text, by which programs know it.
const gplHead = "GIMP Palette"

// MostSwatches is how many colours of a palette are read.
const MostSwatches = 10_000

// oneLine is a text on a line of its own.
func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }

// WriteGPL writes a palette as lines of text that paint programs read: red, green and blue from 0 to 255, and the name.
func WriteGPL(w io.Writer, name string, list []Swatch) error {
	out := bufio.NewWriter(w)
	fmt.Fprintf(out, gplHead+"\nName: %s\nColumns: 8\n#\n", oneLine(name))
	for _, v := range list {
		r, g, b := rgb(v.Hex)
		fmt.Fprintf(out, "%3d %3d %3d\t%s\n", r, g, b, oneLine(v.Name))
	}
	return out.Flush()
}

// rgb are the bytes of a colour of six digits; what is none is black, so that it holds up no other.
func rgb(hex string) (r, g, b uint8) {
	v, _ := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 24)
	return uint8(v >> 16), uint8(v >> 8), uint8(v)
}

// The parts of an ASE file: a head, then blocks of a sort, a length and so many bytes, numbers with the highest byte first.
const (
	aseHead  = "ASEF"
	aseEntry = 0x0001
)

// WriteASE writes a palette as the binary file that drawing programs exchange: sRGB, each colour global.
func WriteASE(w io.Writer, list []Swatch) error {
	var out bytes.Buffer
	out.WriteString(aseHead)
	put := func(v any) { _ = binary.Write(&out, binary.BigEndian, v) } // a buffer takes all
	put([]uint16{1, 0})
	put(uint32(len(list)))
	for _, v := range list {
		r, g, b := rgb(v.Hex)
		name := append(utf16.Encode([]rune(v.Name)), 0)
		if len(name) > math.MaxUint16 {
			name = append(name[:math.MaxUint16-1], 0)
		}
		put(uint16(aseEntry))
		put(uint32(2 + 2*len(name) + 4 + 12 + 2))
		put(uint16(len(name)))
		put(name)
		out.WriteString("RGB ")
		put([]float32{float32(r) / 255, float32(g) / 255, float32(b) / 255})
		put(uint16(0))
	}
	_, err := w.Write(out.Bytes())
	return err
}

// ReadPalette reads a palette of either form, at most MostSwatches of it; the name of a colour without one is its six digits. It refuses
// what is no palette in a maker's words, names the line of text that is wrong, and holds no more than it returns.
func ReadPalette(data []byte) ([]Swatch, error) {
	if bytes.HasPrefix(data, []byte(aseHead)) {
		return readASE(data)
	}
	return readGPL(data)
}

func readGPL(data []byte) (out []Swatch, err error) {
	lines := bufio.NewScanner(bytes.NewReader(bytes.TrimPrefix(data, []byte("\ufeff"))))
	lines.Buffer(nil, 1<<16)
	if len(data) == 0 {
		return nil, ErrNotPalette{"The file is empty."}
	}
	for n := 1; lines.Scan() && len(out) < MostSwatches; n++ {
		line := strings.TrimSpace(lines.Text())
		if n == 1 {
			if line != gplHead {
				return nil, ErrNotPalette{"This is no palette. One of text is a .gpl file, one of drawing programs an .ase file."}
			}
			continue
		}
		if line == "" || line[0] == '#' || strings.HasPrefix(line, "Name:") || strings.HasPrefix(line, "Columns:") {
			continue
		}
		parts := strings.Fields(line)
		var v [3]uint64
		for i := range v {
			if len(parts) < 3 {
				return nil, ErrNotPalette{fmt.Sprintf("Line %d has no three figures for red, green and blue.", n)}
			}
			if v[i], err = strconv.ParseUint(parts[i], 10, 8); err != nil {
				return nil, ErrNotPalette{fmt.Sprintf("Line %d: red, green and blue are whole numbers from 0 to 255.", n)}
			}
		}
		out = append(out, swatch(strings.ToValidUTF8(strings.Join(parts[3:], " "), "?"), fmt.Sprintf("#%02x%02x%02x", v[0], v[1], v[2])))
	}
	if lines.Err() != nil {
		return nil, ErrNotPalette{"This is no palette: a line of it is too long."}
	}
	return out, nil
}

func swatch(name, hex string) Swatch {
	if name == "" || name == "Untitled" {
		name = hex
	}
	return Swatch{name, hex}
}

func readASE(data []byte) (out []Swatch, err error) {
	cut := ErrNotPalette{"The palette is cut off or damaged."}
	if len(data) < 12 {
		return nil, cut
	}
	for at := 12; at < len(data) && len(out) < MostSwatches; {
		if len(data)-at < 6 {
			return nil, cut
		}
		sort, long := binary.BigEndian.Uint16(data[at:]), int64(binary.BigEndian.Uint32(data[at+2:]))
		at += 6
		if long > int64(len(data)-at) {
			return nil, cut
		}
		block := data[at : at+int(long)]
		at += int(long)
		if sort != aseEntry {
			continue // the beginning or the end of a group
		}
		v, ok := aseColour(block)
		if !ok {
			return nil, cut
		}
		out = append(out, v)
	}
	return out, nil
}

// aseColour reads a colour of a block: its name, the model, and its figures.
func aseColour(block []byte) (v Swatch, ok bool) {
	if len(block) < 2 {
		return v, false
	}
	n := int(binary.BigEndian.Uint16(block))
	if len(block) < 2+2*n+4 {
		return v, false
	}
	units := make([]uint16, n)
	for i := range units {
		units[i] = binary.BigEndian.Uint16(block[2+2*i:])
	}
	name := strings.TrimRight(string(utf16.Decode(units)), "\x00")
	model, rest := string(block[2+2*n:6+2*n]), block[6+2*n:]
	figures := map[string]int{"RGB ": 3, "LAB ": 3, "CMYK": 4, "Gray": 1}[model]
	if figures == 0 || len(rest) < 4*figures {
		return v, false
	}
	f := make([]float64, figures)
	for i := range f {
		f[i] = float64(math.Float32frombits(binary.BigEndian.Uint32(rest[4*i:])))
		if math.IsNaN(f[i]) || math.Abs(f[i]) > 1000 {
			return v, false
		}
	}
	return swatch(oneLine(strings.ToValidUTF8(name, "?")), aseHex(model, f)), true
}

// aseHex is a colour of a model as six digits; inks as if each took away its share of the light, Lab as if it were seen by daylight.
func aseHex(model string, f []float64) string {
	eight := func(v float64) int { return int(math.Round(255 * min(max(v, 0), 1))) }
	switch model {
	case "LAB ":
		return colour.Lab{L: 100 * f[0], A: f[1], B: f[2]}.Linear().Hex()
	case "CMYK":
		f = []float64{(1 - f[0]) * (1 - f[3]), (1 - f[1]) * (1 - f[3]), (1 - f[2]) * (1 - f[3])}
	case "Gray":
		f = []float64{f[0], f[0], f[0]}
	}
	return fmt.Sprintf("#%02x%02x%02x", eight(f[0]), eight(f[1]), eight(f[2]))
}
