package store

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"slices"
	"sync"

	"gorm.io/gorm"
	"gorm.io/gorm/schema"

	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/train"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
)

// What is read is never refused: a value that can not be, from a damaged disk or a file changed by
// hand, is brought to the nearest that can, and the row says so in Amiss. Saving the row again
// mends it.

func init() {
	schema.RegisterSerializer("json", asJSON{})
	schema.RegisterSerializer("yes", yesOrNo{})
}

// yesOrNo keeps a bool. Any number but 0 is a yes.
type yesOrNo struct{}

// Scan reads a value.
func (yesOrNo) Scan(ctx context.Context, field *schema.Field, dst reflect.Value, dbValue any) error {
	var yes bool
	switch v := dbValue.(type) {
	case bool:
		yes = v
	case int64:
		yes = v != 0
	case float64:
		yes = v != 0
	}
	field.ReflectValueOf(ctx, dst).SetBool(yes)
	return nil
}

// Value gives what is kept.
func (yesOrNo) Value(_ context.Context, _ *schema.Field, _ reflect.Value, fieldValue any) (any, error) {
	return fieldValue, nil
}

// asJSON keeps a value as JSON. JSON that can not be read counts as empty.
type asJSON struct{ schema.JSONSerializer }

// Scan reads a value.
func (j asJSON) Scan(ctx context.Context, field *schema.Field, dst reflect.Value, dbValue any) error {
	text, known := dbValue.(string)
	if data, ok := dbValue.([]byte); ok {
		text, known = string(data), true
	}
	fresh := reflect.New(field.FieldType)
	if known && text != "" && json.Unmarshal([]byte(text), fresh.Interface()) != nil {
		fresh = reflect.New(field.FieldType)
		if b, ok := reflect.Indirect(dst).Addr().Interface().(interface{ header() *Base }); ok {
			b.header().amiss("What was kept as its %s can not be read and is left out.", field.DBName)
		}
	}
	field.ReflectValueOf(ctx, dst).Set(fresh.Elem())
	return nil
}

// Amiss is what of a row could not be as it was kept.
type Amiss struct {
	Table    string
	ID       int64
	Name     string
	Sentence string
	Why      error // in place of a sentence, where its quantities are written by who reads them
}

// Watch gathers what is amiss with what is read through a context.
type Watch struct {
	mu   sync.Mutex
	list []Amiss
}

// List is what was amiss, each row once.
func (w *Watch) List() []Amiss {
	w.mu.Lock()
	defer w.mu.Unlock()
	return slices.Clone(w.list)
}

type watchKey struct{}

// Watching is a context whose reads are watched.
func Watching(ctx context.Context) (context.Context, *Watch) {
	w := &Watch{}
	return context.WithValue(ctx, watchKey{}, w), w
}

// told tells who watches what is amiss with a row that was read.
func (b *Base) told(tx *gorm.DB, table, name string) error {
	for _, s := range b.Amiss {
		Aside(tx.Statement.Context, Amiss{Table: table, ID: b.ID, Name: name, Sentence: s})
	}
	return nil
}

// Aside tells who watches a context that something is amiss with a row.
func Aside(ctx context.Context, a Amiss) {
	w, watched := ctx.Value(watchKey{}).(*Watch)
	if !watched {
		return
	}
	w.mu.Lock()
	defer w.mu.Unlock()
	if !slices.ContainsFunc(w.list, func(o Amiss) bool { return o.Table == a.Table && o.ID == a.ID && o.Sentence == a.Sentence }) {
		w.list = append(w.list, a)
	}
}

// Within is what a row belongs to; empty where it belongs to nothing.
func (s *Store) Within(ctx context.Context, table string, id int64) (of string, ofID int64) {
	sort, _ := SortOf(table)
	if sort.Of == "" || s.reading(ctx).Table(sort.Table).Select(sort.By).Where("id = ?", id).Scan(&ofID).Error != nil || ofID == 0 {
		return "", 0
	}
	return sort.Of, ofID
}

