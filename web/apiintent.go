package web

import (
	"io"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/core/match"
	"fairtangle/formats"
	"fairtangle/studio"
)

// intentRoutes are the calls that start from a colour.
func (s *server) intentRoutes(g *gin.RouterGroup) {
	get, post, put, del := s.on(g.GET), s.on(g.POST), s.on(g.PUT), s.on(g.DELETE)
	post("/match", s.apiMatch)
	post("/correct", stateless(studio.Correct))
	post("/gradient", stateless(studio.Gradient))

	post("/blends/:id/find", s.apiFind)
	post("/blends/:id/mend", s.apiMend)
	post("/blends/:id/dull", s.apiDull)
	get("/lots/:id/stops", one(s.studio.StopsOfLot))
	post("/lots/:id/colours/back", s.apiColoursBack)
	post("/lots/:id/measure", s.apiMeasure)
	post("/lots/:id/spectrum", s.apiSpectrum)

	get("/makings/:id/gradients", one(s.studio.GradientsOf))
	post("/makings/:id/gradients", s.apiCreateGradient)
	get("/gradients/:id", one(s.studio.Gradient))
	put("/gradients/:id", s.apiSaveGradient)
	post("/gradients/:id/changes", s.apiChangeGradient)
	post("/gradients/:id/blends", one(s.studio.GradientBlends))
	del("/gradients/:id", s.apiDiscard("gradients"))
	post("/gradients/:id/restore", s.apiRestore("gradients"))

	get("/scraps", s.apiScrapBags)
	post("/scraps", s.apiCreateScraps)
	get("/scraps/:id", one(s.studio.ScrapBag))
	put("/scraps/:id", s.apiSaveScraps)
	post("/scraps/:id/changes", s.apiChangeScraps)
	post("/scraps/:id/sort", s.apiSortScraps)
	post("/scraps/:id/blends", s.apiScrapBlends)
	del("/scraps/:id", s.apiDiscard("scrap_sets"))
	post("/scraps/:id/restore", s.apiRestore("scrap_sets"))

	get("/photos", s.apiPhotos)
	post("/photos", s.apiAddPhoto)
	get("/photos/:id", one(s.studio.Photo))
	put("/photos/:id", s.apiRenamePhoto)
	get("/photos/:id/picture.png", s.photoFile)
	post("/photos/:id/card", s.apiCard)
	post("/photos/:id/read", s.apiReadSpot)
	post("/photos/:id/palette", s.apiPalette)
	del("/photos/:id", s.apiDiscard("photos"))
	post("/photos/:id/restore", s.apiRestore("photos"))

	get("/calibration", s.apiCalibration)
	put("/calibration", s.apiUseCalibration)
	post("/samples", s.apiAddSample)
	put("/samples/:id", s.apiUpdateSample)
	del("/samples/:id", s.apiDiscard("samples"))
	post("/samples/:id/restore", s.apiRestore("samples"))
}

// untilGone stops a search when nobody waits for it any more, or when it has
// looked at as many sets as one request may.
func untilGone(c *gin.Context) func(match.Progress) bool {
	return func(p match.Progress) bool {
		return c.Request.Context().Err() == nil && p.Done < studio.MaxThorough
	}
}

func (s *server) apiMatch(c *gin.Context) error {
	var q studio.MatchRequest
	if err := decode(c, &q); err != nil {
		return err
	}
	return answer[studio.MatchAnswer](c, http.StatusOK)(studio.Match(studio.StandardKinds(), q, untilGone(c)))
}

// blendAnd reads a body for the blend of the path and gives its recipe.
func blendAnd[Q any](s *server, c *gin.Context) (in studio.BlendInput, q Q, err error) {
	n, err := withBody(c, &q)
	if err != nil {
		return in, q, err
	}
	b, err := s.studio.Blend(c.Request.Context(), n)
	return b.Input(), q, err
}

