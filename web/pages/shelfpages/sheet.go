package shelfpages

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/stash"
	"fairtangle/formats"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
)

type sheetBody struct {
	Form    frame.Form
	Columns []sheetColumn
	Rows    int
	More    bool // than are read at once
	Text    string
}

// sheetColumn is a column of somebody's table, with what seems to stand in it.
type sheetColumn struct {
	Field   string
	Heading string
	Cells   []string // the first of them
}

// Roles are what a column may be, in words.
func (b sheetBody) Roles() []frame.Option {
	words := map[stash.Role]string{
		stash.LeftOut: "left out", stash.CalledIt: "its name", stash.WhatItIs: "what it is: kind, preparation", stash.Coloured: "its colour",
	}
	var out []frame.Option
	for _, r := range stash.Roles() {
		if r != stash.Weighs {
			out = append(out, frame.Option{Value: string(r), Label: words[r]})
		}
	}
	for _, u := range []string{"g", "oz", "kg", "lb"} {
		out = append(out, frame.Option{Value: string(stash.Weighs) + " " + u, Label: "how much, in " + u})
	}
	return out
}

// cellsShown is how many cells of a column are shown.
const cellsShown = 3

// sheetColumns shows the columns of a table, each with what it seems to say.
func (s *Room) sheetColumns(c *gin.Context, data string, f frame.Form) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	sheet, err := formats.ReadSheet([]byte(data), mostLines+1)
	var not formats.ErrNotCSV
	if errors.As(err, &not) {
		s.importPage(c, http.StatusUnprocessableEntity, importBody{Problem: not.Message})
		return nil
	}
	if err != nil {
		return err
	}
	b := sheetBody{Form: f, Rows: min(len(sheet.Rows), mostLines), More: len(sheet.Rows) > mostLines, Text: data}
	for i, h := range sheet.Head {
		col := sheetColumn{Field: fmt.Sprint("column", i), Heading: h}
		for _, r := range sheet.Rows {
			if i < len(r) && r[i] != "" && len(col.Cells) < cellsShown {
				col.Cells = append(col.Cells, r[i])
			}
		}
		if _, told := f.Values[col.Field]; !told {
			role, unit := stash.RoleOf(h)
			if f.Values[col.Field] = string(role); role == stash.Weighs {
				if unit == "" {
					unit = u.Weight()
				}
				f.Values[col.Field] += " " + unit
			}
		}
		b.Columns = append(b.Columns, col)
	}
	status := http.StatusOK
	if len(f.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.Render(c, status, "sheet", frame.Page{Title: "A table of fibre", Here: "shelf"}, b)
	return nil
}

// readSheet shows how the rows of a table were understood, as those of a list.
func (s *Room) readSheet(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	data, f := strings.ReplaceAll(c.PostForm("text"), "\r\n", "\n"), frame.Typed(c.Request.PostForm)
	sheet, err := formats.ReadSheet([]byte(data), mostLines)
	if err != nil {
		return s.sheetColumns(c, data, f)
	}
	roles, units := make([]stash.Role, len(sheet.Head)), make([]string, len(sheet.Head))
	read := false
	for i := range sheet.Head {
		role, unit, _ := strings.Cut(f.V(fmt.Sprint("column", i)), " ")
		roles[i], units[i] = stash.Role(role), unit
		read = read || roles[i] == stash.CalledIt || roles[i] == stash.WhatItIs
	}
	if !read {
		f.Errors["column0"] = "Say of one column that it is its name, or what it is."
		return s.sheetColumns(c, data, f)
	}
	own, err := workshop.KindNames(c.Request.Context(), s.Studio.Workshop)
	if err != nil {
		return err
	}
	names, shown := stash.Named(own), frame.NewForm()
	var rows []lineRow
	for _, r := range sheet.Rows {
		line, name := stash.LineOf(r, roles, units)
		l, ok := stash.ReadLine(line, u.Weight(), names)
		if !ok {
			continue
		}
		if name != "" {
			l.Name = name
		}
		rows = append(rows, understood(shown, strconv.Itoa(len(rows)), line, l, u))
	}
	if len(rows) == 0 {
		f.Errors["column0"] = "Nothing stands in these columns."
		return s.sheetColumns(c, data, f)
	}
	return s.showLines(c, http.StatusOK, shown, rows)
}