func (b *Base) amiss(format string, args ...any) {
	b.Amiss = append(b.Amiss, fmt.Sprintf(format, args...))
}

// within brings a number of a row between two bounds.
func within[N ~int | ~int64 | ~float64](b *Base, what string, v *N, low, high N) {
	was := *v
	switch {
	case math.IsNaN(float64(was)) || was < low:
		*v = low
	case was > high:
		*v = high
	default:
		return
	}
	b.amiss("Its %s was kept as %v, which can not be; it counts as %v.", what, was, *v)
}

// The bounds of what is kept are those of the forms.
const (
	mostTold = 100 // passes that can be told of a run
	mostMg   = unit.Milligrams(unit.MaxGrams * 1000)
)

// AfterFind brings what was read of a lot within bounds.
func (l *Lot) AfterFind(tx *gorm.DB) error {
	if l.StapleMM != nil {
		within(&l.Base, "staple", l.StapleMM, fibre.Can.StapleMM.Least, fibre.Can.StapleMM.Most)
	}
	if l.CentsPer100g != nil {
		within(&l.Base, "price", l.CentsPer100g, 0, 1e9)
	}
	var sum float64
	for i := range l.Colours {
		c := &l.Colours[i]
		if !(c.Share > 0 && c.Share <= 1) {
			l.amiss("The share of its colour %d was kept as %v, which can not be; it counts as an even one.", i+1, c.Share)
			c.Share = 1 / float64(len(l.Colours))
		}
		sum += c.Share
	}
	for i := range l.Colours {
		if math.Abs(sum-1) > 1e-3 {
			l.Colours[i].Share /= sum
		}
	}
	return l.told(tx, "lots", l.Name)
}

// AfterFind brings what was read of a kind within bounds.
func (k *Kind) AfterFind(tx *gorm.DB) error {
	b, can := &k.Base, fibre.Can
	for _, v := range []struct {
		what      string
		low, high *float64
		can       unit.Limits
	}{
		{"diameter", &k.DiameterLow, &k.DiameterHigh, can.DiameterUM}, {"staple", &k.StapleLow, &k.StapleHigh, can.StapleMM},
		{"loss", &k.LossPctLow, &k.LossPctHigh, can.LossPct},
	} {
		within(b, v.what, v.low, v.can.Least, v.can.Most)
		within(b, v.what, v.high, *v.low, v.can.Most)
	}
	within(b, "density", &k.Density, can.Density.Least, can.Density.Most)
	within(b, "decay of its losses", &k.LossDecay, can.Decay.Least, can.Decay.Most)
	return k.told(tx, "kinds", k.Name)
}

// AfterFind brings what was read of a blend within bounds.
func (b *Blend) AfterFind(tx *gorm.DB) error {
	within(&b.Base, "weight in milligrams", &b.TotalMg, 1, mostMg)
	within(&b.Base, "number of passes", &b.Passes, 0, losses.MaxPasses)
	return b.told(tx, "blends", b.Name)
}

// AfterFind brings what was read of equipment within bounds.
func (e *Equipment) AfterFind(tx *gorm.DB) error {
	can := layup.Can
	points := can.TPI
	if e.Type == string(layup.Hands) {
		points.Least = 0 // hands have no pins
	}
	for _, v := range []struct {
		what string
		v    *float64
		can  unit.Limits
	}{
		{"width", &e.WidthMM, can.WidthMM}, {"length", &e.LengthMM, can.LengthMM}, {"number of points", &e.TPI, points},
		{"length of teeth", &e.ToothMM, can.ToothMM}, {"filling of smooth fibre", &e.SmoothG, can.SmoothG}, {"filling of lofty fibre", &e.LoftyG, can.LoftyG},
		{"time for a pass", &e.Minutes, can.Minutes}, {"feed", &e.FeedG, can.FeedG},
	} {
		within(&e.Base, v.what, v.v, v.can.Least, v.can.Most)
	}
	return e.told(tx, "equipment", e.Name)
}

