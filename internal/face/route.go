package face

import (
	"strings"

	"github.com/gin-gonic/gin"
)

// Route is something an area answers, with a sample of how it is asked: the tests of doors,
// statements, plans, hostile requests and headers ask every one by it.
type Route struct {
	On     string // "GET /trays/:id"
	Answer func(*gin.Context) error
	// Ask is a path that it answers, and Send what reaches the act, in pairs of name and
	// value. {tray}, {batch}, {place}, {tank}, {lot} and {entry} stand for one of each, {new}
	// for an id of nothing. Without Ask the path of On is asked.
	Ask  string
	Send []string
}

// Mount lets the routes answer.
func (s *Server) Mount(in gin.IRoutes, routes []Route) {
	for _, r := range routes {
		method, path, _ := strings.Cut(r.On, " ")
		in.Handle(method, path, s.Handled(r.Answer))
	}
}
