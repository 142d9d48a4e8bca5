package calls

import (
	"encoding/json"
	"fmt"
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
)

// Every question has a field of its name, of the request or of a component, and takes what the list
// of what was told takes.
func TestEveryQuestionCanBeAnswered(t *testing.T) {
	named := map[string]reflect.Type{}
	for _, v := range []reflect.Type{reflect.TypeFor[AdviceRequest](), reflect.TypeFor[AdviceComponent]()} {
		for i := range v.NumField() {
			name, _, _ := strings.Cut(v.Field(i).Tag.Get("json"), ",")
			named[name] = v.Field(i).Type
		}
	}
	for _, of := range []string{advice.OfPlan, advice.OfPart, advice.OfLot, advice.OfWorkshop} {
		for _, q := range advice.QuestionsOf(of) {
			typ := named[q.Key]
			if !assert.NotNil(t, typ, "no field is named %s", q.Key) {
				continue
			}
			assert.Equal(t, typ.Kind() == reflect.String, len(q.Words) > 0, "%s has words for its choices where they are told by words", q.Key)
			if q.Figure {
				_, err := Advice(asking(t, q, q.Most*2+1))
				l, ok := fault.From(err)
				require.True(t, ok, "%s takes anything", q.Key)
				assert.Contains(t, l[0].Field, q.Key)
			}
			_, err := Advice(AdviceRequest{Components: two(), Told: []AdviceTelling{{q.Key, 1, -1}}})
			assert.Error(t, err, q.Key)
		}
	}
	_, err := Advice(AdviceRequest{Components: two(), Stored: "somewhere"})
	assert.Error(t, err, "a word that is none")
	_, err = Advice(AdviceRequest{Components: two(), Next: "dance"})
	assert.Error(t, err, "a word that is none")
}

func two() []AdviceComponent {
	return []AdviceComponent{{Kind: "corriedale", Share: 0.5}, {Kind: "romney", Share: 0.5}}
}

// asking is a request in which one figure is told.
func asking(t *testing.T, q advice.Question, v float64) (r AdviceRequest) {
	part := fmt.Sprintf(`,"%s":%g`, q.Key, v)
	body := `{"components":[{"kind":"corriedale","share":1%s}]%s}`
	if q.Of == advice.OfLot || q.Of == advice.OfPart {
		body = fmt.Sprintf(body, part, "")
	} else {
		body = fmt.Sprintf(body, "", part)
	}
	require.NoError(t, json.Unmarshal([]byte(body), &r))
	return r
}

// A mend that is sent back as input ends what it is for.
func TestAMendSentBackEndsItsFinding(t *testing.T) {
	kinds := []string{"corriedale", "romney", "merino", "silk_tussah", "viscose", "cotton_upland",
		"mohair_adult", "angora_rabbit", "neps_wool", "locks_wool", "nylon_trilobal", "alpaca_huacaya"}
	sent := map[string]int{}
	rapid.Check(t, func(t *rapid.T) {
		q := AdviceRequest{
			Equipment: &BedInput{Preset: rapid.SampledFrom([]string{"drum_standard_hand", "drum_wide_electric", "board_small", "hand_cards_standard"}).Draw(t, "on")},
			Passes:    rapid.IntRange(1, 4).Draw(t, "passes"), TotalG: rapid.Float64Range(5, 300).Draw(t, "total"), StepG: 0.1, Units: rapid.IntRange(1, 4).Draw(t, "units"),
			Goal: rapid.SampledFrom([]string{"", "even", "heather", "striped"}).Draw(t, "goal"), Use: rapid.SampledFrom([]string{"", "socks", "next-to-skin"}).Draw(t, "use"),
			Product: rapid.SampledFrom([]string{"", "batt", "rolags"}).Draw(t, "product"),
		}
		n := rapid.IntRange(1, 4).Draw(t, "fibres")
		left := 1.0
		for i := range n {
			share := left
			if i < n-1 {
				share = left * rapid.Float64Range(0.05, 0.9).Draw(t, "share")
			}
			left -= share
			q.Components = append(q.Components, AdviceComponent{
				Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), Share: share, Preparation: rapid.SampledFrom([]string{"combed_top", "carded_sliver", "washed_locks"}).Draw(t, "as"),
			})
		}
		unit := q.TotalG / float64(q.Units)
		if rapid.Bool().Draw(t, "laid") {
			for i, c := range q.Components {
				q.Layers = append(q.Layers, AdviceLayer{Lays: []SimulateLay{{Component: i, Grams: unit * c.Share, Method: rapid.SampledFrom([]string{"feed", "paint"}).Draw(t, "by")}}})
			}
		}
		a, err := Advice(q)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range a.Findings {
			if f.Mend == nil {
				continue
			}
			data, _ := json.Marshal(f.Mend.Input)
			again := q
			if err := json.Unmarshal(data, &again); err != nil {
				t.Fatal(err)
			}
			b, err := Advice(again)
			if err != nil {
				t.Fatal(err)
			}
			sent[f.Rule]++
			for _, o := range b.Findings {
				if o.Rule == f.Rule && o.Component == f.Component {
					t.Fatalf("%s of %d is there still: %s, after %s", f.Rule, f.Component, o.What, f.Mend.Preview)
				}
			}
		}
	})
	assert.Greater(t, len(sent), 8, "rules whose mend was sent back")
}
