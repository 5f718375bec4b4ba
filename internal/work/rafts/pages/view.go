package pages

import (
	"fmt"
	"math"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/raft"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/notebook"
	notebookview "ulpa/internal/work/notebook/view"
	"ulpa/internal/work/rafts"
	"ulpa/internal/work/site"
)

// holeView is a hole of a board, and how large what stands in it is by now.
type holeView struct {
	X, Y, R float64
	Tint    int
	Plant   bool
}

// boardView is a board from above.
type boardView struct {
	Number           int
	Path, Label      string
	W, H             float64 // of the drawing
	EdgeW, EdgeH     float64 // of the board
	Holes            []holeView
	Stands           []standView
	Says, Mark, Code string
}

// standView is plants on a board.
type standView struct {
	Code, Says string
	Tint       int
}

// doView is something to do, with the form that writes it down.
type doView struct {
	raft.Do
	Key, Says, Because, Path, Code string
	Order, Was                     string
	Weigh                          bool
	Form                           *face.Form
	Rest                           []string
}

// weekView is a week of harvests to come.
type weekView struct {
	Name, Says string
	W          float64 // of its bar, in percent
	None       bool
}

// nextView is what comes next to a board.
type nextView struct {
	Board, What, On, Harvest, Empty, Path string
	Now                                   bool
}

// raftView is the page of a raft: its boards as they float, and what to do in order.
type raftView struct {
	ID, Name, Path, Place, Meta, Lead string
	Parted                            bool
	Boards                            []boardView
	Do                                []doView
	Weeks                             []weekView
	Next                              face.CutList[nextView]
	Says, Sow                         string
	Steps                             []face.StepView
	Crops, Batches, Numbers           []face.ChoiceView
	Crop                              string
	Every                             int
	Apart                             bool
	Was, Wanted                       string
	Form                              *face.Form
	Key                               string // of the form that was refused
	Rest                              []string
	most                              int // lines of what comes next
	Lines                             []notebookview.EntryView
}

func (v raftView) Title() say.Text { return say.Name(v.Name) }

// What a form of the page is known by, where it is none of what is to be done.
const (
	plantKey = "plant"
	orderKey = "order"
)

func (s Pages) show(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	asks := face.FormOf(c.Request.URL.Query(), w.Prefs)
	r, err := rafts.Get(ctx, s.Store, w, id, rafts.Asked{Crop: asks.Get("crop"), Every: asks.Int("every", 0)})
	if err != nil {
		return err
	}
	_, all := face.Whole(c.Request.URL)
	v := raftOf(r, f, w, face.Fewer(face.FewTasks, all))
	if v.Lines, err = notebookview.LinesAbout(ctx, s.Store, w, notebook.Filter{About: &id, Most: notebook.Few}); err != nil {
		return err
	}
	s.Render(c, status, "raft", "Places", v)
	return nil
}

func raftOf(r rafts.Raft, f *face.Form, w who.Who, most int) raftView {
	p := w.Prefs
	v := raftView{
		ID: r.Place.ID.String(), Name: r.Place.Name, Path: "/rafts/" + r.Place.ID.String(), Place: "/places/" + r.Place.ID.String(), Form: f, Key: f.Get("key"),
		Parted: r.Parted(), Crop: r.Crop.ID, Every: r.Every, Apart: r.Apart, most: most,
	}
	if !v.Parted {
		v.Lead = p.T("This place floats as one piece. Its settings say how many boards it has, where boards move along.")
		v.Rest = f.Rest()
		return v
	}
	v.Meta = p.T("%s of %s", say.Plural(r.Raft.Boards, "board"), say.Plural(r.Rows*r.Wide(), "hole"))
	tints := map[string]int{}
	for _, b := range r.Boards {
		v.Boards = append(v.Boards, drawBoard(r, b, v.Path, tints, p))
	}
	v.Was = joined(r.Order())
	v.Wanted = joined(raft.ByAge(r.Boards))
	v.Rest = f.Rest("order", "batch", "board", "plants", "grams", "sure", "scrubbed")
	v.todo(r, f, p)
	v.ahead(r, p)
	for _, c := range r.Crops {
		v.Crops = append(v.Crops, face.ChoiceView{Value: c.ID, Name: p.Say(c.Name)})
	}
	for _, x := range r.Seedlings {
		if x.Up {
			v.Batches = append(v.Batches, face.ChoiceView{Value: x.Batch, Name: p.T("%s, %s: %s", say.Name(x.Code), x.Crop.Name, say.Plural(x.Plants, "plant"))})
		}
	}
	for _, b := range r.Boards {
		if n := b.Holes - b.Plants(); n > 0 {
			v.Numbers = append(v.Numbers, face.ChoiceView{Value: fmt.Sprint(b.Number), Name: p.T("Board %d: %d free", b.Number, n)})
		}
	}
	return v
}

