package store

import (
	"context"
	"slices"
	"time"

	"gorm.io/gorm"

	"fairtangle/core/fault"
	"fairtangle/core/run"
	"fairtangle/core/unit"
)

// Run is what happened at the carder with a weigh-out, or with a raw fleece before it.
type Run struct {
	Base
	Sort        string // carding, fleece
	Name        string
	MakingID    int64
	WeighoutID  *int64
	LayupID     *int64
	EquipmentID *int64
	LotID       *int64 // the raw fleece
	Units       int
	Passes      int             // planned
	Sample      bool            `gorm:"serializer:yes"` // of a few grams, on which something is decided
	ClothMg     unit.Milligrams // held by the cloth at the beginning, as far as is known
	Plan        RunPlan         `gorm:"serializer:json"`
	Foreseen    []Foreseen      `gorm:"serializer:json"`
	Entries     []RunEntry      `gorm:"foreignKey:RunID"`
	// CameOff is how many units have come off their last pass, as the entries say; kept with them,
	// so that lists need not read the entries.
	CameOff int
	SomeOff int // of them, those of which something came off at any pass
}

// The sorts of a run.
const (
	CardingRun = "carding"
	FleeceRun  = "fleece"
)

// RunPlan is how the run was to be worked, as it was when it began.
type RunPlan struct {
	Layup     LayupPlan         `json:"layup"`
	Fibres    []RunFibre        `json:"fibres"`
	Schools   map[string]string `json:"schools"`
	Equipment Equipment         `json:"equipment"`
	ClothG    float64           `json:"cloth_g,omitempty"` // that the cloth can hold; 0: as its size says
	// Weights are what each unit was foreseen to weigh when it comes off the last pass.
	Weights []Weight `json:"weights,omitempty"`
	// Advised are the rules of the second look that had found something when it began.
	Advised []string `json:"advised,omitempty"`
	// PassMinutes is how long a pass of one unit was foreseen to take.
	PassMinutes *Span `json:"pass_minutes,omitempty"`
}

// Span is a number that was foreseen, and between which two it was to lie.
type Span struct {
	Mid  float64 `json:"mid"`
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// RunFibre is a component as it lay in the plan.
type RunFibre struct {
	Name     string  `json:"name"`
	Hex      string  `json:"hex"`
	Grams    float64 `json:"grams"`
	LossPass float64 `json:"loss_pass"`
	Decay    float64 `json:"decay,omitempty"`
	// What it is tells how much of it alone the cloth holds, and how it is laid by hand.
	Crimp       string `json:"crimp,omitempty"`
	Preparation string `json:"preparation,omitempty"`
	Family      string `json:"family,omitempty"`
	Role        string `json:"role,omitempty"`
}

// Foreseen is what was foreseen of a pass when the run began.
type Foreseen struct {
	PatchDeltaE float64 `json:"patch_delta_e"`
	Look        string  `json:"look"`
	Grams       float64 `json:"grams"` // of one unit, lifted off
	Minutes     float64 `json:"minutes"`
}

// Weight is a weight that was foreseen, and how unsure that was, grams.
type Weight struct {
	Grams float64 `json:"grams"`
	SD    float64 `json:"sd"`
}

// RunEntry is one thing told of a run. Entries are added, never changed.
type RunEntry struct {
	ID         int64 `gorm:"primaryKey"`
	Key        string
	RunID      int64
	At         time.Time
	Unit       int
	Pass       int
	What       string
	Mg         unit.Milligrams
	Number     float64
	Text       string
	UndoesID   *int64
	MovementID *int64
}

// Run returns a run with its entries in their order.
func (s *Store) Run(ctx context.Context, id int64) (r Run, err error) {
	return r, found(s.reading(ctx).Preload("Entries", byID).First(&r, id).Error)
}

// Runs lists runs with their entries, the latest touched first. where is a condition
// with its values.
func (s *Store) Runs(ctx context.Context, where ...any) (out []Run, err error) {
	q := s.reading(ctx).Preload("Entries", byID).Where("making_id IN (SELECT id FROM makings WHERE deleted_at IS NULL)")
	if len(where) > 0 {
		q = q.Where(where[0], where[1:]...)
	}
	return out, q.Order("updated_at DESC, id DESC").Find(&out).Error
}

// RunsOn lists the latest carding runs on a piece of equipment that have begun, with their entries,
// at most n.
func (s *Store) RunsOn(ctx context.Context, equipment int64, n int) (out []Run, err error) {
	return out, s.reading(ctx).Preload("Entries", byID).Where("equipment_id = ? AND sort = ?", equipment, CardingRun).
		Where("EXISTS (SELECT 1 FROM run_entries e WHERE e.run_id = runs.id)").Order("created_at DESC, id DESC").Limit(n).Find(&out).Error
}

// LastRunOn returns the carding run on equipment that began last, with its entries; ErrNotFound where
// there is none.
func (s *Store) LastRunOn(ctx context.Context, equipment int64) (r Run, err error) {
	return r, found(s.reading(ctx).Preload("Entries", byID).Where("equipment_id = ? AND sort = ?", equipment, CardingRun).
		Where("making_id IN (SELECT id FROM makings WHERE deleted_at IS NULL)").Order("id DESC").First(&r).Error)
}

// CameOff is how many units of weigh-outs have come off in one of their runs.
func (s *Store) CameOff(ctx context.Context, weighouts []int64) (map[int64]int, error) {
	var list []struct {
		WeighoutID int64
		CameOff    int
	}
	err := s.reading(ctx).Model(&Run{}).Select("weighout_id", "max(came_off) AS came_off").Where("weighout_id IN ?", weighouts).Group("weighout_id").
		Scan(&list).Error
	out := map[int64]int{}
	for _, r := range list {
		out[r.WeighoutID] = r.CameOff
	}
	return out, err
}

// telling adds entries to a run, all or none, with what do does. The same keys a second time
// do nothing and give the run as it is; a key that was used for something else is refused.
// check looks at the run as it stands before.
func (s *Store) telling(ctx context.Context, id int64, list []RunEntry, check func(Run) error, do func(*gorm.DB, *Run) error) (out Run, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.Preload("Entries", byID).First(&out, id).Error; err != nil {
			return found(err)
		}
		again, err := sentBefore(tx, id, list)
		if err != nil || again {
			return err
		}
		if err := check(out); err != nil {
			return err
		}
		return do(tx, &out)
	})
	s.retold(ctx, false)
	return out, err
}

