package frame

import (
	"fmt"
	"image/color"
	"strings"

	"github.com/boombuler/barcode/qr"
)

// Code is an address as a code for a camera: squares of a path, Side of them across.
type Code struct {
	Address string
	Side    int
	Path    string
}

// CodeOf is the code of an address.
func CodeOf(address string) (Code, error) {
	code, err := qr.Encode(address, qr.M, qr.Auto)
	if err != nil {
		return Code{}, err
	}
	side := code.Bounds().Dx()
	var path strings.Builder
	for y := range side {
		for x := range side {
			if code.At(x, y) == color.Black {
				fmt.Fprintf(&path, "M%d %dh1v1h-1z", x, y)
			}
		}
	}
	return Code{address, side, path.String()}, nil
}
