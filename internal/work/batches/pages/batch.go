package pages

import (
	"maps"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/crop"
	"ulpa/core/harden"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	batchesview "ulpa/internal/work/batches/view"
	"ulpa/internal/work/crops"
	cropsview "ulpa/internal/work/crops/view"
	"ulpa/internal/work/notebook"
	notebookview "ulpa/internal/work/notebook/view"
	"ulpa/internal/work/season"
	sumsview "ulpa/internal/work/sums/view"
)

// bar is one step of the funnel.
type bar struct {
	Name  string
	N     int
	Width float64
	Note  string
}

// whereView is a place where plants of the batch are.
type whereView struct {
	Name, Path, Says string
	Kind             string
	ID               string
	Plants           int
	Open             bool // an open tray
}

// Key says in a form which of them is meant.
func (x whereView) Key() string { return x.Kind + ":" + x.ID }

// fromView is the question where plants are taken from: what was chosen, or where most are.
type fromView struct {
	ID, Was string
	Where   []whereView
}

// From asks where plants of the batch are taken from, with a form as it was sent.
func (v batchView) From(id string, f *face.Form) fromView {
	list := slices.DeleteFunc(slices.Clone(v.Where), func(x whereView) bool { return x.Plants == 0 })
	slices.SortStableFunc(list, func(a, b whereView) int { return b.Plants - a.Plants })
	return fromView{id, f.Get("where"), list}
}

// rampDay is a day of hardening off, as a bar.
type rampDay struct {
	Day, Hours        string
	H, X, Y           float64
	Closed, Now, Past bool
	Night, Missed     bool
}

// batchView is the page of a batch: how it grew, where it is, and what can be done to it.
type batchView struct {
	ID                           uuid.UUID
	Code, Crop, Variety, Purpose string
	Path                         string
	Meta                         string
	Closed                       bool
	Headline, Why, Mark          string
	Growing                      bool // still in its tray, with sprouts
	Germinating                  bool
	Curve                        batchesview.CurveView
	CurveSays, CurveWhy          string
	Steps                        []face.StepView
	Funnel                       []bar
	Lost                         []bar
	Where                        []whereView
	Ramp                         []rampDay
	RampSays, RampHours          string
	RampW                        int
	Rule                         string
	OwnRule                      bool
	Sums                         []sumsview.SumLink
	RuleForm, Described          *face.Form
	Crops                        []face.ChoiceView // that it may turn out to be, where it was not sown here
	Caution                      string            // of an unknown plant
	Planned                      []face.ChoiceView // sowings that it can be counted for
	Offer, OfferSays             string            // one that it may well be; "": none
	Look, Lose, Harvest, Hand    *face.Form
	Standing                     int
	Hazard                       string
	Lines                        []notebookview.EntryView
	MayClose                     bool
	Refused                      []string
	Losing                       bool // the form of losses stands open
	Story                        *storyView
	Tend                         *tendView
	Picture                      face.PictureForm
}

func (v batchView) Title() say.Text { return say.Name(v.Code + " " + v.Crop) }

func (s Pages) batchPage(c *gin.Context) error {
	_, w := s.Me(c)
	if cause := c.Query("cause"); cause != "" { // the guide leads here
		return s.showBatch(c, http.StatusOK, "lose", face.BlankForm(w.Prefs, "cause", cause))
	}
	return s.showBatch(c, http.StatusOK, "", face.BlankForm(w.Prefs))
}

