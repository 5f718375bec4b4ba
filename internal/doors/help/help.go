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
				"If a task has its own page, do it there: the page writes down what happened. A tick only writes down that it was ticked.",
			},
		},
		{
			ID: "give", Ask: "How do I give work to a crew?", Beside: []string{"round"},
			Answer: []say.Words{
				"Open “Who does what here” below the tasks. A place stays with a crew until you change it; a task is given for today only. A crew that signs " +
					"in sees its own places first.",
			},
		},
		{
			ID: "away", Ask: "Who looks after it on closed days?", Beside: []string{"round"},
			Answer: []say.Words{
				"On the last day before closed days the round asks about anything that would run dry, freeze or outgrow its tray, and says when somebody must " +
					"come anyway. Enter closed days in the settings.",
			},
		},
		{
			ID: "print", Ask: "How do I print it?", Beside: []string{"round"},
			Answer: []say.Words{"Print from the browser: on paper you get the whole round with boxes to tick, or a tray or batch as it is now, without " +
				"buttons."},
		},
	}},
	{"The season", []Topic{
		{
			ID: "goals", Ask: "How do I plan a season?", Beside: []string{"season"},
			Answer: []say.Words{
				"Say what it is for, goal by goal. Ulpa works back around closed days to the days to sow and move, within the space of trays and ports and " +
					"the minutes of a period.",
				"Nothing is planned until you save the plan; then its sowings come up on the round. When a goal, a closed day or a batch changes, the page " +
					"says what no longer fits, and you save it again.",
				"To see it in a calendar, a coordinator makes a key for the season’s calendar under Keys and subscribes to /calendar/KEY.ics at this address. " +
					"Withdraw the key and it shows nothing.",
			},
		},
		{
			ID: "cannot", Ask: "Why can a goal not be met?", Beside: []string{"season"},
			Answer: []say.Words{
				"Most often a closure is longer than plants can wait in their tray, or the day is too soon for the crop. The nearest days that would work are " +
					"shown. If space or time is short, fewer plants, more trays or a longer wait help.",
				"“What would help” shows the choices, with what each costs: later, fewer, a longer wait, somebody who comes in, or another batch that makes " +
					"room. If you choose one, the plan is worked out again; nothing moves until you save.",
			},
		},
		{
			ID: "pins", Ask: "How do I decide a day or a place myself?", Beside: []string{"season"},
			Answer: []say.Words{
				"Tap a bar. You can put each of its moves on a day or at a place, or forbid that day or place; or leave out the whole sowing. On a computer " +
					"you can drag a bar, or move it with the arrow keys. Everything else is worked out around that.",
			},
		},
		{
			ID: "beds", Ask: "How do I keep track of what grew in beds?", Beside: []string{"beds"},
			Answer: []say.Words{
				"A coordinator draws each bed’s sections to scale, once. Type in what grew in them in earlier years; from then on Ulpa writes it down. The " +
					"page then puts this year’s crops where their family has not grown, as strictly as the school chooses.",
			},
		},
		{
			ID: "frost", Ask: "When may plants go outside?", Beside: []string{"frost"},
			Answer: []say.Words{
				"Give Ulpa a file of nights from the nearest weather station: it works out from which day on frost comes no more often than you accept. The " +
					"weeks from a printed chart are shown beside it, and you choose which of them the season uses.",
			},
		},
	}},
	{"From seed to plant", []Topic{
		{
			ID: "sow", Ask: "How do I sow?", Beside: []string{"sow", "nursery"},
			Answer: []say.Words{
				"Choose the packet and say how many plants you want. Ulpa says how many seeds and cells that takes, from how well this seed comes up. Choose " +
					"the cells on the tray and save.",
				"The batch gets a code like LET-05: write it on the stick.",
			},
		},
		{
			ID: "count", Ask: "How do I count seedlings?", Beside: []string{"tray"},
			Answer: []say.Words{
				"Choose what the cells show, tap the cells, save. Or choose none and type them: A1-A6, B3. On a small screen you can make the drawing larger.",
				"Leave cells that show nothing yet as they are. Seeds that have not come up are not plants.",
				"An open flat or a tub has sections instead of cells: type how many grow in each. Prick them out from “Put plants into other cells”.",
			},
		},
		{
			ID: "ready", Ask: "When is a batch ready to move?", Beside: []string{"batch", "nursery"},
			Answer: []say.Words{
				"When it has the true leaves, the height or the age its crop needs. Count the leaves of a few plants and write it down; the day it will be " +
					"ready is worked out from that.",
			},
		},
		{
			ID: "move", Ask: "How do I move plants?", Beside: []string{"move", "batch"},
			Answer: []say.Words{
				"Choose the plants, then where they go. Free ports are offered in order. Ulpa warns you before you save if plants would freeze tonight or the " +
					"water there does not suit them.",
			},
		},
		{
			ID: "adopt", Ask: "What grows here already?", Beside: []string{"adopt"},
			Answer: []say.Words{
				"Say roughly when it began, how many there are and where. Ulpa makes nothing up about the time before: it works out no germination from it.",
			},
		},
		{
			ID: "seeds", Ask: "Does this seed still come up?", Beside: []string{"seeds", "packet", "seedfile"},
			Answer: []say.Words{
				"Lay twenty seeds on damp paper and enter that on the packet’s page. The round asks for the counts. When the test is over, every sowing of " +
					"the packet uses its result. Ulpa also learns from what comes up in trays.",
			},
		},
		{
			ID: "vessels", Ask: "What can I sow into?", Beside: []string{"vessels", "tray", "sheet"},
			Answer: []say.Words{
				"Anything you can describe in rows and columns. You can reserve cells for a second sowing: the round asks for it on its day. Print the tray’s " +
					"sheet and work from it at the bench.",
			},
		},
		{
			ID: "sprouts", Ask: "Can I start sprouts on a Thursday?", Beside: []string{"sprouts", "batch"}, Alert: true,
			Answer: []say.Words{
				"Yes, but somebody must come on Saturday. The page shows every day of a run before you start it, and a better day to start. After that the " +
					"round asks for each rinse; throw away sprouts that were not rinsed for too long.",
				"Raw sprouts have carried serious illness: cook them through, not for young children, in pregnancy, for older or ill people raw; ask the local " +
					"food authority before a school serves any.",
			},
		},
		{
			ID: "mix", Ask: "How is a solution mixed?", Beside: []string{"mix", "solution"}, Alert: true,
			Answer: []say.Words{
				"Choose a recipe, the water it goes into and how much. The sheet says what to weigh and in which order, and allows for what is in the water " +
					"already. Type in what you really weighed: it is taken off the shelf, and put back if you undo the entry.",
				"Dry salts are for adults: gloves, no dust. Never mix what goes into bottle A with what goes into B undiluted.",
			},
		},
		{
			ID: "holidays", Ask: "Will it last over the holidays?", Beside: []string{"away", "round"},
			Answer: []say.Words{
				"One page takes tanks, jars, trays, pots, frames, sprouts and fish together. It shows what will run dry, freeze or go unfed, with one chance " +
					"in twenty and one in two; what to do on the last day, in which order, with litres and minutes; and who must come on which day.",
				"Afterwards you see what was forecast for each tank beside what was found. Read the levels on the last day and on the first day back: that is " +
					"how Ulpa learns.",
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
				"Young plants go in at one end and you harvest at the other. Work down the list: harvest a board, lift it out, scrub it, move the others " +
					"along by one, float it in at the planting end, and plant it.",
				"Weeks that would have no harvest are named weeks before, with the day to sow. The settings of a raft say how many boards it has.",
			},
		},
		{
			ID: "fish", Ask: "How much do fish get?", Beside: []string{"fish", "trough"}, Alert: true,
			Answer: []say.Words{
				"It depends on how many there are, what they weigh, how warm the water is and what has built up in it. Weigh a few every month; write down " +
					"what they were fed and which died. Ammonia, nitrite, oxygen and temperature raise an alarm before anything is worked out.",
				"A new filter is started without fish, over three to six weeks. Ask first which fish may be kept, and by whom. Wash hands, cover cuts.",
			},
		},
		{
			ID: "air", Ask: "Is it light and damp enough?", Beside: []string{"place"},
			Answer: []say.Words{
				"Write down temperature, humidity and light, or let the place follow a logger. How dry the air is and the light of a day are shown beside " +
					"what each crop there needs at its age.",
			},
		},
		{
			ID: "pens", Ask: "Can I trust a pen?", Beside: []string{"meters", "meter"},
			Answer: []say.Words{
				"Put it into two fresh buffers and type what it shows before you adjust it. The slope and offset say how far off a reading may be, and every " +
					"reading made with it carries that. The round asks again when it is due.",
			},
		},
		{
			ID: "pots", Ask: "When are plants potted on?", Beside: []string{"move", "batch"},
			Answer: []say.Words{
				"When the roots hold the ball together. Once a pot has held its plant for the usual days, the round asks you to knock one out and look. When " +
					"you move them, choose the pots: Ulpa works out how much mix you need, how many pots are clean and how many fit on the bench.",
			},
		},
		{
			ID: "care", Ask: "How much water does a tray want?", Beside: []string{"tray"},
			Answer: []say.Words{
				"Weigh it once when it needs water, and once watered and drained. From then on its weight says how many millilitres it needs. Once you have " +
					"entered a cover, bottom heat or a window, the round reminds you about them.",
			},
		},
		{
			ID: "shift", Ask: "How do I fill gaps or prick out?", Beside: []string{"shift", "tray"},
			Answer: []say.Words{"Choose the plants on the first drawing and their cells on the second, of the same tray or another. Their counts stay as " +
				"they are."},
		},
		{
			ID: "pictures", Ask: "What may be photographed?", Beside: []string{"picture", "addpicture", "notebook", "batch"}, Alert: true,
			Answer: []say.Words{
				"Plants and things only: no faces, no names. A picture is made smaller, and where and with which device it was taken is removed before it is " +
					"saved. An adult deletes it for good by undoing its entry.",
			},
		},
		{
			ID: "labels", Ask: "How do I print labels?", Beside: []string{"labels", "nursery"},
			Answer: []say.Words{
				"Choose what to label, and on which sheet or roll. A tablet’s camera opens the code’s page; anybody not signed in signs in first and then " +
					"gets there.",
			},
		},
		{
			ID: "trouble", Ask: "What is wrong with my plants?", Beside: []string{"trouble", "batch"},
			Answer: []say.Words{
				"On the batch’s page choose “Something is wrong”, then what you see. After two or three questions it names the two likeliest causes and what " +
					"to do today. It is a guess, and it never advises a spray.",
			},
		},
		{
			ID: "wash", Ask: "How do I put a tray back in use?", Beside: []string{"tray"},
			Answer: []say.Words{"When its plants have moved on, wash it and say so on its page: cells in which nothing came are free again, and " +
				"the batch goes on without them."},
		},
		{
			ID: "compost", Ask: "What must we look out for at the bench?", Beside: []string{"sow", "tray"}, Alert: true,
			Answer: []say.Words{"Dampen the compost before handling it; gloves on, wash hands after. Treated or saved ornamental seed is not food."},
		},
	}},
	{"Water", []Topic{
		{
			ID: "read", Ask: "How do I write a reading down?", Beside: []string{"tank", "solution"},
			Answer: []say.Words{
				"On the tank’s page, enter what you measured: pH, strength, level, temperature; leave out what you did not measure. If a figure is far from " +
					"the last one, Ulpa asks before it saves.",
				"If you have entered the tank’s shape, you can read the level as a depth on a stick.",
			},
		},
		{
			ID: "dose", Ask: "What do I do with the advice?", Beside: []string{"tank"}, Alert: true,
			Answer: []say.Words{
				"Acid and alkali are for an adult with gloves and goggles. Pour them slowly into water, never water into them, and never mix one with the " +
					"other. Add half the dose, let it mix and read again before you add any more.",
				"The working below says where each figure comes from. If the plants or the figures look wrong, do nothing and read again.",
			},
		},
		{
			ID: "jar", Ask: "Why is a jar not filled to the top?", Beside: []string{"tank", "solution"},
			Answer: []say.Words{"The upper roots have grown in moist air and drown under water. Fill a jar only as far as it needs to last until somebody " +
				"is here again."},
		},
		{
			ID: "import", Ask: "How do I bring in a meter’s log?", Beside: []string{"import"},
			Answer: []say.Words{"As a CSV file with the columns time, series, value and unit. You see what it would add before anything is saved; sending " +
				"the same file twice adds nothing."},
		},
	}},
	{"Harvest and notebook", []Topic{
		{
			ID: "harvest", Ask: "How do I write a harvest down?", Beside: []string{"harvest", "batch"},
			Answer: []say.Words{"On the batch’s page: enter what it weighed, and whether plants were cut or taken whole. Ulpa asks again about a weight " +
				"that such plants cannot have."},
		},
		{
			ID: "right", Ask: "How do I correct a mistake?", Beside: []string{"notebook", "correct", "batch", "tank"},
			Answer: []say.Words{
				"Right after it: “Undo”, at the top. Later: find it in the notebook and correct it. Everything worked out from it is worked out again, and " +
					"the notebook keeps both.",
			},
		},
		{
			ID: "trail", Ask: "Who changed what?", Beside: []string{"notebook", "trail"},
			Answer: []say.Words{"The notebook says what happened to plants and tanks; the log of changes says who changed the settings and who signed in. " +
				"Neither can be erased."},
		},
	}},
	{"Knowing", []Topic{
		{
			ID: "crop", Ask: "How do I change what Ulpa knows of a crop?", Beside: []string{"crop", "crops"},
			Answer: []say.Words{
				"Press “change” beside the value. From then on yours is used instead of the usual one, and you can always go back to it. Add a missing crop " +
					"from the most similar one.",
			},
		},
		{
			ID: "sums", Ask: "What are the calculators for?", Beside: []string{"sums", "sum"},
			Answer: []say.Words{"For a lesson, or a question that has no batch yet. Each calculator shows its working. Opened from a batch or a tank it is " +
				"already filled in, and you can use the answer there."},
		},
	}},
	{"A school’s own", []Topic{
		{
			ID: "change", Ask: "How do I change or take away something?", Beside: []string{"section", "settings", "place", "places"},
			Answer: []say.Words{
				"Open it in its section of the settings: change it, make another like it, or retire it. A retired thing leaves the lists, stays in the " +
					"records, and comes back when you ask. You can delete only what nothing depends on.",
			},
		},
		{
			ID: "crews", Ask: "How do students sign in?", Beside: []string{"section", "settings"},
			Answer: []say.Words{
				"As a crew: a made-up name and a PIN, on a tablet that you enrol. Never enter a pupil’s name or birthday. You choose in the settings what " +
					"crews may do; acid and alkali are never for crews.",
			},
		},
		{
			ID: "forgot", Ask: "Somebody forgot a password or a PIN", Beside: []string{"me", "settings"},
			Answer: []say.Words{
				"A coordinator makes a code under People; it works once. If e-mail is set up, you can ask for a link yourself. For the last coordinator, " +
					"whoever runs the server uses “ulpa user reset”.",
			},
		},
		{
			ID: "find", Ask: "How do I find something?", Beside: []string{"find"},
			Answer: []say.Words{
				"Type a code, a place, a crop, a page or a word from a note into the field at the top. The key / goes there; the arrow keys go through what " +
					"is found. The key ? lists all keys.",
			},
		},
		{
			ID: "programs", Ask: "How do I connect a program?", Beside: []string{"settings"},
			Answer: []say.Words{"With a key that a coordinator makes in the settings. What programs may ask for and change is described at " +
				"/api/v1/openapi.json; what they did is in the notebook and the log of changes."},
		},
	}},
}
