package face

import (
	"io/fs"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/base/bound"
)

// Area is what a part of the house gives: its entry in the navigation, its pages, what it
// answers, and its sections of the settings.
type Area struct {
	Link     *Link                 // nil: it has no entry
	Views    fs.FS                 // the templates: NAME.html is a page, _NAME.html its part of another area's page
	Open     func(*Server) []Route // for anybody
	Routes   func(*Server) []Route // for whoever is signed in
	Settings func(*Server) []Section
}

// Link is an entry of the navigation.
type Link struct {
	Name            say.Words
	Path, Key, Icon string
}

// Route is something an area answers, with a sample of how it is asked: the tests of doors,
// statements, plans, hostile requests and headers ask every one by it.
type Route struct {
	On     string // "GET /trays/:id"
	Answer func(*gin.Context) error
	// Ask is a path that it answers, and Send what reaches the act, in pairs of name and
	// value. {tray}, {batch}, {place}, {tank}, {raft}, {lot} and {entry} stand for one of each, {new}
	// for an id of nothing. Without Ask the path of On is asked.
	Ask  string
	Send []string
	Line *bound.Line // in which one waits for what takes much; nil: it takes little
	// LineFor names what must be asked for it to take much; "": it always does.
	LineFor string
}

// open are the routes for anybody.
func (s *Server) open(areas []Area) (all []Route) {
	for _, a := range areas {
		if a.Open != nil {
			all = append(all, a.Open(s)...)
		}
	}
	return all
}

// behind are the routes for whoever is signed in: the areas' and the settings, which hold
// a section of each that has one.
func (s *Server) behind(areas []Area) (all []Route) {
	var sections []Section
	for _, a := range areas {
		if a.Routes != nil {
			all = append(all, a.Routes(s)...)
		}
		if a.Settings != nil {
			sections = append(sections, a.Settings(s)...)
		}
	}
	return append(all, s.settings(sections)...)
}

// Samples are how every route of areas may be asked.
func Samples(areas []Area) []Route {
	var nobody *Server
	return append(nobody.open(areas), nobody.behind(areas)...)
}

// mount lets the routes answer.
func (s *Server) mount(in gin.IRoutes, routes []Route) {
	for _, r := range routes {
		method, path, _ := strings.Cut(r.On, " ")
		in.Handle(method, path, s.Handled(s.inLine(r)))
	}
}
