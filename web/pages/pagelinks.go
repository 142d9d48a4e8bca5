package pages

import (
	"strconv"

	"github.com/gin-gonic/gin"
)

// pageLinks say which page of a long list is shown, and lead to those beside it.
type pageLinks struct {
	Offset, Size int
	From, To     int
	Total        int64
	Back, On     string
	at           int
}

// pagesOf reads from an address which page of a list is meant, so many to a page.
func pagesOf(c *gin.Context, size int) pageLinks {
	at, _ := strconv.Atoi(c.Query("page"))
	at = min(max(at, 0), 1_000_000)
	return pageLinks{Offset: at * size, Size: size, at: at}
}

// of says how many there are in all.
func (p *pageLinks) of(c *gin.Context, total int64) {
	p.Total, p.From, p.To = total, p.Offset+1, int(min(int64(p.Offset+p.Size), total))
	if p.at > 0 {
		p.Back = withQuery(c.Request.URL, "page", strconv.Itoa(p.at-1))
	}
	if int64(p.To) < total {
		p.On = withQuery(c.Request.URL, "page", strconv.Itoa(p.at+1))
	}
}
