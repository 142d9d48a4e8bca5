package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/studio"
)

// layupRoutes are the calls about what lies where on the cloth.
func (s *server) layupRoutes(g *gin.RouterGroup) {
	get, post, put, del := s.on(g.GET), s.on(g.POST), s.on(g.PUT), s.on(g.DELETE)
	post("/layup/check", stateless(studio.CheckLayup))
	post("/layup/build", stateless(studio.BuildLayup))

	get("/schools", func(c *gin.Context) error {
		c.JSON(http.StatusOK, layup.Matters())
		return nil
	})
	get("/makings/:id/layups", one(s.studio.LayupsOfMaking))
	get("/blends/:id/equipment", one(s.studio.ChooseEquipment))
	get("/blends/:id/layups", one(s.studio.LayupsOfBlend))
	post("/blends/:id/layups", s.apiCreateLayup)
	post("/blends/:id/layups/build", s.apiBuildOnto)
	get("/layups/:id", one(s.studio.Layup))
	put("/layups/:id", s.apiSaveLayup)
	post("/layups/:id/changes", s.apiChangeLayup)
	del("/layups/:id", s.apiDiscard("layups"))
	post("/layups/:id/restore", s.apiRestore("layups"))
}

func (s *server) apiCreateLayup(c *gin.Context) error {
	var q studio.LayupInput
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Layup](c, http.StatusCreated)(s.studio.CreateLayup(c.Request.Context(), n, q))
}

func (s *server) apiBuildOnto(c *gin.Context) error {
	var q struct {
		EquipmentID int64  `json:"equipment_id"`
		Units       int    `json:"units"`
		Name        string `json:"name"`
		studio.BuildInput
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Layup](c, http.StatusCreated)(s.studio.BuildOnto(c.Request.Context(), n, q.EquipmentID, q.Units, q.Name, q.BuildInput))
}

func (s *server) apiSaveLayup(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.LayupInput
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Layup](c, http.StatusOK)(s.studio.SaveLayup(c.Request.Context(), n, q.Version, q.LayupInput, true))
}

// apiChangeLayup does one change to a lay-up as it stands and keeps it.
func (s *server) apiChangeLayup(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.LayupChange
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	now, err := s.studio.Layup(c.Request.Context(), n)
	if err != nil {
		return err
	}
	next, err := s.studio.ApplyLayup(c.Request.Context(), n, now.LayupInput, q.LayupChange)
	if err != nil {
		return err
	}
	return answer[studio.Layup](c, http.StatusOK)(s.studio.SaveLayup(c.Request.Context(), n, q.Version, next.LayupInput, false))
}
