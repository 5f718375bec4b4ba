package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ulpa/internal/doors/demo"
)

// servedForm is a form as a page served it: what a browser would post of it, and which
// field each label stands at.
type servedForm struct {
	t      testing.TB
	action string
	values url.Values
	labels map[string]string    // by what the label says, the field's name
	button map[string][2]string // name and value of each button, by what it says
}

// served reads the form of a page whose action ends in that.
func served(t testing.TB, body, action string) servedForm {
	doc, err := html.Parse(strings.NewReader(body))
	require.NoError(t, err)
	ids := map[string]string{} // names by id
	f := servedForm{t: t, values: url.Values{}, labels: map[string]string{}, button: map[string][2]string{}}
	for n := range doc.Descendants() {
		if n.Type == html.ElementNode && attr(n, "id") != "" {
			ids[attr(n, "id")] = attr(n, "name")
		}
	}
	for n := range doc.Descendants() {
		if n.Data != "form" || !strings.HasSuffix(attr(n, "action"), action) || f.action != "" {
			continue
		}
		f.action = attr(n, "action")
		for x := range n.Descendants() {
			f.take(x, ids)
		}
	}
	require.NotEmpty(t, f.action, "no form for %s on the page", action)
	return f
}

// take keeps what one element brings to its form.
func (f servedForm) take(x *html.Node, ids map[string]string) {
	name := attr(x, "name")
	switch x.Data {
	case "label":
		if at := ids[attr(x, "for")]; at != "" {
			f.labels[text(x)] = at
		}
	case "button":
		f.button[text(x)] = [2]string{name, attr(x, "value")}
	case "input":
		kind := attr(x, "type")
		if name != "" && (kind != "radio" && kind != "checkbox" || has(x, "checked")) {
			f.values.Add(name, attr(x, "value"))
		}
	case "textarea": // line by line, as it stands
		written := ""
		if x.FirstChild != nil {
			written = x.FirstChild.Data
		}
		f.values.Add(name, written)
	case "select":
		chosen, first := "", true
		for o := range x.Descendants() {
			if o.Data != "option" {
				continue
			}
			value := attr(o, "value")
			if !has(o, "value") {
				value = text(o)
			}
			if first || has(o, "selected") {
				chosen, first = value, false
			}
		}
		f.values.Add(name, chosen)
	}
}

// fill types values at labels, in pairs.
func (f servedForm) fill(pairs ...string) servedForm {
	for i := 0; i+1 < len(pairs); i += 2 {
		name, ok := f.labels[pairs[i]]
		require.True(f.t, ok, "%s has no %q: %v", f.action, pairs[i], f.labels)
		f.values.Set(name, pairs[i+1])
	}
	return f
}

// press posts it with a button.
func (f servedForm) press(says string) servedForm {
	brings, ok := f.button[says]
	require.True(f.t, ok, "%s has no button %q: %v", f.action, says, f.button)
	if brings[0] != "" {
		f.values.Set(brings[0], brings[1])
	}
	return f
}

// at is what stands in the field of a label.
func (f servedForm) at(label string) string { return f.values.Get(f.labels[label]) }

// send posts it.
func (b browser) send(f servedForm) (*http.Response, string) {
	return b.do(http.MethodPost, f.action, f.values)
}

func attr(n *html.Node, name string) string {
	for _, a := range n.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}

func has(n *html.Node, name string) bool {
	for _, a := range n.Attr {
		if a.Key == name {
			return true
		}
	}
	return false
}

func text(n *html.Node) string {
	var s strings.Builder
	for x := range n.Descendants() {
		if x.Type == html.TextNode {
			s.WriteString(x.Data)
		}
	}
	return strings.Join(strings.Fields(s.String()), " ")
}

