package pages

import (
	"cmp"
	"math"
	"net/http"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/seeds"
)

// shelfView is the list of packets.
type shelfView struct {
	Lead   string
	Lots   face.CutList[lotView]
	Todo   []todoView
	Crops  []face.ChoiceView
	Shows  []face.ChoiceView
	Sorts  []face.ChoiceView
	Crop   string
	Show   string
	Sort   string
	Nobody bool // there is none at all
}

func (shelfView) Title() say.Text { return say.T("Seed") }

// lotView is a packet in the list, with a bar of its years: Full of ten of them gone.
type lotView struct {
	Path, Name, Crop, Variety string
	Left, Age, Comes, Kept    string
	Between                   string
	Full                      float64 // of the bar, 0 to 60
	Old                       bool
	Do                        string
	Urgent                    bool
}

// todoView is a packet about which something is to be done.
type todoView struct{ Path, Name, Word, Why string }

// shows are which packets are listed, and sorts in which order.
var (
	shows = []struct {
		id   string
		name say.Words
	}{{"", "on the shelf"}, {"todo", "with something to do"}, {"gone", "gone##packets"}}
	sorts = []struct {
		id   string
		name say.Words
	}{{"", "by crop"}, {"age", "oldest first"}, {"left", "fewest seeds first"}}
)

func (s Pages) shelf(c *gin.Context) error {
	ctx, w := s.Me(c)
	shelf, err := seeds.OnShelf(ctx, s.Store, w)
	if err != nil {
		return err
	}
	r := w.Prefs
	v := shelfView{Crop: c.Query("crop"), Show: c.Query("show"), Sort: c.Query("sort"), Nobody: len(shelf.Lots) == 0}
	for _, x := range shows {
		v.Shows = append(v.Shows, face.ChoiceView{Value: x.id, Name: r.Say(x.name)})
	}
	for _, x := range sorts {
		v.Sorts = append(v.Sorts, face.ChoiceView{Value: x.id, Name: r.Say(x.name)})
	}
	there := 0
	var list []seeds.Lot
	for _, l := range shelf.Lots {
		if !slices.ContainsFunc(v.Crops, func(o face.ChoiceView) bool { return o.Value == l.Crop.ID }) {
			v.Crops = append(v.Crops, face.ChoiceView{Value: l.Crop.ID, Name: r.Say(l.Crop.Name)})
		}
		do := adviceWords[l.Advice]
		if !l.Setup.Retired {
			there++
			if do.Urgent || l.Advice == "first" && v.Show == "" {
				v.Todo = append(v.Todo, todoView{"/seeds/" + l.ID.String(), r.T("%s, %s", say.Name(l.Name), l.Crop.Name), r.Say(do.Word), r.Say(do.Why)})
			}
		}
		if v.Crop != "" && v.Crop != l.Crop.ID || l.Setup.Retired != (v.Show == "gone") || v.Show == "todo" && do.Word == "" {
			continue
		}
		list = append(list, l)
	}
	say.Sort(r, v.Crops, face.ChoiceView.Called)
	slices.SortStableFunc(list, func(a, b seeds.Lot) int {
		switch v.Sort {
		case "age":
			return cmp.Or(cmp.Compare(b.Age*max(1, a.Keeps()), a.Age*max(1, b.Keeps())), cmp.Compare(a.Name, b.Name))
		case "left":
			left := func(l seeds.Lot) int {
				if l.SeedsLeft == nil {
					return math.MaxInt
				}
				return *l.SeedsLeft
			}
			return cmp.Or(cmp.Compare(left(a), left(b)), cmp.Compare(a.Name, b.Name))
		}
		return a.Packed - b.Packed
	})
	if v.Sort != "age" && v.Sort != "left" {
		say.Sort(r, list, func(l seeds.Lot) string { return r.Say(l.Crop.Name) })
	}
	path, all := face.Whole(c.Request.URL)
	v.Lots = face.CutAs(list, face.Fewer(face.FewLines, all), path, func(l seeds.Lot) lotView { return lotOf(l, r) })
	v.Lead = r.T("%s of %s.", say.Plural(there, "packet"), say.Plural(len(v.Crops), "crop"))
	if n := len(v.Todo); n > 0 {
		v.Lead = r.T("%s of %s. %d of them need something done.", say.Plural(there, "packet"), say.Plural(len(v.Crops), "crop"), n)
	}
	s.Render(c, http.StatusOK, "seeds", "Nursery", v)
	return nil
}

