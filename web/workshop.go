package web

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/web/show"
)

type workshopBody struct {
	Form      form
	Equipment []store.Equipment
	Presets   []store.Equipment
	Own       int
	Kinds     int
	Steps     []option
	Models    []option

	Calibrated bool
}

var modelOptions = []option{
	{"stearns-noechel", "Stearns–Noechel"}, {"friele", "Friele"}, {"kubelka-munk", "Kubelka–Munk"},
}

func (s *server) workshop(c *gin.Context) error {
	set, err := s.studio.Settings(c.Request.Context())
	if err != nil {
		return err
	}
	f := newForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(set.Version, 10), "weight_unit": set.WeightUnit, "length_unit": set.LengthUnit,
		"step": show.Number(float64(set.StepMg.Grams())), "ground": set.Ground, "model": set.Model,
		"model_parameter": show.Number(set.ModelParameter), "currency": set.Currency, "reader_address": set.ReaderAddress,
	}
	if set.CoveringPower {
		f.Values["covering_power"] = "yes"
	}
	return s.showWorkshop(c, http.StatusOK, f)
}

func (s *server) showWorkshop(c *gin.Context, status int, f form) error {
	list, err := s.studio.Equipment(c.Request.Context())
	if err != nil {
		return err
	}
	own, err := s.studio.OwnKinds(c.Request.Context())
	if err != nil {
		return err
	}
	u, set, err := s.units(c)
	if err != nil {
		return err
	}
	s.render(c, status, "workshop", page{Title: "Workshop", Here: "workshop"}, workshopBody{
		Form: f, Equipment: list, Presets: studio.Presets(), Own: len(own), Kinds: len(fibre.Kinds()), Steps: stepOptions(u), Models: modelOptions, Calibrated: set.Calibrated,
	})
	return nil
}

func (s *server) saveSettings(c *gin.Context) error {
	if err := c.Request.ParseForm(); err != nil {
		return err
	}
	v := c.Request.PostForm
	r := &reader{v: v}
	now, err := s.studio.Settings(c.Request.Context())
	if err != nil {
		return err
	}
	set := store.Settings{
		Calibrated: now.Calibrated, ReaderAddress: v.Get("reader_address"),
		Base: store.Base{Version: r.version()}, WeightUnit: v.Get("weight_unit"), LengthUnit: v.Get("length_unit"), Ground: v.Get("ground"),
		Model: v.Get("model"), CoveringPower: v.Get("covering_power") != "", Currency: v.Get("currency"),
		StepMg: unit.Grams(r.number("step", "the scale's step")).Milligrams(),
	}
	if v.Get("model_parameter") != "" {
		set.ModelParameter = r.number("model_parameter", "the model's parameter")
	}
	err = r.wrong.Err()
	if err == nil {
		_, err = s.studio.SaveSettings(c.Request.Context(), set)
	}
	if err == nil {
		goTo(c, "/workshop", "saved")
		return nil
	}
	f := typed(v)
	if now, ok := staleAs[store.Settings](err); ok {
		f.stale(now.Version, "")
		return s.showWorkshop(c, http.StatusConflict, f)
	}
	if !f.with(err) {
		return err
	}
	for from, to := range map[string]string{"step_g": "step", "model.name": "model", "model.parameter": "model_parameter"} {
		if m := f.Errors[from]; m != "" {
			f.Errors[to] = m
		}
	}
	return s.showWorkshop(c, http.StatusUnprocessableEntity, f)
}

// saveGround switches the ground from any page and goes back to it.
func (s *server) saveGround(c *gin.Context) error {
	for range 3 { // a settings page may be saving at the same time
		set, err := s.studio.Settings(c.Request.Context())
		if err != nil {
			return err
		}
		set.Ground = c.PostForm("ground")
		_, err = s.studio.SaveSettings(c.Request.Context(), set)
		var stale store.Stale
		if errors.As(err, &stale) {
			continue
		}
		if err != nil {
			return err
		}
		break
	}
	c.Redirect(http.StatusSeeOther, ownPath(c.PostForm("back"), "/"))
	return nil
}

