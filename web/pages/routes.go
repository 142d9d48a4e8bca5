package pages

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/unit"
	"fairtangle/studio"
	"fairtangle/web/answer"
)

// Routes registers every page; demo says on each that it is the sample world, and
// what computes for long takes turns; pans are where the simulated scales are worked, by
// their address. It returns the handler that answers people with an error.
func Routes(e *gin.Engine, st *studio.Studio, demo bool, turns *answer.Turns, pans map[string]string) (fail func(*gin.Context, error), err error) {
	s := &server{studio: st, demo: demo, turns: turns, pans: pans}
	if s.assets, err = loadAssets(); err != nil {
		return nil, err
	}
	if s.templates, err = loadTemplates(s.assets); err != nil {
		return nil, err
	}
	e.GET("/", func(c *gin.Context) { c.Redirect(http.StatusSeeOther, "/makings") })
	e.GET("/favicon.ico", func(c *gin.Context) { c.Redirect(http.StatusMovedPermanently, s.assets.url("img/mark.svg")) })
	e.GET("/static/:version/*path", s.assets.serve)
	get, ask := watched(answer.On(e.GET, s.fail)), watched(answer.On(e.POST, s.fail))
	r := routes{get, ask, answer.Deeds(st, ask)}
	s.shelfRoutes(r)
	s.scaleRoutes(r)
	s.recipeRoutes(r)
	s.layingRoutes(r)
	s.yarnsRoutes(r)
	s.carderRoutes(r)
	s.notebookRoutes(r)
	s.buyingRoutes(r)
	s.reachRoutes(r)
	s.advisingRoutes(r)
	s.workshopRoutes(r)
	s.pagesRoutes(r)
	return s.fail, nil
}

// routes are how requests come to handlers: what is got keeps nothing, what is asked keeps nothing, or one
// thing after a long look, and a deed is whole or not done.
type routes struct {
	get, ask, deed func(path string, h answer.Handler)
}

// shelfRoutes lead to lots, what comes in and goes out.
func (s *server) shelfRoutes(r routes) {
	r.get("/shelf", s.shelf)
	r.get("/shelf/pick", s.pickLots)
	r.get("/shelf/export.csv", s.exportLots)
	r.get("/shelf/import", s.importForm)
	r.ask("/shelf/import", s.importPreview)
	r.deed("/shelf/import/confirm", s.importConfirm)
	r.get("/lots/new", s.newLotForm)
	r.deed("/lots/new", s.createLot)
	r.get("/lots/:id", s.lotPage)
	r.get("/lots/:id/edit", s.editLotForm)
	r.deed("/lots/:id/edit", s.updateLot)
	r.deed("/lots/:id/how", s.tellLot)
	r.deed("/lots/:id/move", s.moveLot)
	r.deed("/lots/:id/undo/:movement", s.undoMove)
}

// recipeRoutes lead to makings and their blends.
func (s *server) recipeRoutes(r routes) {
	r.get("/makings", s.makings)
	r.deed("/makings", s.createMaking)
	r.get("/makings/:id", s.makingPage)
	r.deed("/makings/:id", s.updateMaking)
	r.deed("/makings/:id/copy", s.copyMaking)
	r.deed("/makings/:id/archive", s.archiveMaking)
	r.deed("/makings/:id/blends", s.createBlend)
	r.get("/blends/:id", s.blendPage)
	r.ask("/blends/:id/change", changing(s, s.recipe()))
	r.get("/blends/:id/steps", listSteps(s, s.recipe()))
	r.ask("/blends/:id/find", s.findProportions)
	r.ask("/blends/:id/find/all", s.findAll)
	r.ask("/blends/:id/mend", s.turns.Long(answer.Impatient, s.mendBlend))
	r.ask("/blends/:id/dull", s.turns.Long(answer.Impatient, s.dullBlend))
	r.deed("/blends/:id/copy", s.copyBlend)
	r.deed("/blends/:id/target", s.setTarget)
}

// layingRoutes lead to lay-ups, and what carding them is expected to give.
func (s *server) layingRoutes(r routes) {
	r.get("/blends/:id/looks.json", s.blendLooks)
	r.get("/blends/:id/looks.png", s.blendPicture)
	r.get("/blends/:id/layup", s.newLayupForm)
	r.deed("/blends/:id/layup", s.createLayup)
	r.deed("/makings/:id/schools", s.saveSchools)
	r.get("/layups/:id", s.layupPage)
	r.ask("/layups/:id/change", changing(s, s.bed()))
	r.get("/layups/:id/steps", listSteps(s, s.bed()))
	r.get("/layups/:id/bench", s.benchPage)
	r.get("/layups/:id/card", s.cardPage)
	r.get("/layups/:id/card.json", s.foretell)
	r.get("/layups/:id/card.png", s.cardPicture)
	r.get("/layups/:id/parts", s.cardParts)
	r.get("/layups/:id/beside", s.cardBeside)
	r.ask("/layups/:id/fit", s.fitCarder)
	r.deed("/layups/:id/fit/use", s.useFit)
	r.get("/layups/:id/needs", s.cardNeeds)
	r.get("/layups/:id/now", s.layupNow)
}

