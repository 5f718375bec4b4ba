package pages

import (
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/people"
)

// schoolView is what the sections show of a school.
type schoolView struct {
	Like string // the kind of somebody whom another is to be like
	people.School
	Here, Left   []people.Member
	One          *people.Member // who is being changed
	Code         string         // made a moment ago, shown once
	CodeOf       string
	Cans         []canView
	Begins, Ends string // of its day
	Languages    []words.Choice
}

// sections are the school's own settings, its people and its tablets.
func sections(s *face.Server) []face.Section {
	p := Pages{s}
	return []face.Section{
		{
			Name: "school", Title: "The school", About: "What it is called, where it is, its day, its units and its language.",
			View: p.school, Forms: []face.SettingsForm{
				{Name: "school", Read: p.readSchool, Send: []string{"name", "", "zone", "Europe/London", "period_minutes", "45"}},
				{Name: "units", Read: p.readUnits, Send: []string{"system", "metric", "scale", "ms"}},
				{Name: "language", Read: p.readLanguage, Send: []string{"language", "en"}},
				{Name: "day", Read: p.readDay, Send: []string{"begins", "8:30", "ends", "15:30"}},
			},
		},
		{
			Name: "people", Title: "People", About: "Who may sign in, adults and crews, and what crews may do.",
			May: who.People, View: p.school, Forms: []face.SettingsForm{
				{Name: "people", Read: p.readPerson, Send: []string{"kind", "crew", "name", "Gig", "secret", "12"}},
				{Name: "person", Read: p.readMember, Send: []string{"person", "{new}", "kind", "staff", "name", "x", "login", "x"}},
				{Name: "secret", Read: p.readSecret, Send: []string{"person", "{new}", "secret", "1"}},
				{Name: "code", Read: p.readCode, Send: []string{"person", "{new}"}},
				{Name: "leave", Read: p.readLeave, Send: []string{"person", "{new}"}},
				{Name: "come-back", Read: p.readComeBack, Send: []string{"person", "{new}"}},
				{Name: "end-proof", Read: p.readEndProof, Send: []string{"person", "{new}"}},
				{Name: "crews", Read: p.readCrewMay, Send: []string{"may", "sow"}},
				{Name: "prove-twice", Read: p.readProveTwice},
			},
		},
		{
			Name: "keys", Title: "Keys for programs", About: "Programs that read or measure for the school, each with a key of its own.",
			May: who.People, View: p.keys, Forms: []face.SettingsForm{
				{Name: "keys", Read: p.readKey, Send: []string{"name", "Logger", "scope", "x"}},
				{Name: "withdraw", Read: p.readWithdrawn, Send: []string{"key", "{new}"}},
			},
		},
		{
			Name: "devices", Title: "Tablets for crews", About: "On which tablets crews may sign in.",
			View: p.school, May: who.People, Forms: []face.SettingsForm{
				{Name: "devices", Read: p.readDevice, Send: []string{"device", "Bench tablet"}},
				{Name: "dismiss", Read: p.readDismissed, Send: []string{"device", "{new}"}},
				{Name: "enrolled", Read: p.readEnrolled, Send: []string{"only", ""}},
			},
		},
	}
}

// At and Along are where the school is, as one types it.
func (v schoolView) At() string { return degrees(v.Latitude) }

// Along is its longitude.
func (v schoolView) Along() string { return degrees(v.Longitude) }

func degrees(x *float64) string {
	if x == nil {
		return ""
	}
	return strconv.FormatFloat(*x, 'f', -1, 64)
}

// canView is something that crews may do.
type canView struct {
	Name string
	Says say.Words
	May  bool
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
	v := schoolView{School: school, Begins: calendar.Clock(school.DayBegins), Ends: calendar.Clock(school.DayEnds), Languages: words.Choices()}
	for _, m := range school.People {
		if m.ID.String() == c.Query("edit") {
			v.One = &m
		}
		if m.ID.String() == c.Query("like") {
			v.Like = string(m.Kind)
		}
		if m.Active {
			v.Here = append(v.Here, m)
		} else {
			v.Left = append(v.Left, m)
		}
	}
	for _, can := range people.CrewCans {
		v.Cans = append(v.Cans, canView{can.Name, can.Says, slices.Contains(school.CrewMay, can.Name)})
	}
	v.Code, v.CodeOf = p.TakeOnce(c, "code"), p.TakeOnce(c, "code of")
	c.Set(key, v)
	return v, nil
}

