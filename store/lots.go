package store

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/unit"
)

// The reasons for a movement. Every gram has one.
const (
	WeighIn   = "weigh-in"
	TakeOut   = "take-out"
	Given     = "given" // away
	Sold      = "sold"
	Spun      = "spun"
	Recount   = "recount"
	Weighed   = "weighing"
	Undone    = "undone"
	FirstEver = "opening"
	Prepared  = "preparing" // of raw fleece: into a run
	Parted    = "parting"   // into lots of its own
	Together  = "together"  // put to another lot, or another to it
)

// LotFilter chooses lots of the shelf. Zero values choose everything.
type LotFilter struct {
	Search string
	Kinds  []string // keys; nil means any
	Stock  string   // "" any, "some" with fibre left, "none" empty
	Made   int64    // by the runs of this making; 0: by whatever
	First  int64    // from this number on, up to Last; 0: all
	Last   int64
	Sort   string // colour, kind, grams, name, came (in the order in which they did)
	Offset int
	Limit  int
}

// lotText is all of a lot that a search looks through.
var lotText = func() string {
	columns := []string{"name", "kind"}
	for _, w := range (&fibre.Words{}).Each() {
		columns = append(columns, w.Name)
	}
	return strings.Join(columns, " || ' ' || ")
}()

// Lots returns a page of the shelf and how many lots the filter finds in all.
func (s *Store) Lots(ctx context.Context, f LotFilter) (lots []Lot, total int64, err error) {
	q := s.reading(ctx).Model(&Lot{})
	words := strings.Fields(f.Search)
	if len(words) > 20 || len(f.Search) > 400 {
		return nil, 0, fault.New("q", "Search for at most 20 words, 400 letters in all.")
	}
	for _, like := range searched(f.Search) {
		q = q.Where("("+lotText+`) LIKE ? ESCAPE '\'`, like)
	}
	if f.Kinds != nil {
		q = q.Where("kind IN ?", f.Kinds)
	}
	if f.Made != 0 {
		q = q.Where("id IN (SELECT id FROM lots WHERE made IS NOT NULL AND "+makingOfLot+" = ?)", f.Made)
	}
	if f.First != 0 {
		q = q.Where("id BETWEEN ? AND ?", f.First, f.Last)
	}
	switch f.Stock {
	case "some":
		q = q.Where("grams_mg > 0")
	case "none":
		q = q.Where("grams_mg = 0")
	}
	if err = q.Count(&total).Error; err != nil {
		return nil, 0, err
	}
	order := map[string]string{"kind": "kind, shelf_order, id", "grams": "grams_mg DESC, shelf_order, id", "name": "name COLLATE NOCASE, id", "came": "id"}[f.Sort]
	if order == "" {
		order = "shelf_order, id"
	}
	q = q.Order(order)
	if f.Limit > 0 {
		q = q.Limit(f.Limit).Offset(f.Offset)
	}
	err = q.Find(&lots).Error
	return lots, total, err
}

// searched are the words of a search, as patterns.
func searched(search string) []string {
	words := strings.Fields(search)
	for i, w := range words {
		words[i] = "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(w) + "%"
	}
	return words
}

// Stocked returns the lots with fibre left, with what a search wants to know of
// them and nothing else.
func (s *Store) Stocked(ctx context.Context) (lots []Lot, err error) {
	return lots, s.reading(ctx).
		Select("id", "kind", "preparation", "grams_mg", "colours", "cents_per100g").
		Where("grams_mg > 0").
		Order("shelf_order, id").
		Find(&lots).
		Error
}

// MadeLots returns the lots that were made here, the latest n of them or all where n is 0, with name,
// colours and what they are made of, and nothing else.
func (s *Store) MadeLots(ctx context.Context, n int) (lots []Lot, err error) {
	q := s.reading(ctx).Unscoped().Select("id", "name", "colours", "created_at", "made").Where("made IS NOT NULL").Order("id DESC")
	if n > 0 {
		q = q.Limit(n)
	}
	err = q.Find(&lots).Error
	slices.Reverse(lots)
	return lots, err
}

// KindsInUse are the kinds of the lots on the shelf, from one to the next along their index.
func (s *Store) KindsInUse(ctx context.Context) (out []string, err error) {
	return out, s.reading(ctx).Raw(`WITH RECURSIVE k (kind) AS (SELECT min(kind) FROM lots WHERE deleted_at IS NULL
		UNION ALL SELECT (SELECT min(kind) FROM lots WHERE deleted_at IS NULL AND kind > k.kind) FROM k WHERE k.kind IS NOT NULL)
		SELECT kind FROM k WHERE kind IS NOT NULL`).Scan(&out).Error
}

