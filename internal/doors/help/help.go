// Package help is what Ulpa says about itself: short answers that stand beside the page
// they are about and together on one, and what is new.
package help

import (
	"slices"

	"ulpa/core/say"
)

// Topic answers a question in a few sentences.
type Topic struct {
	ID     string // in addresses
	Ask    say.Words
	Answer []say.Words // paragraphs
	Beside []string    // the pages it stands beside, by the names of their templates
	Alert  bool        // somebody could be hurt
}

// Chapter is what belongs together on the page of all help.
type Chapter struct {
	Name   say.Words
	Topics []Topic
}

// Beside are the topics of a page.
func Beside(page string) (out []Topic) {
	for _, c := range Chapters {
		for _, t := range c.Topics {
			if slices.Contains(t.Beside, page) {
				out = append(out, t)
			}
		}
	}
	return out
}

// Chapters are all topics, in the order of a day.
var Chapters = []Chapter{
	{"The round", []Topic{
		{
			ID: "round", Ask: "What is the round?", Beside: []string{"round"},
			Answer: []say.Words{
				"All that is due today, place by place. What cannot wait comes first, whatever the walking order; below the " +
					"dashed line this period has no time left, and each line says what waiting costs.",
				"A task that has a page is done there: that writes down what happened. A tick alone only writes down that it was ticked.",
			},
		},
		{
			ID: "give", Ask: "How do I give work to a crew?", Beside: []string{"round"},
			Answer: []say.Words{
				"Open “Who does what here” below the tasks. A stop stays given until you change it, a task is given for today. " +
					"A crew that signs in comes to its own stop first.",
			},
		},
		{
			ID: "away", Ask: "Who looks after it on closed days?", Beside: []string{"round"},
			Answer: []say.Words{
				"On the last day before them the round asks for what would run dry, freeze or outgrow its tray, and says when " +
					"somebody must come all the same. Tell closed days in the settings.",
			},
		},
		{
			ID: "print", Ask: "How do I print it?", Beside: []string{"round"},
			Answer: []say.Words{"Print from the browser: paper shows the whole round with boxes to tick, a tray or a batch as it stands, and " +
				"nothing that can only be pressed."},
		},
	}},
	{"The season", []Topic{
		{
			ID: "goals", Ask: "How do I plan a season?", Beside: []string{"season"},
			Answer: []say.Words{
				"Say what it is for, goal by goal. Ulpa reckons back over closed days to the days to sow and move, within the room of trays and ports " +
					"and the minutes of a period.",
				"Nothing is planned before you keep the plan; then its sowings come up on the round. When a goal, a closed day or a batch changes, " +
					"the page says what no longer holds, and you keep it again.",
				"To see it in a calendar, a coordinator makes a key for the season’s calendar under Keys and subscribes to /calendar/KEY.ics at this " +
					"address; withdrawn, it shows nothing any more.",
			},
		},
		{
			ID: "cannot", Ask: "Why can a goal not be met?", Beside: []string{"season"},
			Answer: []say.Words{
				"Most often a closure is longer than plants can wait in their tray, or the day is too soon for the crop. The nearest days that would do " +
					"stand beside it; fewer plants, more trays or a longer time help where room or hands are short.",
				"Ways out shows what would help, with what each costs: later, fewer, a longer wait, somebody who comes in, or another batch that makes " +
					"room. Choosing one works the plan out again; nothing moves before it is kept.",
			},
		},
		{
			ID: "pins", Ask: "How do I decide a day or a place myself?", Beside: []string{"season"},
			Answer: []say.Words{
				"Tap a bar. Each of its moves can be put on a day or at a place, or kept from one; a whole sowing can be left out. On a desk a bar can " +
					"be drawn along, or moved by the arrow keys. What follows from it is worked out around that.",
			},
		},
		{
			ID: "beds", Ask: "How do beds remember what grew in them?", Beside: []string{"beds"},
			Answer: []say.Words{
				"A coordinator tells each bed’s sections once, to scale. What grew in them is typed in for the years before, and written down from then " +
					"on; the page puts this year’s crops where their family has not been, as strictly as the school says.",
			},
		},
		{
			ID: "frost", Ask: "When may plants go outside?", Beside: []string{"frost"},
			Answer: []say.Words{
				"Give Ulpa a file of the nearest weather station’s nights: it says from which day on frost comes no more often than you are willing to " +
					"bear. A printed chart’s weeks after the last frost stand beside it, and the school chooses which of them the season keeps to.",
			},
		},
	}},
	{"Seed to plant", []Topic{
		{
			ID: "sow", Ask: "How do I sow?", Beside: []string{"sow", "nursery"},
			Answer: []say.Words{
				"Choose the packet and say how many plants you want. Ulpa says how many seeds and cells that takes, from how " +
					"well this seed comes up. Choose the cells on the tray and keep it.",
				"The batch gets a code like LET-05: write it on the stick.",
			},
		},
		{
			ID: "count", Ask: "How do I count sprouts?", Beside: []string{"tray"},
			Answer: []say.Words{
				"Choose what the cells show, tap them, keep. Or choose none and type them: A1-A6, B3. On a small screen the drawing can be made larger.",
				"A cell that shows nothing yet stays as it is. Seeds that have not come up are not plants.",
			},
		},
		{
			ID: "ready", Ask: "When is a batch ready to move?", Beside: []string{"batch", "nursery"},
			Answer: []say.Words{
				"When it has the true leaves, the height or the age that its crop asks for. Count the leaves of a few plants " +
					"and write it down; the day it will be ready is reckoned from what you saw.",
			},
		},
		{
			ID: "move", Ask: "How do I move plants?", Beside: []string{"move", "batch"},
			Answer: []say.Words{
				"Choose the plants, then where they go. Ports that are free are offered in order. What would freeze tonight, or " +
					"does not suit the water there, is said before it is kept.",
			},
		},
		{
			ID: "adopt", Ask: "What grows here already?", Beside: []string{"adopt"},
			Answer: []say.Words{
				"Say about when it began, how many there are and where. Nothing is made up about what was before: no germination is reckoned from it.",
			},
		},
		{
			ID: "seeds", Ask: "Does this seed still come up?", Beside: []string{"seeds", "packet", "seedfile"},
			Answer: []say.Words{
				"Lay twenty seeds on damp paper and write it down on the packet’s page. The round asks for the counts; when it has ended, every sowing " +
					"of the packet reckons with it. What comes up in trays is learned from too.",
			},
		},
		{
			ID: "vessels", Ask: "What can I sow into?", Beside: []string{"vessels", "tray", "sheet"},
			Answer: []say.Words{
				"Anything told as rows and columns. Cells can be kept free for a second sowing: the round asks for it on its day. A tray’s sheet is " +
					"printed, to work from at the bench.",
			},
		},
		{
			ID: "sprouts", Ask: "Can sprouts be begun on a Thursday?", Beside: []string{"sprouts", "batch"}, Alert: true,
			Answer: []say.Words{
				"They can, and they want somebody on Saturday. The page shows every day of a run before it begins, and a better day to begin. From then on " +
					"the round asks for each rinse; what stood unrinsed for too long is thrown away.",
				"Raw sprouts have carried serious illness: cook them through, not for young children, in pregnancy, for older or ill people raw; ask the local " +
					"food authority before a school serves any.",
			},
		},
		{
			ID: "mix", Ask: "How is a solution mixed?", Beside: []string{"mix", "solution"}, Alert: true,
			Answer: []say.Words{
				"Choose a recipe, the water it goes into and how much. The sheet says what to weigh in which order, and leaves out what the water brings. " +
					"Type what was really weighed: it leaves the shelf, and comes back when the entry is taken back.",
				"Dry salts are for adults: gloves, no dust. What goes into bottle A never meets what goes into B undiluted.",
			},
		},
		{
			ID: "holidays", Ask: "Will it last over the holidays?", Beside: []string{"away", "round"},
			Answer: []say.Words{
				"One page takes tanks, jars, trays, pots, frames, sprouts and fish together: what runs dry, freezes or goes unfed, one time in twenty and one " +
					"in two; what to do on the last day, in which order, with litres and minutes; and what needs somebody, on which day.",
				"Afterwards what was foretold of each tank stands beside what was found. Read levels on the last day and on the first one back: that is " +
					"how it learns.",
			},
		},
		{
			ID: "jars", Ask: "How far may a jar be filled?", Beside: []string{"jars", "tank"},
			Answer: []say.Words{
				"Until roots hang out of the net pot, up to its foot. Once they hang let it fall to a quarter or a third of the jar’s depth, keep it " +
					"there, and never fill it back: the upper roots breathe, and drown. The dashed line says how far for this jar; what the roots " +
					"look like is written down with a reading.",
			},
		},
		{
			ID: "boards", Ask: "How do the boards of a raft move along?", Beside: []string{"raft", "board"},
			Answer: []say.Words{
				"Young plants go in at one end; what is ready is taken at the other. Take the list from the top: harvest a board, lift it out, scrub it, " +
					"let the others on by one, float it in where young plants go, and plant it.",
				"Which weeks would be without a harvest is said weeks before, with the day on which to sow. In how many boards a raft floats is among its settings.",
			},
		},
		{
			ID: "fish", Ask: "How much do fish get?", Beside: []string{"fish", "trough"}, Alert: true,
			Answer: []say.Words{
				"By how many there are, what they weigh, how warm it is and how the water stands. Weigh a few every month; write down what was fed and who died. " +
					"Ammonia, nitrite, oxygen and warmth ring before any sum.",
				"A new filter is brought in without fish, over three to six weeks. Ask first which fish may be kept, and by whom. Wash hands, cover cuts.",
			},
		},
		{
			ID: "air", Ask: "Is it light and damp enough?", Beside: []string{"place"},
			Answer: []say.Words{
				"Write down warmth, humidity and light, or let the place follow a logger. The dryness of the air and the light of a day stand beside what " +
					"each crop there wants at its age.",
			},
		},
		{
			ID: "pens", Ask: "Can a pen be trusted?", Beside: []string{"meters", "meter"},
			Answer: []say.Words{
				"Put it into two fresh buffers and type what it shows before you set it. Its slope and offset say how far a reading may be out, " +
					"and every reading made with it carries that. The round asks again when it is due.",
			},
		},
		{
			ID: "pots", Ask: "When are plants potted on?", Beside: []string{"move", "batch"},
			Answer: []say.Words{
				"When roots hold the ball. After the days that a size of pot usually holds a plant the round asks to knock one out and look. Where they " +
					"move, choose the pots: how much mix that takes, how many are clean and how many stand on the bench is worked out.",
			},
		},
		{
			ID: "care", Ask: "How much water does a tray want?", Beside: []string{"tray"},
			Answer: []say.Words{
				"Weigh it once when it wants water, and once watered and drained. From then on a weight says how many millilitres it lacks. A cover, heat " +
					"from below and turning at a window are asked for on the round once they have been written down.",
			},
		},
		{
			ID: "shift", Ask: "How do I fill gaps or prick out?", Beside: []string{"shift", "tray"},
			Answer: []say.Words{"Choose the plants on the first drawing and their cells on the second, of the same tray or another. What came up stays counted."},
		},
		{
			ID: "pictures", Ask: "What may be photographed?", Beside: []string{"picture", "addpicture", "notebook", "batch"}, Alert: true,
			Answer: []say.Words{
				"Plants and things: no faces, no names. A picture is scaled down, and where and with what it was taken is removed before it is kept. An " +
					"adult deletes it for good by taking its entry back.",
			},
		},
		{
			ID: "labels", Ask: "How do I print labels?", Beside: []string{"labels", "nursery"},
			Answer: []say.Words{
				"Choose what, and on which sheet or roll. A tablet’s camera opens the code; whoever is not signed in is asked first and led there then.",
			},
		},
		{
			ID: "trouble", Ask: "What is wrong with my plants?", Beside: []string{"trouble", "batch"},
			Answer: []say.Words{
				"On the batch’s page choose “Something is wrong”, then what you see. Two or three questions later it names the likeliest two causes and " +
					"what to do today. It is a guess, and never a spray.",
			},
		},
		{
			ID: "wash", Ask: "How do I get a tray back?", Beside: []string{"tray"},
			Answer: []say.Words{"When its plants have moved on, wash it and say so on its page: cells in which nothing came are free again, and " +
				"the batch goes on without them."},
		},
		{
			ID: "compost", Ask: "What must we look out for at the bench?", Beside: []string{"sow", "tray"}, Alert: true,
			Answer: []say.Words{"Damp the compost before handling, gloves on, wash hands after. Treated or saved ornamental seed is not food."},
		},
	}},
	{"Water", []Topic{
		{
			ID: "read", Ask: "How do I write a reading down?", Beside: []string{"tank", "solution"},
			Answer: []say.Words{
				"On the tank’s page, what you measured: pH, strength, level, warmth; leave out what you did not. A figure that " +
					"is far from the last one is asked about before it is kept.",
				"Where the tank’s shape is told, the level may be read as a depth on a stick.",
			},
		},
		{
			ID: "dose", Ask: "What do I do with the advice?", Beside: []string{"tank"}, Alert: true,
			Answer: []say.Words{
				"Acid and alkali are for an adult with gloves and goggles: into water, slowly, never the other way, never mixed " +
					"with each other. Half of it first; let it mix, read again, and only then the rest.",
				"The working below says where each figure comes from. If the plants or the figures look wrong, do nothing and read again.",
			},
		},
		{
			ID: "jar", Ask: "Why is a jar not filled to the top?", Beside: []string{"tank", "solution"},
			Answer: []say.Words{"The upper roots have grown in moist air and drown under water. A jar is poured to where it lasts until " +
				"somebody is here again, and no further."},
		},
		{
			ID: "import", Ask: "How do I bring in a meter’s log?", Beside: []string{"import"},
			Answer: []say.Words{"As a CSV file with the columns time, series, value and unit. You see what it would add before it is kept, and " +
				"the same file twice adds nothing."},
		},
	}},
	{"Harvest and notebook", []Topic{
		{
			ID: "harvest", Ask: "How do I write a harvest down?", Beside: []string{"harvest", "batch"},
			Answer: []say.Words{"On the batch’s page: what it weighed, and whether plants were cut or taken whole. A weight that such plants " +
				"cannot have is asked about."},
		},
		{
			ID: "right", Ask: "How do I put a mistake right?", Beside: []string{"notebook", "correct", "batch", "tank"},
			Answer: []say.Words{
				"Right after it: “Undo”, at the top. Later: find it in the notebook and correct it. Everything that was " +
					"reckoned from it is reckoned anew, and the notebook keeps both.",
			},
		},
		{
			ID: "trail", Ask: "Who changed what?", Beside: []string{"notebook", "trail"},
			Answer: []say.Words{"The notebook says what happened to plants and tanks; the trail says who changed the settings, and who signed " +
				"in. Neither can be rubbed out."},
		},
	}},
	{"Knowing", []Topic{
		{
			ID: "crop", Ask: "How do I change what Ulpa knows of a crop?", Beside: []string{"crop", "crops"},
			Answer: []say.Words{
				"Press “change” beside the value. Yours goes before the usual one from then on, and the usual one stays to go " +
					"back to. A crop that is not there is added from its nearest kind.",
			},
		},
		{
			ID: "sums", Ask: "What are the sums for?", Beside: []string{"sums", "sum"},
			Answer: []say.Words{"For a lesson, or a question that has no batch yet. Each shows its working. Opened from a batch or a tank it is " +
				"filled in, and the answer can be put to use."},
		},
	}},
	{"A school’s own", []Topic{
		{
			ID: "change", Ask: "How do I change or take away something?", Beside: []string{"section", "settings", "place", "places"},
			Answer: []say.Words{
				"In its section of the settings: change it, make another like it, or retire it. What is retired leaves the " +
					"lists and stays in the books, and comes back when you ask. Only what nothing hangs on can be deleted.",
			},
		},
		{
			ID: "crews", Ask: "How do students sign in?", Beside: []string{"section", "settings"},
			Answer: []say.Words{
				"As a crew: a made-up name and a PIN, on a tablet that you enrol. No pupil’s name or birthday belongs in here. " +
					"What crews may do is switched in the settings; acid and alkali are never theirs.",
			},
		},
		{
			ID: "forgot", Ask: "Somebody forgot a password or a PIN", Beside: []string{"me", "settings"},
			Answer: []say.Words{
				"A coordinator makes a code under People; it opens once. Where letters are set up, one can ask for a link " +
					"oneself. For the last coordinator, whoever runs the server uses “ulpa user reset”.",
			},
		},
		{
			ID: "find", Ask: "How do I find something?", Beside: []string{"find"},
			Answer: []say.Words{
				"Type a code, a place, a crop, a page or a word of a note into the field at the top; the key / goes there, " +
					"arrows walk over what is found. The key ? lists all keys.",
			},
		},
		{
			ID: "programs", Ask: "How does a program join in?", Beside: []string{"settings"},
			Answer: []say.Words{"With a key that a coordinator makes in the settings. What programs may ask and change is described at " +
				"/api/v1/openapi.json; what they did stands in the notebook and the trail."},
		},
	}},
}
