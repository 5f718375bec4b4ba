package round

import (
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/say"
)

// Kind is a kind of task, declared once, beside the rule that asks for it.
type Kind struct {
	Name string // in keys, in the books and for programs
	Of   About  // what it is about
	// Loses orders what cannot wait: 3 where plants or animals die, 2 where tonight's cold or
	// hunger harms them, 1 where something runs dry, 0 where nothing is lost so soon.
	Loses int
	// Writes tells that a page writes down what was done: a tick alone writes nothing of it.
	Writes bool
	// EndedBy are the kinds of entries after which it is not asked for any more; without any a
	// tick ends it, or what it asks about has passed.
	EndedBy []string
	// Alone tells that its minutes are learned for each thing by itself.
	Alone bool
	// Together tells several tasks of one place, which are done in one go, as one; nil: each
	// stands by itself.
	Together func(d Day, list []Task) Task
	// As is the kind of that one when it is about something else than the place, and By tells
	// which tasks are done in one go: those about the same thing. One alone stays as it is.
	As *Kind
	By func(Task) string
}

// About is what a task is about.
type About string

// What tasks are about: things of the school, and what is planned or kept for a day.
const (
	Batches  About = "batch"
	Trays    About = "tray"
	Places   About = "place"
	Tanks    About = "tank"
	Packets  About = "lot"
	Meters   About = "meter"
	Fish     About = "fish"
	Plans    About = "planned"
	Reserved About = "gap"
	Jobs     About = "job"
)

var kinds = map[string]*Kind{}

func declare(k Kind) *Kind {
	if kinds[k.Name] != nil {
		panic("the kind of task " + k.Name + " is declared twice")
	}
	kinds[k.Name] = &k
	return &k
}

// Kinds are all of them, by name.
func Kinds() map[string]*Kind { return kinds }

// Key names a task: the same on the same day for the same thing.
type Key struct {
	Kind string
	Of   string // the id of what it is about
	Day  calendar.Day
	Part string // which of several of its kind; "": there is one
}

// String is a key as it is sent and kept.
func (k Key) String() string {
	if k.Kind == stop {
		return k.Kind + ":" + k.Of
	}
	parts := []string{k.Kind, k.Of, k.Day.String()}
	if k.Part != "" {
		parts = append(parts, k.Part)
	}
	return strings.Join(parts, ":")
}

// idLong is how long an id is; earlier releases kept the part of a tray's care behind it.
const idLong = 36

// ReadKey reads a key, as this release and earlier ones keep it; false when it is none.
func ReadKey(text string) (k Key, ok bool) {
	part := strings.SplitN(text, ":", 4)
	if part[0] == stop && len(part) == 2 {
		return StopKey(part[1]), true
	}
	if len(part) < 3 {
		return k, false
	}
	day, err := calendar.ParseDay(part[2])
	k = Key{Kind: part[0], Of: part[1], Day: day}
	if len(part) == 4 {
		k.Part = part[3]
	} else if k.Kind == Care.Name && len(k.Of) > idLong {
		k.Of, k.Part = k.Of[:idLong], k.Of[idLong:]
	}
	return k, err == nil
}

// Task is one thing to do at a stop. What reads with the name Code between Before and After.
type Task struct {
	Key
	Kind          *Kind
	Place         string // of the stop
	Before, After say.Text
	Code          string
	Why           say.Text
	Urgency       Urgency
	Minutes       int
	Tray, Cells   string // where it is done
	Clears        bool   // cells in which nothing came are to be marked, not seedlings to be counted
	Plants        int    // that it is about, where tasks are told together
	Amounts       []Amount
	Hours         float64 // outside today, of plants that are hardened off
	StaysOpen     bool    // the lid of their frame may stay off tonight
	Times         int     // so often it was done here for its minutes to be known; 0: the usual ones
	For           string  // the crew or person it is given to; "": whoever comes
}

// task is one of a kind about something, at a place.
func (s Day) task(k *Kind, of, place string) Task {
	return Task{Key: Key{Kind: k.Name, Of: of, Day: s.Today}, Kind: k, Place: place}
}

// About is the id of what the task is about when that is of one sort; "" when it is of another.
func (t Task) About(sort About) string {
	if t.Kind.Of != sort {
		return ""
	}
	return t.Of
}

// What is the task in one line.
func (t Task) What() say.Text {
	list := []say.Text{t.Before}
	if t.Code != "" {
		list = append(list, say.Name(t.Code))
	}
	return say.Join(" ", append(list, t.After)...)
}

// Rank orders tasks: by their urgency, and what cannot wait by what is lost.
func (t Task) Rank() int {
	loses := 0
	if t.Urgency == Now {
		loses = t.Kind.Loses
	}
	return 10*int(t.Urgency) + 3 - loses
}

// Acts tells whether ticking the task off writes down less than doing it on its page.
func (t Task) Acts() bool { return t.Kind.Writes }

// before is a sowing that cannot wait where nobody is there for some days.
func (t Task) before(next calendar.Day, closed int) Task {
	if closed > 1 {
		t.Urgency = Now
		t.Why = say.T("%s Nobody can before %s.", t.Why, next.Long())
	}
	return t
}