// yarnsRoutes lead to needs, yarn, samples and skeins.
func (s *server) yarnsRoutes(r routes) {
	r.get("/makings/:id/need", s.needOfMaking)
	r.deed("/makings/:id/need", s.startNeed)
	r.get("/needs/:id", s.needPage)
	r.ask("/needs/:id/change", changing(s, s.need()))
	r.get("/needs/:id/steps", listSteps(s, s.need()))
	r.deed("/needs/:id/give", s.giveWeights)
	r.get("/makings/:id/yarn", s.makingYarn)
	r.get("/makings/:id/skeins/new", s.newSkein)
	r.deed("/makings/:id/skeins/new", s.saveSkein)
	r.get("/skeins/:id", s.skeinPage)
	r.deed("/skeins/:id", s.saveSkein)
	r.get("/makings/:id/yarnsamples/new", s.newYarnSample)
	r.deed("/makings/:id/yarnsamples/new", s.saveYarnSample)
	r.get("/yarnsamples/:id", s.yarnSamplePage)
	r.deed("/yarnsamples/:id", s.saveYarnSample)
	r.get("/yarnsamples/:id/card", s.yarnSampleCard)
	r.get("/layups/:id/yarn", s.yarnPage)
	r.get("/layups/:id/yarn.png", s.yarnPicture)
	r.get("/layups/:id/yarn/ways", s.yarnWays)
	r.get("/layups/:id/yarn/beside", s.yarnBeside)
	r.ask("/yarns/:id/change", changing(s, s.yarnPiece()))
	r.get("/yarns/:id/steps", listSteps(s, s.yarnPiece()))
}

// scaleRoutes lead to weighing out, lists over several blends, and stock-taking.
func (s *server) scaleRoutes(r routes) {
	r.get("/stock", s.stockPage)
	r.get("/stock/live", s.liveStock)
	r.ask("/stock/plate", s.changePlate)
	r.deed("/stock/:id/count", s.countLot)
	r.deed("/stock/:id/back", s.countBack)
	r.get("/makings/:id/weighlist", s.weighListPage)
	r.deed("/makings/:id/weighlist", s.weighOutAll)
	r.deed("/blends/:id/addition", s.weighAddition)
	r.get("/blends/:id/weigh", s.newWeighoutForm)
	r.deed("/blends/:id/weigh", s.createWeighout)
	r.get("/weighouts/:id", s.weighoutPage)
	r.get("/weighouts/:id/scale", s.scalePage)
	r.get("/weighouts/:id/scale.json", s.scaleNow)
	r.get("/weighouts/:id/live", s.livePlate)
	r.ask("/weighouts/:id/plate", s.changePlate)
	r.deed("/weighouts/:id/order", s.weighBy)
	r.deed("/weighouts/:id/weigh", s.enterReading)
	r.deed("/weighouts/:id/together", s.enterTogether)
	r.deed("/weighouts/:id/undo", s.undoReading)
	r.deed("/weighouts/:id/off", s.noteUnit)
}

// carderRoutes lead to runs, records and raw fleeces.
func (s *server) carderRoutes(r routes) {
	r.get("/weighouts/:id/runningout", s.runningOut)
	r.deed("/weighouts/:id/goon", s.goOn)
	r.deed("/weighouts/:id/runs", s.startRun)
	r.get("/runs/:id", s.runPage)
	r.deed("/runs/:id/tell", s.tellRun)
	r.ask("/runs/:id/photo", s.photoOfRun)
	r.get("/runs/:id/record", s.recordPage)
	r.deed("/runs/:id/shelf", s.shelveRun)
	r.deed("/runs/:id/decide", s.decideRun)
	r.deed("/lots/:id/fleece", s.startFleece)
	r.ask("/runs/:id/again", s.turns.Long(answer.Patient, s.makeAgain))
	r.get("/equipment/:id/book", s.carderBook)
	r.deed("/equipment/:id/cleanings", s.cleaned)
}

// notebookRoutes lead to what was made, and the order of a day.
func (s *server) notebookRoutes(r routes) {
	r.get("/runs/:id/card", s.recordCard)
	r.get("/notebook", s.notebook)
	r.get("/day", s.dayPage)
	r.get("/day.ics", s.dayCalendar)
	r.get("/notebook/beside", s.notebookBeside)
	r.get("/notebook/swatches", s.swatches)
	r.deed("/notebook/learning", s.learning)
}

// buyingRoutes lead to what is bought, and where.
func (s *server) buyingRoutes(r routes) {
	r.get("/buy", s.buyPage)
	r.deed("/buy", s.startBuyList)
	r.get("/buy/:id", s.buyListPage)
	r.get("/buy/:id/to-buy.csv", s.buyListCSV)
	r.deed("/buy/:id/again", s.lookAgain)
	r.deed("/buy/:id/came", s.cameIn)
	r.deed("/buy/:id/price", s.notePrice)
	r.deed("/sources", s.addSource)
	r.get("/sources/:id", s.sourcePage)
	r.deed("/sources/:id", s.saveSource)
	r.deed("/sources/:id/offers", s.saveOffer)
}

