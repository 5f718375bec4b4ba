package plan

import (
	"fmt"
	"math"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// SeasonPlace is where plants stand: so much room, in a unit of its own.
type SeasonPlace struct {
	Name   string
	Room   float64
	Closed []calendar.Closure // nothing can stand there
}

// Stand is a place in which a stage can be, and what one plant takes and costs there a day.
type Stand struct {
	Place          string
	RoomEach, Cost float64
	From           calendar.Day // nothing is put there before; 0: at any time
	Until          calendar.Day // nothing stands there after; 0: for as long as it likes
}

// SeasonStage is a stage of a batch.
type SeasonStage struct {
	Name                      string
	Days, HoldDays            int
	WaitCost                  float64 // a plant and held day
	Haste                     int     // by so many days it can be shorter, where nothing else will do
	HasteCost                 float64 // a plant and day that it is shorter
	InHand                    int     // of its days, those that it is given only in case it begins late
	MinutesFixed, MinutesEach float64 // of the move that begins it
	Where                     []Stand
	On                        calendar.Day   // it begins on this day and no other; 0: any
	NotOn                     []calendar.Day // it does not begin on these
}

// Placed is a stage begun on a day at a place.
type Placed struct {
	Stage string       `json:"stage"`
	Place string       `json:"place"`
	Day   calendar.Day `json:"on"`
}

// SeasonBatch is plants that are to be ready between two days.
type SeasonBatch struct {
	Name                                string
	Plants                              int
	ReadyFrom, ReadyBy                  calendar.Day
	Value                               float64 // what it costs not to grow it
	EarlyCost                           float64 // a plant and day from ready to ReadyBy
	ReadyMinutesFixed, ReadyMinutesEach float64
	Stages                              []SeasonStage
	Done                                []Placed // moves made before the season begins
	// Kept is how it was planned before, the days of its moves and of ready. It stays where
	// nothing is lost by that.
	Kept       []Placed
	KeptReady  calendar.Day
	ReadyNotOn []calendar.Day // it is not to be ready on these
}

// inHand is how many days its stages are given only in case it begins late.
func (b SeasonBatch) inHand() (days int) {
	for _, s := range b.Stages {
		days += s.InHand
	}
	return days
}

// DayMinutes replaces the minutes of a day; nil: no limit.
type DayMinutes struct {
	Day     calendar.Day
	Minutes *float64
}

// SeasonInput is what PlanSeason needs.
type SeasonInput struct {
	From, To  calendar.Day
	Workdays  []int // 1 (Monday) to 7
	Closed    []calendar.Closure
	Open      func(calendar.Day) bool `json:"-"` // nil: workdays outside closures
	Minutes   *float64                // for moves on an open day; nil: no limit
	MinutesOn []DayMinutes
	Places    []SeasonPlace
	Batches   []SeasonBatch
	// GoodEnough ends the search when a plan is proved to lose no more than this share; 0:
	// only the best will do.
	GoodEnough float64
	// Homeless batches may have a stage that no place suits: they are impossible, and no mistake.
	Homeless bool
	// Stay is what a plan must cost less, to be another than that which is kept already.
	Stay float64
}

// Why a batch is not grown.
const (
	Impossible = "impossible"  // alone in the house it has no plan
	NotWorth   = "not_worth"   // alone its cheapest plan costs at least its value
	CrowdedOut = "crowded_out" // others are worth more
)

// SeasonLine is what is planned for a batch.
type SeasonLine struct {
	Name     string
	Grown    bool
	Moves    []Placed
	Ready    calendar.Day
	HeldDays int
	Short    int    // days that its stages are shorter than they should be, beyond those in hand
	Why      string // when it is not grown
	Cost     float64
}

// Season is a plan, and how good any plan could be.
type Season struct {
	Cost, Bound, Gap float64
	Batches          []SeasonLine
	Steps            []working.Step
}

// Bounds of a season.
const (
	MaxSeasonDays    = 1100
	MaxSeasonPlaces  = 200
	MaxSeasonBatches = 2000
)

// PlanSeason plans which day each batch is sown and moved and where it stands, within the
// room of places and the minutes of days, at least cost, and proves below which cost no plan
// can be (Lagrangian relaxation of room and minutes: Held, Wolfe and Crowder 1974). It
// searches until spent says that all of its time is over, 1, or nothing better is left;
// what it has then holds every rule. It refuses with field.Errors.
func PlanSeason(in SeasonInput, spent func() float64) (Season, error) {
	if err := in.check(); err != nil {
		return Season{}, err
	}
	h := in.house()
	s := newSearch(h, spent)
	s.enough, s.stay = max(in.GoodEnough, 1e-9), in.Stay
	s.run()
	return s.season(in), nil
}

func (in SeasonInput) check() error {
	var e field.Errors
	e.Require(in.To >= in.From, "to", "is before from")
	e.Require(int(in.To-in.From)+1 <= MaxSeasonDays, "to", "is more than 1,100 days after from")
	e.Require(len(in.Workdays) > 0, "workdays", "needs at least one of 1 (Monday) to 7")
	for i, w := range in.Workdays {
		e.Require(w >= 1 && w <= 7, fmt.Sprintf("workdays.%d", i), "must be 1 (Monday) to 7")
	}
	ranges := func(at string, list []calendar.Closure) {
		for i, c := range list {
			e.Require(c.From <= c.To, fmt.Sprintf("%s.%d.to", at, i), "is before from")
		}
	}
	ranges("closed", in.Closed)
	e.Require(in.Minutes == nil || *in.Minutes >= 0, "minutes", "must be 0 or more")
	on := map[calendar.Day]bool{}
	for i, m := range in.MinutesOn {
		e.Require(!on[m.Day], fmt.Sprintf("minutes_on.%d.date", i), "is in the list twice")
		e.Require(m.Minutes == nil || *m.Minutes >= 0, fmt.Sprintf("minutes_on.%d.minutes", i), "must be 0 or more")
		on[m.Day] = true
	}
	e.Require(len(in.Places) >= 1 && len(in.Places) <= MaxSeasonPlaces, "places", "must be 1 to 200 places")
	known := map[string]bool{}
	for i, p := range in.Places {
		at := fmt.Sprintf("places.%d.", i)
		e.Require(!known[p.Name], at+"name", "is in the list twice")
		e.Require(p.Room >= 0 && p.Room <= 1e12, at+"room", "must be 0 or more")
		ranges(at+"closed", p.Closed)
		known[p.Name] = true
	}
	e.Require(len(in.Batches) >= 1 && len(in.Batches) <= MaxSeasonBatches, "batches", "must be 1 to 2,000 batches")
	names := map[string]bool{}
	for i, b := range in.Batches {
		at := fmt.Sprintf("batches.%d.", i)
		e.Require(b.Name != "", at+"name", "say what the batch is called")
		e.Require(!names[b.Name], at+"name", "is in the list twice")
		names[b.Name] = true
		in.checkBatch(&e, at, b, known)
	}
	return e.Err()
}

func (in SeasonInput) checkBatch(e *field.Errors, at string, b SeasonBatch, known map[string]bool) {
	amount := func(v float64, name string) { e.Require(v >= 0 && v <= 1e12, name, "must be 0 or more") }
	e.Require(b.Plants >= 1 && b.Plants <= 1_000_000, at+"plants", "must be a whole number from 1 to 1,000,000")
	e.Require(b.ReadyBy >= b.ReadyFrom, at+"ready_by", "is before ready_from")
	amount(b.Value, at+"value")
	amount(b.EarlyCost, at+"early_cost")
	amount(b.ReadyMinutesFixed, at+"ready_minutes_fixed")
	amount(b.ReadyMinutesEach, at+"ready_minutes_each")
	e.Require(len(b.Stages) >= 1 && len(b.Stages) <= MaxStages, at+"stages", "must be 1 to 50 stages")
	stages := map[string]bool{}
	for i, s := range b.Stages {
		at := fmt.Sprintf("%sstages.%d.", at, i)
		e.Require(!stages[s.Name], at+"name", "is in the list twice")
		stages[s.Name] = true
		e.Require(s.Days >= 1 && s.Days <= MaxDays, at+"days", "must be 1 to 3,660 days")
		e.Require(s.HoldDays >= 0 && s.HoldDays <= MaxDays, at+"hold_days", "must be 0 to 3,660 days")
		e.Require(s.Haste >= 0 && s.Haste < s.Days, at+"haste", "must be 0 or more, and fewer than its days")
		amount(s.WaitCost, at+"wait_cost")
		amount(s.HasteCost, at+"haste_cost")
		amount(s.MinutesFixed, at+"minutes_fixed")
		amount(s.MinutesEach, at+"minutes_each")
		e.Require(len(s.Where) > 0 || in.Homeless, at+"where", "needs at least one place")
		there := map[string]bool{}
		for j, w := range s.Where {
			at := fmt.Sprintf("%swhere.%d.", at, j)
			e.Require(known[w.Place], at+"place", "is not one of the places")
			e.Require(!there[w.Place], at+"place", "is in the list twice")
			there[w.Place] = true
			amount(w.RoomEach, at+"room_each")
			amount(w.Cost, at+"cost")
		}
	}
	e.Require(len(b.Done) <= len(b.Stages), at+"done", "needs at most one for each stage")
	for i, d := range b.Done {
		at := fmt.Sprintf("%sdone.%d.", at, i)
		e.Require(d.Day < in.From, at+"date", "must be a day before the season")
		e.Require(i == 0 || d.Day > b.Done[i-1].Day, at+"date", "must be later than the one before")
		if i < len(b.Stages) {
			_, ok := b.Stages[i].stand(d.Place)
			e.Require(ok, at+"place", "is not one of the places for this stage")
		}
	}
}

func (s SeasonStage) stand(place string) (Stand, bool) {
	for _, w := range s.Where {
		if w.Place == place {
			return w, true
		}
	}
	return Stand{}, false
}

// season is the plan that was found, in words of the question.
func (s *search) season(in SeasonInput) Season {
	out := Season{Bound: s.bound}
	sum, lost := 0.0, 0.0
	for i, b := range in.Batches {
		j, p := &s.h.jobs[i], s.best[i]
		line := SeasonLine{Name: b.Name, Grown: p.grown()}
		if !p.grown() {
			line.Cost = b.Value
			lost += b.Value
			switch alone := s.alone[i]; {
			case math.IsInf(alone, 1):
				line.Why = Impossible
			case alone >= b.Value:
				line.Why = NotWorth
			default:
				line.Why = CrowdedOut
			}
		} else {
			line.Cost = j.cost(p)
			line.Moves = append(line.Moves, b.Done...)
			for k := range line.Moves {
				line.Moves[k].Stage = b.Stages[k].Name
			}
			past := max(0, len(b.Done)-1)
			for k, leg := range j.legs {
				held := int(p.at[k+1]-p.at[k]) - leg.full()
				line.HeldDays, line.Short = line.HeldDays+max(0, held), line.Short+max(0, -held)
				if k > 0 || len(b.Done) == 0 {
					stage := b.Stages[past+k]
					place := in.Places[leg.stands[p.in[k]].place].Name
					line.Moves = append(line.Moves, Placed{Stage: stage.Name, Place: place, Day: in.From + calendar.Day(p.at[k])})
				}
			}
			line.Short = max(0, line.Short-b.inHand())
			line.Ready = in.From + calendar.Day(p.at[len(j.legs)])
		}
		sum += line.Cost
		out.Batches = append(out.Batches, line)
	}
	out.Cost = sum
	out.Bound = min(out.Bound, out.Cost)
	out.Gap = (out.Cost - out.Bound) / max(out.Cost, 1e-9)
	out.Steps = []working.Step{
		{Name: say.T("What is not grown costs"), Formula: say.T("the values of those batches"), Value: lost},
		{Name: say.T("What waiting, early harvests and places cost"), Formula: say.T("the sum over what is grown"), Value: sum - lost},
		{
			Name: say.T("No plan costs less than"), Formula: say.T("each batch alone, at prices for room and minutes"), Value: out.Bound,
			Source: say.Words("Held, Wolfe and Crowder (1974), Math. Program. 6:62"),
		},
		{
			Name: say.T("So this plan loses at most"), Formula: say.T("(%.4g − %.4g) ÷ %.4g", out.Cost, out.Bound, max(out.Cost, 1e-9)),
			Value: out.Gap, Unit: "share",
		},
	}
	return out
}