func joined(boards []int) string { return strings.Trim(fmt.Sprint(boards), "[]") }

// The drawing of a board: from hole to hole, and its edge.
const (
	pitch  = 34.0
	edge   = 8.0
	hole   = 4.0
	leaves = 15.0 // of a plant that is ready
)

func drawBoard(r rafts.Raft, b raft.Board, path string, tints map[string]int, p say.Reader) boardView {
	wide := r.Wide()
	v := boardView{Number: b.Number, Path: fmt.Sprintf("%s/boards/%d", path, b.Number), Mark: "none"}
	v.EdgeW, v.EdgeH = pitch*float64(wide)+edge, pitch*float64(r.Rows)+edge
	v.W, v.H = v.EdgeW+4, v.EdgeH+4
	at := map[tray.Cell]site.Port{}
	for _, x := range r.Place.Ports {
		at[tray.Cell{Row: x.Tier, Col: x.Col}] = x
	}
	grown := map[string]float64{}
	for _, s := range b.Standing {
		if _, told := tints[s.Batch]; !told {
			tints[s.Batch] = len(tints) % 6
		}
		grown[s.Batch] = math.Min(1, math.Max(0.2, float64(r.Today-s.Sown)/float64(max(1, int(s.Due-s.Sown)))))
		v.Stands = append(v.Stands, standView{s.Code, p.T("%s, day %d", say.Many(s.Plants, say.Lower(s.Crop.Name)), int(r.Today-s.Sown)), tints[s.Batch]})
	}
	for _, c := range r.Holes(b.Number) {
		h := holeView{X: 2 + edge/2 + pitch*(float64(c.Col%wide)+.5), Y: 2 + edge/2 + pitch*(float64(c.Row)+.5), R: hole}
		if x, ok := at[c]; ok {
			id := x.Batch.String()
			h.Plant, h.Tint, h.R = true, tints[id], leaves*grown[id]
		}
		v.Holes = append(v.Holes, h)
	}
	switch due := b.Due(); {
	case b.Plants() == 0:
		v.Says = p.T("empty")
	case b.Ripe(r.Today):
		v.Says, v.Mark = p.T("ready since %s", due.Short()), "now"
	case due <= r.Today+weekDays:
		v.Says, v.Mark = p.T("ready about %s", due.Short()), "soon"
	default:
		v.Says = p.T("ready about %s", due.Short())
	}
	parts := []say.Text{say.T("Board %d", b.Number), say.Name(v.Says)}
	for _, s := range v.Stands {
		parts = append(parts, say.Name(s.Code+" "+s.Says))
	}
	v.Label = p.Say(say.Join(", ", parts...))
	return v
}

const weekDays = 7

