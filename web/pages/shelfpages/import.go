package shelfpages

import (
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/formats"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

type importBody struct {
	Problem string
	Good    []shelf.NewLot
	Bad     []formats.BadLine
	GramsG  float64
	Text    string
	Columns string
	Shown   int
}

func (s *Room) importPage(c *gin.Context, status int, b importBody) {
	b.Columns = strings.Join(formats.LotColumns, ", ")
	b.Shown = 50
	s.Render(c, status, "import", frame.Page{Title: "Bring in a shelf", Here: "shelf", Scripts: []string{"js/busy.js"}}, b)
}

func (s *Room) importForm(c *gin.Context) error {
	s.importPage(c, http.StatusOK, importBody{})
	return nil
}

// importPreview reads the file and shows what would come in.
func (s *Room) importPreview(c *gin.Context) error {
	data, err := uploaded(c)
	if answer.TooLarge(err) {
		s.importPage(c, http.StatusRequestEntityTooLarge, importBody{Problem: "The file is larger than 10 MB. Split it."})
		return nil
	}
	if err != nil {
		s.importPage(c, http.StatusUnprocessableEntity, importBody{Problem: "Choose a CSV file first."})
		return nil
	}
	if !formats.OwnColumns(data) {
		return s.sheetColumns(c, string(data), frame.NewForm())
	}
	b, err := s.readImport(c, data)
	if err != nil {
		return err
	}
	status := http.StatusOK
	if b.Problem != "" {
		status = http.StatusUnprocessableEntity
	}
	s.importPage(c, status, b)
	return nil
}

func uploaded(c *gin.Context) ([]byte, error) {
	if err := frame.Parsed(c); err != nil {
		return nil, err
	}
	h, err := c.FormFile("file")
	if err != nil {
		return nil, err
	}
	f, err := h.Open()
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return io.ReadAll(io.LimitReader(f, formats.MaxBytes+1))
}

// readImport reads and checks every line, so that the preview names all that
// is wrong.
func (s *Room) readImport(c *gin.Context, data []byte) (importBody, error) {
	rows, bad, err := formats.ReadLots(data)
	var not formats.ErrNotCSV
	if errors.As(err, &not) {
		return importBody{Problem: not.Message}, nil
	}
	if err != nil {
		return importBody{}, err
	}
	b := importBody{Bad: bad, Text: string(data)}
	check, err := s.Studio.Shelf.LotChecker(c.Request.Context())
	if err != nil {
		return b, err
	}
	for _, r := range rows {
		in := shelf.NewLot{Grams: r.Grams, LotInput: shelf.LotInput{
			Name: r.Name, Kind: r.Kind, Preparation: r.Preparation, StapleMM: r.StapleMM, Superwash: r.Superwash,
			CostPer100g: r.CostPer100g, Lies: r.Lies, RunCM: r.RunCM, Words: r.Words,
		}}
		for _, v := range r.Colours {
			in.Colours = append(in.Colours, shelf.LotColour{Hex: v.Hex, Share: v.Share, Source: v.Source})
		}
		if err := check(&in); err != nil {
			l, _ := fault.From(err)
			for _, f := range l {
				b.Bad = append(b.Bad, formats.BadLine{Line: r.Line, Column: f.Field, Message: f.Message})
			}
			continue
		}
		b.GramsG += in.Grams
		b.Good = append(b.Good, in)
	}
	floor.InOrder(b.Bad, func(x, y formats.BadLine) int { return x.Line - y.Line })
	return b, nil
}

// importConfirm brings in what the preview showed as good, all or nothing.
func (s *Room) importConfirm(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	// A text area sends CRLF; quoted line breaks are brought back to LF.
	b, err := s.readImport(c, []byte(strings.ReplaceAll(c.PostForm("text"), "\r\n", "\n")))
	if err != nil {
		return err
	}
	if b.Problem != "" || len(b.Good) == 0 {
		s.importPage(c, http.StatusUnprocessableEntity, b)
		return nil
	}
	lots, err := s.Studio.Shelf.BringIn(c.Request.Context(), b.Good, c.PostForm("key"))
	if err != nil {
		l, ok := fault.From(err)
		if !ok {
			return fmt.Errorf("bring in lots: %w", err)
		}
		b.Problem = l[0].Message
		s.importPage(c, http.StatusUnprocessableEntity, b)
		return nil
	}
	frame.GoTo(c, shelfWith(lots), "imported")
	return nil
}