// What is typed into a look is kept, the height too; and corrected it comes back as it was.
func TestALookIsKeptWhole(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b, x := h.adult(t, demo.People[0]), h.things(t)
	_, page := b.get("/batches/" + x["batch"])
	res, _ := b.send(served(t, page, "/look").fill("True leaves on most", "4", "Height", "6.5"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = b.get("/batches/" + x["batch"])
	require.Contains(t, page, "Looked: 4 true leaves, 6.5 cm tall")
	fix := h.entry(t, "look")
	_, page = b.get("/entries/" + fix + "/correct")
	f := served(t, page, "/correct")
	require.Equal(t, []string{"4", "6.5"}, []string{f.at("True leaves on most"), f.at("Height")})
	res, _ = b.send(f.fill("Height", "7"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = b.get("/batches/" + x["batch"])
	require.Contains(t, page, "Looked: 4 true leaves, 7 cm tall")
}

// What comes late takes its place in time, and what is still to come is refused.
func TestAnActIsDated(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b, x := h.crew(t), h.things(t)
	_, page := b.get("/batches/" + x["batch"])
	look := served(t, page, "/look").fill("True leaves on most", "2", "Height", "3", "When it was", "2027-03-19T08:00")
	res, page := b.send(look)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, page, "must not be in the future")
	res, _ = b.send(look.fill("When it was", "2027-03-17T09:15"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = b.get("/notebook?about=" + x["batch"])
	day, late, found := strings.Cut(page, "Looked: 2 true leaves, 3 cm tall")
	require.True(t, found)
	require.Contains(t, day[strings.LastIndex(day, "<h2"):], "17 March")
	require.Contains(t, late[:400], "written")
	// A reading of yesterday is judged by what was known then, and is not the latest.
	_, page = b.get("/tanks/" + x["tank"])
	res, page = b.send(served(t, page, "/read").fill("pH", "6.0", "When it was", "2027-03-15T09:00"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(page))
	_, page = b.get("/tanks/" + x["tank"])
	require.Contains(t, page, "pH 6.8", "what was read since stands")
}

// A weight that nine plants hardly give is asked about, and kept when it is so.
func TestAHarvestBeyondBeliefIsAskedAbout(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b, x := h.crew(t), h.things(t)
	_, page := b.get("/batches/" + x["batch"])
	f := served(t, page, "/harvest").fill("Weight", "150000")
	res, page := b.send(f)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, page, "Is the decimal point right")
	f = served(t, page, "/harvest")
	require.Equal(t, "150000", f.at("Weight"))
	f.values.Set("sure", "1")
	res, page = b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(page))
}

// A figure of nothing is a figure: what is corrected keeps it.
func TestZeroIsPutRightAsZero(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b, x := h.adult(t, demo.People[0]), h.things(t)
	_, page := b.get("/tanks/" + x["tank"])
	res, body := b.send(served(t, page, "/read").fill("Temperature", "0", "pH", "6.2"))
	if res.StatusCode == http.StatusUnprocessableEntity { // it is asked about
		f := served(t, body, "/read")
		f.values.Set("sure", "1")
		res, _ = b.send(f)
	}
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = b.get("/entries/" + h.entry(t, "reading") + "/correct")
	f := served(t, page, "/correct")
	require.Equal(t, "0", f.at("Temperature"))
	require.Empty(t, f.at("Level"))
	res, _ = b.send(f.fill("pH", "6.3"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = b.get("/tanks/" + x["tank"])
	require.Contains(t, page, "Read pH 6.3, 0 °C")
}

// A task is ticked off with the form its page served; what was never asked is not kept.
func TestATickIsOfTodaysWalk(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b := h.crew(t)
	_, page := b.get("/")
	f := served(t, page, "/round/tick")
	other := f.values.Get("task")
	f.values.Set("what", "Added 500 mL of nitric acid")
	if strings.Contains(page, `name="unwritten"`) { // ticking is not doing
		act := regexp.MustCompile(`name="task" value="([^"]*)">\s*<details class="tick-ask"`).FindStringSubmatch(page)
		require.NotNil(t, act)
		res, _ := b.post("/round/tick", "id", "0197a000-0000-7000-8000-000000000002", "task", act[1])
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "what has a page is done there")
		f.values.Set("unwritten", "1")
	}
	res, _ := b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = b.get(res.Header.Get("Location"))
	require.Regexp(t, "Done: |not written down: ", page)
	require.NotContains(t, page, "nitric")
	res, _ = b.post("/round/tick", "id", "0197a000-0000-7000-8000-000000000001", "task", "acid:"+other, "what", "Added 500 mL of nitric acid")
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
}

// A calendar is looked at first, and the days that are chosen are closed, once.
func TestClosedDaysComeFromACalendar(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	ines := h.adult(t, demo.People[0])
	_, page := ines.get("/season/calendar")
	f := served(t, page, "/season/calendar")
	f.values.Set("text", "nothing of the kind")
	res, body := ines.send(f)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, body, "nothing of the kind", "what was typed stays")
	event := "BEGIN:VEVENT\nUID:%d\nSUMMARY:%s\nDTSTART;VALUE=DATE:%s\nEND:VEVENT\n"
	f.values.Set("text", "BEGIN:VCALENDAR\n"+fmt.Sprintf(event, 1, "Inset day", "20270611")+fmt.Sprintf(event, 2, "Sports day", "20270618")+"END:VCALENDAR\n")
	res, body = ines.send(f)
	require.Equal(t, http.StatusOK, res.StatusCode, said(body))
	chosen := served(t, body, "/season/calendar/close")
	chosen.values["pick"] = []string{"0"}
	for range 2 {
		res, body = ines.send(chosen)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	}
	_, page = ines.get("/settings/closures")
	require.Equal(t, 1, strings.Count(page, "<b>Inset day</b>"))
	require.NotContains(t, page, "Sports day")
}
