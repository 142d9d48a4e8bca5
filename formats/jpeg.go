package formats

import (
	"bufio"
	"errors"
	"io"
)

// jpegFacts are what a JPEG says of itself before its pixels: what decoding it
// will take.
type jpegFacts struct {
	progressive bool
	scans       int
	samples     float64 // a pixel, all components together
}

var errMarkers = errors.New("no JPEG markers")

// readJPEGFacts walks over the markers of a JPEG (ITU T.81, annex B) and reads
// nothing of its scans but where they end.
func readJPEGFacts(in io.Reader) (f jpegFacts, err error) {
	r := bufio.NewReader(in)
	for {
		b, err := r.ReadByte()
		if err != nil {
			return f, ended(f, err)
		}
		if b != 0xff {
			continue // in a scan, or between segments
		}
		for b == 0xff {
			if b, err = r.ReadByte(); err != nil {
				return f, ended(f, err)
			}
		}
		switch {
		case b == 0xd9: // end of image
			return f, ended(f, nil)
		case b == 0 || b == 1 || b >= 0xd0 && b <= 0xd8: // a stuffed byte, restarts, start of image
			continue
		case b == 0xda:
			f.scans++
		case b == 0xc2 || b == 0xc0 || b == 0xc1:
			f.progressive = b == 0xc2
			if f.samples, err = frameSamples(r); err != nil {
				return f, err
			}
			continue
		}
		if err := skipSegment(r); err != nil {
			return f, ended(f, err)
		}
	}
}

// ended is what a file that ends here means: a damaged one is found when it is
// decoded.
func ended(f jpegFacts, err error) error {
	if f.samples == 0 {
		return errMarkers
	}
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return nil
	}
	return err
}

func skipSegment(r *bufio.Reader) error {
	n, err := segment(r)
	if err == nil {
		_, err = r.Discard(n)
	}
	return err
}

// segment reads how many bytes of a segment follow.
func segment(r *bufio.Reader) (int, error) {
	var b [2]byte
	if _, err := io.ReadFull(r, b[:]); err != nil {
		return 0, err
	}
	return max(int(b[0])<<8|int(b[1])-2, 0), nil
}

// frameSamples reads a frame header: how many samples a pixel has.
func frameSamples(r *bufio.Reader) (float64, error) {
	n, err := segment(r)
	if err != nil {
		return 0, err
	}
	b := make([]byte, n)
	if _, err := io.ReadFull(r, b); err != nil {
		return 0, err
	}
	if n < 6 || n < 6+3*int(b[5]) || b[5] == 0 {
		return 0, errMarkers
	}
	var sum, most float64
	for k := range int(b[5]) {
		h := b[6+3*k+1]
		area := float64(h>>4) * float64(h&15)
		sum, most = sum+area, max(most, area)
	}
	if most == 0 {
		return 0, errMarkers
	}
	return sum / most, nil
}
