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
			Do:   "Open the round. Tomatoes stand in the cold frame, and tonight is too cold for them.",
			See:  "What is urgent stands first, with what waiting would cost.",
			Path: "/",
		},
		{
			Do:   "Bring the tomatoes in: move them to the warm shelf.",
			See:  "They go out again on the round when the nights are mild.",
			Kind: find.Batch, Name: "TOM-01",
		},
		{
			Do:   "Bring the north tower right. Pretend to: write the dose down as an adult would.",
			See:  "Half of it first, and how each figure was worked out.",
			Kind: find.Tank, Name: "North tower",
		},
	}},
	{"The second day", "Before nobody is here.", []step{
		{
			Do:   "Count the sprouts of the latest lettuce on its tray.",
			See:  "What was to be expected by now, and what your count says.",
			Kind: find.Batch, Name: "LET-06",
		},
		{
			Do:   "Look at the right of the round: jars run dry over the weekend. Fill them, each on its page.",
			See:  "How far each may be filled, and why no further.",
			Path: "/tanks",
		},
		{Do: "Give the landing boxes to a crew, and print the round for them.", See: "Paper has boxes to tick.", Path: "/"},
	}},
	{"The third day", "What has grown meanwhile.", []step{
		{
			Do:   "Move the pak choi on: it is late. Free ports are offered in order.",
			See:  "Whether the water there suits it.",
			Kind: find.Batch, Name: "PAK-01",
		},
		{
			Do:   "Harvest the lettuce of the long table. Write down ten times too much first.",
			See:  "It asks before it keeps what cannot be.",
			Kind: find.Batch, Name: "LET-02",
		},
		{Do: "Take the harvest back with “Undo”, then find it in the notebook.", See: "Nothing is lost: both stand there.", Path: "/notebook"},
	}},
	{"The fourth day", "Sowing.", []step{
		{
			Do:   "Reckon back from a day on which plants must be ready, and plan the sowing.",
			See:  "Closed days are stepped around; the round asks for the sowing on its day.",
			Path: "/sums/back-schedule",
		},
		{Do: "Sow something. Ask for twelve plants.", See: "How many seeds that takes from this packet, and how sure that is.", Path: "/sow"},
	}},
	{"The fifth day", "Your own school.", []step{
		{
			Do:   "Walk through the settings: places, trays, tanks, people, closed days.",
			See:  "Each thing says what a change would alter.",
			Path: "/settings",
		},
		{Do: "Open a crop that you know better, and change a value.", See: "From then on the program judges by yours.", Path: "/crops"},
		{Do: "Read the week in the notebook.", See: "Who did what, when, and what was put right.", Path: "/notebook"},
	}},
}
