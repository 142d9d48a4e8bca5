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
	// What is asked keeps nothing, or one thing after a long look; a deed is whole or not done.
	get, ask := answer.On(e.GET, s.fail), answer.On(e.POST, s.fail)
	get, ask = watched(get), watched(ask)
	deed := answer.Deeds(st, ask)
	get("/shelf", s.shelf)
	get("/shelf/pick", s.pickLots)
	get("/shelf/export.csv", s.exportLots)
	get("/shelf/import", s.importForm)
	ask("/shelf/import", s.importPreview)
	deed("/shelf/import/confirm", s.importConfirm)
	get("/stock", s.stockPage)
	get("/stock/live", s.liveStock)
	ask("/stock/plate", s.changePlate)
	deed("/stock/:id/count", s.countLot)
	deed("/stock/:id/back", s.countBack)
	get("/lots/new", s.newLotForm)
	deed("/lots/new", s.createLot)
	get("/lots/:id", s.lotPage)
	get("/lots/:id/edit", s.editLotForm)
	deed("/lots/:id/edit", s.updateLot)
	deed("/lots/:id/how", s.tellLot)
	deed("/lots/:id/move", s.moveLot)
	deed("/lots/:id/undo/:movement", s.undoMove)

	get("/makings", s.makings)
	deed("/makings", s.createMaking)
	get("/makings/:id", s.makingPage)
	deed("/makings/:id", s.updateMaking)
	deed("/makings/:id/copy", s.copyMaking)
	deed("/makings/:id/archive", s.archiveMaking)
	deed("/makings/:id/blends", s.createBlend)
	get("/makings/:id/weighlist", s.weighListPage)
	get("/makings/:id/yarn", s.makingYarn)
	get("/makings/:id/skeins/new", s.newSkein)
	deed("/makings/:id/skeins/new", s.saveSkein)
	get("/skeins/:id", s.skeinPage)
	deed("/skeins/:id", s.saveSkein)
	get("/makings/:id/yarnsamples/new", s.newYarnSample)
	deed("/makings/:id/yarnsamples/new", s.saveYarnSample)
	get("/yarnsamples/:id", s.yarnSamplePage)
	deed("/yarnsamples/:id", s.saveYarnSample)
	get("/yarnsamples/:id/card", s.yarnSampleCard)
	deed("/makings/:id/weighlist", s.weighOutAll)
	get("/blends/:id", s.blendPage)
	ask("/blends/:id/change", changing(s, s.recipe()))
	get("/blends/:id/steps", listSteps(s, s.recipe()))
	get("/blends/:id/looks.json", s.blendLooks)
	get("/second.json", s.secondLook)
	deed("/second/mend", s.takeMend)
	deed("/second/undo", s.undoMend)
	deed("/second/tell", s.tellLook)
	get("/advice", s.advicePage)
	get("/advice/:rule", s.rulePage)
	deed("/advice/:rule/silence", s.silenceRule)
	deed("/advice/:rule/bounds", s.saveBounds)
	get("/blends/:id/looks.png", s.blendPicture)
	ask("/blends/:id/find", s.findProportions)
	ask("/blends/:id/find/all", s.findAll)
	ask("/blends/:id/mend", turns.Long(answer.Impatient, s.mendBlend))
	ask("/blends/:id/dull", turns.Long(answer.Impatient, s.dullBlend))
	deed("/blends/:id/addition", s.weighAddition)
	deed("/blends/:id/copy", s.copyBlend)
	ask("/reader", s.readUnder)
	get("/blends/:id/weigh", s.newWeighoutForm)
	deed("/blends/:id/weigh", s.createWeighout)
	get("/blends/:id/layup", s.newLayupForm)
	deed("/blends/:id/layup", s.createLayup)
	deed("/makings/:id/schools", s.saveSchools)
	get("/layups/:id", s.layupPage)
	ask("/layups/:id/change", changing(s, s.bed()))
	get("/layups/:id/steps", listSteps(s, s.bed()))
	get("/layups/:id/bench", s.benchPage)
	get("/layups/:id/card", s.cardPage)
	get("/layups/:id/card.json", s.foretell)
	get("/layups/:id/card.png", s.cardPicture)
	get("/layups/:id/parts", s.cardParts)
	get("/layups/:id/beside", s.cardBeside)
	ask("/layups/:id/fit", s.fitCarder)
	deed("/layups/:id/fit/use", s.useFit)
	get("/layups/:id/needs", s.cardNeeds)
	get("/layups/:id/now", s.layupNow)
	get("/layups/:id/yarn", s.yarnPage)
	get("/layups/:id/yarn.png", s.yarnPicture)
	get("/layups/:id/yarn/ways", s.yarnWays)
	get("/layups/:id/yarn/beside", s.yarnBeside)
	ask("/yarns/:id/change", changing(s, s.yarnPiece()))
	get("/yarns/:id/steps", listSteps(s, s.yarnPiece()))
	get("/weighouts/:id", s.weighoutPage)
	get("/weighouts/:id/scale", s.scalePage)
	get("/weighouts/:id/scale.json", s.scaleNow)
	get("/weighouts/:id/live", s.livePlate)
	ask("/weighouts/:id/plate", s.changePlate)
	deed("/weighouts/:id/order", s.weighBy)
	deed("/weighouts/:id/weigh", s.enterReading)
	deed("/weighouts/:id/together", s.enterTogether)
	get("/weighouts/:id/runningout", s.runningOut)
	deed("/weighouts/:id/goon", s.goOn)
	deed("/weighouts/:id/undo", s.undoReading)
	deed("/weighouts/:id/off", s.noteUnit)

	deed("/weighouts/:id/runs", s.startRun)
	get("/runs/:id", s.runPage)
	deed("/runs/:id/tell", s.tellRun)
	ask("/runs/:id/photo", s.photoOfRun)
	get("/runs/:id/record", s.recordPage)
	deed("/runs/:id/shelf", s.shelveRun)
	deed("/runs/:id/decide", s.decideRun)
	deed("/lots/:id/fleece", s.startFleece)
	get("/runs/:id/card", s.recordCard)
	ask("/runs/:id/again", turns.Long(answer.Patient, s.makeAgain))
	get("/notebook", s.notebook)
	get("/day", s.dayPage)
	get("/day.ics", s.dayCalendar)
	get("/notebook/beside", s.notebookBeside)
	get("/notebook/swatches", s.swatches)
	deed("/notebook/learning", s.learning)

	get("/makings/:id/need", s.needOfMaking)
	deed("/makings/:id/need", s.startNeed)
	get("/needs/:id", s.needPage)
	ask("/needs/:id/change", changing(s, s.need()))
	get("/needs/:id/steps", listSteps(s, s.need()))
	deed("/needs/:id/give", s.giveWeights)

	get("/buy", s.buyPage)
	deed("/buy", s.startBuyList)
	get("/buy/:id", s.buyListPage)
	get("/buy/:id/to-buy.csv", s.buyListCSV)
	deed("/buy/:id/again", s.lookAgain)
	deed("/buy/:id/came", s.cameIn)
	deed("/buy/:id/price", s.notePrice)
	deed("/sources", s.addSource)
	get("/sources/:id", s.sourcePage)
	deed("/sources/:id", s.saveSource)
	deed("/sources/:id/offers", s.saveOffer)

	deed("/makings/:id/gradients", s.newGradient)
	deed("/lots/:id/gradient", s.gradientFromLot)
	get("/gradients/:id", s.gradientPage)
	ask("/gradients/:id/change", changing(s, s.ladder()))
	get("/gradients/:id/steps", listSteps(s, s.ladder()))
	deed("/gradients/:id/blends", s.gradientBlends)

	get("/scraps", s.scrapBags)
	deed("/scraps", s.createBag)
	get("/scraps/:id", s.bagPage)
	ask("/scraps/:id/change", changing(s, s.bag()))
	get("/scraps/:id/steps", listSteps(s, s.bag()))
	deed("/scraps/:id/blends", s.bagBlends)
	get("/photos", s.photos)
	ask("/photos", s.addPhoto)
	get("/photos/:id", s.photoPage)
	get("/photos/:id/picture.png", answer.Picture(s.studio.PhotoFile))
	deed("/photos/:id/name", s.renamePhoto)
	deed("/photos/:id/card", s.setCard)
	ask("/photos/:id/read", s.readSpot)
	ask("/photos/:id/look", turns.Long(answer.Impatient, s.photoLook))
	deed("/photos/:id/tolot", s.spotToLot)
	ask("/photos/:id/palette", turns.Long(answer.Impatient, s.photoPalette))
	ask("/photos/:id/throw", turns.Long(answer.Patient, s.throwFromPhoto))
	get("/calibration", s.calibrationPage)
	deed("/calibration", s.saveSample)
	deed("/calibration/switch", s.switchCalibration)
	ask("/lots/:id/measure", s.measureLot)
	deed("/lots/:id/colours/back", s.coloursBack)
	deed("/blends/:id/target", s.setTarget)

	get("/workshop", s.workshop)
	deed("/workshop", s.saveSettings)
	deed("/ground", s.saveGround)
	get("/equipment/new", s.newEquipmentForm)
	deed("/equipment/new", s.createEquipment)
	get("/equipment/:id", s.editEquipmentForm)
	deed("/equipment/:id", s.updateEquipment)
	get("/equipment/:id/book", s.carderBook)
	deed("/equipment/:id/cleanings", s.cleaned)
	get("/scales", s.scalesPage)
	deed("/scales", s.saveScale)
	deed("/containers", s.saveContainer)
	get("/kinds", s.kindsPage)
	get("/kinds/new", s.newKindForm)
	deed("/kinds/new", s.createKind)
	get("/kinds/:id", s.editKindForm)
	deed("/kinds/:id", s.updateKind)
	get("/bin", s.binPage)
	deed("/bin/discard", s.discard)
	deed("/bin/restore", s.restore)
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
	b := errorBody{Problem: p}
	if p.Status >= 400 && p.Status != http.StatusNotFound {
		if table, id := wayFrom(c.Request.URL.Path); table != "" {
			b.Table, b.ID, b.What = table, id, binWords[table]
			if of, ofID := s.studio.Within(c.Request.Context(), table, id); of != "" {
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
