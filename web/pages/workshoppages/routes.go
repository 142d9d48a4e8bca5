package workshoppages

import (
	"fairtangle/web/pages/frame"
)

// Routes lead to the workshop, its equipment, scales and kinds, and the bin.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/workshop", s.workshop)
	r.Deed("/workshop", s.saveSettings)
	r.Deed("/ground", s.saveGround)
	r.Get("/equipment/new", s.newEquipmentForm)
	r.Deed("/equipment/new", s.createEquipment)
	r.Get("/equipment/:id", s.editEquipmentForm)
	r.Deed("/equipment/:id", s.updateEquipment)
	r.Get("/scales", s.scalesPage)
	r.Deed("/scales", s.saveScale)
	r.Deed("/containers", s.saveContainer)
	r.Get("/tools", s.toolsPage)
	r.Deed("/tools", s.saveTool)
	r.Get("/kinds", s.kindsPage)
	r.Get("/kinds/new", s.newKindForm)
	r.Deed("/kinds/new", s.createKind)
	r.Get("/kinds/:id", s.editKindForm)
	r.Deed("/kinds/:id", s.updateKind)
	r.Deed("/kinds/short", s.addShortName)
	r.Deed("/kinds/short/drop", s.dropShortName)
	r.Get("/devices", s.devices)
	r.Ask("/devices/tokens", s.addToken)
	r.Deed("/devices/withdraw", s.dropToken)
	r.Ask("/devices/out", s.signOut)
	r.Get("/copies", s.copies)
	r.Ask("/copies", s.makeCopy)
	r.Deed("/copies/folder", s.copiesFolder)
	r.Ask("/copies/begin", s.beginWith)
	r.Ask("/copies/in", s.takeIn)
	r.Get("/copies/:name/zip", s.takeCopy)
	r.Get("/copies/:name/newer", s.newer)
	r.Ask("/copies/:name/newer", s.takeOver)
	r.Get("/bin", s.binPage)
	r.Deed("/bin/discard", s.discard)
	r.Deed("/bin/restore", s.restore)
	r.Get("/api", s.apiPage)
}
