package pages

import (
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/calc"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/sums"
)

// sumGroup is a heading of the bench sums: when one needs them.
type sumGroup struct {
	When say.Words
	Sums []calc.Calculator
}

// sumsView is the list of calculators.
type sumsView struct{ Groups []sumGroup }

func (sumsView) Title() say.Text { return say.T("Bench calculators") }

func (s Pages) sumsPage(c *gin.Context) error {
	var v sumsView
	for _, need := range calc.Needs {
		group := sumGroup{When: need}
		for _, k := range calc.All {
			if k.Need == need {
				group.Sums = append(group.Sums, k)
			}
		}
		v.Groups = append(v.Groups, group)
	}
	s.Render(c, http.StatusOK, "sums", "Calculators", v)
	return nil
}

// sumView is a calculator with its fields and its answer.
type sumView struct {
	sums.Screen
	Path      string
	Method    string
	System    string
	Scale     string
	For       string // what it was opened from, as kind:id
	ForName   string
	ForPath   string
	Steps     []face.StepView
	Link      string
	UseSays   string
	UsePath   string
	MayNot    string // why the result cannot be used by this person
	PlanID    string
	PlanCrop  string
	PlanReady string
	PlanSow   string
}

func (v sumView) Title() say.Text { return v.Calculator.Title }

// maxLink bounds the address that carries a sum's inputs.
const maxLink = 4000

// sumPage answers a calculator: with no values its example, with values what
// they come to. While somebody types only the work is asked for again.
func (s Pages) sumPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	k, ok := calc.Find(c.Param("name"))
	if !ok {
		return store.ErrNotFound
	}
	values := c.Request.URL.Query()
	if c.Request.Method == http.MethodPost {
		values = face.ReadForm(c, w.Prefs).Values
	}
	prefs := w.Prefs
	if system, scale, ok := strings.Cut(values.Get("units"), "/"); ok {
		prefs.Prefs = unit.Parse(system, scale)
	}
	if other := unit.Parse(values.Get("system"), values.Get("scale")); values.Get("system") != "" && other != prefs.Prefs {
		wanted := say.Reader{Prefs: other, Tongue: prefs.Tongue}
		if converted, ok := sums.InUnits(k, values, prefs, wanted); ok {
			converted["for"], converted["example"] = values["for"], values["example"]
			values, prefs = converted, wanted
		}
	}
	screen, err := sums.Read(ctx, k, values, prefs)
	if err != nil {
		return err
	}
	v := sumView{Screen: screen, Path: "/sums/" + k.Name, Method: "get", System: prefs.System(), Scale: prefs.Scale(), For: values.Get("for")}
	if k.Name == "frost" {
		v.Method = "post" // years of nights do not fit into an address
	}
	if screen.Answer != nil {
		v.Steps = face.StepsOf(screen.Answer.Steps, prefs)
		v.link(values)
		if err := s.useOf(ctx, w, &v); err != nil {
			return err
		}
	}
	status := http.StatusOK
	if screen.Answer == nil {
		status = http.StatusUnprocessableEntity
	}
	if c.GetHeader("HX-Request") != "" && c.GetHeader("HX-Boosted") == "" {
		s.Write(c, status, "sum", "main", face.Page{P: w.Prefs, V: v})
		return nil
	}
	s.Render(c, status, "sum", "Calculators", v)
	return nil
}

func (v *sumView) link(values url.Values) {
	carried := url.Values{"units": {v.System + "/" + v.Scale}}
	for name, list := range v.Values {
		if !slices.Contains([]string{"example", "units", "system", "scale"}, name) && len(list) > 0 && list[0] != "" {
			carried[name] = list
		}
	}
	if values.Get("for") != "" {
		carried.Set("for", values.Get("for"))
	}
	if address := v.Path + "?" + carried.Encode(); len(address) < maxLink {
		v.Link = address
	}
}

// forID is the id behind what a sum was opened for.
func forID(of string) (kind string, id uuid.UUID) {
	kind, rest, _ := strings.Cut(of, ":")
	id, err := uuid.Parse(rest)
	if err != nil {
		return "", id
	}
	return kind, id
}

// mayUse tells which results a person may put to use.
func mayUse(calculator string, w who.Who) say.Words {
	switch {
	case (calculator == "ph-adjust" || calculator == "learn-dose") && !w.May(who.Dose):
		return "Acid and alkali are dosed and written down by an adult."
	case (calculator == "seed-rate" || calculator == "back-schedule") && !w.May(who.Plan):
		return "Sowing is written down by a member of staff."
	}
	return ""
}
