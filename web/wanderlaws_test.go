package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// laws are what holds of what is kept, whatever was done.
func (w *wanderer) laws() {
	var bad int64
	require.NoError(w, w.db.QueryRow(`SELECT count(*) FROM lots l WHERE grams_mg <> (SELECT coalesce(sum(delta_mg), 0) FROM movements m WHERE m.lot_id = l.id)`).
		Scan(&bad))
	require.Zero(w, bad, "lots that do not weigh what their movements say")
	require.NoError(w, w.db.QueryRow(`SELECT count(*) FROM weighout_cells c WHERE weighed_mg <> (SELECT coalesce(sum(grams_mg), 0) FROM weighings g
		WHERE g.weighout_id = c.weighout_id AND g.unit = c.unit AND g.position = c.position AND undone_at IS NULL)`).Scan(&bad))
	require.Zero(w, bad, "cells that do not hold what was weighed into them")
	now := w.count()
	for table, n := range w.rows {
		require.GreaterOrEqual(w, now[table], n, "%s are gone", table)
	}
	w.rows = now
}

// same holds what stands in two places to say the same.
func (w *wanderer) same() {
	for list, one := range map[string]string{"/lots?limit=1000": "/lots/", "/makings": "/makings/"} {
		r := w.ask("GET", api.Root+list, "", "")
		require.Equal(w, 200, r.Code, "%s: %.300s", list, r.Body)
		var all []map[string]any
		if json.Unmarshal(r.Body.Bytes(), &all) != nil {
			var page map[string]json.RawMessage
			require.NoError(w, json.Unmarshal(r.Body.Bytes(), &page))
			require.NoError(w, json.Unmarshal(page["lots"], &all))
		}
		for _, v := range all {
			got := w.ask("GET", fmt.Sprint(api.Root, one, v["id"]), "", "")
			require.Equal(w, 200, got.Code, "%s%v: %.300s", one, v["id"], got.Body)
			var alone map[string]any
			require.NoError(w, json.Unmarshal(got.Body.Bytes(), &alone))
			require.Equal(w, v, alone, "%s%v", one, v["id"])
			if one != "/makings/" {
				continue
			}
			var blends []map[string]any
			got = w.ask("GET", fmt.Sprint(api.Root, "/makings/", v["id"], "/blends"), "", "")
			require.Equal(w, 200, got.Code, "%.300s", got.Body)
			require.NoError(w, json.Unmarshal(got.Body.Bytes(), &blends))
			for _, b := range blends {
				got = w.ask("GET", fmt.Sprint(api.Root, "/blends/", b["id"]), "", "")
				var alone map[string]any
				require.NoError(w, json.Unmarshal(got.Body.Bytes(), &alone))
				require.Equal(w, b, alone, "blend %v", b["id"])
			}
		}
	}
}

// claimsAgree holds the claims on each lot and of each making to be those of all.
func (w *wanderer) claimsAgree() {
	read := func(path string) (out []map[string]any) {
		r := w.ask("GET", api.Root+path, "", "")
		require.Equal(w, 200, r.Code, "%s: %.300s", path, r.Body)
		require.NoError(w, json.Unmarshal(r.Body.Bytes(), &out))
		return out
	}
	of := map[any][]map[string]any{}
	wants := map[any]map[any]bool{} // making, lot
	all := read("/claims")
	for _, v := range all {
		of[v["lot_id"]] = append(of[v["lot_id"]], v)
		if wants[v["making_id"]] == nil {
			wants[v["making_id"]] = map[any]bool{}
		}
		wants[v["making_id"]][v["lot_id"]] = true
	}
	for lot, list := range of {
		if w.ask("GET", fmt.Sprint(api.Root, "/lots/", lot), "", "").Code == 404 { // it lies in the bin
			continue
		}
		require.Equal(w, list, read(fmt.Sprintf("/lots/%v/claims", lot)), "claims on lot %v", lot)
	}
	for making, lots := range wants {
		var list []map[string]any
		for _, v := range all {
			if lots[v["lot_id"]] {
				list = append(list, v)
			}
		}
		require.Equal(w, list, read(fmt.Sprintf("/makings/%v/claims", making)), "claims of making %v", making)
	}
}

// runsAgree holds what is kept with a run for lists to be what its entries say.
func (w *wanderer) runsAgree() {
	rows, err := w.db.Query(`SELECT id, came_off, some_off FROM runs WHERE sort = 'carding' AND deleted_at IS NULL`)
	require.NoError(w, err)
	kept := map[int64][2]int{}
	for rows.Next() {
		var id int64
		var v [2]int
		require.NoError(w, rows.Scan(&id, &v[0], &v[1]))
		kept[id] = v
	}
	require.NoError(w, errors.Join(rows.Err(), rows.Close()))
	for id, v := range kept {
		r, err := w.c.s.Carder.Run(context.Background(), id)
		if err != nil { // its making or its weigh-out lies in the bin
			continue
		}
		var n [2]int
		for _, u := range r.Units {
			some := len(u.PiecesG) > 0
			for i, p := range u.Passes {
				some = some || p.OffG != nil
				if i == len(u.Passes)-1 && p.OffG != nil {
					n[0]++
				}
			}
			if some {
				n[1]++
			}
		}
		require.Equal(w, n, v, "what came off of run %d", id)
	}
}