// showBatch shows a batch; which names the form that f belongs to.
func (s Pages) showBatch(c *gin.Context, status int, which string, f *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	b, err := batches.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := batchOf(b, w)
	if v.Lines, err = notebookview.LinesAbout(ctx, s.Store, w, notebook.Filter{About: &id, Most: notebook.Few}); err != nil {
		return err
	}
	blank := face.BlankForm(w.Prefs)
	v.Look, v.Lose, v.Harvest, v.Hand = blank, blank, blank, blank
	v.Picture = face.PictureForm{Form: blank, About: id.String(), Back: v.Path}
	schedule, err := sumsview.ScheduleLink(ctx, s.Store, w, b.Crop)
	if err != nil {
		return err
	}
	v.Sums = append(sumsview.BatchSums(b, w), sumsview.AgainSums(b, schedule, w)...)
	v.RuleForm = face.BlankForm(w.Prefs, ruleValues(b.Crop, w.Prefs)...)
	if !b.Closed && w.May(who.Sow) {
		like, err := batches.PlannedLike(ctx, s.Store, w, b)
		if err != nil {
			return err
		}
		v.plannedLike(b, like, w.Prefs)
		if b.LotID == uuid.Nil {
			book, err := crops.Get(ctx, s.Store, w)
			if err != nil {
				return err
			}
			v.Crops = cropsview.ToName(book, w.Prefs)
		}
	}
	if b.Crop.ID == crop.Unknown {
		v.Caution = w.Prefs.Say(b.Crop.Hazard)
	}
	switch which {
	case "describe":
		v.Described = f
	case "look":
		v.Look = f
	case "lose":
		v.Lose, v.Losing = f, true
	case "hand-over":
		v.Hand = f
	case "harvest":
		v.Harvest = f
	case "rule":
		v.RuleForm = f
	case "tend":
		if v.Refused = f.Rest(); v.Tend != nil {
			v.Tend.Form, v.Refused = f, f.Rest("did", "sure")
			for i, x := range v.Tend.Choices {
				v.Tend.Choices[i].On = slices.Contains(f.Values["did"], x.ID)
			}
		}
	case "close":
		v.Refused = f.Rest()
	}
	v.MayClose = w.May(who.Close)
	if err := s.rampOf(c, b, &v); err != nil {
		return err
	}
	s.Render(c, status, "batch", "Nursery", v)
	return nil
}

// plannedLike fills the form that says what a batch is for, and offers a planned sowing that it may be.
func (v *batchView) plannedLike(b batches.Batch, like []batches.Planned, p say.Reader) {
	v.Described = face.BlankForm(p, describedAs(b, like)...)
	mine := false
	for _, x := range like {
		mine = mine || x.Mine
		v.Planned = append(v.Planned, face.ChoiceView{
			Value: x.ID.String(), Name: p.T("%d wanted by %s, to be sown on %s", x.Wanted, x.ReadyBy.Short(), x.SowOn.Short()),
		})
	}
	for i, x := range like {
		if !mine && v.Offer == "" && x.Fits(b.Sown) {
			v.Offer, v.OfferSays = x.ID.String(), p.T("A sowing of this crop is planned: %s. Was it this one?", say.Name(v.Planned[i].Name))
		}
	}
}

func batchOf(b batches.Batch, w who.Who) batchView {
	p := w.Prefs
	v := batchView{
		ID: b.ID, Code: b.Code, Crop: p.Say(b.Crop.Name), Variety: b.Variety, Purpose: b.Purpose, Path: "/batches/" + b.ID.String(),
		Closed: b.Closed, Standing: b.State.Standing(), Hazard: p.Say(b.Crop.Hazard), OwnRule: ownRule(b.Crop),
		Meta: p.T("sown %s from lot %s of %d · %d wanted", b.Sown.Long(), b.LotName, b.Packed, b.Wanted),
	}
	v.Tend = tendOf(b, p)
	if b.State.Start == batch.Soaked {
		v.Meta = p.T("soaked %s from lot %s of %d · %s of dry seed", b.Sown.Long(), b.LotName, b.Packed, say.Of(b.State.SeedG, unit.Gram))
	}
	if b.LotID == uuid.Nil {
		v.Meta = p.T("growing since about %s; entered as it was then", say.Date(b.SownAt, "2 January 2006"))
	}
	if b.ReadyBy != nil {
		v.Meta = p.T("%s, ready by %s", v.Meta, say.Date(*b.ReadyBy, "Mon 2 January"))
	}
	v.Germinating = b.State.Waiting() > 0 && !b.Closed && b.State.Start == ""
	v.Growing = b.State.InTrays() > 0
	v.Curve = batchesview.CurveOf(b.Curve, p)
	says, why, _ := batchesview.GerminationSays(b)
	v.CurveSays, v.CurveWhy = p.Say(says), p.Say(why)
	v.Steps = batchesview.GerminationSteps(b, p)
	v.Rule = p.Say(ruleWords(b.Rule()))
	says, why, v.Mark = batchesview.Headline(b)
	v.Headline, v.Why = p.Say(says), p.Say(why)
	v.Funnel, v.Lost = funnel(b.State, p)
	v.where(b, p)
	v.Story = storyOf(b, p)
	return v
}

