package workshoppages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type toolsBody struct {
	Tools []toolRow
	Form  frame.Form
	ID    int64
	Kinds []frame.Option
}

// toolRow is a tool with its figures in the maker's units.
type toolRow struct {
	workshop.Tool
	Word, Said string
}

var toolKinds = []frame.Option{
	{Value: string(layup.ToolPicker), Label: "a picker"}, {Value: string(layup.ToolFlick), Label: "a flicker"},
	{Value: string(layup.ToolCombs), Label: "combs"}, {Value: string(layup.ToolHackle), Label: "a hackle"},
}

// toolsPage lists the tools beside the carders; one can be changed there.
func (s *Room) toolsPage(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	body := toolsBody{Form: frame.NewForm()}
	body.Form.Values["kind"], body.Form.Values["minutes"] = string(layup.ToolPicker), show.Number(u.ForPriced(layup.ToolPicker.Minutes(100)))
	if n, _ := strconv.ParseInt(c.Query("tool"), 10, 64); n != 0 {
		v, err := s.Studio.Workshop.Rack.Tool(c.Request.Context(), n)
		if err != nil {
			return err
		}
		body.ID, body.Form.Values = n, map[string]string{
			"version": strconv.FormatInt(v.Version, 10), "name": v.Name, "kind": string(v.Kind), "minutes": show.Number(u.ForPriced(v.Minutes)),
			"loss_pct": show.Number(v.LossPct), "cleaning": v.Cleaning, "note": v.Note,
		}
	}
	return s.showTools(c, http.StatusOK, body)
}

func (s *Room) showTools(c *gin.Context, status int, body toolsBody) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	list, err := s.Studio.Workshop.Rack.Tools(c.Request.Context())
	if err != nil {
		return err
	}
	for _, v := range list {
		row := toolRow{Tool: v, Said: fmt.Sprintf("%s min for %s", show.Fixed(u.ForPriced(v.Minutes), 1), u.Priced())}
		for _, k := range toolKinds {
			if k.Value == string(v.Kind) {
				row.Word = k.Label
			}
		}
		if v.LossPct > 0 {
			row.Said += fmt.Sprintf(" · %s\u00a0%% stays behind", show.Number(v.LossPct))
		}
		body.Tools = append(body.Tools, row)
	}
	body.Kinds = toolKinds
	s.Render(c, status, "tools", frame.Page{Title: "Tools", Here: "workshop"}, body)
	return nil
}

func (s *Room) saveTool(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	v := workshop.Tool{ID: frame.IDIn(r), Version: r.Version(), Name: r.Values.Get("name"), Kind: layup.Tool(r.Values.Get("kind")),
		Cleaning: r.Values.Get("cleaning"), Note: r.Values.Get("note")}
	v.Minutes = u.Per100g(r.Number("minutes", "minutes, such as 6"))
	if r.Values.Get("loss_pct") != "" {
		v.LossPct = r.Number("loss_pct", "a percentage, such as 8")
	}
	if v.ID != 0 { // what was not typed anew stays as it was, to the last digit
		was, err := s.Studio.Workshop.Rack.Tool(c.Request.Context(), v.ID)
		if err == nil && r.Values.Get("minutes") == show.Number(u.ForPriced(was.Minutes)) {
			v.Minutes = was.Minutes
		}
	}
	if err = r.Wrong.Err(); err == nil {
		_, err = s.Studio.Workshop.Rack.Save(c.Request.Context(), v)
	}
	body := toolsBody{Form: frame.Typed(r.Values), ID: v.ID}
	if now, ok := answer.StaleAs[workshop.Tool](err); ok {
		body.Form.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showTools(c, http.StatusConflict, body)
	}
	if err == nil {
		frame.GoTo(c, "/tools", "saved")
		return nil
	}
	if !s.Blame(c, &body.Form, err) {
		return err
	}
	return s.showTools(c, http.StatusUnprocessableEntity, body)
}
