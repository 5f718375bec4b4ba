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
	{on(2026, 12, 1), "Fish: one order of what to do, how much water to change, and when not to.", "/fish"},
	{on(2026, 12, 1), "A tank or a carton is added with four questions; pH and strength can be left out where nobody has a meter.", "/settings/tanks"},
	{on(2026, 12, 1), "The guide asks first, and knows thrips, mildew, birds and tip burn.", "/nursery"},
	{on(2026, 11, 27), "Before nobody is here: what does not last, what to do on the last day, and who must come.", "/away"},
	{on(2026, 11, 27), "Jars cut open on one wall, filled one after another from a can.", "/tanks"},
	{on(2026, 11, 27), "Fish: feed by warmth and water, alarms first, a new filter day by day.", "/fish"},
	{on(2026, 11, 27), "The air and the light of a place beside what its crops want; lists for towers.", "/places"},
	{on(2026, 11, 27), "A colour card is read between two of its fields, with how far that may be out.", "/tanks"},
	{on(2026, 11, 27), "Mixing sheets from the shelf, a recipe of your own and the water it goes into, also for stock bottles.", "/mix"},
	{on(2026, 11, 27), "Meters, put into buffers when the round says so; every reading knows how far it may be out.", "/meters"},
	{on(2026, 11, 27), "Waters with what was measured of them over time; a tank reckons with its own.", "/waters"},
	{on(2026, 11, 27), "Sprouts and shoots, with every day of a run before it begins.", "/sprouts"},
	{on(2026, 11, 27), "Pictures from the tablet’s camera, in the notebook and by day in a batch’s story.", "/notebook"},
	{on(2026, 11, 27), "Potting on: pots that are clean, mix and bags, and roots that say when.", "/settings/pots"},
	{on(2026, 11, 27), "Trays from day to day: cover, heat, turning, light, and water by weight.", "/trays"},
	{on(2026, 11, 27), "A guide to what is wrong with plants, by drawn signs.", "/nursery"},
	{on(2026, 11, 27), "Labels on any sheet or roll, with a code that a camera opens.", "/labels"},
	{on(2026, 11, 27), "Seed by packet: what to sow first, what to test, and tests on the round.", "/seeds"},
	{on(2026, 11, 27), "Trays of every kind, gaps kept for a second sowing, a sheet for the bench.", "/trays"},
	{on(2026, 11, 27), "Deliveries, cuttings, bulbs and seedlings of a test begin batches.", "/adopt"},
	{on(2026, 11, 27), "The season’s bars are moved by hand, and what cannot be has ways out with their price.", "/season"},
	{on(2026, 11, 27), "Beds by sections, with what grew in them over the years.", "/season/beds"},
	{on(2026, 11, 27), "Frost by the nights of a weather station, or by a chart.", "/season/frost"},
	{on(2026, 11, 27), "Terms, weekly periods and days with other minutes, also from a calendar.", "/settings/periods"},
	{on(2026, 11, 27), "Seed for the whole plan, packet by packet, and which variety did well here.", "/season/seed"},
	{on(2026, 11, 26), "The season: goals, and the plan that brings them about.", "/season"},
	{on(2026, 11, 26), "Stops and tasks of the round are given to a crew or a person.", "/"},
	{on(2026, 11, 26), "Crops of your own, from the nearest kind.", "/settings/own-crops"},
	{on(2026, 11, 26), "Help beside every page, and a first week to walk through.", "/help"},
	{on(2026, 11, 25), "Jobs of your own on the round, and minutes learned from how long things took.", "/settings/jobs"},
	{on(2026, 11, 25), "A tank’s level is read as a depth where its shape or its marks are told.", "/settings/tanks"},
	{on(2026, 11, 24), "Places, trays, tanks, packets and closed days are changed, copied, retired and put in order.", "/settings"},
	{on(2026, 11, 24), "Programs read and write everything with a key.", "/settings/keys"},
}
