package help

import (
	"time"

	"ulpa/core/say"
)

// News is something that a school meets new.
type News struct {
	On   time.Time
	Says say.Words
	Path string // where it is met
}

func on(year int, month time.Month, day int) time.Time {
	return time.Date(year, month, day, 0, 0, 0, 0, time.UTC)
}

// All are the news, the latest first.
var All = []News{
	{on(2026, 12, 2), "A table of when to start what indoors, from your seed, frost and calendar; past goals stay readable.", "/season/indoors"},
	{on(2026, 12, 2), "A plant that nobody knows can be entered and named later; a goal can name its bed.", "/adopt"},
	{on(2026, 12, 2), "Open flats and tubs: sow by the section, count how many grow there, prick out by the handful.", "/trays"},
	{on(2026, 12, 2), "A tray’s drawing has a line around each batch, with its code; one look counts the whole tray.", "/trays"},
	{on(2026, 12, 2), "Undo stands after every sowing, count, move and packet; plants that are given away or sold are no losses.", "/nursery"},
	{on(2026, 12, 2), "The season keeps three days in hand, and plans a late sowing for its day all the same, less surely.", "/season"},
	{
		on(2026, 12, 1),
		"The season says when to begin hardening off and when to plant out, and dates a harvest by the weight you want; a weekly order has its weekday.",
		"/season",
	},
	{on(2026, 12, 1), "The round says how much water each tray has used.", "/"},
	{on(2026, 12, 1), "Fish: one order of what to do, how much water to change, and when not to.", "/fish"},
	{on(2026, 12, 1), "A tank or a carton is added with four questions; pH and strength can be left out where nobody has a meter.", "/settings/tanks"},
	{on(2026, 12, 1), "The guide asks first, and knows thrips, mildew, birds and tip burn.", "/nursery"},
	{on(2026, 11, 27), "Before everyone is away: what will not last, what to do on the last day, and who must come.", "/away"},
	{on(2026, 11, 27), "Jars on a shelf, seen from the side, filled one after another from a can.", "/tanks"},
	{on(2026, 11, 27), "Fish: feed by warmth and water, alarms first, a new filter day by day.", "/fish"},
	{on(2026, 11, 27), "The air and the light of a place beside what its crops want; lists for towers.", "/places"},
	{on(2026, 11, 27), "Read a colour card as between two of its fields; Ulpa adds how far off that may be.", "/tanks"},
	{on(2026, 11, 27), "Mixing sheets from the shelf, a recipe of your own and the water it goes into, also for stock bottles.", "/mix"},
	{on(2026, 11, 27), "Meters that you check in buffers when the round says so; every reading says how far off it may be.", "/meters"},
	{on(2026, 11, 27), "Waters, with what was measured of them over time; each tank uses its own.", "/waters"},
	{on(2026, 11, 27), "Sprouts and shoots, with every day of a run before it begins.", "/sprouts"},
	{on(2026, 11, 27), "Pictures from the tablet’s camera, in the notebook and in a batch’s day-by-day story.", "/notebook"},
	{on(2026, 11, 27), "Potting on: clean pots, mix and bags, and the roots that tell you when.", "/settings/pots"},
	{on(2026, 11, 27), "Trays from day to day: cover, heat, turning, light, and water by weight.", "/trays"},
	{on(2026, 11, 27), "A guide to what is wrong with plants, by drawn signs.", "/nursery"},
	{on(2026, 11, 27), "Labels on any sheet or roll, with a code that a camera opens.", "/labels"},
	{on(2026, 11, 27), "Seed by packet: what to sow first, what to test, and tests on the round.", "/seeds"},
	{on(2026, 11, 27), "Trays of every kind, gaps reserved for a second sowing, a sheet for the bench.", "/trays"},
	{on(2026, 11, 27), "Deliveries, cuttings, bulbs and seedlings from a test can start a batch.", "/adopt"},
	{on(2026, 11, 27), "You can drag the season’s bars by hand; for what cannot be done Ulpa shows ways round it and what each costs.", "/season"},
	{on(2026, 11, 27), "Beds by sections, with what grew in them over the years.", "/season/beds"},
	{on(2026, 11, 27), "Frost from a weather station’s nights, or from a chart.", "/season/frost"},
	{on(2026, 11, 27), "Terms, weekly periods and days with other minutes, also from a calendar.", "/settings/periods"},
	{on(2026, 11, 27), "Seed for the whole plan, packet by packet, and which variety did well here.", "/season/seed"},
	{on(2026, 11, 26), "The season: goals, and the plan that brings them about.", "/season"},
	{on(2026, 11, 26), "The places and tasks of the round are given to a crew or a person.", "/"},
	{on(2026, 11, 26), "Your own crops, started from the most similar crop.", "/settings/own-crops"},
	{on(2026, 11, 26), "Help beside every page, and a first week to walk through.", "/help"},
	{on(2026, 11, 25), "Jobs of your own on the round, and minutes learned from how long things took.", "/settings/jobs"},
	{on(2026, 11, 25), "The level of a tank can be read as a depth if you have entered its shape or its marks.", "/settings/tanks"},
	{on(2026, 11, 24), "Places, trays, tanks, packets and closed days are changed, copied, retired and put in order.", "/settings"},
	{on(2026, 11, 24), "Programs read and write everything with a key.", "/settings/keys"},
}