// bar is how wide a packet's years are drawn.
const bar = 60.0

func lotOf(l seeds.Lot, r say.Reader) lotView {
	v := lotView{Path: "/seeds/" + l.ID.String(), Name: l.Name, Crop: r.Say(l.Crop.Name), Variety: l.Variety, Kept: l.Setup.KeptIn}
	v.Left = leftSays(l, r)
	v.Age = r.T("%d of %d", l.Age, l.Keeps())
	v.Full = bar * math.Min(1, float64(l.Age)/float64(l.Keeps()))
	if v.Old = l.Age > l.Keeps(); v.Old {
		v.Age = r.T("%d, keeps %d", l.Age, l.Keeps())
	}
	low, high := l.Own.Between(0.95)
	v.Comes, v.Between = face.Percent(l.Own.Mean()), r.T("%s to %s", face.Percent(low), face.Percent(high))
	do := adviceWords[l.Advice]
	v.Do, v.Urgent = r.Say(do.Word), do.Urgent
	if l.Setup.Retired {
		v.Do, v.Urgent = goneSays(l, r), false
	}
	return v
}

func goneSays(l seeds.Lot, r say.Reader) string {
	for _, w := range seeds.Reasons {
		if w.Value == l.Setup.Gone {
			return r.Say(w.Name)
		}
	}
	if l.Setup.Gone != "" {
		return r.T("poured into %s", say.Name(l.Setup.Gone))
	}
	return r.T("retired")
}

// leftSays is what is left in a packet, by number and by weight where it weighs something.
func leftSays(l seeds.Lot, r say.Reader) string {
	if l.SeedsLeft == nil {
		return r.T("not counted")
	}
	says := say.Plural(*l.SeedsLeft, "seed")
	if g := float64(*l.SeedsLeft) * l.Crop.SeedG / 1000; g >= 1 && !l.Pelleted {
		return r.T("%s, about %s", says, say.Of(math.Round(g), unit.Gram))
	}
	return r.Say(says)
}

// packetView is one packet.
type packetView struct {
	ID, Called, Crop, Variety, Path string
	Facts                           []factView
	Learned                         []learnedView
	Running                         *testView
	Tests                           []testView
	Sowings                         []sowingView
	Beds, Lights                    []face.ChoiceView
	Places, Others, Reasons         []face.ChoiceView
	Poured                          bool // into another packet, which holds its seed now
	Gone, Do, Why, Edit             string
	Dark                            bool // its crop comes in the dark alone
	Form                            *face.Form
	Own                             []string
}

func (v packetView) Title() say.Text { return say.Name(v.Called) }

// factView is something known of a packet.
type factView struct{ Name, Says string }

// learnedView is what was learned of a packet, from tests and from trays.
type learnedView struct {
	Name, Comes, Rests string
	X, W, Mid          float64 // of its bar, 0 to 100
}

// testView is a germination test of a packet.
type testView struct {
	ID, Began, Says, Latest string
	Seeds, Came, Bad        int
	Over                    bool
	Counts                  []factView
	Batch                   string
}

// sowingView is a batch that was sown from a packet.
type sowingView struct{ Path, Code, Says string }

func (s Pages) packet(c *gin.Context) error {
	_, w := s.Me(c)
	return s.show(c, http.StatusOK, face.BlankForm(w.Prefs))
}

