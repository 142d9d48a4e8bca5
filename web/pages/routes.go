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
	get, post := answer.On(e.GET, s.fail), answer.On(e.POST, s.fail)
	get("/shelf", s.shelf)
	get("/shelf/pick", s.pickLots)
	get("/shelf/export.csv", s.exportLots)
	get("/shelf/import", s.importForm)
	post("/shelf/import", s.importPreview)
	post("/shelf/import/confirm", s.importConfirm)
	get("/stock", s.stockPage)
	get("/stock/live", s.liveStock)
	post("/stock/plate", s.changePlate)
	post("/stock/:id/count", s.countLot)
	post("/stock/:id/back", s.countBack)
	get("/lots/new", s.newLotForm)
	post("/lots/new", s.createLot)
	get("/lots/:id", s.lotPage)
	get("/lots/:id/edit", s.editLotForm)
	post("/lots/:id/edit", s.updateLot)
	post("/lots/:id/how", s.tellLot)
	post("/lots/:id/move", s.moveLot)
	post("/lots/:id/undo/:movement", s.undoMove)

	get("/makings", s.makings)
	post("/makings", s.createMaking)
	get("/makings/:id", s.makingPage)
	post("/makings/:id", s.updateMaking)
	post("/makings/:id/copy", s.copyMaking)
	post("/makings/:id/archive", s.archiveMaking)
	post("/makings/:id/blends", s.createBlend)
	get("/makings/:id/weighlist", s.weighListPage)
	get("/makings/:id/yarn", s.makingYarn)
	get("/makings/:id/skeins/new", s.newSkein)
	post("/makings/:id/skeins/new", s.saveSkein)
	get("/skeins/:id", s.skeinPage)
	post("/skeins/:id", s.saveSkein)
	get("/makings/:id/yarnsamples/new", s.newYarnSample)
	post("/makings/:id/yarnsamples/new", s.saveYarnSample)
	get("/yarnsamples/:id", s.yarnSamplePage)
	post("/yarnsamples/:id", s.saveYarnSample)
	get("/yarnsamples/:id/card", s.yarnSampleCard)
	post("/makings/:id/weighlist", s.weighOutAll)
	get("/blends/:id", s.blendPage)
	post("/blends/:id/change", changing(s, s.recipe()))
	get("/blends/:id/steps", listSteps(s, s.recipe()))
	get("/blends/:id/looks.json", s.blendLooks)
	get("/second.json", s.secondLook)
	post("/second/mend", s.takeMend)
	post("/second/undo", s.undoMend)
	post("/second/tell", s.tellLook)
	get("/advice", s.advicePage)
	get("/advice/:rule", s.rulePage)
	post("/advice/:rule/silence", s.silenceRule)
	post("/advice/:rule/bounds", s.saveBounds)
	get("/blends/:id/looks.png", s.blendPicture)
	post("/blends/:id/find", s.findProportions)
	post("/blends/:id/find/all", s.findAll)
	post("/blends/:id/mend", turns.Long(answer.Impatient, s.mendBlend))
	post("/blends/:id/dull", turns.Long(answer.Impatient, s.dullBlend))
	post("/blends/:id/addition", s.weighAddition)
	post("/blends/:id/copy", s.copyBlend)
	post("/reader", s.readUnder)
	get("/blends/:id/weigh", s.newWeighoutForm)
	post("/blends/:id/weigh", s.createWeighout)
	get("/blends/:id/layup", s.newLayupForm)
	post("/blends/:id/layup", s.createLayup)
	post("/makings/:id/schools", s.saveSchools)
	get("/layups/:id", s.layupPage)
	post("/layups/:id/change", changing(s, s.bed()))
	get("/layups/:id/steps", listSteps(s, s.bed()))
	get("/layups/:id/bench", s.benchPage)
	get("/layups/:id/card", s.cardPage)
	get("/layups/:id/card.json", s.foretell)
	get("/layups/:id/card.png", s.cardPicture)
	get("/layups/:id/parts", s.cardParts)
	get("/layups/:id/beside", s.cardBeside)
	post("/layups/:id/fit", s.fitCarder)
	post("/layups/:id/fit/use", s.useFit)
	get("/layups/:id/needs", s.cardNeeds)
	get("/layups/:id/now", s.layupNow)
	get("/layups/:id/yarn", s.yarnPage)
	get("/layups/:id/yarn.png", s.yarnPicture)
	get("/layups/:id/yarn/ways", s.yarnWays)
	get("/layups/:id/yarn/beside", s.yarnBeside)
	post("/yarns/:id/change", changing(s, s.yarnPiece()))
	get("/yarns/:id/steps", listSteps(s, s.yarnPiece()))
	get("/weighouts/:id", s.weighoutPage)
	get("/weighouts/:id/scale", s.scalePage)
	get("/weighouts/:id/scale.json", s.scaleNow)
	get("/weighouts/:id/live", s.livePlate)
	post("/weighouts/:id/plate", s.changePlate)
	post("/weighouts/:id/order", s.weighBy)
	post("/weighouts/:id/weigh", s.enterReading)
	post("/weighouts/:id/together", s.enterTogether)
	get("/weighouts/:id/runningout", s.runningOut)
	post("/weighouts/:id/goon", s.goOn)
	post("/weighouts/:id/undo", s.undoReading)
	post("/weighouts/:id/off", s.noteUnit)

	post("/weighouts/:id/runs", s.startRun)
	get("/runs/:id", s.runPage)
	post("/runs/:id/tell", s.tellRun)
	post("/runs/:id/photo", s.photoOfRun)
	get("/runs/:id/record", s.recordPage)
	post("/runs/:id/shelf", s.shelveRun)
	post("/runs/:id/decide", s.decideRun)
	post("/lots/:id/fleece", s.startFleece)
	get("/runs/:id/card", s.recordCard)
	post("/runs/:id/again", turns.Long(answer.Patient, s.makeAgain))
	get("/notebook", s.notebook)
	get("/day", s.dayPage)
	get("/day.ics", s.dayCalendar)
	get("/notebook/beside", s.notebookBeside)
	get("/notebook/swatches", s.swatches)
	post("/notebook/learning", s.learning)

	get("/makings/:id/need", s.needOfMaking)
	post("/makings/:id/need", s.startNeed)
	get("/needs/:id", s.needPage)
	post("/needs/:id/change", changing(s, s.need()))
	get("/needs/:id/steps", listSteps(s, s.need()))
	post("/needs/:id/give", s.giveWeights)

	get("/buy", s.buyPage)
	post("/buy", s.startBuyList)
	get("/buy/:id", s.buyListPage)
	get("/buy/:id/to-buy.csv", s.buyListCSV)
	post("/buy/:id/again", s.lookAgain)
	post("/buy/:id/came", s.cameIn)
	post("/buy/:id/price", s.notePrice)
	post("/sources", s.addSource)
	get("/sources/:id", s.sourcePage)
	post("/sources/:id", s.saveSource)
	post("/sources/:id/offers", s.saveOffer)

	post("/makings/:id/gradients", s.newGradient)
	post("/lots/:id/gradient", s.gradientFromLot)
	get("/gradients/:id", s.gradientPage)
	post("/gradients/:id/change", changing(s, s.ladder()))
	get("/gradients/:id/steps", listSteps(s, s.ladder()))
	post("/gradients/:id/blends", s.gradientBlends)

	get("/scraps", s.scrapBags)
	post("/scraps", s.createBag)
	get("/scraps/:id", s.bagPage)
	post("/scraps/:id/change", changing(s, s.bag()))
	get("/scraps/:id/steps", listSteps(s, s.bag()))
	post("/scraps/:id/blends", s.bagBlends)
	get("/photos", s.photos)
	post("/photos", s.addPhoto)
	get("/photos/:id", s.photoPage)
	get("/photos/:id/picture.png", answer.Picture(s.studio.PhotoFile))
	post("/photos/:id/name", s.renamePhoto)
	post("/photos/:id/card", s.setCard)
	post("/photos/:id/read", s.readSpot)
	post("/photos/:id/look", turns.Long(answer.Impatient, s.photoLook))
	post("/photos/:id/tolot", s.spotToLot)
	post("/photos/:id/palette", turns.Long(answer.Impatient, s.photoPalette))
	post("/photos/:id/throw", turns.Long(answer.Patient, s.throwFromPhoto))
	get("/calibration", s.calibrationPage)
	post("/calibration", s.saveSample)
	post("/calibration/switch", s.switchCalibration)
	post("/lots/:id/measure", s.measureLot)
	post("/lots/:id/colours/back", s.coloursBack)
	post("/blends/:id/target", s.setTarget)

	get("/workshop", s.workshop)
	post("/workshop", s.saveSettings)
	post("/ground", s.saveGround)
	get("/equipment/new", s.newEquipmentForm)
	post("/equipment/new", s.createEquipment)
	get("/equipment/:id", s.editEquipmentForm)
	post("/equipment/:id", s.updateEquipment)
	get("/equipment/:id/book", s.carderBook)
	post("/equipment/:id/cleanings", s.cleaned)
	get("/scales", s.scalesPage)
	post("/scales", s.saveScale)
	post("/containers", s.saveContainer)
	get("/kinds", s.kindsPage)
	get("/kinds/new", s.newKindForm)
	post("/kinds/new", s.createKind)
	get("/kinds/:id", s.editKindForm)
	post("/kinds/:id", s.updateKind)
	get("/bin", s.binPage)
	post("/bin/discard", s.discard)
	post("/bin/restore", s.restore)
	get("/api", s.apiPage)

	return s.fail, nil
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
	s.render(c, p.Status, "error", page{Title: p.Title}, p)
}

// wantsJSON tells a script's request from a person's.
func wantsJSON(c *gin.Context) bool {
	return strings.Contains(c.GetHeader("Accept"), "application/json")
}
