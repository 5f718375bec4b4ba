package pages

import (
	"errors"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/ical"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/season"
)

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /season/calendar", Answer: p.calendarPage},
		{On: "POST /season/calendar", Line: bound.Calendars, Answer: p.readCalendar, Send: []string{"text", "x"}},
		{On: "GET /season/frost", Answer: p.frostPage},
		{On: "POST /season/frost", Line: bound.Files, Answer: p.readStation, Send: []string{"text", "x"}},
		{On: "POST /season/frost/rule", Answer: p.setFrost, Send: []string{"way", "risk", "risk", "10", "leeway", "1"}},
		{On: "POST /season/calendar/close", Answer: p.closeDays, Send: []string{"pick", "0"}},
	}
}

// calendarView asks for a calendar, and then which of its days are closed.
type calendarView struct {
	Form   *face.Form
	Found  []foundView
	Weekly []weeklyView
	Says   string
	More   string // that not all are shown
}

// weeklyView is a weekly event that may be a period of the group's.
type weeklyView struct {
	ical.Weekly
	Shown string
}

// Any tells whether there is something to choose.
func (v calendarView) Any() bool { return v.Found != nil || v.Weekly != nil }

// foundView is days that a calendar's file calls free.
type foundView struct{ ID, From, To, Name, Shown string }

func (calendarView) Title() say.Text { return say.T("Closed days from a calendar") }

func (s Pages) calendarPage(c *gin.Context) error {
	_, w := s.Me(c)
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "calendar", "Season", calendarView{Form: face.FormOf(nil, w.Prefs)})
	return nil
}

func (s Pages) readCalendar(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, text, err := face.ReadFile(c, w.Prefs, ical.MaxFile)
	if err != nil {
		return err
	}
	got, err := season.ReadCalendar(ctx, s.Store, w, text)
	v, status := calendarView{Form: f}, http.StatusOK
	switch {
	case err != nil && f.Refuse(err):
		status = http.StatusUnprocessableEntity
	case err != nil:
		return err
	}
	for _, d := range got.Days {
		x := foundView{d.ID, d.From.String(), d.To.String(), d.Name, w.Prefs.Say(d.From.Long())}
		if d.To > d.From {
			x.Shown = w.Prefs.T("%s to %s", d.From.Long(), d.To.Long())
		}
		v.Found = append(v.Found, x)
	}
	for _, x := range got.Weekly {
		v.Weekly = append(v.Weekly, weeklyView{x, w.Prefs.Say(season.PeriodKind.Says(season.Period{
			Weekday: strconv.Itoa(x.Weekday), Starts: x.Starts, Minutes: x.Minutes,
		}))})
	}
	if v.Any() {
		v.Says = w.Prefs.T("%d all-day events found. Left out: %d at a time of day, %d cancelled, %d that cannot be read.",
			got.All, got.Timed, got.CalledOff, got.Unclear)
		if got.All > len(v.Found) {
			v.More = w.Prefs.T("%d events: the first %d are shown. Read the calendar again later in the year for those after them.", got.All, len(v.Found))
		}
	}
	s.Render(c, status, "calendar", "Season", v)
	return nil
}

func (s Pages) closeDays(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	at := func(name string, i int) string {
		if list := f.Values[name]; i >= 0 && i < len(list) {
			return list[i]
		}
		return ""
	}
	var list []season.Taken
	for _, pick := range f.Values["pick"] {
		i, wrong := strconv.Atoi(pick)
		from, noFrom := calendar.ParseDay(at("from", i))
		to, noTo := calendar.ParseDay(at("to", i))
		if err := errors.Join(wrong, noFrom, noTo); err != nil {
			return field.Refuse("days", "choose the days that are closed")
		}
		list = append(list, season.Taken{Days: ical.Days{ID: at("id", i), Name: at("name", i), From: from, To: to}, As: at("as", i)})
	}
	var weekly []ical.Weekly
	for _, pick := range f.Values["weekly"] {
		i, wrong := strconv.Atoi(pick)
		day, noDay := strconv.Atoi(at("weekday", i))
		minutes, noMinutes := strconv.Atoi(at("minutes", i))
		if err := errors.Join(wrong, noDay, noMinutes); err != nil {
			return field.Refuse("days", "choose the days that are closed")
		}
		x := ical.Weekly{Name: at("whom", i), Weekday: day, Starts: at("starts", i), Minutes: minutes}
		x.ID = x.Name + " " + at("weekday", i) + " " + x.Starts
		weekly = append(weekly, x)
	}
	added, err := season.TakeCalendar(ctx, s.Store, w, list, weekly)
	if err != nil {
		return err
	}
	return s.Lead(c, face.Outcome{Says: say.T("Added: %d. Lines that were already there stay as they are.", added), To: "/settings/closures"})
}