func (s Pages) show(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	p, err := seeds.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	r, l := w.Prefs, p.Lot
	v := packetView{
		ID: id.String(), Called: l.Name, Crop: r.Say(l.Crop.Name), Variety: l.Variety, Path: "/seeds/" + id.String(), Form: f,
		Edit: "/settings/lots?edit=" + id.String() + "#form",
		Dark: l.Crop.Light == "dark", Own: f.Rest("seeds", "grams", "came", "bad", "into", "why", "place"),
	}
	if l.Setup.Retired {
		v.Gone, v.Poured = goneSays(l, r), l.Setup.Poured()
	}
	if do := adviceWords[l.Advice]; do.Word != "" {
		v.Do, v.Why = r.Say(say.Capital(do.Word)), r.Say(do.Why)
	}
	v.Facts = factsOf(l, r)
	v.Learned = learnedOf(l, r)
	at := func(t time.Time) string { return r.Say(w.Day(t).Short()) }
	for i := len(l.Tests) - 1; i >= 0; i-- {
		t := testOf(l.Tests[i], at, r)
		if run := l.Running(p.Now); run != nil && run.Test == l.Tests[i].Test {
			v.Running = &t
			continue
		}
		v.Tests = append(v.Tests, t)
	}
	for _, x := range l.Sowings {
		says := r.T("%s: %d of %d cells came up", at(x.At), x.Came, x.Cells)
		v.Sowings = append(v.Sowings, sowingView{"/batches/" + x.Batch.String(), x.Code, says})
	}
	for _, o := range seeds.Beds {
		v.Beds = append(v.Beds, face.ChoiceView{Value: o.Value, Name: r.Say(o.Name)})
	}
	for _, o := range seeds.Lights {
		v.Lights = append(v.Lights, face.ChoiceView{Value: o.Value, Name: r.Say(o.Name)})
	}
	for _, o := range p.Places {
		v.Places = append(v.Places, face.ChoiceView{Value: o.ID.String(), Name: r.T("%s, %s", say.Name(o.Name), say.Of(math.Round(o.TemperatureC), unit.Celsius))})
	}
	for _, o := range p.Alike {
		v.Others = append(v.Others, face.ChoiceView{Value: o.ID.String(), Name: r.T("%s, packed %d", say.Name(o.Name), o.Packed)})
	}
	v.Reasons = face.ChoicesOf(r, seeds.Reasons)
	s.Render(c, status, "packet", "Nursery", v)
	return nil
}

func factsOf(l seeds.Lot, r say.Reader) (out []factView) {
	add := func(name say.Words, says string) {
		if says != "" {
			out = append(out, factView{r.Say(name), says})
		}
	}
	add("In it", leftSays(l, r))
	age := r.T("packed in %d: %d of the %s that such seed keeps", l.Packed, l.Age, say.Plural(l.Keeps(), "year"))
	if l.Age > l.Keeps() {
		age = r.T("packed in %d, older than the %s that such seed keeps", l.Packed, say.Plural(l.Keeps(), "year"))
	}
	if l.Setup.Harvested != nil {
		age = r.T("harvested in %d, %s", *l.Setup.Harvested, say.Name(age))
	}
	add("Age", age)
	for _, o := range seeds.Origins {
		if o.Value == l.Setup.Origin {
			add("Where from", r.Say(o.Name))
		}
	}
	add("Stored in", l.Setup.KeptIn)
	if l.Pelleted {
		add("Coating", r.T("pelleted: one a cell"))
	}
	if l.Treated {
		add("Treated", r.T("gloves on; it is not food and must never be sprouted for eating"))
	}
	return out
}

func learnedOf(l seeds.Lot, r say.Reader) (out []learnedView) {
	for i, x := range []struct {
		name say.Text
		seed.Learned
	}{{say.T("This packet"), l.Own}, {say.T("%s here", say.Name(l.Variety)), l.OfVariety}, {say.T("%s here", l.Crop.Name), l.OfCrop}} {
		low, high := x.Between(0.95)
		rests := r.T("based only on what is usual")
		switch {
		case x.Rests >= 0.5:
			rests = r.T("based on %.0f seeds that were tested", x.Rests)
		case i == 0 && l.Label != nil:
			rests = r.T("based only on its label")
		}
		out = append(out, learnedView{
			Name: r.Say(x.name), Comes: r.T("%s (%s to %s)", face.Percent(x.Mean()), face.Percent(low), face.Percent(high)), Rests: rests,
			X: 100 * low, W: 100 * (high - low), Mid: 100 * x.Mean(),
		})
	}
	return out
}

func testOf(t seeds.Test, at func(time.Time) string, r say.Reader) testView {
	v := testView{ID: t.Test.String(), Began: at(t.At), Says: r.Say(seeds.TestBegun.Says(t.Begun)), Seeds: t.Seeds, Came: t.Came, Bad: t.Bad, Over: t.Over}
	for _, n := range t.Counts {
		v.Counts = append(v.Counts, factView{at(n.At), r.T("%d of %d", n.Came, t.Seeds)})
	}
	v.Latest = r.T("not counted yet")
	if len(t.Counts) > 0 {
		v.Latest = r.T("%d of %d came", t.Came, t.Seeds)
	}
	if t.Batch != nil {
		v.Batch = "/batches/" + t.Batch.String()
	}
	return v
}
