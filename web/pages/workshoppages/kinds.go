package workshoppages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
)

type kindsBody struct {
	Contents []frame.Option // what stands on labels: the field of its name, and how it is usually called
	Own      []fibre.Kind
	IDs      []int64
	Families []string
	By       map[string][]fibre.Kind
	Form     frame.Form
	Version  int64
	Short    []shortName
	Groups   []string // of all kinds to choose from
	All      map[string][]fibre.Kind
}

// shortName is what the maker calls a kind, with the name that it has.
type shortName struct{ Name, Kind string }

func (s *Room) kindsPage(c *gin.Context) error { return s.showKinds(c, http.StatusOK, frame.NewForm()) }

func (s *Room) showKinds(c *gin.Context, status int, f frame.Form) error {
	_, set, err := s.Units(c)
	if err != nil {
		return err
	}
	rows, err := s.Studio.Workshop.OwnKinds(c.Request.Context())
	if err != nil {
		return err
	}
	b := kindsBody{Form: f, Version: set.Version}
	all, err := s.Studio.Workshop.AllKinds(c.Request.Context(), false)
	if err != nil {
		return err
	}
	for _, r := range rows {
		k, _ := all.Find(fmt.Sprintf("own-%d", r.ID))
		b.Own, b.IDs = append(b.Own, k), append(b.IDs, r.ID)
	}
	for _, n := range set.ShortNames {
		k, known := all.Find(n.Kind)
		if !known {
			k.Name = "a kind that is not there any more"
		}
		b.Short = append(b.Short, shortName{n.Name, k.Name})
	}
	for i, usual := range workshop.Contents() {
		field := fmt.Sprint("content", i)
		if _, typed := f.Values[field]; !typed {
			f.Values[field] = set.ContentNames[usual]
		}
		b.Contents = append(b.Contents, frame.Option{Value: field, Label: usual})
	}
	b.Groups, b.All = workshop.KindOptions(all.List)
	b.Families, b.By = workshop.KindOptions(fibre.Kinds())
	s.Render(c, status, "kinds", frame.Page{Title: "Kinds of fibre", Here: "workshop"}, b)
	return nil
}

// addShortName notes what the maker calls a kind.
func (s *Room) addShortName(c *gin.Context) error {
	return s.changeShortNames(c, func(r *frame.Reader) error {
		in := workshop.ShortName{Name: r.Values.Get("short.name"), Kind: r.Values.Get("short.kind")}
		return workshop.AddShortName(c.Request.Context(), s.Studio.Workshop, r.Version(), in)
	})
}

// nameContents has contents called otherwise on labels.
func (s *Room) nameContents(c *gin.Context) error {
	return s.changeShortNames(c, func(r *frame.Reader) error {
		names := make([]string, len(workshop.Contents()))
		for i := range names {
			names[i] = r.Values.Get(fmt.Sprint("content", i))
		}
		return workshop.NameContents(c.Request.Context(), s.Studio.Workshop, r.Version(), names)
	})
}

// dropShortName lets go of a name.
func (s *Room) dropShortName(c *gin.Context) error {
	return s.changeShortNames(c, func(r *frame.Reader) error {
		return workshop.DropShortName(c.Request.Context(), s.Studio.Workshop, r.Version(), r.Values.Get("drop"))
	})
}

func (s *Room) changeShortNames(c *gin.Context, do func(*frame.Reader) error) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	err := do(&frame.Reader{Values: c.Request.PostForm})
	if err == nil {
		frame.GoTo(c, "/kinds#short", "")
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showKinds(c, http.StatusUnprocessableEntity, f)
}