func (p Pages) readUnits(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	return func() error {
		return people.SetSchoolUnits(ctx, p.Store, w, unit.Parse(f.Get("system"), f.Get("scale")))
	}
}

func (p Pages) readLanguage(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	return func() error { return people.SetSchoolLanguage(ctx, p.Store, w, f.Get("language")) }
}

func (p Pages) readDay(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	begins, ends := f.Clock("begins"), f.Clock("ends")
	return func() error { return people.SetSchoolDay(ctx, p.Store, w, begins, ends) }
}

func (p Pages) readPerson(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	n := people.NewPerson{ID: f.ID("id"), Kind: who.Kind(f.Get("kind")), Name: f.Get("name"), Login: f.Get("login"), Secret: f.Get("secret")}
	return func() error {
		_, err := people.Add(ctx, p.Store, w, n)
		return err
	}
}

func (p Pages) readDevice(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("id")
	return func() error { return people.Enrol(ctx, p.Store, w, id, p.Mark(c), f.Get("device")) }
}

func (p Pages) readDismissed(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("device")
	return func() error { return people.Dismiss(ctx, p.Store, w, id) }
}

func (p Pages) readEnrolled(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	return func() error { return people.SetCrewsOnEnrolledOnly(ctx, p.Store, w, f.Get("only") != "") }
}

func (p Pages) readSchool(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	facts := schoolFacts(f)
	return func() error { return people.SetSchool(ctx, p.Store, w, facts) }
}

func schoolFacts(f *face.Form) people.SchoolFacts {
	return people.SchoolFacts{
		Name: f.Get("name"), Zone: f.Text("zone"), Latitude: f.Number("latitude", ""), Longitude: f.Number("longitude", ""),
		Period: f.Int("period_minutes", 45),
	}
}

func (p Pages) readMember(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	m := people.Member{ID: f.ID("person"), Kind: who.Kind(f.Get("kind")), Name: f.Get("name"), Login: f.Get("login")}
	return func() error { return people.Change(ctx, p.Store, w, m) }
}

func (p Pages) readSecret(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("person")
	return func() error { return people.SetSecret(ctx, p.Store, w, id, f.Get("secret")) }
}

// readCode makes a code and shows it on the next page, once.
func (p Pages) readCode(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("person")
	return func() error {
		code, err := people.WayBack(ctx, p.Store, w, id)
		if err == nil {
			p.ShowOnce(c, "code", code)
			p.ShowOnce(c, "code of", f.Get("name"))
		}
		return err
	}
}

func (p Pages) readLeave(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("person")
	return func() error { return people.Leave(ctx, p.Store, w, id) }
}

func (p Pages) readComeBack(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("person")
	return func() error { return people.ComeBack(ctx, p.Store, w, id) }
}

func (p Pages) readEndProof(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("person")
	return func() error { return people.EndProof(ctx, p.Store, w, id) }
}

func (p Pages) readCrewMay(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	return func() error { return people.SetCrewMay(ctx, p.Store, w, f.Values["may"]) }
}

func (p Pages) readProveTwice(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	return func() error { return people.SetProveTwice(ctx, p.Store, w, f.Get("ask") != "") }
}

// keysView is what the section of keys shows.
type keysView struct {
	Keys   []people.Key
	Scopes []face.ChoiceView
	Key    string // made a moment ago, shown once
}

// ScopeOf is what a scope is called.
func (keysView) ScopeOf(scope string) say.Text { return people.ScopeWords(scope) }

func (p Pages) keys(c *gin.Context) (any, error) {
	ctx, w := p.Me(c)
	list, err := people.Keys(ctx, p.Store, w)
	v := keysView{Keys: list, Key: p.TakeOnce(c, "key")}
	for _, x := range people.Scopes {
		v.Scopes = append(v.Scopes, face.ChoiceView{Value: x.ID, Name: w.Prefs.Say(x.Says)})
	}
	return v, err
}

func (p Pages) readKey(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id, key := f.ID("id"), people.NewKeyText()
	return func() error {
		err := people.AddKey(ctx, p.Store, w, id, f.Get("name"), f.Get("scope"), key)
		if err == nil {
			p.ShowOnce(c, "key", key)
		}
		return err
	}
}

func (p Pages) readWithdrawn(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	id := f.ID("key")
	return func() error { return people.WithdrawKey(ctx, p.Store, w, id) }
}
