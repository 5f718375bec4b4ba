package pages

import (
	"fmt"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/unit"
	"ulpa/internal/face"
	"ulpa/internal/people"
	"ulpa/internal/who"
	"ulpa/internal/words"
)

// schoolView is what the sections show of a school.
type schoolView struct {
	people.School
	Begins, Ends string // of its day
	Languages    []words.Choice
}

// sections are the school's own settings, its people and its tablets.
func sections(s *face.Server) []face.Section {
	p := Pages{s}
	return []face.Section{
		{Name: "units", View: p.school, Forms: []face.SettingsForm{
			{Name: "units", Read: p.readUnits, Send: []string{"system", "metric", "scale", "ms"}},
		}},
		{Name: "language", View: p.school, Forms: []face.SettingsForm{
			{Name: "language", Read: p.readLanguage, Send: []string{"language", "en"}},
		}},
		{Name: "day", View: p.school, Forms: []face.SettingsForm{
			{Name: "day", Read: p.readDay, Send: []string{"begins", "8:30", "ends", "15:30"}},
		}},
		{Name: "people", View: p.school, Forms: []face.SettingsForm{
			{Name: "people", Read: p.readPerson, Send: []string{"kind", "crew", "name", "Gig", "secret", "12"}},
		}},
		{Name: "devices", View: p.school, Forms: []face.SettingsForm{
			{Name: "devices", Read: p.readDevice, Send: []string{"device", "Bench tablet"}},
			{Name: "dismiss", Read: p.readDismissed, Send: []string{"device", "{new}"}},
			{Name: "enrolled", Read: p.readEnrolled, Send: []string{"only", ""}},
		}},
	}
}

func (p Pages) school(c *gin.Context) (any, error) {
	const key = "settings school" // each section shows the same
	if there, ok := c.Get(key); ok {
		return there, nil
	}
	ctx, w := p.Me(c)
	school, err := people.GetSchool(ctx, p.Store, w, p.Device(c))
	if err != nil {
		return nil, err
	}
	clock := func(m int) string { return fmt.Sprintf("%02d:%02d", m/60, m%60) }
	v := schoolView{school, clock(school.DayBegins), clock(school.DayEnds), words.Choices()}
	c.Set(key, v)
	return v, nil
}

func (p Pages) readUnits(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	return func() error {
		return people.SetSchoolUnits(ctx, p.Store, w, unit.Parse(f.Get("system"), f.Get("scale")))
	}
}

func (p Pages) readLanguage(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	return func() error { return people.SetSchoolLanguage(ctx, p.Store, w, f.Get("language")) }
}

func (p Pages) readDay(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	begins, ends := f.Clock("begins"), f.Clock("ends")
	return func() error { return people.SetSchoolDay(ctx, p.Store, w, begins, ends) }
}

func (p Pages) readPerson(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	n := people.NewPerson{Kind: who.Kind(f.Get("kind")), Name: f.Get("name"), Login: f.Get("login"), Secret: f.Get("secret")}
	return func() error {
		_, err := people.Add(ctx, p.Store, w, n)
		return err
	}
}

func (p Pages) readDevice(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	id := uuid.Must(uuid.NewV7())
	return func() error { return people.Enrol(ctx, p.Store, w, id, p.Mark(c), f.Get("device")) }
}

func (p Pages) readDismissed(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("device")
	return func() error { return people.Dismiss(ctx, p.Store, w, id) }
}

func (p Pages) readEnrolled(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	return func() error { return people.SetCrewsOnEnrolledOnly(ctx, p.Store, w, f.Get("only") != "") }
}