func ruleWords(r ready.Rule) say.Text {
	var parts []say.Text
	if r.Leaves > 0 {
		parts = append(parts, say.T("%d true leaves", r.Leaves))
	}
	if r.HeightCM > 0 {
		parts = append(parts, say.T("%s tall", say.Of(r.HeightCM, unit.Centimetre)))
	}
	if r.AgeDays > 0 && (r.Every || len(parts) == 0) { // else what is seen decides, as ready.Judge has it
		parts = append(parts, say.T("%d days from sowing", r.AgeDays))
	}
	rule := say.Either(parts...)
	if r.Every {
		rule = say.List(parts...)
	}
	return say.T("%s; after that it can wait %d days", rule, r.HoldDays)
}

func funnel(st *batch.State, p say.Reader) (steps, lost []bar) {
	width := func(n int) float64 { return 100 * float64(n) / float64(max(1, st.Sown)) }
	add := func(name say.Words, n int, note say.Text) {
		steps = append(steps, bar{p.Say(name), n, width(n), p.Say(note)})
	}
	if st.Start == batch.Soaked {
		add("Jars and trays begun", st.Entered, nil)
	} else if st.Start == batch.Struck && st.Entered < st.Sown {
		add("Cuttings taken", st.Sown, nil)
		add("Rooted", st.Sprouted, say.Name(face.Percent(float64(st.Sprouted)/float64(max(1, st.Sown)))))
	} else if st.Entered > 0 {
		add("Entered as they were", st.Entered, nil)
	} else {
		add("Sown", st.Sown, say.Plural(st.Seeds, "seed"))
		add("Came up", st.Sprouted, say.Name(face.Percent(float64(st.Sprouted)/float64(max(1, st.Sown)))))
	}
	if st.Replanted > 0 {
		add("Thinned out and replanted", st.Replanted, nil)
	}
	if st.Start != batch.Soaked {
		add("Moved on", st.Moved, nil)
	}
	if st.SetOut > 0 {
		add("Plant out", st.SetOut, nil)
	}
	if st.Cuts > 0 {
		add("Harvested whole", st.Taken, say.T("%s in %s", say.Of(st.Grams, unit.Gram), say.Plural(st.Cuts, "harvest")))
	}
	for _, x := range batch.Ways {
		if n := st.Handed[x.ID]; n > 0 {
			steps = append(steps, bar{p.Say(say.Capital(x.Name)), n, width(n), ""})
		}
	}
	if n := st.Empties(); n > 0 {
		lost = append(lost, bar{p.T("nothing came up"), n, width(n), ""})
	}
	for _, cause := range slices.Sorted(maps.Keys(st.Lost)) {
		lost = append(lost, bar{p.Say(cause.Name()), st.Lost[cause], width(st.Lost[cause]), ""})
	}
	return steps, lost
}

