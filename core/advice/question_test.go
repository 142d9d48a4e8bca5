package advice

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/layup"
)

// What a rule misses can be told: after the answers it is judged, or misses something else.
func TestWhatIsMissingCanBeAsked(t *testing.T) {
	kinds := [][]change{
		{fibres(of("icelandic", 1, prep("washed_locks")))},
		{fibres(of("corriedale", 0.5, hex("#ffffff")), of("viscose", 0.5, hex("#102040"))), mixed(), on(drumOf(72)), weighs(60, 1), goes(2),
			laidAs(layers(layup.Feed, 30, 30))},
		{fibres(of("corriedale", 1, hex("#ffffff"), prep("combed_top"))), mixed(), on(board()), weighs(20, 1), makes("roving"), looks("even")},
		{fibres(of("cotton_upland", 1)), on(board()), makes("rolags")},
	}
	asked := map[string]bool{}
	for _, list := range kinds {
		q := plan(list...)
		for _, u := range Judge(q, nil).Unjudged {
			told := plan(list...)
			for _, v := range u.Asks() {
				asked[v.Key] = true
				require.NotEmpty(t, v.Ask, u.Tell)
				told.Tell(v.Key, 0, 1)
			}
			if len(u.Asks()) == 0 {
				continue
			}
			for _, still := range Judge(told, nil).Unjudged {
				assert.False(t, still.Rule == u.Rule && still.Tell == u.Tell, "%s: %s is not answered", u.Rule, u.Tell)
			}
		}
	}
	later := []string{ // what is told with something else, or of what is found
		"labelled", "bleed_tested", "prepared_mm", "cleaned", "dust_cared", "over_weight_pct", "dusty", "brush", "ticked", "unplugged",
	}
	for _, v := range questions {
		assert.True(t, asked[v.Key] || slices.Contains(later, v.Key), "nobody asks %s", v.Key)
	}
	for what, keys := range asks {
		for _, key := range keys {
			_, ok := QuestionOf(key)
			assert.True(t, ok, "%s asks %s", what, key)
		}
	}
}

// An answer that is none changes nothing; one that is one changes the plan.
func TestAnswersAreChecked(t *testing.T) {
	for _, v := range questions {
		fresh := func() Plan { return plan(fibres(of("icelandic", 1))) }
		for _, wrong := range []float64{-1, 1e9, 0.5} {
			if v.Takes(wrong) {
				continue
			}
			q := fresh()
			q.Tell(v.Key, 0, wrong)
			assert.Equal(t, fresh(), q, "%s takes %g", v.Key, wrong)
		}
		q := fresh()
		q.Tell(v.Key, 0, 1)
		assert.NotEqual(t, fresh(), q, v.Key)
		if v.Of == OfLot || v.Of == OfPart {
			q = fresh()
			q.Tell(v.Key, 3, 1)
			assert.Equal(t, fresh(), q, "%s of a fibre that is not there", v.Key)
		}
	}
	q := plan(fibres(of("corriedale", 1)))
	q.Tell("nothing", 0, 1)
	assert.Equal(t, plan(fibres(of("corriedale", 1))), q)
}

// Every rule is spoken of somewhere, and has one home.
func TestEveryRuleHasAPlace(t *testing.T) {
	for _, v := range Texts() {
		require.NotEmpty(t, byID[v.ID].at, v.ID)
		assert.True(t, Belongs(v.ID, Home(v.ID)), v.ID)
	}
	for _, at := range Stations() {
		assert.True(t, slices.ContainsFunc(Texts(), func(v Text) bool { return Belongs(v.ID, at) }), at)
	}
}

// A lot waits for what the rules will say of it, at their own figures; one that is ready waits for nothing.
func TestLotsWaitForWhatTheRulesWillSay(t *testing.T) {
	for _, c := range []struct {
		name  string
		fibre Fibre
		hours float64
		want  []string
	}{
		{"ready", of("corriedale", 1), 24, nil},
		{"raw", of("corriedale", 1, prep("raw_fleece")), 0, []string{"R49"}},
		{"damp", of("corriedale", 1, func(f *Fibre) { f.Damp = yes(1) }), 0, []string{"R56"}},
		{"washed today", of("corriedale", 1, func(f *Fibre) { f.WashedHours = p(23.9) }), 0, []string{"R56"}},
		{"washed yesterday", of("corriedale", 1, func(f *Fibre) { f.WashedHours = p(24.0) }), 0, nil},
		{"heavy", of("corriedale", 1, func(f *Fibre) { f.OverWeightPct = p(5.1) }), 0, []string{"R56"}},
		{"tacky", of("corriedale", 1, func(f *Fibre) { f.Tacky = yes(1) }), 0, []string{"R50"}},
		{"dyed", of("viscose", 1, func(f *Fibre) { f.DyedByHand = yes(1) }), 0, []string{"R42"}},
		{"dyed and tested", of("viscose", 1, func(f *Fibre) { f.DyedByHand, f.BleedTested = yes(1), yes(1) }), 0, nil},
		{"moths", of("corriedale", 1, func(f *Fibre) { f.MothSigns = yes(1) }), 0, []string{"R59"}},
		{"half a year", of("corriedale", 1), 183*24 + 1, []string{"R59"}},
		{"half a year, looked at", of("corriedale", 1, func(f *Fibre) { f.MothSigns = yes(0) }), 183*24 + 1, nil},
		{"half a year, no animal's", of("viscose", 1), 183*24 + 1, nil},
	} {
		var got []string
		for _, w := range c.fibre.Waits(c.hours, nil) {
			got = append(got, w.Rule)
		}
		assert.Equal(t, c.want, got, c.name)
	}
	assert.Empty(t, of("corriedale", 1, func(f *Fibre) { f.WashedHours = p(13.0) }).Waits(0, Bounds{"R56 hours": 12}))
}