// AfterFind brings what was read of a tool within bounds.
func (t *Tool) AfterFind(tx *gorm.DB) error {
	within(&t.Base, "time for 100 g", &t.Minutes, 0.01, 600)
	within(&t.Base, "loss", &t.LossPct, 0, 90)
	return t.told(tx, "tools", t.Name)
}

// AfterFind brings what was read of a sale within bounds.
func (v *Sale) AfterFind(tx *gorm.DB) error {
	within(&v.Base, "number of pieces", &v.Pieces, 1, 10_000)
	within(&v.Base, "price", &v.Cents, 0, 1e8)
	within(&v.Base, "cost", &v.CostCents, 0, 1e8)
	within(&v.Base, "time", &v.Minutes, 0, 1e5)
	return v.told(tx, "sales", v.Name)
}

// AfterFind brings what was read of a practice within bounds.
func (v *Practice) AfterFind(tx *gorm.DB) error {
	within(&v.Base, "level", &v.Level, 1, train.MostLevel)
	within(&v.Base, "score", &v.Score, 0, 100)
	return v.told(tx, "practices", v.Name)
}

// AfterFind brings what was read of a round within bounds.
func (v *Round) AfterFind(tx *gorm.DB) error {
	within(&v.Base, "level", &v.Level, 1, train.MostLevel)
	within(&v.Base, "number of exercises", &v.Count, 1, MostInRound)
	return v.told(tx, "rounds", v.Name)
}

// AfterFind leaves out of what was read of a seat what is no exercise of any round.
func (v *Seat) AfterFind(*gorm.DB) error {
	v.Answers = slices.DeleteFunc(v.Answers, func(a Said) bool { return a.N < 1 || a.N > MostInRound })
	return nil
}

// AfterFind brings what was read of a weigh-out within bounds.
func (w *Weighout) AfterFind(tx *gorm.DB) error {
	b := &w.Base
	within(b, "number of units", &w.Units, 1, weigh.MaxUnits)
	within(b, "weight in milligrams", &w.FinishedMg, 0, mostMg)
	within(b, "number of passes", &w.Passes, 0, losses.MaxPasses)
	within(b, "step in milligrams", &w.StepMg, 1, 1_000_000)
	within(b, "weight added to in milligrams", &w.AddedToMg, 0, mostMg)
	if len(w.Components) > 0 || len(w.Cells) > 0 {
		w.fill()
	}
	return w.told(tx, "weighouts", w.Name)
}

// fill makes the table of a weigh-out whole: each component in its place, and for each a cell in
// each unit. What lies outside of it is left out.
func (w *Weighout) fill() {
	n := 0
	for _, c := range w.Components {
		n = max(n, min(c.Position, weigh.MaxComponents-1)+1)
	}
	components := make([]WeighoutComponent, n)
	for i := range components {
		components[i] = WeighoutComponent{WeighoutID: w.ID, Position: i, Name: "no longer known", JoinsAtPass: 1}
	}
	for _, c := range w.Components {
		if c.Position >= 0 && c.Position < n {
			components[c.Position] = c
		}
	}
	cells := make([]WeighoutCell, w.Units*n)
	for i := range cells {
		cells[i] = WeighoutCell{WeighoutID: w.ID, Unit: i / n, Position: i % n, Done: true}
	}
	inside := func(unit, position int) bool { return unit >= 0 && unit < w.Units && position >= 0 && position < n }
	known := 0
	for _, c := range w.Cells {
		if inside(c.Unit, c.Position) {
			cells[c.Unit*n+c.Position] = c
			known++
		}
	}
	if known < len(cells) || known < len(w.Cells) || n != len(w.Components) {
		w.amiss("Parts of its table are no longer there; what is not known counts as done, with nothing in it.")
	}
	w.Components, w.Cells = components, cells
	w.Weighings = slices.DeleteFunc(w.Weighings, func(v Weighing) bool { return !inside(v.Unit, v.Position) })
	w.Notes = slices.DeleteFunc(w.Notes, func(v WeighoutNote) bool { return !inside(v.Unit, 0) })
	w.Lays = slices.DeleteFunc(w.Lays, func(v WeighoutLay) bool { return !inside(0, v.Position) })
}