// todo is what is to be done, each with its form; a form that was refused shows what was
// typed.
func (v *raftView) todo(r rafts.Raft, f *face.Form, p say.Reader) {
	codes := map[string]string{}
	cuts := map[string]bool{}
	for _, b := range r.Boards {
		for _, s := range b.Standing {
			codes[s.Batch], cuts[s.Batch] = s.Code, s.Crop.Cuts
		}
	}
	found := v.Key == "" || v.Key == plantKey || v.Key == orderKey
	acts := 0
	for _, d := range r.Do {
		x := doView{Do: d, Key: fmt.Sprintf("%s-%d-%s", d.Kind, d.Board, d.Batch), Says: p.Say(d.Says), Because: p.Say(d.Because), Order: joined(d.Order), Was: v.Was}
		if d.Kind == raft.Harvest { // the others say it
			x.Code, x.Path, x.Weigh = codes[d.Batch], "/batches/"+d.Batch, !cuts[d.Batch]
		}
		x.Form = face.BlankForm(p)
		if x.Key == v.Key {
			x.Form, found = f, true
			x.Rest = f.Rest("grams", "sure")
		}
		if d.Kind != raft.Wait {
			acts++
		}
		v.Do = append(v.Do, x)
	}
	if !found { // what was to be done has changed since the page was shown
		v.Rest = f.Rest()
	} else if v.Key == "" {
		v.Rest = nil
	}
	if acts > 0 {
		v.Lead = p.T("%s to do, in this order: from the harvest end to the planting end.", say.Plural(acts, "thing"))
		return
	}
	next := calendar.Day(0)
	for _, b := range r.Boards {
		if due := b.Due(); due > 0 && (next == 0 || due < next) {
			next = due
		}
	}
	if v.Lead = p.T("Nothing to do today."); next > 0 {
		v.Lead = p.T("Nothing to do today. The next board is ready about %s.", next.Long())
	}
}

// ahead is what comes in the weeks to come, what comes next to each board, and what a rhythm
// takes.
func (v *raftView) ahead(r rafts.Raft, p say.Reader) {
	most := 1
	for _, x := range r.Weeks {
		most = max(most, x.Plants)
	}
	for _, x := range r.Weeks {
		week := weekView{Name: p.T("Week of %s", x.Monday.Short()), Says: p.T("nothing"), None: x.Plants == 0, W: 100 * float64(x.Plants) / float64(most)}
		if x.Plants > 0 {
			week.Says = p.T("%s, board %s", say.Plural(x.Plants, "plant"), say.Name(strings.ReplaceAll(joined(x.Boards), " ", ", ")))
			if len(x.Boards) > 1 {
				week.Says = p.T("%s, boards %s", say.Plural(x.Plants, "plant"), say.Name(strings.ReplaceAll(joined(x.Boards), " ", ", ")))
			}
		}
		v.Weeks = append(v.Weeks, week)
	}
	var list []nextView
	for _, x := range r.Ahead {
		n := nextView{Board: fmt.Sprint(x.Board), On: p.Say(x.On.Short()), Harvest: p.Say(x.Harvest.Short())}
		if x.On == r.Today {
			n.On = p.T("today")
		}
		switch {
		case x.Batch != "":
			n.What, n.Path = p.T("%d of %s", x.Plants, say.Name(x.Code)), "/batches/"+x.Batch
		case x.Late:
			n.What, n.Now = p.T("sow %s of %s today", say.Plural(r.Rhythm.Cells, "cell"), say.Lower(r.Crop.Name)), true
		default:
			n.What = p.T("sow %s of %s by %s", say.Plural(r.Rhythm.Cells, "cell"), say.Lower(r.Crop.Name), x.SowBy.Short())
		}
		if n.Empty = "–"; x.EmptyDays > 0 {
			n.Empty = p.Say(say.Plural(x.EmptyDays, "day"))
		}
		list = append(list, n)
	}
	v.Next = face.Cut(list, v.most, v.Path+"?all=1")
	a := r.Rhythm
	every := say.Plural(r.Every, "day")
	if a.Fits {
		v.Says = p.T("%s: one board every %s needs %s of the %d.", r.Crop.Name, every, say.Plural(a.Needs, "board"), r.Raft.Boards)
	} else {
		v.Says = p.T(
			"%s: one board every %s would need %s; these %d are enough for one every %s.",
			r.Crop.Name, every, say.Plural(a.Needs, "board"), r.Raft.Boards, say.Plural(a.Every, "day"),
		)
	}
	if a.Cells > 0 {
		v.Sow = p.T("For each, sow %s with %s.", say.Plural(a.Cells, "cell"), say.Plural(a.Seeds, "seed"))
	}
	v.Steps = face.StepsOf(a.Steps, p)
}