// reachRoutes lead to photos, samples, scraps and gradients.
func (s *server) reachRoutes(r routes) {
	r.ask("/reader", s.readUnder)
	r.deed("/makings/:id/gradients", s.newGradient)
	r.deed("/lots/:id/gradient", s.gradientFromLot)
	r.get("/gradients/:id", s.gradientPage)
	r.ask("/gradients/:id/change", changing(s, s.ladder()))
	r.get("/gradients/:id/steps", listSteps(s, s.ladder()))
	r.deed("/gradients/:id/blends", s.gradientBlends)
	r.get("/scraps", s.scrapBags)
	r.deed("/scraps", s.createBag)
	r.get("/scraps/:id", s.bagPage)
	r.ask("/scraps/:id/change", changing(s, s.bag()))
	r.get("/scraps/:id/steps", listSteps(s, s.bag()))
	r.deed("/scraps/:id/blends", s.bagBlends)
	r.get("/photos", s.photos)
	r.ask("/photos", s.addPhoto)
	r.get("/photos/:id", s.photoPage)
	r.get("/photos/:id/picture.png", answer.Picture(s.studio.Shelf.PhotoFile))
	r.deed("/photos/:id/name", s.renamePhoto)
	r.deed("/photos/:id/card", s.setCard)
	r.ask("/photos/:id/read", s.readSpot)
	r.ask("/photos/:id/look", s.turns.Long(answer.Impatient, s.photoLook))
	r.deed("/photos/:id/tolot", s.spotToLot)
	r.ask("/photos/:id/palette", s.turns.Long(answer.Impatient, s.photoPalette))
	r.ask("/photos/:id/throw", s.turns.Long(answer.Patient, s.throwFromPhoto))
	r.get("/calibration", s.calibrationPage)
	r.deed("/calibration", s.saveSample)
	r.deed("/calibration/switch", s.switchCalibration)
	r.ask("/lots/:id/measure", s.measureLot)
	r.deed("/lots/:id/colours/back", s.coloursBack)
}

// advisingRoutes lead to the second look, its rules and what is told.
func (s *server) advisingRoutes(r routes) {
	r.get("/second.json", s.secondLook)
	r.deed("/second/mend", s.takeMend)
	r.deed("/second/undo", s.undoMend)
	r.deed("/second/tell", s.tellLook)
	r.get("/advice", s.advicePage)
	r.get("/advice/:rule", s.rulePage)
	r.deed("/advice/:rule/silence", s.silenceRule)
	r.deed("/advice/:rule/bounds", s.saveBounds)
}

// workshopRoutes lead to the workshop, its equipment, scales and kinds, and the bin.
func (s *server) workshopRoutes(r routes) {
	r.get("/workshop", s.workshop)
	r.deed("/workshop", s.saveSettings)
	r.deed("/ground", s.saveGround)
	r.get("/equipment/new", s.newEquipmentForm)
	r.deed("/equipment/new", s.createEquipment)
	r.get("/equipment/:id", s.editEquipmentForm)
	r.deed("/equipment/:id", s.updateEquipment)
	r.get("/scales", s.scalesPage)
	r.deed("/scales", s.saveScale)
	r.deed("/containers", s.saveContainer)
	r.get("/kinds", s.kindsPage)
	r.get("/kinds/new", s.newKindForm)
	r.deed("/kinds/new", s.createKind)
	r.get("/kinds/:id", s.editKindForm)
	r.deed("/kinds/:id", s.updateKind)
	r.get("/bin", s.binPage)
	r.deed("/bin/discard", s.discard)
	r.deed("/bin/restore", s.restore)
}

// pagesRoutes lead to the API in words.
func (s *server) pagesRoutes(r routes) {
	r.get("/api", s.apiPage)
}

// fail answers with an error: a page to people, a problem to their scripts, in
// the maker's units.
func (s *server) fail(c *gin.Context, err error) {
	var words unit.Words = unit.Metric{}
	if u, _, unitsErr := s.units(c); unitsErr == nil {
		err, words = answer.ShortIn(u, err), u
	}
	p := answer.Describe(words, err)
	if p.Status >= 500 {
		_ = c.Error(err)
	}
	if wantsJSON(c) {
		answer.Send(c, p)
		return
	}
	c.Abort()
	b := errorBody{Problem: p}
	if p.Status >= 400 && p.Status != http.StatusNotFound {
		if table, id := wayFrom(c.Request.URL.Path); table != "" {
			b.Table, b.ID, b.What = table, id, binWords[table]
			if of, ofID := s.studio.Floor.Within(c.Request.Context(), table, id); of != "" {
				b.Of, b.Href = binWords[of], homeOf(of, ofID)
			}
		}
	}
	s.render(c, p.Status, "error", page{Title: p.Title}, b)
}

// errorBody is an error with the way to what is wrong: its page, and the bin.
type errorBody struct {
	answer.Problem
	Table, What, Of, Href string
	ID                    int64
}

// wantsJSON tells a script's request from a person's.
func wantsJSON(c *gin.Context) bool {
	return strings.Contains(c.GetHeader("Accept"), "application/json")
}