// Lot returns a lot of the shelf.
func (s *Store) Lot(ctx context.Context, id int64) (l Lot, err error) {
	return l, found(s.reading(ctx).First(&l, id).Error)
}

// LotsByID returns lots by their ids, those in the bin too.
func (s *Store) LotsByID(ctx context.Context, ids []int64) (map[int64]Lot, error) {
	var lots []Lot
	err := s.reading(ctx).Unscoped().Where("id IN ?", ids).Find(&lots).Error
	out := make(map[int64]Lot, len(lots))
	var several []int64
	for _, l := range lots {
		out[l.ID] = l
		if len(l.Colours) > 1 {
			several = append(several, l.ID)
		}
	}
	if err != nil || len(several) == 0 {
		return out, err
	}
	used, err := s.usedColours(ctx, several)
	for _, u := range used {
		l := out[u.LotID]
		if l.usedOf == nil {
			l.usedOf = map[string]unit.Milligrams{}
		}
		l.usedOf[u.OnlyHex] = u.Mg
		out[u.LotID] = l
	}
	return out, err
}

// CreateLots puts lots on the shelf, all or none. Each one's GramsMg becomes
// its opening movement. With a key that was sent before nothing comes in twice,
// and no lots are returned.
func (s *Store) CreateLots(ctx context.Context, lots []Lot, note, key string) (made []Lot, err error) {
	content, err := json.Marshal(lots)
	if err != nil {
		return nil, err
	}
	what := fmt.Sprintf("%d lots %x", len(lots), sha256.Sum256(content))
	err = s.tx(ctx, func(tx *gorm.DB) error {
		_, err := s.once(tx, key, what, func() (*Movement, error) {
			made = lots
			return nil, s.createLots(tx, lots, note)
		})
		return err
	})
	return made, err
}

// createLots adds lots and their opening movements, many rows to a statement.
func (s *Store) createLots(tx *gorm.DB, lots []Lot, note string) error {
	now := s.now().UTC()
	for i := range lots {
		lots[i].Base, lots[i].MovementCount = Base{Version: 1}, 0
		switch g := lots[i].GramsMg; {
		case g < 0:
			return Short{Lot: lots[i].Name, Need: -g}
		case g.Grams() > unit.MaxGrams:
			return fullLot()
		case g > 0:
			lots[i].MovementCount = 1
		}
	}
	if err := tx.Create(&lots).Error; err != nil {
		return err
	}
	var opening []Movement
	for _, l := range lots {
		if l.GramsMg > 0 {
			opening = append(opening, Movement{LotID: l.ID, At: now, DeltaMg: l.GramsMg, BalanceMg: l.GramsMg, Reason: FirstEver, Note: note})
		}
	}
	if len(opening) == 0 {
		return nil
	}
	return tx.Create(&opening).Error
}

func fullLot() error { return fault.New("grams", "A lot holds at most %s.", unit.MaxGrams) }

// UpdateLot saves what describes a lot; its grams only change by movements.
func (s *Store) UpdateLot(ctx context.Context, l Lot) (out Lot, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		return save(tx, &l, func(c *Lot) {
			l.Base, l.GramsMg, l.MovementCount, l.Made = c.Base, c.GramsMg, c.MovementCount, c.Made
			l.ColoursBefore, l.LiesBefore, l.RunCMBefore = c.ColoursBefore, c.LiesBefore, c.RunCMBefore
			if !reflect.DeepEqual(c.Colours, l.Colours) {
				l.ColoursBefore, l.LiesBefore, l.RunCMBefore = c.Colours, c.Lies, c.RunCM
			}
			l.Version++
			*c = l
			out = l
		})
	})
	return out, err
}

// Movements returns the ledger of a lot, the latest first.
func (s *Store) Movements(ctx context.Context, lot int64, limit int) (m []Movement, err error) {
	return m, s.reading(ctx).Where("lot_id = ?", lot).Order("id DESC").Limit(limit).Find(&m).Error
}

// Left is how much left a lot for a reason, without what was taken back.
func (s *Store) Left(ctx context.Context, lot int64, reason string) (mg unit.Milligrams, err error) {
	return mg, s.reading(ctx).Raw(`SELECT COALESCE(-SUM(m.delta_mg), 0) FROM movements m LEFT JOIN movements u ON u.undoes_id = m.id
		WHERE m.lot_id = ? AND m.reason = ? AND u.id IS NULL`, lot, reason).Scan(&mg).Error
}

// AddMovement books a movement of a lot that must not take it below zero, for a
// key once.
func (s *Store) AddMovement(ctx context.Context, m Movement, key string) (Movement, error) {
	return s.book(ctx, m.LotID, key, fmt.Sprintf("%s %d of %d: %s", m.Reason, m.DeltaMg, m.LotID, m.Note), func(Lot) Movement { return m })
}