// AfterFind brings what was read of a component within bounds; the weigh-out has no place for words
// about it.
func (c *WeighoutComponent) AfterFind(*gorm.DB) error {
	var b Base
	within(&b, "share", &c.Share, 0, 1)
	within(&b, "loss", &c.LossPct, 0, 90)
	within(&b, "decay", &c.Decay, 0, 1)
	within(&b, "pass", &c.JoinsAtPass, 1, losses.MaxPasses)
	within(&b, "passes alone", &c.AloneFirst, 0, losses.MaxAlone)
	within(&b, "own", &c.OwnMg, 0, mostMg)
	return nil
}

// AfterFind brings what was read of a lay-up within bounds.
func (l *Layup) AfterFind(tx *gorm.DB) error {
	within(&l.Base, "number of units", &l.Units, 1, weigh.MaxUnits)
	return l.told(tx, "layups", l.Name)
}

// AfterFind brings what was read of a run within bounds.
func (r *Run) AfterFind(tx *gorm.DB) error {
	within(&r.Base, "number of units", &r.Units, 1, weigh.MaxUnits)
	within(&r.Base, "number of passes", &r.Passes, 0, losses.MaxPasses)
	within(&r.Base, "fibre in the cloth", &r.ClothMg, 0, mostMg)
	within(&r.Base, "number of units that came off", &r.CameOff, 0, weigh.MaxUnits)
	within(&r.Base, "number of units begun to come off", &r.SomeOff, 0, weigh.MaxUnits)
	known, most := len(r.Entries), r.Units
	if r.Sort == FleeceRun { // its parts are found on the way
		most = weigh.MaxUnits
	}
	r.Entries = slices.DeleteFunc(r.Entries, func(e RunEntry) bool {
		return e.Unit < -1 || e.Unit >= most || e.Pass < 0 || e.Pass > mostTold || e.Mg < 0 || e.Mg > mostMg || math.IsNaN(e.Number) || math.IsInf(e.Number, 0)
	})
	if len(r.Entries) < known {
		r.amiss("%d of its entries can not be, and are left out.", known-len(r.Entries))
	}
	return r.told(tx, "runs", r.Name)
}

// AfterFind brings what was read of the settings within bounds.
func (s *Settings) AfterFind(tx *gorm.DB) error {
	within(&s.Base, "step in milligrams", &s.StepMg, 1, 1_000_000)
	return s.told(tx, "settings", "the workshop")
}

// The rest has nothing but JSON that may not be read.

func (m *Making) AfterFind(tx *gorm.DB) error     { return m.told(tx, "makings", m.Name) }
func (n *Need) AfterFind(tx *gorm.DB) error       { return n.told(tx, "needs", n.Plan.What) }
func (g *Gradient) AfterFind(tx *gorm.DB) error   { return g.told(tx, "gradients", g.Name) }
func (b *ScrapBag) AfterFind(tx *gorm.DB) error   { return b.told(tx, "scrap_sets", b.Name) }
func (p *Photo) AfterFind(tx *gorm.DB) error      { return p.told(tx, "photos", p.Name) }
func (s *Sample) AfterFind(tx *gorm.DB) error     { return s.told(tx, "samples", s.Name) }
func (s *Source) AfterFind(tx *gorm.DB) error     { return s.told(tx, "sources", s.Name) }
func (o *Offer) AfterFind(tx *gorm.DB) error      { return o.told(tx, "offers", o.Name) }
func (b *BuyList) AfterFind(tx *gorm.DB) error    { return b.told(tx, "buy_lists", b.Name) }
func (y *Yarn) AfterFind(tx *gorm.DB) error       { return y.told(tx, "yarns", "its yarn") }
func (y *YarnSample) AfterFind(tx *gorm.DB) error { return y.told(tx, "yarn_samples", y.Name) }
func (s *Skein) AfterFind(tx *gorm.DB) error      { return s.told(tx, "skeins", s.Name) }
