package words

import "ulpa/core/say"

// today is what words say now that were written down by an earlier release: the tasks of rounds and
// the log of changes are kept in English, and said in the reader's language.
func today(w say.Words) say.Words {
	if now, ok := earlier[string(w)]; ok {
		return say.Words(now)
	}
	return w
}

// earlier are words of earlier releases that are kept, each with those of today.
var earlier = pairs(
	"and scald what they stood in",
	"and scald what they were in",
	"Count sprouts in",
	"Count seedlings in",
	"Asked coordinators for a second proof",
	"Required two-step sign-in of coordinators",
	"Asked coordinators for no second proof any more",
	"No longer required two-step sign-in of coordinators",
	"Set up a second proof",
	"Set up two-step sign-in",
	"Began the school %s",
	"Set up the school %s",
	"Bring %s right: pH %s",
	"Correct %s: pH %s",
	"Bring %s right: strength %s",
	"Correct %s: strength %s",
	"Came in by a code and chose another password",
	"Signed in with a code and chose a new password",
	"Dip %s and write the level down",
	"Measure the depth of %s and write the level down",
	"Dip %s and write the levels down",
	"Measure the depth of %s and write the levels down",
	"Drain the soak of",
	"Drain the soaking water of",
	"Ended the second proof of %s",
	"Turned off two-step sign-in for %s",
	"Feel for roots in",
	"Check for roots in",
	"Gave %s another password or PIN",
	"Gave %s a new password or PIN",
	"Gave on the round: %s, to %s",
	"Gave out work on the round: %s, to %s",
	"Keeps a gap in a tray no longer",
	"Gave up a reserved gap in a tray",
	"Kept %s of %s free for %s",
	"Reserved %s of %s for %s",
	"Kept the season’s plan: %s",
	"Saved the season’s plan: %s",
	"Let crews %s",
	"Allowed crews to %s",
	"Let crews do nothing beside counting, reading, moving and noting",
	"Limited crews to counting, reading, moving and writing notes",
	"Made a code by which %s comes in again",
	"Made a code for %s to sign in again",
	"Of the season’s plan, %s for %s: %s",
	"From the season’s plan, %s for %s: %s",
	"See to the fish in %s",
	"Look after the fish in %s",
	"Set how the school reckons with frost",
	"Choose how the school deals with frost",
	"Set out##task",
	"Plant out##task",
	"Sow %s into the gap kept in %s",
	"Sow %s into the gap reserved in %s",
	"Took back into use %s: %s",
	"Restored %s: %s",
	"Took back what grew in a bed",
	"Removed what grew in a bed",
	"Took out the notebook as a file",
	"Downloaded the notebook as a file",
	"Wrong figures of the second proof",
	"Wrong two-step code",
)

func pairs(list ...string) map[string]string {
	of := map[string]string{}
	for i := 0; i < len(list); i += 2 {
		of[list[i]] = list[i+1]
	}
	return of
}