func (s *server) apiFind(c *gin.Context) error {
	in, q, err := blendAnd[studio.FindInput](s, c)
	if err != nil {
		return err
	}
	return answer[studio.FindAnswer](c, http.StatusOK)(s.studio.Find(c.Request.Context(), in, q, untilGone(c)))
}

func (s *server) apiMend(c *gin.Context) error {
	in, q, err := blendAnd[studio.MendInput](s, c)
	if err != nil {
		return err
	}
	return answer[studio.MendAnswer](c, http.StatusOK)(s.studio.Mend(c.Request.Context(), idOf(c), in, q))
}

func (s *server) apiDull(c *gin.Context) error {
	in, q, err := blendAnd[studio.DullInput](s, c)
	if err != nil {
		return err
	}
	return answer[studio.DullAnswer](c, http.StatusOK)(s.studio.Dull(c.Request.Context(), in, q))
}

func (s *server) apiMeasure(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		Colour  int   `json:"colour"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Measured](c, http.StatusOK)(s.studio.MeasureLot(c.Request.Context(), n, q.Version, q.Colour))
}

func (s *server) apiColoursBack(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Lot](c, http.StatusOK)(s.studio.ColoursBack(c.Request.Context(), n, q.Version))
}

func (s *server) apiSpectrum(c *gin.Context) error {
	var q struct {
		Version int64  `json:"version"`
		Colour  int    `json:"colour"`
		CSV     string `json:"csv"`
		Reading string `json:"reading"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Measured](c, http.StatusOK)(s.studio.ImportSpectrum(c.Request.Context(), n, q.Version, q.Colour, []byte(q.CSV), q.Reading))
}

func (s *server) apiCreateGradient(c *gin.Context) error {
	var q studio.GradientInput
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Ladder](c, http.StatusCreated)(s.studio.CreateGradient(c.Request.Context(), n, q))
}

func (s *server) apiSaveGradient(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.GradientInput
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Ladder](c, http.StatusOK)(s.studio.SaveGradient(c.Request.Context(), n, q.Version, q.GradientInput))
}

// apiChangeGradient does one change to a gradient as it stands and keeps it.
func (s *server) apiChangeGradient(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.GradientChange
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	now, err := s.studio.Gradient(c.Request.Context(), n)
	if err != nil {
		return err
	}
	next, err := s.studio.ApplyGradient(c.Request.Context(), now.GradientInput, &q.GradientChange)
	if err != nil {
		return err
	}
	return answer[studio.Ladder](c, http.StatusOK)(s.studio.SaveGradient(c.Request.Context(), n, q.Version, next.GradientInput))
}

// apiChangeScraps does one change to a bag as it stands and keeps it.
func (s *server) apiChangeScraps(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.ScrapsChange
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	now, err := s.studio.ScrapBag(c.Request.Context(), n)
	if err != nil {
		return err
	}
	next, err := s.studio.ApplyScraps(c.Request.Context(), now.ScrapsInput, &q.ScrapsChange)
	if err != nil {
		return err
	}
	return answer[studio.Scraps](c, http.StatusOK)(s.studio.SaveScraps(c.Request.Context(), n, q.Version, next.ScrapsInput))
}

func (s *server) apiScrapBags(c *gin.Context) error {
	return answer[[]studio.Scraps](c, http.StatusOK)(s.studio.ScrapBags(c.Request.Context()))
}

func (s *server) apiCreateScraps(c *gin.Context) error {
	var q studio.ScrapsInput
	if err := decode(c, &q); err != nil {
		return err
	}
	return answer[studio.Scraps](c, http.StatusCreated)(s.studio.CreateScraps(c.Request.Context(), q))
}

func (s *server) apiSaveScraps(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.ScrapsInput
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Scraps](c, http.StatusOK)(s.studio.SaveScraps(c.Request.Context(), n, q.Version, q.ScrapsInput))
}

