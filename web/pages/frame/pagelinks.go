package frame

import (
	"net/url"
	"strconv"

	"github.com/gin-gonic/gin"
)

// PageLinks say which page of a long list is shown, and lead to those beside it.
type PageLinks struct {
	Offset, Size int
	From, To     int
	Total        int64
	Back, On     string
	at           int
}

// PagesOf reads from an address which page of a list is meant, so many to a page.
func PagesOf(c *gin.Context, size int) PageLinks {
	at, _ := strconv.Atoi(c.Query("page"))
	at = min(max(at, 0), 1_000_000)
	return PageLinks{Offset: at * size, Size: size, at: at}
}

// Of says how many there are in all.
func (p *PageLinks) Of(c *gin.Context, total int64) {
	p.Total, p.From, p.To = total, p.Offset+1, int(min(int64(p.Offset+p.Size), total))
	if p.at > 0 {
		p.Back = WithQuery(c.Request.URL, "page", strconv.Itoa(p.at-1))
	}
	if int64(p.To) < total {
		p.On = WithQuery(c.Request.URL, "page", strconv.Itoa(p.at+1))
	}
}

// WithQuery changes one parameter of a link; changing anything but the page
// goes back to the first.
func WithQuery(u *url.URL, key, value string) string {
	q := u.Query()
	q.Del("did")
	if key != "page" {
		q.Del("page")
	}
	q.Set(key, value)
	if value == "" {
		q.Del(key)
	}
	return u.Path + "?" + q.Encode()
}
