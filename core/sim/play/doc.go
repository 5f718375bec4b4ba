// Package play lets players look after the same made-up school through the same season, and
// compares what came of it: by the rules of a wall chart, as a good grower would, or by
// somebody's advice.
//
//	score, err := play.Season(play.Tuned[0], 1, play.Grower{})
//	fmt.Println(score.LostShare(), score.MinutesSpent)
//
// A player is called once on each day on which somebody comes, at ten in the morning, and acts
// through World, which charges the same minutes to everybody and now and then does not do what was
// ticked. What a player cannot see it cannot know: World shows what eyes, hands and meters show.
package play
