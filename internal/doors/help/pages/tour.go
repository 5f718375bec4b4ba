package pages

import (
	"ulpa/core/say"
	"ulpa/internal/doors/find"
)

// step is something to do in the first week.
type step struct {
	Do   say.Words // what to do
	See  say.Words // what to look at meanwhile
	Path string    // the page; or the thing of the made-up school that has this name
	Kind find.Kind
	Name string
}

// day is a day of the first week.
type day struct {
	Name  say.Words
	About say.Words
	Steps []step
}

// firstWeek is a coordinator's first week, with what grows in the made-up school.
var firstWeek = []day{
	{"The first day", "What cannot wait.", []step{
		{
			Do:   "Open the round. Tomatoes are in the cold frame, and tonight is too cold for them.",
			See:  "Urgent things come first, with what waiting would cost.",
			Path: "/",
		},
		{
			Do:   "Bring the tomatoes in: move them to the warm shelf.",
			See:  "They go out again on the round when the nights are mild.",
			Kind: find.Batch, Name: "TOM-01",
		},
		{
			Do:   "Correct the north tower. Pretend to: write the dose down as an adult would.",
			See:  "Half of it first, and how each figure was worked out.",
			Kind: find.Tank, Name: "North tower",
		},
	}},
	{"The second day", "Before everyone is away.", []step{
		{
			Do:   "Count the seedlings of the latest lettuce in its tray.",
			See:  "What was to be expected by now, and what your count says.",
			Kind: find.Batch, Name: "LET-06",
		},
		{
			Do:   "Look on the right of the round: jars run dry over the weekend. Fill them, each on its own page.",
			See:  "How far each may be filled, and why no further.",
			Path: "/tanks",
		},
		{Do: "Give the landing boxes to a crew, and print the round for them.", See: "The paper has boxes to tick.", Path: "/"},
	}},
	{"The third day", "What has grown in the meantime.", []step{
		{
			Do:   "Move the pak choi on: it is late. Free ports are offered in order.",
			See:  "Whether the water there suits it.",
			Kind: find.Batch, Name: "PAK-01",
		},
		{
			Do:   "Harvest the lettuce on the long table. First type a weight ten times too high.",
			See:  "It asks before it saves what cannot be.",
			Kind: find.Batch, Name: "LET-02",
		},
		{Do: "Undo the harvest with “Undo”, then find it in the notebook.", See: "Nothing is lost: both are there.", Path: "/notebook"},
	}},
	{"The fourth day", "Sowing.", []step{
		{
			Do:   "Work back from a day when plants must be ready, and plan the sowing.",
			See:  "Closed days are avoided; the round asks for the sowing on its day.",
			Path: "/sums/back-schedule",
		},
		{Do: "Sow something. Ask for twelve plants.", See: "How many seeds that takes from this packet, and how sure that is.", Path: "/sow"},
	}},
	{"The fifth day", "Your own school.", []step{
		{
			Do:   "Walk through the settings: places, trays, tanks, people, closed days.",
			See:  "For each thing you see what a change would affect.",
			Path: "/settings",
		},
		{Do: "Open a crop that you know better, and change a value.", See: "From then on Ulpa works with your values.", Path: "/crops"},
		{Do: "Read the week in the notebook.", See: "Who did what, when, and what was corrected.", Path: "/notebook"},
	}},
}
