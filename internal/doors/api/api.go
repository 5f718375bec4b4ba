// Package api is the JSON face: the calculators for anybody, and the school for programs
// with a key, through the verbs that pages use. Problems are as RFC 9457 says them, the
// description is OpenAPI 3.1, made from what is declared.
//
//	api.Routes(engine, api.School{Store: store}) // POST /api/v1/calc/seed-rate, GET /api/v1/round
package api

import (
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/calc"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/timer"
)

// Routes adds the face to a router: the calculators, and a school's part for whoever has a key.
func Routes(g gin.IRoutes, s School) {
	g.GET("/api/v1/openapi.json", func(c *gin.Context) { c.Data(http.StatusOK, "application/json", description()) })
	s.mount(g)
	g.GET("/calendar/:file", s.calendar)
	g.POST("/api/v1/calc/:name", s.compute)
}

// problem is application/problem+json.
type problem struct {
	Type   string        `json:"type"`
	Title  string        `json:"title"`
	Status int           `json:"status"`
	Detail string        `json:"detail,omitempty"`
	Asks   bool          `json:"asks,omitempty"` // a question: the same again with "sure": true is kept
	Errors []field.Error `json:"errors,omitempty"`
}

func refuse(c *gin.Context, p problem) {
	p.Type = "about:blank"
	b, err := json.Marshal(p)
	if err != nil {
		c.AbortWithStatus(http.StatusInternalServerError)
		return
	}
	c.Data(p.Status, "application/problem+json", b)
}

// Nowhere answers a program that asks what is no route; false: it asks for a page.
func Nowhere(c *gin.Context) bool {
	if !strings.HasPrefix(c.Request.URL.Path, "/api/") {
		return false
	}
	if c.Writer.Status() == http.StatusMethodNotAllowed { // Allow says which there are
		refuse(c, problem{Title: "This address is not asked in this way", Status: http.StatusMethodNotAllowed})
	} else {
		refuse(c, problem{Title: "There is no such address", Status: http.StatusNotFound})
	}
	return true
}

// compute answers a calculator for anybody: whoever asks is told apart by their address.
func (s School) compute(c *gin.Context) {
	k, ok := calc.Find(c.Param("name"))
	if !ok {
		refuse(c, problem{Title: "There is no such calculator", Status: http.StatusNotFound})
		return
	}
	line := bound.Sums
	if k.Searches() {
		line = bound.Searches
	}
	ctx, done, err := line.Enter(c.Request.Context(), bound.Asker{School: uuid.NewSHA1(uuid.NameSpaceURL, []byte(c.ClientIP()))})
	if err != nil {
		s.refuse(c, err)
		return
	}
	defer done()
	body, err := io.ReadAll(c.Request.Body)
	var large *http.MaxBytesError
	if errors.As(err, &large) {
		refuse(
			c,
			problem{
				Title:  "The body is larger than 4 MB",
				Status: http.StatusRequestEntityTooLarge,
				Errors: []field.Error{{Field: "body", Message: say.T("must be at most 4 MB")}},
			},
		)
		return
	}
	if err != nil {
		refuse(c, problem{Title: "The body did not arrive", Status: http.StatusBadRequest})
		return
	}
	out, err := k.Timed(timer.Of(ctx, 10*time.Minute)).RunJSON(body)
	var refused field.Errors
	switch {
	case errors.As(err, &refused):
		refuse(c, problem{Title: "The input cannot be used", Status: http.StatusUnprocessableEntity, Errors: refused})
	case err != nil:
		refuse(c, problem{Title: "Something went wrong here", Status: http.StatusInternalServerError})
	default:
		c.Data(http.StatusOK, "application/json", out)
	}
}