// ownPath is a page of this program to go back to, or another where what was
// sent is none.
func ownPath(back, other string) string {
	if !strings.HasPrefix(back, "/") || strings.HasPrefix(back, "//") || strings.Contains(back, `\`) {
		return other
	}
	return back
}

// Fields of the equipment form with their labels.
var equipmentNumbers = []option{
	{"width_mm", "Width of the cloth, mm"}, {"length_mm", "Length of the board or round the drum, mm"}, {"tpi", "Points per square inch"},
	{"tooth_mm", "Height of the teeth, mm"}, {"smooth_g", "Holds of smooth fibre, g"}, {"lofty_g", "Holds of lofty fibre, g"},
	{"minutes", "Minutes for one filling"}, {"feed_g", "Fed in one turn, g (0 on boards and cards)"},
}

type equipmentBody struct {
	Form    form
	ID      int64
	Numbers []option
	Types   []string
	Drives  []string
}

func (s *server) showEquipment(c *gin.Context, status int, f form, id int64) error {
	title := "New equipment"
	if id != 0 {
		title = f.V("name")
	}
	s.render(c, status, "equipment", page{Title: title, Here: "workshop"}, equipmentBody{f, id, equipmentNumbers, studio.EquipmentTypes, studio.Drives})
	return nil
}

func equipmentForm(e store.Equipment) form {
	f := newForm()
	f.Values = map[string]string{"version": strconv.FormatInt(e.Version, 10), "name": e.Name, "type": e.Type, "drive": e.Drive, "note": e.Note, "preset": e.Preset}
	for k, p := range equipmentFields(&e) {
		f.Values[k] = show.Number(*p)
	}
	return f
}

func equipmentFields(e *store.Equipment) map[string]*float64 {
	return map[string]*float64{
		"width_mm": &e.WidthMM, "length_mm": &e.LengthMM, "tpi": &e.TPI, "tooth_mm": &e.ToothMM,
		"smooth_g": &e.SmoothG, "lofty_g": &e.LoftyG, "minutes": &e.Minutes, "feed_g": &e.FeedG,
	}
}

func (s *server) newEquipmentForm(c *gin.Context) error {
	for _, p := range studio.Presets() {
		if p.Preset == c.Query("preset") {
			p.Version = 0
			return s.showEquipment(c, http.StatusOK, equipmentForm(p), 0)
		}
	}
	f := newForm()
	f.Values["type"], f.Values["drive"] = "drum", "hand"
	return s.showEquipment(c, http.StatusOK, f, 0)
}

func (s *server) createEquipment(c *gin.Context) error { return s.saveEquipment(c, 0) }

func (s *server) editEquipmentForm(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	e, err := s.studio.OneEquipment(c.Request.Context(), n)
	if err != nil {
		return err
	}
	return s.showEquipment(c, http.StatusOK, equipmentForm(e), n)
}

func (s *server) updateEquipment(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	return s.saveEquipment(c, n)
}

func (s *server) saveEquipment(c *gin.Context, n int64) error {
	if err := c.Request.ParseForm(); err != nil {
		return err
	}
	v := c.Request.PostForm
	r := &reader{v: v}
	e := store.Equipment{Base: store.Base{ID: n, Version: r.version()}, Preset: v.Get("preset"), Name: v.Get("name"), Type: v.Get("type"), Drive: v.Get("drive"), Note: v.Get("note")}
	for _, o := range equipmentNumbers {
		*equipmentFields(&e)[o.Value] = r.number(o.Value, "a number")
	}
	err := r.wrong.Err()
	if err == nil {
		_, err = s.studio.SaveEquipment(c.Request.Context(), e)
	}
	if err == nil {
		goTo(c, "/workshop", "saved")
		return nil
	}
	f := typed(v)
	if now, ok := staleAs[store.Equipment](err); ok {
		f.stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showEquipment(c, http.StatusConflict, f, n)
	}
	if !f.with(err) {
		return err
	}
	return s.showEquipment(c, http.StatusUnprocessableEntity, f, n)
}

type kindsBody struct {
	Own      []fibre.Kind
	IDs      []int64
	Families []string
	By       map[string][]fibre.Kind
}

func (s *server) kindsPage(c *gin.Context) error {
	rows, err := s.studio.OwnKinds(c.Request.Context())
	if err != nil {
		return err
	}
	var b kindsBody
	all, err := s.studio.AllKinds(c.Request.Context(), false)
	if err != nil {
		return err
	}
	for _, r := range rows {
		k, _ := all.Find(fmt.Sprintf("own-%d", r.ID))
		b.Own, b.IDs = append(b.Own, k), append(b.IDs, r.ID)
	}
	b.Families, b.By = studio.KindOptions(fibre.Kinds())
	s.render(c, http.StatusOK, "kinds", page{Title: "Kinds of fibre", Here: "workshop"}, b)
	return nil
}

type kindBody struct {
	Form                                      form
	ID                                        int64
	Families, Roles, Crimps, Cohesion, Lustre []string
	Numbers                                   []option
}

var kindNumbers = []option{
	{"diameter_um_low", "Thinnest usual fibre, µm"}, {"diameter_um_high", "Thickest usual fibre, µm"},
	{"staple_mm_low", "Shortest usual staple, mm"}, {"staple_mm_high", "Longest usual staple, mm"},
	{"density_g_cm3", "Density, g/cm³"}, {"carding_loss_pct_low", "Loss in the first pass, low, %"}, {"carding_loss_pct_high", "Loss in the first pass, high, %"},
}

func kindFields(k *store.Kind) map[string]*float64 {
	return map[string]*float64{
		"diameter_um_low": &k.DiameterLow, "diameter_um_high": &k.DiameterHigh, "staple_mm_low": &k.StapleLow, "staple_mm_high": &k.StapleHigh,
		"density_g_cm3": &k.Density, "carding_loss_pct_low": &k.LossPctLow, "carding_loss_pct_high": &k.LossPctHigh,
	}
}

func (s *server) showKind(c *gin.Context, status int, f form, n int64) error {
	title := "New kind of fibre"
	if n != 0 {
		title = f.V("name")
	}
	s.render(c, status, "kind", page{Title: title, Here: "workshop"}, kindBody{
		Form: f, ID: n, Families: fibre.Families, Roles: fibre.Roles, Crimps: fibre.Crimps, Cohesion: fibre.Cohesion, Lustre: fibre.Lustres, Numbers: kindNumbers,
	})
	return nil
}

func kindForm(k store.Kind) form {
	f := newForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(k.Version, 10), "name": k.Name, "family": k.Family, "role": k.Role, "crimp": k.Crimp,
		"cohesion": k.Cohesion, "lustre": k.Lustre, "note": k.Note,
	}
	for name, p := range kindFields(&k) {
		f.Values[name] = show.Number(*p)
	}
	return f
}

// newKindForm starts from a kind of the table where one is named, since a new
// kind is nearly always like another one.
func (s *server) newKindForm(c *gin.Context) error {
	from, ok := fibre.FindKind(c.Query("like"))
	if !ok {
		from, _ = fibre.FindKind("corriedale")
	}
	k := store.Kind{
		Name: from.Name, Family: from.Family, Role: from.Role, DiameterLow: from.DiameterUM.Low, DiameterHigh: from.DiameterUM.High,
		StapleLow: from.StapleMM.Low, StapleHigh: from.StapleMM.High, Density: from.Density, Crimp: from.Crimp, Cohesion: from.Cohesion,
		Lustre: from.Lustre, LossPctLow: from.LossPct.Low, LossPctHigh: from.LossPct.High,
	}
	if !ok {
		k.Name = ""
	}
	return s.showKind(c, http.StatusOK, kindForm(k), 0)
}

func (s *server) createKind(c *gin.Context) error { return s.saveKind(c, 0) }

func (s *server) editKindForm(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	k, err := s.studio.OwnKind(c.Request.Context(), n)
	if err != nil {
		return err
	}
	return s.showKind(c, http.StatusOK, kindForm(k), n)
}

func (s *server) updateKind(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	return s.saveKind(c, n)
}

func (s *server) saveKind(c *gin.Context, n int64) error {
	if err := c.Request.ParseForm(); err != nil {
		return err
	}
	v := c.Request.PostForm
	r := &reader{v: v}
	k := store.Kind{
		Base: store.Base{ID: n, Version: r.version()}, Name: v.Get("name"), Family: v.Get("family"), Role: v.Get("role"), Crimp: v.Get("crimp"),
		Cohesion: v.Get("cohesion"), Lustre: v.Get("lustre"), Note: v.Get("note"),
	}
	for _, o := range kindNumbers {
		*kindFields(&k)[o.Value] = r.number(o.Value, "a number")
	}
	err := r.wrong.Err()
	if err == nil {
		_, err = s.studio.SaveKind(c.Request.Context(), k)
	}
	if err == nil {
		goTo(c, "/kinds", "saved")
		return nil
	}
	f := typed(v)
	if now, ok := staleAs[store.Kind](err); ok {
		f.stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showKind(c, http.StatusConflict, f, n)
	}
	if !f.with(err) {
		return err
	}
	return s.showKind(c, http.StatusUnprocessableEntity, f, n)
}

type binBody struct{ Items []binRow }

type binRow struct {
	store.BinItem
	What string
	When string
}

var binWords = map[string]string{
	"lots": "lot", "makings": "making", "blends": "blend", "weighouts": "weigh-out", "equipment": "equipment", "kinds": "kind of fibre",
	"gradients": "gradient", "scrap_sets": "bag of scraps", "photos": "photo", "samples": "sample", "layups": "lay-up",
}

func (s *server) binPage(c *gin.Context) error {
	items, err := s.studio.Bin(c.Request.Context())
	if err != nil {
		return err
	}
	var b binBody
	for _, i := range items {
		b.Items = append(b.Items, binRow{i, binWords[i.Table], show.Moment(i.At)})
	}
	s.render(c, http.StatusOK, "bin", page{Title: "Bin", Here: "bin"}, b)
	return nil
}

// homes are the pages to go to after something went to the bin.
var homes = map[string]string{"lots": "/shelf", "makings": "/makings", "blends": "/makings", "weighouts": "/makings", "equipment": "/workshop", "kinds": "/kinds",
	"gradients": "/makings", "scrap_sets": "/scraps", "photos": "/photos", "samples": "/calibration", "layups": "/makings"}

func (s *server) discard(c *gin.Context) error {
	table := c.PostForm("table")
	n, _ := strconv.ParseInt(c.PostForm("id"), 10, 64)
	if err := s.studio.Discard(c.Request.Context(), table, n); err != nil {
		return err
	}
	back := homes[table]
	if to := c.PostForm("back"); strings.HasPrefix(to, "/makings/") {
		back = to
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("%s?binned=%s-%d", back, table, n))
	return nil
}

func (s *server) restore(c *gin.Context) error {
	n, _ := strconv.ParseInt(c.PostForm("id"), 10, 64)
	if err := s.studio.Restore(c.Request.Context(), c.PostForm("table"), n); err != nil {
		return err
	}
	back := "/bin"
	if home := homes[c.PostForm("table")]; c.PostForm("undo") != "" && home != "" {
		back = home
	}
	goTo(c, back, "restored")
	return nil
}