// stayView is a line of a board's history.
type stayView struct{ Code, Path, Crop, From, Until, Days, Came, Became, Grams string }

// boardPage is what was harvested from a board.
type boardPage struct {
	ID, Name, Path, Place, Meta string
	Number                      int
	Stays                       []stayView
	Went                        []string
	Says                        string
}

func (v boardPage) Title() say.Text { return say.T("Board %d", v.Number) }

func boardPageOf(b rafts.Board, w who.Who) boardPage {
	p := w.Prefs
	path := "/rafts/" + b.Place.ID.String()
	v := boardPage{ID: b.Place.ID.String(), Name: b.Place.Name, Path: path, Place: "/places/" + b.Place.ID.String(), Number: b.Number}
	at := 1
	for i, n := range b.Raft.Order() {
		if n == b.Number {
			at = i + 1
		}
	}
	v.Meta = p.T("%d of %d from the planting end · columns %d to %d", at, b.Raft.Boards, (b.Number-1)*b.Raft.Wide()+1, b.Number*b.Raft.Wide())
	for _, s := range b.Stays {
		x := stayView{
			Code: s.Code, Path: "/batches/" + s.Batch, Crop: p.Say(s.Crop.Name), From: p.Say(s.From.Short()), Until: p.T("now"),
			Days: fmt.Sprint(s.Days(b.Today)), Came: fmt.Sprint(s.Plants), Grams: "–",
		}
		if s.Until != 0 {
			x.Until = p.Say(s.Until.Short())
		}
		if s.Grams > 0 {
			x.Grams = p.Format(s.Grams, unit.Gram)
		}
		x.Became = p.Say(became(s.Stay))
		v.Stays = append(v.Stays, x)
	}
	for _, x := range b.Went {
		said := say.T("%s: floats %d from the planting end", x.On.Long(), x.Place)
		if x.Scrubbed {
			said = say.T("%s; scrubbed while it was out", said)
		}
		v.Went = append(v.Went, p.Say(said))
	}
	switch {
	case len(b.Stays) == 0:
		v.Says = p.T("Nobody has written down that anything grew on it.")
	default:
		weighed, scrubbed := say.T("Nothing has been weighed from it yet."), say.T("Nobody wrote down that it was scrubbed.")
		if b.Grams > 0 {
			weighed = say.T("%s were harvested from it.", say.Of(b.Grams, unit.Gram))
		}
		if b.Scrubbed != 0 {
			scrubbed = say.T("Last scrubbed on %s.", b.Scrubbed.Long())
		}
		v.Says = p.Say(say.Join(" ", weighed, say.T("It floated empty on %s.", say.Plural(b.Empty, "day")), scrubbed))
	}
	return v
}

// became is what became of the plants of a stay.
func became(s batch.Stay) say.Text {
	var parts []say.Text
	for _, x := range []struct {
		n    int
		says say.Words
	}{{s.Standing, "%d growing"}, {s.Taken, "%d harvested"}, {s.Lost, "%d lost"}, {s.MovedOn, "%d moved on"}} {
		if x.n > 0 {
			parts = append(parts, say.T(x.says, x.n))
		}
	}
	if len(parts) == 0 {
		return say.T("closed")
	}
	return say.Join(", ", parts...)
}