// Enter adds entries to a run. moves are movements of lots that go with the first of them:
// what it takes from the shelf.
func (s *Store) Enter(ctx context.Context, id int64, list []RunEntry, check func(Run) error, moves ...Movement) (Run, error) {
	return s.telling(ctx, id, list, check, func(tx *gorm.DB, r *Run) error {
		for _, m := range moves {
			var l Lot
			if err := tx.First(&l, m.LotID).Error; err != nil {
				return fault.New("lot", "The lot lies in the bin. Restore it first.")
			}
			done, err := s.move(tx, &l, m)
			if err != nil {
				return err
			}
			list[0].MovementID = &done.ID
		}
		return s.enter(tx, r, list)
	})
}

// sentBefore reports whether entries with these keys are there already.
func sentBefore(tx *gorm.DB, of int64, list []RunEntry) (again bool, err error) {
	for _, e := range list {
		var old RunEntry
		if err := tx.Where("key = ?", e.Key).Limit(1).Find(&old).Error; err != nil {
			return false, err
		}
		if old.ID == 0 {
			continue
		}
		if e.RunID = of; !old.same(e) {
			return false, fault.New("key", "This key belongs to another entry. Send each with a key that is its own.")
		}
		again = true
	}
	return again, nil
}

// same reports whether two entries say the same; which lot came of it is not said by who
// sends it.
func (e RunEntry) same(o RunEntry) bool {
	undone := e.UndoesID == nil && o.UndoesID == nil || e.UndoesID != nil && o.UndoesID != nil && *e.UndoesID == *o.UndoesID
	number := e.Number == o.Number || o.What == shelvedEntry
	return e.RunID == o.RunID && e.Unit == o.Unit && e.Pass == o.Pass && e.What == o.What && e.Mg == o.Mg && number && e.Text == o.Text && undone
}

// shelvedEntry is what an entry is called that put a lot on the shelf.
const shelvedEntry = "shelved"

func (s *Store) enter(tx *gorm.DB, r *Run, list []RunEntry) error {
	now := s.now().UTC()
	for i := range list {
		list[i].RunID, list[i].At = r.ID, now
	}
	if err := tx.Create(&list).Error; err != nil {
		return err
	}
	r.Entries = append(r.Entries, list...)
	r.Version++
	r.CameOff, r.SomeOff = r.off()
	return tx.Model(&Run{}).Where("id = ?", r.ID).Updates(map[string]any{"version": r.Version, "came_off": r.CameOff, "some_off": r.SomeOff}).Error
}

// Told are the entries of a run, as they are read.
func (r Run) Told() []run.Entry {
	out := make([]run.Entry, len(r.Entries))
	for i, e := range r.Entries {
		out[i] = run.Entry{ID: e.ID, At: e.At.UnixMilli(), Unit: e.Unit, Pass: e.Pass, What: run.What(e.What), Mg: e.Mg, Number: e.Number, Text: e.Text}
		if e.UndoesID != nil {
			out[i].Undoes = *e.UndoesID
		}
	}
	return out
}

// off counts the units that have come off their last pass, and those of which something came off.
func (r Run) off() (last, some int) {
	told := r.Told()
	for _, u := range run.Read(told, r.Units, r.Passes).Units {
		if _, ok := u.OffAtLast(); ok {
			last++
		}
	}
	units := map[int]bool{}
	for _, e := range run.Standing(told) {
		if e.What == run.Off || e.What == run.Piece {
			units[e.Unit] = true
		}
	}
	return last, len(units)
}