func (v *batchView) where(b batches.Batch, p say.Reader) {
	trays := map[string]*whereView{}
	for _, c := range b.Cells {
		if v.Closed {
			break
		}
		x, ok := trays[c.Tray]
		if !ok {
			v.Where = append(v.Where, whereView{Name: c.Tray, Path: "/trays/" + c.TrayID.String(), Kind: "cell", ID: c.TrayID.String()})
			x = &whereView{}
			trays[c.Tray] = x
		}
		x.Plants += c.Standing()
		x.Open = x.Open || c.Open
	}
	for i := range v.Where {
		v.Where[i].Plants = trays[v.Where[i].Name].Plants
		switch {
		case v.Where[i].Plants > 0:
			v.Where[i].Says = p.T("%d in cells", v.Where[i].Plants)
			if trays[v.Where[i].Name].Open {
				v.Where[i].Says = p.T("%d in an open tray", v.Where[i].Plants)
			}
		case b.State.Waiting() > 0 && b.State.Standing() == 0:
			v.Where[i].Says = p.T("nothing up yet")
		default:
			v.Where[i].Says = p.T("only failed cells to wash")
		}
	}
	ports := map[uuid.UUID]int{}
	for _, x := range b.Ports {
		if i, ok := ports[x.PlaceID]; ok {
			v.Where[i].Plants++
			continue
		}
		ports[x.PlaceID] = len(v.Where)
		v.Where = append(v.Where, whereView{Name: x.Place, Path: "/places/" + x.PlaceID.String(), Kind: "port", ID: x.PlaceID.String(), Plants: 1})
	}
	for _, i := range ports {
		v.Where[i].Says = p.T("%d in ports", v.Where[i].Plants)
	}
	for _, x := range b.Stands {
		what := say.Words("plant")
		if b.State.Start == batch.Soaked {
			what = "vessel"
		}
		at := whereView{
			Name: x.Place, Path: "/places/" + x.PlaceID.String(), Kind: "stand", ID: batch.StandKey(x.PlaceID.String(), x.PotID), Plants: x.Plants,
			Says: p.Say(say.Plural(x.Plants, what)),
		}
		if x.Pot != "" {
			at.Name, at.Says = p.T("%s, in %s", say.Name(x.Place), say.Name(x.Pot)), p.T("%s · %s", say.Plural(x.Plants, what), x.Verdict.Why)
		}
		v.Where = append(v.Where, at)
	}
}

// rampOf draws the hardening ramp of a batch that stands in a frame.
func (s Pages) rampOf(c *gin.Context, b batches.Batch, v *batchView) error {
	ctx, w := s.Me(c)
	inFrame := false
	for _, x := range b.Stands {
		inFrame = inFrame || x.Kind == "frame"
	}
	if !inFrame {
		return nil
	}
	plan, err := season.Ramp(ctx, s.Store, w, b.ID)
	if err != nil {
		return err
	}
	counted, last := 0, 0
	var hours []say.Text
	for i, d := range plan {
		r := rampDay{
			Day:    w.Prefs.Say(say.Date(d.Day.UTC(), "2 Jan")),
			Closed: d.Closed,
			Missed: d.Missed,
			Now:    d.Day == b.Today,
			Past:   d.Done,
			Night:  d.Night,
			Hours:  w.Prefs.Decimal("%g", d.Hours),
			X:      8 + 44*float64(i),
			H:      9 * d.Hours,
		}
		r.H *= 0.8
		r.Y = 104 - r.H
		v.Ramp = append(v.Ramp, r)
		switch says := say.Name(r.Day); {
		case d.Closed:
			hours = append(hours, say.T("%s closed", says))
		case d.Missed:
			hours = append(hours, say.T("%s not opened", says))
		default:
			hours = append(hours, say.T("%s %s", says, say.Name(r.Hours)))
		}
		last = max(last, d.Step)
		if d.Done {
			counted++
		}
	}
	v.RampW = 44*len(plan) + 12
	if len(plan) == 0 {
		return nil
	}
	v.RampHours = w.Prefs.T("Hours outside by day: %s.", say.Join(", ", hours...))
	d, on := harden.On(plan, b.Today)
	switch {
	case counted >= last:
		v.RampSays = w.Prefs.T("Hardening off is done: plant them out when the nights allow, on a dull, still day.")
	case on && d.Done:
		v.RampSays = w.Prefs.T("Day %d of %d is done. Close the frame before the last bell.", d.Step, last)
	case on && !d.Closed:
		v.RampSays = w.Prefs.T("Day %d of %d: %g hours outside today. A day counts once you tick off opening it on the round.", d.Step, last, d.Hours)
	default:
		v.RampSays = w.Prefs.T("Nobody is here today: the lid stays on, and hardening off waits.")
	}
	return nil
}