func (s *server) apiSortScraps(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		Piles   int   `json:"piles"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	bag, err := s.studio.ScrapBag(c.Request.Context(), n)
	if err != nil {
		return err
	}
	if bag, err = s.studio.SortScraps(c.Request.Context(), bag.ScrapsInput, q.Piles); err != nil {
		return err
	}
	return answer[studio.Scraps](c, http.StatusOK)(s.studio.SaveScraps(c.Request.Context(), n, q.Version, bag.ScrapsInput))
}

func (s *server) apiScrapBlends(c *gin.Context) error {
	var q struct {
		MakingID int64 `json:"making_id"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[[]studio.Blend](c, http.StatusOK)(s.studio.ScrapBlends(c.Request.Context(), n, q.MakingID))
}

func (s *server) apiPhotos(c *gin.Context) error {
	return answer[[]studio.Photo](c, http.StatusOK)(s.studio.Photos(c.Request.Context()))
}

// apiAddPhoto takes the picture itself as the body.
func (s *server) apiAddPhoto(c *gin.Context) error {
	data, err := io.ReadAll(io.LimitReader(c.Request.Body, formats.MaxPhotoBytes+1))
	if err != nil {
		if tooLarge(err) {
			return err
		}
		return badShape{"", "The body could not be read to its end."}
	}
	name := c.Query("name")
	if name == "" {
		name = "photo"
	}
	return answer[studio.Photo](c, http.StatusCreated)(s.studio.AddPhoto(c.Request.Context(), name, data))
}

func (s *server) apiRenamePhoto(c *gin.Context) error {
	var q struct {
		Version int64  `json:"version"`
		Name    string `json:"name"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Photo](c, http.StatusOK)(s.studio.RenamePhoto(c.Request.Context(), n, q.Version, q.Name))
}

// photoFile sends the kept picture; its address never shows another one.
func (s *server) photoFile(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	data, err := s.studio.PhotoFile(c.Request.Context(), n)
	if err != nil {
		return err
	}
	forEver(c)
	c.Data(http.StatusOK, "image/png", data)
	return nil
}

// cardRequest balances a photo; without a spot the balance is taken off.
type cardRequest struct {
	Version    int64        `json:"version"`
	Spot       *studio.Spot `json:"spot"`
	ReflectPct float64      `json:"reflects_pct"`
}

func (s *server) apiCard(c *gin.Context) error {
	var q cardRequest
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Photo](c, http.StatusOK)(s.studio.SetCard(c.Request.Context(), n, q.Version, q.Spot, q.ReflectPct))
}

func (s *server) apiReadSpot(c *gin.Context) error {
	var q studio.Spot
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.PhotoReading](c, http.StatusOK)(s.studio.ReadSpot(c.Request.Context(), n, q))
}

func (s *server) apiPalette(c *gin.Context) error {
	var q struct {
		Colours int     `json:"colours"`
		TotalG  float64 `json:"total_g"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[[]studio.PaletteColour](c, http.StatusOK)(s.studio.Palette(c.Request.Context(), n, q.Colours, q.TotalG))
}

func (s *server) apiCalibration(c *gin.Context) error {
	return answer[studio.Calibration](c, http.StatusOK)(s.studio.Calibration(c.Request.Context()))
}

func (s *server) apiUseCalibration(c *gin.Context) error {
	var q struct {
		On bool `json:"on"`
	}
	if err := decode(c, &q); err != nil {
		return err
	}
	if err := s.studio.UseCalibration(c.Request.Context(), q.On); err != nil {
		return err
	}
	return s.apiCalibration(c)
}

func (s *server) apiAddSample(c *gin.Context) error {
	var q studio.SampleInput
	if err := decode(c, &q); err != nil {
		return err
	}
	if err := s.studio.AddSample(c.Request.Context(), q); err != nil {
		return err
	}
	return answer[studio.Calibration](c, http.StatusCreated)(s.studio.Calibration(c.Request.Context()))
}

func (s *server) apiUpdateSample(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.SampleInput
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	if err := s.studio.UpdateSample(c.Request.Context(), n, q.Version, q.SampleInput); err != nil {
		return err
	}
	return s.apiCalibration(c)
}