// Reverse takes an entry back by another one; what moved with it on the shelf moves back,
// and lots that came of it go to the bin. gone are those lots.
func (s *Store) Reverse(ctx context.Context, id int64, back RunEntry, check func(Run) error, gone ...int64) (Run, error) {
	list := []RunEntry{back}
	return s.telling(ctx, id, list, check, func(tx *gorm.DB, r *Run) error {
		for _, e := range r.Entries {
			if e.ID != *back.UndoesID || e.MovementID == nil {
				continue
			}
			var m Movement
			if err := tx.First(&m, *e.MovementID).Error; err != nil {
				return err
			}
			if _, err := s.reverse(tx, m); err != nil {
				return err
			}
		}
		for _, lot := range gone {
			binned := map[string]any{"deleted_at": s.now().UTC(), "version": gorm.Expr("version + 1")}
			if err := tx.Model(&Lot{}).Where("id = ?", lot).UpdateColumns(binned).Error; err != nil {
				return err
			}
		}
		return s.enter(tx, r, list)
	})
}

// Shelve makes a lot of what came off and notes it in the run, with what is told of the lot; kind is the fibre that it is, nil where
// the lot names one.
func (s *Store) Shelve(ctx context.Context, id int64, e RunEntry, lot Lot, told []Telling, kind *Kind, check func(Run) error) (Run, error) {
	list := []RunEntry{e}
	return s.telling(ctx, id, list, check, func(tx *gorm.DB, r *Run) error {
		if kind != nil {
			kind.Base = Base{Version: 1}
			if err := tx.Create(kind).Error; err != nil {
				return err
			}
			lot.Kind = OwnKindKey(kind.ID)
		}
		lots := []Lot{lot}
		if err := s.createLots(tx, lots, r.Name); err != nil {
			return err
		}
		var m Movement
		if err := tx.Where("lot_id = ?", lots[0].ID).First(&m).Error; err != nil {
			return err
		}
		for _, t := range told { // what is known of the lot
			t.Of, t.OfID, t.At = "lot", lots[0].ID, s.now().UTC()
			if err := tx.Create(&t).Error; err != nil {
				return err
			}
		}
		list[0].Number, list[0].MovementID = float64(lots[0].ID), &m.ID
		return s.enter(tx, r, list)
	})
}

// Far is how far a making has come beside its blends.
type Far struct {
	MakingID int64
	Units    int   // of its runs at the carder
	Off      int   // of them, those of which something came off
	Latest   int64 // the run that began last, 0 where there is none
	Needs    int
	Skeins   int
}

// Far says how far makings have come beside their blends.
func (s *Store) Far(ctx context.Context, makings []int64) (map[int64]Far, error) {
	var list []Far
	err := s.reading(ctx).Raw(`SELECT m.id AS making_id, (SELECT count(*) FROM needs n WHERE n.making_id = m.id AND n.deleted_at IS NULL) AS needs,
		(SELECT count(*) FROM skeins k WHERE k.making_id = m.id AND k.deleted_at IS NULL) AS skeins, coalesce(sum(r.units), 0) AS units,
		coalesce(max(r.id), 0) AS latest, coalesce(sum(r.some_off), 0) AS off
		FROM makings m LEFT JOIN runs r ON r.making_id = m.id AND r.sort = ? AND r.deleted_at IS NULL WHERE m.id IN ? GROUP BY m.id`,
		CardingRun, makings).Scan(&list).Error
	out := map[int64]Far{}
	for _, t := range list {
		out[t.MakingID] = t
	}
	return out, err
}

// LessonsMark changes whenever something may have changed of what the runs teach: told of a
// run, weighed again after it, binned or restored. Nobody else writes the file meanwhile.
func (s *Store) LessonsMark() int64 { return s.lessons.Load() }

// WeighedAgain changes whenever a weighing was taken back, or a weigh-out binned or restored:
// what was weighed for a run may be other than it was.
func (s *Store) WeighedAgain() int64 { return s.reweighed.Load() }

// latestRuns is from how many runs is learned: what a carder lost years ago says little.
const latestRuns = 500

// CardingVersions are the numbers of the latest runs at the carder with their versions, in the
// order in which they began.
func (s *Store) CardingVersions(ctx context.Context) (out []Base, err error) {
	err = s.reading(ctx).Model(&Run{}).Select("id", "version").
		Where("sort = ? AND making_id IN (SELECT id FROM makings WHERE deleted_at IS NULL)", CardingRun).
		Order("id DESC").Limit(latestRuns).Scan(&out).Error
	slices.Reverse(out)
	return out, err
}

// Carding returns runs at the carder with their entries, and their weigh-outs.
func (s *Store) Carding(ctx context.Context, ids []int64) (runs []Run, weighed map[int64]Weighout, err error) {
	if len(ids) == 0 {
		return nil, nil, nil
	}
	if err = s.reading(ctx).Preload("Entries", byID).Where("id IN ?", ids).Order("id").Find(&runs).Error; err != nil {
		return runs, nil, err
	}
	of := make([]int64, len(runs))
	for i, r := range runs {
		of[i] = *r.WeighoutID
	}
	var list []Weighout
	err = s.reading(ctx).Preload("Components", inOrder).Preload("Cells", byUnit).Where("id IN ?", of).Find(&list).Error
	weighed = map[int64]Weighout{}
	for _, w := range list {
		weighed[w.ID] = w
	}
	return runs, weighed, err
}