// CountTo books the difference between what the ledger says and what the
// maker counted, for a key once. Both are read in one transaction.
func (s *Store) CountTo(ctx context.Context, lot int64, counted unit.Milligrams, note, key string) (Movement, error) {
	return s.book(ctx, lot, key, fmt.Sprintf("%s %d of %d: %s", Recount, counted, lot, note), func(l Lot) Movement {
		return Movement{DeltaMg: counted - l.GramsMg, Reason: Recount, Note: note}
	})
}

func (s *Store) book(ctx context.Context, lot int64, key, what string, movement func(Lot) Movement) (out Movement, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		m, err := s.once(tx, key, what, func() (*Movement, error) {
			var l Lot
			if err := tx.First(&l, lot).Error; err != nil {
				return nil, found(err)
			}
			m, err := s.move(tx, &l, movement(l))
			return &m, err
		})
		if m != nil {
			out = *m
		}
		return err
	})
	return out, err
}

// UndoMovement books the reverse of a movement, once. Movements of a
// weighing are undone by undoing the weighing.
func (s *Store) UndoMovement(ctx context.Context, lot, movement int64) (out Movement, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		var m Movement
		if err := tx.Where("lot_id = ?", lot).First(&m, movement).Error; err != nil {
			return found(err)
		}
		if m.Reason == Weighed || m.Reason == Undone {
			return fault.New("", "This line belongs to a weigh-out. Undo the weighing there.")
		}
		if m.Reason == Parted || m.Reason == Together {
			return fault.New("", "This line belongs to a parting. Take that back as a whole.")
		}
		out, err = s.reverse(tx, m)
		return err
	})
	return out, err
}

// reverse books the opposite of m. Fibre in the bin takes it back too.
func (s *Store) reverse(tx *gorm.DB, m Movement) (Movement, error) {
	var n int64
	if err := tx.Model(&Movement{}).Where("undoes_id = ?", m.ID).Count(&n).Error; err != nil {
		return Movement{}, err
	}
	if n > 0 {
		return Movement{}, fault.New("", "This line was undone already.")
	}
	var l Lot
	if err := tx.Unscoped().First(&l, m.LotID).Error; err != nil {
		return Movement{}, found(err)
	}
	return s.move(tx, &l, Movement{DeltaMg: -m.DeltaMg, Reason: Undone, UndoesID: &m.ID})
}

// move adds a line to the ledger and brings the lot's balance along.
func (s *Store) move(tx *gorm.DB, l *Lot, m Movement) (Movement, error) {
	after := l.GramsMg + m.DeltaMg
	if after < 0 {
		return m, Short{Lot: l.Name, Have: l.GramsMg, Need: -m.DeltaMg}
	}
	if after.Grams() > unit.MaxGrams {
		return m, fullLot()
	}
	m.LotID, m.At, m.BalanceMg = l.ID, s.now().UTC(), after
	if err := tx.Create(&m).Error; err != nil {
		return m, err
	}
	l.GramsMg = after
	l.MovementCount++
	return m, tx.Unscoped().Model(&Lot{}).Where("id = ?", l.ID).
		UpdateColumns(map[string]any{"grams_mg": after, "movement_count": l.MovementCount}).Error
}

// Short is returned when a movement would take a lot below zero.
type Short struct {
	Lot        string
	Have, Need unit.Milligrams
}

// Error says how much there is.
func (s Short) Error() string { return "not enough of " + s.Lot }

// CountsSince returns the latest recount of each lot since a moment that was not undone.
func (s *Store) CountsSince(ctx context.Context, since time.Time) (map[int64]Movement, error) {
	var rows []Movement
	err := s.reading(ctx).
		Where("reason = ? AND at > ? AND id NOT IN (SELECT undoes_id FROM movements WHERE undoes_id IS NOT NULL)", Recount, since.UTC()).
		Order("id").
		Find(&rows).
		Error
	out := make(map[int64]Movement, len(rows))
	for _, m := range rows {
		out[m.LotID] = m
	}
	return out, err
}

// Drift lists the lots whose balance is not the sum of their movements. It is
// empty unless the file was damaged from outside.
func (s *Store) Drift(ctx context.Context) (ids []int64, err error) {
	return ids, s.reading(ctx).Raw(`SELECT l.id FROM lots l LEFT JOIN movements m ON m.lot_id = l.id
		GROUP BY l.id HAVING l.grams_mg <> coalesce(sum(m.delta_mg), 0) OR l.movement_count <> count(m.id)`).Scan(&ids).Error
}

// binDays is how long the bin keeps what was put into it.
const binDays = 30

func (s *Store) binLimit() time.Time { return s.now().UTC().AddDate(0, 0, -binDays) }
